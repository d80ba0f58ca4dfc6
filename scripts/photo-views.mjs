import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import * as core from '@tally-stone/core';
import { build as bundle } from 'esbuild';
import { markerCells } from '../server/dist/instrument/photo-stand.js';
import { build, ROOT } from './workspace.mjs';

/**
 * Many random pictures of random edges, rendered with the truth known, found and read as the app does:
 * `node scripts/photo-views.mjs --views 100 --seed 7`. The figures of docs/photo-mat.md come from here.
 */
const { values } = parseArgs({
  options: { views: { type: 'string', default: '100' }, seed: { type: 'string', default: '1' } },
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

/** A random edge and a random picture of it. */
function view(dice) {
  const between = (low, high) => low + (high - low) * dice();
  const about = (spread) => (dice() + dice() + dice() - 1.5) * 2 * spread;
  const pxPerMm = between(8, 16);
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
    edge: { end, notches, roundMm, burrMm, soundMm, trueMm },
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
  const { edge, stand, blurMm } = view(seeded(Number(values.seed) * 1000 + i));
  const picture = core.standPicture(stand);
  const began = performance.now();
  const read = core.readEdge(
    picture,
    findMarkers(picture),
    { end: edge.end, hand: 'right', lengthMm: 530, newWidthMm: BAR_MM, edgeLengthMm: EDGE_MM },
    (matNumber) => (matNumber === 1 ? { across: 1, down: 1, u: SCALE_U } : undefined),
  );
  told.msPerMegapixel.push((performance.now() - began) / ((picture.width * picture.height) / 1e6));
  if ('refused' in read) {
    told.refused[read.refused] = (told.refused[read.refused] ?? 0) + 1;
    continue;
  }
  const { notches, roundMm, soundMm, trueMm, burrMm } = edge;
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
    const width = core.widthFromPhoto(read, 265, { radiusMm: 265 - at });
    if (!clear || at < roundMm + 3 || !width) continue;
    const z = (width.value - soundMm(at) - burrMm / 2) / width.u;
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
