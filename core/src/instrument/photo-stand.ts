import type { Lie, MatPoint } from '../photo/mat.js';
import { MARKER_MM, MAT_SIZE_MM, matMarkers, SCALE_BARS, TIP_MARK_MM } from '../photo/mat.js';
import type { Picture, PicturePoint } from '../photo/picture.js';
import { rayOf, type StandCamera } from './stand-camera.js';

export type { StandCamera };

/** A blade's end as it lies there. */
export interface StandBlade {
  readonly lie: Lie;
  readonly end: 'A' | 'B';
  /** From its trailing side to its edge at a distance from the tip, nicks and rounding included. */
  readonly widthMm: (fromTipMm: number) => number;
  /** Put down so much beside its mark, mm, and turned, degrees. */
  readonly offMm: readonly [x: number, y: number];
  readonly turnDeg: number;
}

export interface StandLight {
  /** Light of bare paper at the middle, 0 to 1, and how it falls off to one side and to the corners. */
  readonly paper: number;
  readonly gradient: readonly [x: number, y: number];
  readonly vignette: number;
  /** Light of the steel against paper: a light pad leaves it dark. */
  readonly steel: number;
  readonly rust: number;
  /** Reflections on the steel: place from the tip and from the edge inward, size and light. */
  readonly glare: readonly {
    readonly fromTipMm: number;
    readonly fromEdgeMm: number;
    readonly sizeMm: number;
    readonly light: number;
  }[];
  /** Share of the paper's light that is left at a place: water or oil darkens it. */
  readonly stain?: (x: number, y: number) => number;
}

/** A printed mat, and where its upper left corner lies from the first one's, turned by how much. */
export interface StandMat {
  readonly matNumber: number;
  /** True size of the print over its drawn size. */
  readonly print: { readonly across: number; readonly down: number };
  readonly atMm: readonly [x: number, y: number];
  readonly turnDeg: number;
}

