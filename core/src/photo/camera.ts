import { median } from '../math/median.js';
import { solve, fitValues } from '../math/least-squares.js';
import type { MatPoint } from './mat.js';
import type { PicturePoint } from './picture.js';

/**
 * How a picture shows the mat: a homography, and radial distortion about the picture's middle,
 * q = p·(1 + k1·|p|² + k2·|p|⁴) with p in half diagonals (Brown's model without its tangential part; from memory).
 */
export interface Camera {
  readonly width: number;
  readonly height: number;
  /** h11 … h32 of the homography (h33 = 1) from scaled mat places, then k1 and k2. */
  readonly values: readonly number[];
  /** How the values vary together, from the misfit of the corners. */
  readonly covariance: readonly (readonly number[])[];
  /** Root mean square of what the corners miss the model by, each way, px. */
  readonly misfitPx: number;
}

/** A place of the mat and where the picture shows it. */
export interface Pair {
  readonly mat: MatPoint;
  readonly picture: PicturePoint;
}

/** Mat places are scaled about the middle of the sheet, so that all values are of one size. */
const MIDDLE = { xMm: 129, yMm: 97 };
const HALF_MM = 129;

type Values = readonly number[];
interface Size {
  readonly width: number;
  readonly height: number;
}
const halfDiagonal = ({ width, height }: Size): number => Math.hypot(width, height) / 2;

/** A mat place before distortion, in half diagonals from the picture's middle. */
function straight(values: Values, { xMm, yMm }: MatPoint): readonly [number, number] {
  const x = (xMm - MIDDLE.xMm) / HALF_MM;
  const y = (yMm - MIDDLE.yMm) / HALF_MM;
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0, g = 0, h = 0] = values;
  const depth = g * x + h * y + 1;
  return [(a * x + b * y + c) / depth, (d * x + e * y + f) / depth];
}

function shown(values: Values, size: Size, mat: MatPoint): PicturePoint {
  const [x, y] = straight(values, mat);
  const [k1 = 0, k2 = 0] = [values[8], values[9]];
  const r2 = x * x + y * y;
  const stretch = halfDiagonal(size) * (1 + k1 * r2 + k2 * r2 * r2);
  return { xPx: (size.width - 1) / 2 + x * stretch, yPx: (size.height - 1) / 2 + y * stretch };
}

/**
 * Where the picture shows a place of the mat.
 */
export const inPicture = (camera: Camera, mat: MatPoint): PicturePoint =>
  shown(camera.values, camera, mat);

/**
 * A picture place with the camera's distortion taken out; straight lines of the mat are straight there.
 */
export function undistorted(camera: Camera, { xPx, yPx }: PicturePoint): PicturePoint {
  const scale = halfDiagonal(camera);
  const middle = { x: (camera.width - 1) / 2, y: (camera.height - 1) / 2 };
  const x = (xPx - middle.x) / scale;
  const y = (yPx - middle.y) / scale;
  const [k1 = 0, k2 = 0] = [camera.values[8], camera.values[9]];
  const far = Math.hypot(x, y);
  let near = far;
  for (let step = 0; step < 12; step++) {
    const miss = near * (1 + k1 * near ** 2 + k2 * near ** 4) - far;
    near -= miss / (1 + 3 * k1 * near ** 2 + 5 * k2 * near ** 4);
  }
  const share = far > 0 ? near / far : 1;
  return { xPx: middle.x + x * share * scale, yPx: middle.y + y * share * scale };
}

/**
 * The way back of {@link undistorted}.
 */
export function distorted(camera: Camera, { xPx, yPx }: PicturePoint): PicturePoint {
  const scale = halfDiagonal(camera);
  const middle = { x: (camera.width - 1) / 2, y: (camera.height - 1) / 2 };
  const x = (xPx - middle.x) / scale;
  const y = (yPx - middle.y) / scale;
  const [k1 = 0, k2 = 0] = [camera.values[8], camera.values[9]];
  const r2 = x * x + y * y;
  const stretch = scale * (1 + k1 * r2 + k2 * r2 * r2);
  return { xPx: middle.x + x * stretch, yPx: middle.y + y * stretch };
}

/**
 * Size of a millimetre at a place of the mat, px, across and down the sheet.
 */
export function pxPerMm(
  camera: Camera,
  at: MatPoint,
): { readonly across: number; readonly down: number } {
  const here = inPicture(camera, at);
  const right = inPicture(camera, { ...at, xMm: at.xMm + 1 });
  const below = inPicture(camera, { ...at, yMm: at.yMm + 1 });
  return {
    across: Math.hypot(right.xPx - here.xPx, right.yPx - here.yPx),
    down: Math.hypot(below.xPx - here.xPx, below.yPx - here.yPx),
  };
}

/**
 * The homography that meets the pairs best in their own picture plane, by the direct linear equations with h33 = 1
 * [M]: each pair gives x·(g·X + h·Y + 1) = a·X + b·Y + c and the like for y. `undefined` where they do not tell it.
 */
export function homography(pairs: readonly Pair[], size: Size): number[] | undefined {
  const scale = halfDiagonal(size);
  const square = Array.from({ length: 8 }, () => new Array<number>(8).fill(0));
  const right = new Array<number>(8).fill(0);
  for (const { mat, picture } of pairs) {
    const X = (mat.xMm - MIDDLE.xMm) / HALF_MM;
    const Y = (mat.yMm - MIDDLE.yMm) / HALF_MM;
    const x = (picture.xPx - (size.width - 1) / 2) / scale;
    const y = (picture.yPx - (size.height - 1) / 2) / scale;
    const rows = [
      { row: [X, Y, 1, 0, 0, 0, -x * X, -x * Y], is: x },
      { row: [0, 0, 0, X, Y, 1, -y * X, -y * Y], is: y },
    ];
    for (const { row, is } of rows)
      for (let i = 0; i < 8; i++) {
        right[i] = (right[i] ?? 0) + (row[i] ?? 0) * is;
        const into = square[i];
        if (into)
          for (let j = 0; j < 8; j++) into[j] = (into[j] ?? 0) + (row[i] ?? 0) * (row[j] ?? 0);
      }
  }
  return solve(square, right);
}

