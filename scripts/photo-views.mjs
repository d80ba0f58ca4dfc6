import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import * as core from '@tally-stone/core';
import { build as bundle } from 'esbuild';
import { markerCells } from '../server/dist/instrument/photo-stand.js';
import { phonePicture } from './other-camera.mjs';
import { build, ROOT } from './workspace.mjs';

/**
 * Many random pictures of random edges, rendered with the truth known, found and read as the app does:
 * `node scripts/photo-views.mjs --views 100 --seed 7`; with `--faults 20` also that many pictures of each kind that is not
 * to be used, with `--pairs 20` that many blades seen before and after a grind. The figures of docs/photo-mat.md come from here.
 */
const { values } = parseArgs({
  options: {
    views: { type: 'string', default: '100' },
    faults: { type: 'string', default: '0' },
    pairs: { type: 'string', default: '0' },
    seed: { type: 'string', default: '1' },
    camera: { type: 'string', default: 'stand' },
    finest: { type: 'string', default: '24' },
  },
});
build();

/** The detector as the app has it, for Node. */
const folder = mkdtempSync(join(tmpdir(), 'tally-stone-views-'));
const detector = join(folder, 'find-markers.mjs');
await bundle({
  entryPoints: [join(ROOT, 'web/src/app/photo/find-markers.ts')],
  alias: { '@tally-stone/core': join(ROOT, 'core/dist/index.js') },
  outfile: detector,
  bundle: true,
  format: 'esm',
  platform: 'node',
  logLevel: 'error',
});
const { findMarkers } = await import(detector);
rmSync(folder, { recursive: true });