/** Something dark that lies over the sheet: a rag, a hand, another blade. True mm from the mat's corner. */
export interface StandCover {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/**
 * The simulated photo stand: what a pinhole camera with a real lens sees of a blade on the mat. Light is followed from
 * each pixel back to the sheet; it shares nothing with the way a picture is read but the drawing of the mat.
 */
export interface StandView {
  readonly matNumber: number;
  /** True size of the print over its drawn size. */
  readonly print: { readonly across: number; readonly down: number };
  /** A second mat beside it, for long edges. */
  readonly beside?: StandMat;
  readonly covers?: readonly StandCover[];
  /** How high the sheet bulges at a place, mm: a fold, or paper that was wet. The camera sees it shifted. */
  readonly bulgeMm?: (x: number, y: number) => number;
  /** Rows of a marker with its border, 1 for white. */
  readonly bitsOf: (id: number) => readonly (readonly number[])[];
  readonly camera: StandCamera;
  readonly blade?: StandBlade;
  readonly light: StandLight;
  /** Blur, standard deviation in px, and noise, standard deviation in greys. */
  readonly blurPx: number;
  readonly noise: number;
  /** A number in 0…1, drawn again and again. */
  readonly chance: () => number;
}

const RADIANS = Math.PI / 180;
/** White paper about the print: A4 lying down. */
const MARGIN_MM = { side: 19.5, top: 8 } as const;

/** A smooth field of chance about zero, for rust and burr: values on a grid, blended between. */
function texture(x: number, y: number): number {
  const at = (i: number, j: number): number => {
    const seed = Math.sin(i * 127.1 + j * 311.7) * 43758.5453;
    return seed - Math.floor(seed) - 0.5;
  };
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [u, v] = [x - i, y - j];
  const [s, t] = [u * u * (3 - 2 * u), v * v * (3 - 2 * v)];
  const above = at(i, j) * (1 - s) + at(i + 1, j) * s;
  const below = at(i, j + 1) * (1 - s) + at(i + 1, j + 1) * s;
  return above * (1 - t) + below * t;
}

const TABLE = 0;
const PAPER = 1;
const INK = 2;
const STEEL = 3;

/** What is printed at a true place: the table where this sheet does not reach. */
function sheetOf(
  { matNumber, print, atMm, turnDeg }: StandMat,
  { bitsOf }: Pick<StandView, 'bitsOf'>,
): (x: number, y: number) => number {
  const markers = matMarkers(matNumber).map(({ id, corners }) => ({
    left: corners[0].xMm,
    top: corners[0].yMm,
    bits: bitsOf(id),
  }));
  const bars = Object.values(SCALE_BARS);
  const lowerRow = MAT_SIZE_MM.height - MARKER_MM;
  const [c, s] = [Math.cos(turnDeg * RADIANS), Math.sin(turnDeg * RADIANS)];
  const inked = (x: number, y: number): boolean => {
    if (y < MARKER_MM || y > lowerRow)
      for (const { left, top, bits } of markers) {
        if (x < left || y < top || x >= left + MARKER_MM || y >= top + MARKER_MM) continue;
        const column = Math.floor(((x - left) / MARKER_MM) * bits.length);
        const row = Math.floor(((y - top) / MARKER_MM) * bits.length);
        return bits[row]?.[column] === 0;
      }
    for (const { from, to } of bars)
      if (x > from.xMm - 0.15 && x < to.xMm + 0.15 && y > from.yMm - 0.15 && y < to.yMm + 0.15)
        return true;
    return false;
  };
  return (x, y) => {
    const [dx, dy] = [x - atMm[0], y - atMm[1]];
    const nx = (dx * c + dy * s) / print.across;
    const ny = (dy * c - dx * s) / print.down;
    const outside =
      nx < -MARGIN_MM.side ||
      ny < -MARGIN_MM.top ||
      nx > MAT_SIZE_MM.width + MARGIN_MM.side ||
      ny > MAT_SIZE_MM.height + MARGIN_MM.top;
    if (outside) return TABLE;
    return inked(nx, ny) ? INK : PAPER;
  };
}

/** What lies at a place of the sheet, and the blade's own coordinates there. */
function sceneOf(view: StandView): {
  readonly kindAt: (x: number, y: number) => number;
  readonly inBlade: (x: number, y: number) => readonly [number, number];
} {
  const { blade, camera, covers = [], bulgeMm } = view;
  const first: StandMat = { ...view, atMm: [0, 0], turnDeg: 0 };
  const sheets = [first, ...(view.beside ? [view.beside] : [])].map((mat) => sheetOf(mat, view));
  const foot = [
    MAT_SIZE_MM.width / 2 + camera.offMm[0],
    MAT_SIZE_MM.height / 2 + camera.offMm[1],
  ] as const;
  const turn = (blade?.turnDeg ?? 0) * RADIANS;
  const [ct, st] = [Math.cos(turn), Math.sin(turn)];
  const inward = blade?.lie.inward ?? 1;
  const toEdge = blade?.lie.toEdge ?? 1;
  const width = blade?.widthMm(60) ?? 0;
  const corner: [number, number] = [
    TIP_MARK_MM[blade?.end ?? 'A'] + (blade?.offMm[0] ?? 0),
    MAT_SIZE_MM.height / 2 - (toEdge * width) / 2 + (blade?.offMm[1] ?? 0),
  ];
  const inBlade = (x: number, y: number): readonly [number, number] => {
    const [dx, dy] = [x - corner[0], y - corner[1]];
    return [inward * (dx * ct + dy * st), toEdge * (dy * ct - dx * st)];
  };
  const kindAt = (x: number, y: number): number => {
    for (const { left, top, right, bottom } of covers)
      if (x > left && x < right && y > top && y < bottom) return STEEL;
    if (blade) {
      const [fromTip, across] = inBlade(x, y);
      if (fromTip >= 0 && across >= 0 && across <= blade.widthMm(fromTip)) return STEEL;
    }
    // What bulges is nearer to the camera and seen further out.
    const nearer = bulgeMm ? bulgeMm(x, y) / camera.farMm : 0;
    const [px, py] = [x - nearer * (x - foot[0]), y - nearer * (y - foot[1])];
    for (const kindOn of sheets) {
      const kind = kindOn(px, py);
      if (kind !== TABLE) return kind;
    }
    return TABLE;
  };
  return { kindAt, inBlade };
}

function lightOf(view: StandView, inBlade: (x: number, y: number) => readonly [number, number]) {
  const { light, blade } = view;
  return (kind: number, x: number, y: number): number => {
    const [gx, gy] = [x / MAT_SIZE_MM.width - 0.5, y / MAT_SIZE_MM.height - 0.5];
    const here =
      light.paper *
      (1 + light.gradient[0] * gx + light.gradient[1] * gy) *
      (1 - light.vignette * (gx * gx + gy * gy));
    const paper = here * (light.stain?.(x, y) ?? 1);
    if (kind === PAPER) return paper;
    if (kind === INK) return paper * 0.05;
    if (kind === TABLE) return here * 0.3;
    const [fromTip, across] = inBlade(x, y);
    const rust = 1 + light.rust * (texture(x * 0.9, y * 0.9) + texture(x * 3.1, y * 3.1));
    let steel = light.steel * here * rust;
    for (const spot of light.glare) {
      const off = Math.hypot(
        fromTip - spot.fromTipMm,
        (blade?.widthMm(fromTip) ?? 0) - across - spot.fromEdgeMm,
      );
      steel += spot.light * Math.exp(-0.5 * (off / spot.sizeMm) ** 2);
    }
    return Math.min(1, steel);
  };
}

/** Light as a camera writes it (the sRGB curve of IEC 61966-2-1; from memory). */
const writtenOf = (light: number): number =>
  255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055);

