import { standPicture, standPlaces, type StandView } from '../instrument/photo-stand.js';
import { moved } from '../photo/camera.js';
import { lieOf, matMarkers, type MatPoint } from '../photo/mat.js';
import type { Picture } from '../photo/picture.js';
import type { PhotoRefused } from '../photo/photo-trouble.js';
import { readEdge, type EdgePhoto } from '../photo/read-edge.js';
import type { SeenMarker } from '../photo/seen-mat.js';
import { normal, seeded, type Dice } from './dice.js';

/** A notch of a made-up edge: a V so deep and so long. */
export interface Notch {
  readonly atMm: number;
  readonly depthMm: number;
  readonly lengthMm: number;
}

export interface MadeEdge {
  readonly rootMm: number;
  readonly slope: number;
  /** Where it is not EDGE_LENGTH_MM. */
  readonly edgeLengthMm?: number;
  readonly notches: readonly Notch[];
  readonly roundMm: number;
}

export const EDGE_LENGTH_MM = 100;
export const BAR_MM = 61;
export const MADE: MadeEdge = {
  rootMm: 58.2,
  slope: 0.004,
  notches: [
    { atMm: 31.3, depthMm: 0.8, lengthMm: 3 },
    { atMm: 62, depthMm: 0.4, lengthMm: 2.4 },
  ],
  roundMm: 3,
};

/** The edge without its damage. */
export const soundMm = ({ rootMm, slope }: MadeEdge, fromTipMm: number): number =>
  rootMm + slope * fromTipMm;

/** True width from the trailing side, mm from the tip. */
export function trueWidthMm(edge: MadeEdge, fromTipMm: number): number {
  const { notches, roundMm, edgeLengthMm = EDGE_LENGTH_MM } = edge;
  const beyond = Math.max(0, (fromTipMm - edgeLengthMm) / 6);
  const notch = notches.reduce((deepest, { atMm, depthMm, lengthMm }) => {
    const share = 1 - Math.abs(fromTipMm - atMm) / (lengthMm / 2);
    return Math.max(deepest, depthMm * share);
  }, 0);
  const corner =
    fromTipMm < roundMm
      ? roundMm - Math.sqrt(Math.max(0, roundMm ** 2 - (roundMm - fromTipMm) ** 2))
      : 0;
  const width = soundMm(edge, fromTipMm) - notch - corner;
  return width + Math.min(1, beyond) * (BAR_MM - width);
}

/** Cells that are no dictionary's: reading an edge does not read them. */
const cells = (id: number): number[][] =>
  Array.from({ length: 8 }, (_, row) =>
    Array.from({ length: 8 }, (__, column) =>
      row % 7 === 0 || column % 7 === 0 ? 0 : Number((id * 31 + row * 7 + column * 13) % 5 < 2),
    ),
  );

/** A picture of end A of a right-hand blade, held well, changed where it is said. */
export function view(
  dice: Dice,
  edge: MadeEdge = MADE,
  change: {
    readonly camera?: Partial<StandView['camera']>;
    readonly light?: Partial<StandView['light']>;
    readonly blade?: Partial<StandView['blade']>;
    readonly rest?: Partial<StandView>;
  } = {},
  width = 2000,
): StandView {
  return {
    matNumber: 3,
    print: { across: 1, down: 1 },
    bitsOf: cells,
    camera: {
      width,
      height: (width * 3) / 4,
      focalPx: width * 1.07,
      k1: -0.07,
      k2: 0.01,
      farMm: 330,
      tiltDeg: 12,
      tiltTowardDeg: 35,
      turnDeg: 2.5,
      offMm: [1, -1],
      ...change.camera,
    },
    blade: {
      lie: lieOf('A', 'right'),
      end: 'A',
      widthMm: (fromTipMm) => trueWidthMm(edge, fromTipMm),
      offMm: [1, 2],
      turnDeg: 1.2,
      ...change.blade,
    },
    light: {
      paper: 0.6,
      gradient: [0.3, -0.2],
      vignette: 0.4,
      steel: 0.25,
      rust: 0.5,
      glare: [],
      ...change.light,
    },
    blurPx: 0.8,
    noise: 1.5,
    chance: dice,
    ...change.rest,
  };
}

/** What a detector would find: the corners to a pixel or two. */
export function seenIn(of: StandView, dice: Dice): SeenMarker[] {
  const place = standPlaces(of);
  const rough = (mat: MatPoint) => {
    const { xPx, yPx } = place(mat);
    return { xPx: xPx + normal(dice), yPx: yPx + normal(dice) };
  };
  const { beside } = of;
  const first = matMarkers(of.matNumber).map(({ id, corners }) => ({
    id,
    corners: corners.map(rough) as unknown as SeenMarker['corners'],
  }));
  if (!beside) return first;
  const [xMm, yMm] = beside.atMm;
  const pose = { xMm, yMm, turnRad: (beside.turnDeg * Math.PI) / 180 };
  const second = matMarkers(beside.matNumber).map(({ id, corners }) => ({
    id,
    corners: corners.map((corner) =>
      rough(moved(pose, corner)),
    ) as unknown as SeenMarker['corners'],
  }));
  return [...first, ...second];
}

export interface Read {
  readonly picture: Picture;
  readonly found: EdgePhoto | PhotoRefused;
}

/** Renders a view and reads it. */
export function readView(
  of: StandView,
  seed = 1,
  seen = seenIn(of, seeded(seed)),
  edgeLengthMm = EDGE_LENGTH_MM,
): Read {
  const picture = standPicture(of);
  const found = readEdge(
    picture,
    seen,
    { end: of.blade?.end ?? 'A', hand: 'right', lengthMm: 530, newWidthMm: BAR_MM, edgeLengthMm },
    (matNumber) => ([3, 4].includes(matNumber) ? { across: 1, down: 1, u: 0.0004 } : undefined),
  );
  return { picture, found };
}