/** Seeded chances (mulberry32, public domain). */
function seeded(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const EDGE_MM = 100;
const BAR_MM = 61;
/** Standard doubt of the print's scale and of how high a blade lies, as the reading claims them. */
const SCALE_U = 0.0006;
const LIE_MM = 0.15;
const FAR_MM = 330;
/** Blur up to this is what the aims are set for, mm. */
const GOOD_BLUR_MM = 0.16;

/** A random edge and a random picture of it, of up to so many pixels a millimetre. */
function view(dice, finest = 24) {
  const between = (low, high) => low + (high - low) * dice();
  const about = (spread) => (dice() + dice() + dice() - 1.5) * 2 * spread;
  const pxPerMm = between(8, finest);
  const width = Math.round((pxPerMm * 285) / 4) * 4;
  const tiltDeg = between(0, 25);
  const k1 = between(-0.15, 0.1);
  const end = dice() < 0.5 ? 'A' : 'B';
  const notches = Array.from({ length: Math.floor(between(0, 4)) }, () => ({
    atMm: between(8, 92),
    depthMm: between(0.3, 1.6),
    lengthMm: between(1.6, 6),
  })).filter((each, i, all) =>
    all.slice(0, i).every(({ atMm }) => Math.abs(atMm - each.atMm) > 12),
  );
  const [roundMm, rootMm] = [between(0, 6), between(54, 60)];
  const [slope, bend, burrMm] = [between(-0.005, 0.01), between(-2e-4, 2e-4), between(0, 0.04)];
  const burr = Array.from({ length: 400 }, dice);
  const soundMm = (at) => rootMm + slope * at + bend * (at - 50) ** 2;
  const trueMm = (at) => {
    let mm = soundMm(at);
    for (const { atMm, depthMm, lengthMm } of notches)
      mm -= Math.max(0, depthMm * (1 - Math.abs(at - atMm) / (lengthMm / 2)));
    if (at < roundMm) mm -= roundMm - Math.sqrt(Math.max(0, roundMm ** 2 - (roundMm - at) ** 2));
    if (at > EDGE_MM) mm = Math.min(BAR_MM, mm + (at - EDGE_MM) / 3);
    const k = Math.floor(at * 2);
    const rough = k >= 0 && k < 399 ? burr[k] * (1 - (at * 2 - k)) + burr[k + 1] * (at * 2 - k) : 0;
    return mm + burrMm * rough;
  };
  const lightPad = dice() < 0.5;
  const higher = 1 + about(LIE_MM) / FAR_MM;
  const blurPx = between(0.5, 2.5);
  const glare = Array.from({ length: lightPad ? 0 : Math.floor(between(0, 3)) }, () => ({
    fromTipMm: between(10, 90),
    fromEdgeMm: between(3, 25),
    sizeMm: between(0.8, 2.5),
    light: between(0.2, 1),
  }));
  return {
    edge: { end, notches, roundMm, soundMm, trueMm },
    blurMm: blurPx / pxPerMm,
    stand: {
      matNumber: 1,
      print: { across: 1 + about(SCALE_U), down: 1 + about(SCALE_U) },
      bitsOf: markerCells,
      camera: {
        width,
        height: Math.round(width * 0.75),
        focalPx: pxPerMm * FAR_MM * 0.98 * (1 - 0.004 * tiltDeg - Math.max(0, k1) / 2),
        k1,
        k2: between(-0.02, 0.02),
        farMm: FAR_MM,
        tiltDeg,
        tiltTowardDeg: between(0, 360),
        turnDeg: between(-8, 8) + (dice() < 0.3 ? 180 : 0),
        offMm: [between(-3, 3), between(-3, 3)],
        axisPx: [about(0.01) * width, about(0.01) * width],
      },
      blade: {
        lie: core.lieOf(end, 'right'),
        end,
        widthMm: (at) => trueMm(at) * higher,
        offMm: [between(-6, 6), between(-8, 8)],
        turnDeg: between(-3, 3),
      },
      light: {
        paper: between(0.35, 0.8),
        gradient: [between(-0.4, 0.4), between(-0.4, 0.4)],
        vignette: between(0, 0.6),
        steel: lightPad ? between(0.02, 0.08) : between(0.15, 0.4),
        rust: between(0, 0.8),
        glare,
      },
      blurPx,
      noise: between(0.5, 4),
      chance: dice,
    },
  };
}

const reading = async (stand, end, measured = 1) => {
  const picture = values.camera === 'phone' ? await phonePicture(stand) : core.standPicture(stand);
  const began = performance.now();
  const found = core.readEdge(
    picture,
    findMarkers(picture),
    { end, hand: 'right', lengthMm: 530, newWidthMm: BAR_MM, edgeLengthMm: EDGE_MM },
    (matNumber) => (matNumber === measured ? { across: 1, down: 1, u: SCALE_U } : undefined),
  );
  const megapixels = (picture.width * picture.height) / 1e6;
  return { found, msPerMegapixel: (performance.now() - began) / megapixels };
};

const told = {
  refused: {},
  spreads: [],
  within: [],
  zs: [],
  found: [],
  depths: [],
  rounds: [],
  falseOnes: 0,
  msPerMegapixel: [],
};
const count = Number(values.views);
for (let i = 0; i < count; i++) {
  const { edge, stand, blurMm } = view(
    seeded(Number(values.seed) * 1000 + i),
    Number(values.finest),
  );
  const { found: read, msPerMegapixel } = await reading(stand, edge.end);
  told.msPerMegapixel.push(msPerMegapixel);
  if ('refused' in read) {
    told.refused[read.refused] = (told.refused[read.refused] ?? 0) + 1;
    continue;
  }
  const { notches, roundMm, soundMm, trueMm } = edge;
  const good = blurMm <= GOOD_BLUR_MM;
  const misses = read.widthsMm.flatMap((width, k) => {
    const at = k / 2;
    const clear = notches.every(({ atMm, lengthMm }) => Math.abs(atMm - at) > lengthMm / 2 + 1);
    return width !== null && clear && at > roundMm + 1 && at < 98 ? [width - trueMm(at)] : [];
  });
  const mean = misses.reduce((sum, each) => sum + each, 0) / misses.length;
  const spread = Math.sqrt(
    misses.reduce((sum, each) => sum + (each - mean) ** 2, 0) / misses.length,
  );
  if (good) told.spreads.push(spread);
  for (const at of [15, 50, 85]) {
    const clear = notches.every(({ atMm, lengthMm }) => Math.abs(atMm - at) > lengthMm / 2 + 3);
    const width = core.widthFromPhoto(read, EDGE_MM, 265, { radiusMm: 265 - at });
    if (!clear || at < roundMm + 3 || !width) continue;
    // A burr is no blade: what is seen of it is part of what the width is unsure by.
    const z = (width.value - soundMm(at)) / width.u;
    told.zs.push(z);
    told.within.push(Math.abs(z) <= 2);
  }
  for (const { atMm, depthMm, lengthMm } of notches) {
    if (atMm < roundMm + 3 || atMm > 97) continue;
    const seen = read.damage.find(
      (each) => Math.abs(each.fromTipMm - atMm) < Math.max(1, lengthMm / 2),
    );
    told.found.push(seen !== undefined);
    if (seen && good) told.depths.push(seen.depthMm - depthMm);
  }
  told.falseOnes += read.damage.filter(({ fromTipMm }) =>
    notches.every(({ atMm, lengthMm }) => Math.abs(fromTipMm - atMm) > lengthMm / 2 + 1.5),
  ).length;
  told.rounds.push(read.tip.roundedByMm - roundMm);
}

const at = (of, share) => [...of].sort((a, b) => a - b)[Math.floor(share * (of.length - 1))] ?? NaN;
const share = (of) =>
  `${((100 * of.filter(Boolean).length) / of.length).toFixed(1)} % of ${of.length}`;
const three = (of) => [0.05, 0.5, 0.95].map((each) => at(of, each).toFixed(3)).join(', ');
const rms = Math.sqrt(told.zs.reduce((sum, z) => sum + z * z, 0) / told.zs.length);
console.log(`${count} views, seed ${values.seed}; refused ${JSON.stringify(told.refused)}`);
console.log(
  `profile, sd mm (p5, p50, p95), good ones: ${three(told.spreads)}, worst ${at(told.spreads, 1).toFixed(3)} of ${told.spreads.length}`,
);
console.log(`widths within U (k = 2): ${share(told.within)}; rms of miss over u ${rms.toFixed(2)}`);
console.log(`notches of 0.3 mm and more found: ${share(told.found)}; false ones ${told.falseOnes}`);
console.log(
  `depth less truth, mm, good ones (p5, p50, p95): ${three(told.depths)}; within 0.08: ${share(told.depths.map((each) => Math.abs(each) <= 0.08))}`,
);
console.log(`rounding less truth, mm (p5, p50, p95): ${three(told.rounds)}`);
console.log(
  `found and read: ${at(told.msPerMegapixel, 0.5).toFixed(0)} ms a megapixel, worst ${at(told.msPerMegapixel, 1).toFixed(0)}`,
);

/** The same blade before and after a grind of its edge alone, each time in a view, a print and a lie of its own. */
const pairs = Number(values.pairs);
const recessions = [];
for (let i = 0; i < pairs; i++) {
  const dice = seeded(Number(values.seed) * 9000 + i);
  const [before, after] = [view(dice, 14), view(dice, 14)];
  const groundMm = 0.1 + 0.8 * dice();
  const { edge } = before;
  const { blade, ...later } = after.stand;
  const higher = 1 + (dice() + dice() + dice() - 1.5) * 2 * (LIE_MM / FAR_MM);
  const { found: first } = await reading(before.stand, edge.end);
  const { found: second } = await reading(
    {
      ...later,
      blade: {
        ...blade,
        end: edge.end,
        lie: core.lieOf(edge.end, 'right'),
        widthMm: (at) => higher * (at > EDGE_MM ? edge.trueMm(at) : edge.trueMm(at) - groundMm),
      },
    },
    edge.end,
  );
  const good = before.blurMm <= GOOD_BLUR_MM && after.blurMm <= GOOD_BLUR_MM;
  if ('refused' in first || 'refused' in second || !good) continue;
  const mean = core.meanRecession(core.edgeRecession(first, second), [6, 94]);
  if (mean) recessions.push({ missMm: mean.value - groundMm, u: mean.u });
}
if (pairs > 0) {
  const misses = recessions.map(({ missMm }) => missMm);
  console.log(
    `recession less truth, mm, of ${recessions.length} pairs both good: ${three(misses)}; within 0.04: ${share(misses.map((miss) => Math.abs(miss) <= 0.04))}, within U (k = 2): ${share(recessions.map(({ missMm, u }) => Math.abs(missMm) <= 2 * u))}`,
  );
}

/** Faults a picture can have: what is changed of a good view, and the reasons that fit it. */
const FAULTS = {
  blurred: [
    (stand, { between, pxPerMm }) => ({ ...stand, blurPx: pxPerMm * between(0.4, 0.7) }),
    ['blurred', 'few-markers'],
  ],
  slanted: [
    ({ camera, ...stand }, { between }) => ({
      ...stand,
      camera: { ...camera, tiltDeg: between(37, 46), farMm: 430, offMm: [0, 0] },
    }),
    ['too-slanted', 'few-markers'],
  ],
  'half out of the picture': [
    ({ camera, ...stand }, { between }) => ({
      ...stand,
      camera: { ...camera, offMm: [between(100, 150), between(-20, 20)] },
    }),
    ['few-markers'],
  ],
  'something over the markers': [
    (stand, { between }) => {
      const left = between(-20, 50);
      const top = between(0, 1) < 0.5 ? -20 : 174;
      return { ...stand, covers: [{ left, top, right: left + 220, bottom: top + 40 }] };
    },
    ['markers-covered'],
  ],
  'glare over the edge': [
    ({ light, ...stand }, { between }) => ({
      ...stand,
      light: {
        ...light,
        steel: between(0.15, 0.35),
        glare: [20, 45, 70].map((at) => ({
          fromTipMm: at + between(-6, 6),
          fromEdgeMm: between(0, 1),
          sizeMm: between(4, 6),
          light: between(0.9, 1.2),
        })),
      },
    }),
    ['glare'],
  ],
  'the other end': [
    ({ blade, ...stand }) => {
      const end = blade.end === 'A' ? 'B' : 'A';
      return { ...stand, blade: { ...blade, end, lie: core.lieOf(end, 'right') } };
    },
    ['lies-as-other-end'],
  ],
  'a mat nobody measured': [(stand) => stand, ['unknown-mat']],
  'printed at 97 %': [
    (stand) => ({ ...stand, print: { across: 0.97, down: 0.97 } }),
    ['wrong-size'],
  ],
  'two blades': [
    (stand, { between }) => {
      const bottom = between(160, 165);
      const covers = [{ left: 30, top: bottom - between(25, 30), right: 240, bottom }];
      return { ...stand, covers, blade: { ...stand.blade, offMm: [0, -24] } };
    },
    ['two-blades', 'outside-bed'],
  ],
  'no blade': [(stand) => ({ ...stand, blade: undefined }), ['no-blade']],
  'a creased mat': [
    (stand, { between }) => {
      const [high, at, lean] = [between(4, 7), between(60, 200), between(-0.4, 0.4)];
      return {
        ...stand,
        bulgeMm: (x, y) => Math.max(0, high - Math.abs(x + lean * y - at) / 5),
      };
    },
    ['mat-not-flat', 'wrong-size', 'few-markers'],
  ],
  'a wet mat': [
    ({ light, ...stand }, { between }) => {
      const [high, long, turn] = [between(2.5, 4), between(60, 110), between(0, 6)];
      return {
        ...stand,
        bulgeMm: (x, y) => high * Math.sin(x / (long / 6.28) + turn) * Math.cos(y / 30),
        light: { ...light, stain: (x, y) => (Math.hypot(x - 150, y - 40) < 60 ? 0.75 : 1) },
      };
    },
    ['mat-not-flat', 'wrong-size', 'few-markers', 'outside-bed'],
  ],
  'too far away': [
    ({ camera, ...stand }) => {
      const width = 1200;
      return {
        ...stand,
        blurPx: 0.6,
        camera: { ...camera, width, height: 900, focalPx: (camera.focalPx * width) / camera.width },
      };
    },
    ['too-far', 'few-markers'],
  ],
  'too dark': [
    ({ light, ...stand }) => ({ ...stand, light: { ...light, paper: 0.02 }, noise: 0.5 }),
    ['too-dark', 'few-markers'],
  ],
  'burnt out': [
    ({ light, ...stand }) => ({ ...stand, light: { ...light, paper: 2.5 } }),
    ['too-bright', 'few-markers'],
  ],
};
const each = Number(values.faults);
let number = 0;
for (const [fault, [change, fitting]] of each > 0 ? Object.entries(FAULTS) : []) {
  const reasons = {};
  for (let i = 0; i < each; i++) {
    const dice = seeded(Number(values.seed) * 7000 + (number += 1));
    const { edge, stand } = view(dice, 11);
    const about = {
      between: (low, high) => low + (high - low) * dice(),
      pxPerMm: stand.camera.width / 285,
    };
    const measured = fault === 'a mat nobody measured' ? 2 : 1;
    const { found } = await reading(change(stand, about), edge.end, measured);
    const said = 'refused' in found ? found.refused : 'read';
    reasons[said] = (reasons[said] ?? 0) + 1;
  }
  const right = fitting.reduce((sum, reason) => sum + (reasons[reason] ?? 0), 0);
  console.log(
    `${fault}: refused ${each - (reasons.read ?? 0)} of ${each}, with a fitting reason ${right}; ${JSON.stringify(reasons)}`,
  );
}