let table: Float32Array | undefined;

/** As above, looked up: a step is a sixteenth of a grey where the curve is steepest. */
function written(): (light: number) => number {
  table ??= Float32Array.from({ length: 65_537 }, (_, i) => writtenOf(i / 65_536));
  const greys = table;
  return (light) => greys[Math.round(Math.min(1, Math.max(0, light)) * 65_536)] ?? 0;
}

/** Blurs rows, then columns, with a Gaussian of this deviation. */
function blurred(
  light: Float32Array,
  width: number,
  height: number,
  deviation: number,
): Float32Array {
  if (deviation < 0.05) return light;
  const reach = Math.ceil(3.5 * deviation);
  const weights = Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-0.5 * ((i - reach) / deviation) ** 2),
  );
  const all = weights.reduce((sum, each) => sum + each, 0);
  const pass = (from: Float32Array, step: number, along: number, across: number, jump: number) => {
    const to = new Float32Array(from.length);
    for (let line = 0; line < across; line++)
      for (let i = 0; i < along; i++) {
        let sum = 0;
        for (let k = -reach; k <= reach; k++) {
          const at = Math.min(along - 1, Math.max(0, i + k));
          sum += (weights[k + reach] ?? 0) * (from[line * jump + at * step] ?? 0);
        }
        to[line * jump + i * step] = sum / all;
      }
    return to;
  };
  return pass(pass(light, 1, width, height, width), width, height, width, 1);
}

const FINE = 6;

/**
 * The picture the stand's camera takes. Pixels over a boundary are looked at 36 times, the others once.
 * @example standPicture({ matNumber: 1, print: { across: 1, down: 1 }, bitsOf: () => [[0]], camera: { width: 8, height: 6, focalPx: 8, k1: 0, k2: 0, farMm: 300, tiltDeg: 0, tiltTowardDeg: 0, turnDeg: 0, offMm: [0, 0] }, light: { paper: 0.5, gradient: [0, 0], vignette: 0, steel: 0.1, rust: 0, glare: [] }, blurPx: 0, noise: 0, chance: () => 0.5 }).grey.length // 48
 */
