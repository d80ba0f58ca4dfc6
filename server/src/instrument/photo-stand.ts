import type { StandPose } from '@tally-stone/contract';
import {
  lieOf,
  MARKER_DICTIONARY,
  standPicture,
  type End,
  type StandCamera,
  type StandLight,
  otherEnd,
} from '@tally-stone/core';
import aruco from 'js-aruco2';
import sharp from 'sharp';
import { TRUTH_EVERY_MM } from './true-edge.js';

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
  const wrongEnd = pose === 'other-end' ? otherEnd(end) : end;
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