/** Corners further out than this many robust deviations do not count at all (Tukey's biweight; from memory). */
const BIWEIGHT = 4.685;
/** A corner is never surer than this, px: pixels are written in whole greys. */
const LEAST_CORNER_U_PX = 0.02;
const ROUNDS = 6;

const missesOf = (values: Values, size: Size, pairs: readonly Pair[]): number[] =>
  pairs.map(({ mat, picture }) => {
    const { xPx, yPx } = shown(values, size, mat);
    return Math.hypot(xPx - picture.xPx, yPx - picture.yPx);
  });

/**
 * The start: of homographies through every two markers far apart, the one that half the corners miss least. Wrong
 * corners in a third of the markers leave it right.
 */
function firstGuess(markers: readonly (readonly Pair[])[], size: Size): number[] | undefined {
  const pairs = markers.flat();
  let best: { values: number[]; miss: number } | undefined;
  for (let i = 0; i < markers.length; i++)
    for (let j = i + 1; j < markers.length; j++) {
      const values = homography([...(markers[i] ?? []), ...(markers[j] ?? [])], size);
      if (!values) continue;
      const miss = median(missesOf(values, size, pairs));
      if (!best || miss < best.miss) best = { values, miss };
    }
  return best?.values;
}

/**
 * The camera from the corners of markers, each four pairs: damped least squares over homography and distortion, with
 * corners that do not fit given no weight. Its covariance is that of JCGM 102 for a fitted model, the corner's own
 * deviation taken from the misfit.
 *
 * Nothing where fewer than four markers are there, or they do not tell it.
 */
export function fitCamera(markers: readonly (readonly Pair[])[], size: Size): Camera | undefined {
  if (markers.length < 4) return undefined;
  const pairs = markers.flat();
  const guess = firstGuess(markers, size);
  if (!guess) return undefined;
  let values: readonly number[] = [...guess, 0, 0];
  let deviation = Math.max(2, median(missesOf(values, size, pairs)) / 1.18);
  let weights = pairs.map(() => 1);
  let covariance: readonly (readonly number[])[] = [];
  const sizes = [...new Array<number>(8).fill(0.5), 0.1, 0.1];
  for (let round = 0; round < ROUNDS; round++) {
    const misses = missesOf(values, size, pairs);
    weights = misses.map((miss) => {
      const share = miss / (BIWEIGHT * deviation);
      return share < 1 ? (1 - share * share) ** 2 : 0;
    });
    const counted = pairs.filter((_, i) => (weights[i] ?? 0) > 1e-3);
    if (counted.length < 12) return undefined;
    const us = weights
      .filter((weight) => weight > 1e-3)
      .map((weight) => deviation / Math.sqrt(weight));
    try {
      const fitted = fitValues(
        (tried) =>
          counted.flatMap(({ mat }) => {
            const { xPx, yPx } = shown(tried, size, mat);
            return [xPx, yPx];
          }),
        counted.flatMap(({ picture: { xPx, yPx } }, i) => [
          { value: xPx, u: us[i] ?? 1 },
          { value: yPx, u: us[i] ?? 1 },
        ]),
        { start: values, sizes },
      );
      ({ values, covariance } = fitted);
    } catch {
      return undefined;
    }
    // Of a two-way miss the median is 1.18 deviations (Rayleigh).
    deviation = Math.max(LEAST_CORNER_U_PX, median(missesOf(values, size, pairs)) / 1.18);
  }
  const kept = missesOf(values, size, pairs).filter((_, i) => (weights[i] ?? 0) > 0.1);
  const misfitPx = Math.sqrt(kept.reduce((sum, miss) => sum + miss * miss, 0) / (2 * kept.length));
  return { ...size, values, covariance, misfitPx };
}

/**
 * How unsure the camera leaves a length between two places of the mat, mm: the place's own shift by each value,
 * through the covariance of the fit (JCGM 102), measured along the line between them.
 */
export function lengthUMm(camera: Camera, from: MatPoint, to: MatPoint): number {
  const apart = Math.hypot(to.xMm - from.xMm, to.yMm - from.yMm);
  if (apart === 0 || camera.covariance.length === 0) return 0;
  const along = { x: (to.xMm - from.xMm) / apart, y: (to.yMm - from.yMm) / apart };
  const shiftAt = (at: MatPoint): number[] => {
    const here = inPicture(camera, at);
    const ahead = inPicture(camera, { xMm: at.xMm + along.x, yMm: at.yMm + along.y });
    const [dx, dy] = [ahead.xPx - here.xPx, ahead.yPx - here.yPx];
    const perMm2 = dx * dx + dy * dy;
    return camera.values.map((value, i) => {
      const step = 1e-5;
      const moved = shown(
        camera.values.map((each, j) => (i === j ? value + step : each)),
        camera,
        at,
      );
      return ((moved.xPx - here.xPx) * dx + (moved.yPx - here.yPx) * dy) / perMm2 / step;
    });
  };
  const [a, b] = [shiftAt(from), shiftAt(to)];
  const shift = a.map((each, i) => (b[i] ?? 0) - each);
  const variance = shift.reduce(
    (sum, each, i) =>
      sum +
      each * shift.reduce((inner, other, j) => inner + (camera.covariance[i]?.[j] ?? 0) * other, 0),
    0,
  );
  return Math.sqrt(Math.max(0, variance));
}