export function standPicture(view: StandView): Picture {
  const { width, height } = view.camera;
  const ray = rayOf(view.camera);
  const { kindAt, inBlade } = sceneOf(view);
  const lightAt = lightOf(view, inBlade);
  const corners = new Uint8Array((width + 1) * (height + 1));
  const xs = new Float32Array(corners.length);
  const ys = new Float32Array(corners.length);
  for (let row = 0, at = 0; row <= height; row++)
    for (let column = 0; column <= width; column++, at++) {
      const { x, y } = ray(column - 0.5, row - 0.5);
      corners[at] = kindAt(x, y);
      xs[at] = x;
      ys[at] = y;
    }
  const light = new Float32Array(width * height);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const at = row * (width + 1) + column;
      const across = at + width + 2;
      const kind = corners[at] ?? 0;
      const flat =
        kind === corners[at + 1] && kind === corners[at + width + 1] && kind === corners[across];
      if (flat) {
        // Its middle lies half way between two opposite corners.
        const x = ((xs[at] ?? 0) + (xs[across] ?? 0)) / 2;
        const y = ((ys[at] ?? 0) + (ys[across] ?? 0)) / 2;
        light[row * width + column] = lightAt(kind, x, y);
        continue;
      }
      let sum = 0;
      for (let i = 0; i < FINE; i++)
        for (let j = 0; j < FINE; j++) {
          const { x, y } = ray(column - 0.5 + (i + 0.5) / FINE, row - 0.5 + (j + 0.5) / FINE);
          sum += lightAt(kindAt(x, y), x, y);
        }
      light[row * width + column] = sum / (FINE * FINE);
    }
  const soft = blurred(light, width, height, view.blurPx);
  const grey = new Uint8Array(soft.length);
  const greyOf = written();
  // Enough normal chances (twelve even ones less six) to be drawn from at a new place in every row.
  const many = 65_521;
  const noise = Float32Array.from({ length: many }, () => {
    let sum = -6;
    for (let k = 0; k < 12; k++) sum += view.chance();
    return view.noise * sum;
  });
  for (let row = 0; row < height; row++) {
    const from = Math.floor(view.chance() * many);
    for (let column = 0; column < width; column++) {
      const i = row * width + column;
      const value = greyOf(soft[i] ?? 0) + (noise[(from + column * 7) % many] ?? 0);
      grey[i] = Math.min(255, Math.max(0, Math.round(value)));
    }
  }
  return { width, height, grey };
}

/**
 * Tells where the stand's camera shows a place of the drawn mat, found by walking the pixels' rays toward it.
 * @example rounded(standPlaces({ print: { across: 1, down: 1 }, camera: { width: 9, height: 7, focalPx: 8, k1: 0, k2: 0, farMm: 300, tiltDeg: 0, tiltTowardDeg: 0, turnDeg: 0, offMm: [0, 0] } })({ xMm: 129, yMm: 97 }).xPx) // 4
 */
export function standPlaces({
  camera,
  print,
}: Pick<StandView, 'camera' | 'print'>): (at: MatPoint) => PicturePoint {
  const ray = rayOf(camera);
  return (at) => {
    const [wantX, wantY] = [at.xMm * print.across, at.yMm * print.down];
    let [xPx, yPx] = [(camera.width - 1) / 2, (camera.height - 1) / 2];
    for (let step = 0; step < 30; step++) {
      const { x, y } = { ...ray(xPx, yPx) };
      const { x: rx, y: ry } = { ...ray(xPx + 1, yPx) };
      const { x: dx, y: dy } = ray(xPx, yPx + 1);
      const [a, b, c, d] = [rx - x, dx - x, ry - y, dy - y];
      const below = a * d - b * c;
      const [missX, missY] = [wantX - x, wantY - y];
      xPx += (missX * d - missY * b) / below;
      yPx += (missY * a - missX * c) / below;
    }
    return { xPx, yPx };
  };
}
