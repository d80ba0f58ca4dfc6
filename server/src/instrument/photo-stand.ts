import type { CycleFacts, CycleState, StandPose } from '@tally-stone/contract';
import {
  interpolateMm,
  lieOf,
  MARKER_DICTIONARY,
  standPicture,
  type End,
  type StandCamera,
  type StandLight,
} from '@tally-stone/core';
import aruco from 'js-aruco2';
import sharp from 'sharp';
import { benchTruth, fixedChance, markTruthMm } from './truth.js';

/** What the stand renders, in plain data: the blade's end as it truly is, and how it is held. */
export interface StandQuestion {
  readonly matNumber: number;
  readonly print: { readonly across: number; readonly down: number };
  /** A second mat beside it, where the edge is longer than one. */
  readonly beside?: Pick<StandQuestion, 'matNumber' | 'print'>;
  readonly end: End;
  readonly hand: 'right' | 'left';
  /** True widths from the tip inward, every `TRUTH_EVERY_MM`. */
  readonly widthsMm: readonly number[];
  readonly pose: StandPose;
}

/** Fine enough for the flank of a nick. */
const TRUTH_EVERY_MM = 0.1;
const SEEN_MM = 520;
/** Nicks nobody has marked: what a photo finds. Invented. */
const HIDDEN_NICKS = 2;

interface Notch {
  readonly atMm: number;
  readonly depthMm: number;
  readonly lengthMm: number;
}

/** The nicks of an end as they came to the bench: those that were marked, as they truly are, and those nobody saw. */
function notchesOf(state: CycleState, facts: CycleFacts, end: End): Notch[] {
  const chance = (about: string): number => (fixedChance(state.cycleId, `${end} ${about}`) + 1) / 2;
  const hidden = Array.from({ length: HIDDEN_NICKS }, (_, i): Notch => ({
    atMm: 14 + ((i + chance(`notch ${i}`)) / HIDDEN_NICKS) * (facts.spec.edgeLengthMm - 24),
    depthMm: 0.4 + 0.9 * chance(`depth ${i}`),
    lengthMm: 2 + 3 * chance(`length ${i}`),
  }));
  const marked = state.damage
    .filter((mark) => mark.end === end && (mark.kind === 'nick' || mark.kind === 'chip'))
    .map((mark) => ({
      atMm: mark.fromTipMm,
      depthMm: markTruthMm(mark, 'depth'),
      lengthMm: markTruthMm(mark, 'length'),
    }))
    .filter(({ atMm }) => hidden.every((each) => Math.abs(each.atMm - atMm) > 4));
  return [...hidden, ...marked];
}

/** True widths of an end, before its grind or as ground so far. */
export function trueWidthsMm(state: CycleState, facts: CycleFacts, end: End): number[] {
  const { spec } = facts;
  const tipMm = spec.newLengthMm / 2;
  const phase = state.passes.length > 0 ? 'after' : 'before';
  const at = (now: CycleState, of: typeof phase) => {
    const truth = benchTruth(now, facts);
    return spec.stations.map(({ key, radiusMm }) => ({
      radiusMm,
      valueMm: truth.valueAt({ phase: of, quantity: 'width', end, stationKey: key }),
    }));
  };
  const came = at({ ...state, passes: [] }, 'before');
  const is = at(state, phase);
  const notches = notchesOf(state, facts, end);
  const roundMm = 0.6 + 1.2 * ((fixedChance(state.cycleId, `${end} round`) + 1) / 2);
  return Array.from({ length: SEEN_MM / TRUTH_EVERY_MM }, (_, i) => {
    const fromTipMm = i * TRUTH_EVERY_MM;
    if (fromTipMm > spec.edgeLengthMm + 6) return spec.newWidthMm;
    const radiusMm = tipMm - Math.min(fromTipMm, spec.edgeLengthMm);
    const sound = interpolateMm(is, radiusMm);
    const groundMm = interpolateMm(came, radiusMm) - sound;
    const notch = Math.max(
      0,
      ...notches.map(
        ({ atMm, depthMm, lengthMm }) =>
          depthMm * (1 - Math.abs(fromTipMm - atMm) / (lengthMm / 2)) - groundMm,
      ),
    );
    const corner =
      fromTipMm < roundMm
        ? roundMm - Math.sqrt(Math.max(0, roundMm ** 2 - (roundMm - fromTipMm) ** 2))
        : 0;
    const edge = sound - notch - corner;
    const shoulder = Math.max(0, (fromTipMm - spec.edgeLengthMm) / 6);
    return edge + Math.min(1, shoulder) * (spec.newWidthMm - edge);
  });
}

/** How the stand holds camera and light; each fault as somebody without a stand would make it. Invented. */
const WELL: {
  readonly camera: Pick<StandCamera, 'tiltDeg' | 'tiltTowardDeg' | 'turnDeg' | 'offMm'>;
  readonly blurPx: number;
  readonly light: StandLight;
} = {
  camera: { tiltDeg: 4, tiltTowardDeg: 25, turnDeg: 1.5, offMm: [1, -2] },
  blurPx: 0.7,
  light: {
    paper: 0.62,
    gradient: [0.15, -0.1],
    vignette: 0.3,
    steel: 0.16,
    rust: 0.6,
    glare: [],
  },
};

const SIZE = { width: 2000, height: 1500 } as const;
const FAR_MM = 380;
/** Two sheets of A4 side by side, as hands lay them; taken from further away, with more pixels. */
const BESIDE_MM = 297.4;
const BOTH = { size: { width: 4000, height: 3000 }, farMm: 720 } as const;

/** What lies where it should not, and a fold as high as an old one is, mm. Invented. */
const RAG = { left: 120, top: -20, right: 270, bottom: 20 };
const OTHER_BLADE = { left: 40, top: 141, right: 200, bottom: 165 };
const FOLD_MM = 4;
const FOLD = (x: number, y: number): number =>
  Math.max(0, FOLD_MM - Math.abs(x + 0.3 * y - 170) / 6);

function chances(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

const { codeList } = new aruco.AR.Dictionary(MARKER_DICTIONARY);

/** A marker's cells with its black border, row by row, 1 for white. */
export function markerCells(id: number): number[][] {
  const bits = codeList[id] ?? '';
  const side = Math.sqrt(bits.length);
  return Array.from({ length: side + 2 }, (_, row) =>
    Array.from({ length: side + 2 }, (__, column) =>
      row === 0 || column === 0 || row > side || column > side
        ? 0
        : Number(bits[(row - 1) * side + column - 1]),
    ),
  );
}

/** The picture the stand's camera takes, as a JPEG. Runs in a worker. */
export async function standPhoto({
  matNumber,
  print,
  beside,
  end,
  hand,
  widthsMm,
  pose,
}: StandQuestion): Promise<Uint8Array> {
  const shrunk = pose === 'printed-small' ? 0.97 : 1;
  const toward = end === 'A' ? 1 : -1;
  const size = beside ? BOTH.size : SIZE;
  const wrongEnd = pose === 'other-end' ? (end === 'A' ? 'B' : 'A') : end;
  const picture = standPicture({
    matNumber,
    print: { across: print.across * shrunk, down: print.down * shrunk },
    bitsOf: markerCells,
    camera: {
      ...size,
      ...WELL.camera,
      focalPx: size.width * 1.28,
      k1: -0.05,
      k2: 0.008,
      farMm: beside ? BOTH.farMm : FAR_MM,
      ...(beside && { offMm: [(toward * BESIDE_MM) / 2, 0] }),
      ...(pose === 'slanted' && { tiltDeg: 42, farMm: 430 }),
    },
    ...(beside && {
      beside: { ...beside, atMm: [toward * BESIDE_MM, 0.8], turnDeg: 0.2 },
    }),
    ...(pose === 'covered' && { covers: [RAG] }),
    ...(pose === 'two-blades' && { covers: [OTHER_BLADE] }),
    ...(pose === 'creased' && { bulgeMm: FOLD }),
    blade: {
      lie: lieOf(wrongEnd, hand),
      end: wrongEnd,
      widthMm: (fromTipMm) =>
        widthsMm[Math.round(fromTipMm / TRUTH_EVERY_MM)] ?? widthsMm.at(-1) ?? 0,
      offMm: [2, -3],
      turnDeg: 0.8,
    },
    light: {
      ...WELL.light,
      ...(pose === 'glare' && {
        glare: [20, 38, 55, 72].map((fromTipMm) => ({
          fromTipMm,
          fromEdgeMm: 0.5,
          sizeMm: 4,
          light: 0.9,
        })),
      }),
    },
    blurPx: pose === 'moved' ? 4 : WELL.blurPx,
    noise: 1.5,
    chance: chances(Math.round(widthsMm.reduce((sum, each) => sum + each, 0) * 1000)),
  });
  return sharp(picture.grey, {
    raw: { width: picture.width, height: picture.height, channels: 1 },
  })
    .jpeg({ quality: 92 })
    .toBuffer();
}
