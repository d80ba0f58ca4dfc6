import { median } from '../math/median.js';
import { solve, fitValues } from '../math/least-squares.js';
import type { MatPoint } from './mat.js';
import type { PicturePoint } from './picture.js';

/**
 * How a picture shows the mat: a homography, and radial distortion about the lens's axis c, which lies near the picture's
 * middle, q = c + (p − c)·(1 + k1·|p − c|² + k2·|p − c|⁴) in half diagonals from the middle (Brown's model without its
 * tangential part; from memory).
 */
export interface Camera {
  readonly width: number;
  readonly height: number;
  /** h11 … h32 of the homography (h33 = 1) from scaled mat places, then k1, k2, and where the axis is. */
  readonly values: readonly number[];
  /** How the values vary together, from the misfit of the corners. */
  readonly covariance: readonly (readonly number[])[];
  /** Root mean square of what the corners miss the model by, each way, px. */
  readonly misfitPx: number;
  /** Where a second mat lies beside the first, if one is seen. */
  readonly beside?: Pose;
}

/** How a second mat lies: turned, and its upper left corner from the first one's. */
export interface Pose {
  readonly turnRad: number;
  readonly xMm: number;
  readonly yMm: number;
}

/** A place of the mat and where the picture shows it. */
export interface Pair {
  readonly mat: MatPoint;
  readonly picture: PicturePoint;
  /** The place is one of the second mat's, whose lie is worked out with the camera. */
  readonly beside?: boolean;
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
  const { k1, k2, axis } = lensIn(values, size);
  const half = halfDiagonal(size);
  const [dx, dy] = [x - axis.x, y - axis.y];
  const r2 = dx * dx + dy * dy;
  const stretch = half * (1 + k1 * r2 + k2 * r2 * r2);
  return { xPx: axis.xPx + dx * stretch, yPx: axis.yPx + dy * stretch };
}

/** The lens: its distortion, and where its axis meets the picture, in half diagonals from the middle and in px. */
function lensIn(values: Values, size: Size) {
  const [k1 = 0, k2 = 0, x = 0, y = 0] = values.slice(8, 12);
  const half = halfDiagonal(size);
  const xPx = (size.width - 1) / 2 + x * half;
  const yPx = (size.height - 1) / 2 + y * half;
  return { k1, k2, axis: { x, y, xPx, yPx } };
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
  const { k1, k2, axis } = lensIn(camera.values, camera);
  const x = (xPx - axis.xPx) / scale;
  const y = (yPx - axis.yPx) / scale;
  const far = Math.hypot(x, y);
  let near = far;
  for (let step = 0; step < 12; step++) {
    const miss = near * (1 + k1 * near ** 2 + k2 * near ** 4) - far;
    near -= miss / (1 + 3 * k1 * near ** 2 + 5 * k2 * near ** 4);
  }
  const share = far > 0 ? near / far : 1;
  return { xPx: axis.xPx + x * share * scale, yPx: axis.yPx + y * share * scale };
}

/**
 * The way back of {@link undistorted}.
 */
export function distorted(camera: Camera, { xPx, yPx }: PicturePoint): PicturePoint {
  const scale = halfDiagonal(camera);
  const { k1, k2, axis } = lensIn(camera.values, camera);
  const x = (xPx - axis.xPx) / scale;
  const y = (yPx - axis.yPx) / scale;
  const r2 = x * x + y * y;
  const stretch = scale * (1 + k1 * r2 + k2 * r2 * r2);
  return { xPx: axis.xPx + x * stretch, yPx: axis.yPx + y * stretch };
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

/** A place of the second mat on the first one's plane. */
export function moved({ turnRad, xMm, yMm }: Pose, at: MatPoint): MatPoint {
  const [c, s] = [Math.cos(turnRad), Math.sin(turnRad)];
  return { xMm: xMm + c * at.xMm - s * at.yMm, yMm: yMm + s * at.xMm + c * at.yMm };
}

/** How many values the camera has. */
const CAMERA_VALUES = 12;
/** How far a lens's axis is from its picture's middle, standard, half diagonals. Found with a published camera. */
const AXIS_U = 0.06;

/** The values behind the camera's own: the second mat's lie, its shift in half widths of a mat. */
const poseIn = (values: Values): Pose => ({
  turnRad: values[CAMERA_VALUES] ?? 0,
  xMm: (values[CAMERA_VALUES + 1] ?? 0) * HALF_MM,
  yMm: (values[CAMERA_VALUES + 2] ?? 0) * HALF_MM,
});

const placeOf = (values: Values, { mat, beside }: Pair): MatPoint =>
  beside ? moved(poseIn(values), mat) : mat;

const missesOf = (values: Values, size: Size, pairs: readonly Pair[]): number[] =>
  pairs.map((pair) => {
    const { xPx, yPx } = shown(values, size, placeOf(values, pair));
    return Math.hypot(xPx - pair.picture.xPx, yPx - pair.picture.yPx);
  });

/** Where on the first mat's plane a picture shows something, by a homography alone [M]. */
function onPlane(values: Values, size: Size, { xPx, yPx }: PicturePoint): MatPoint {
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0, g = 0, h = 0] = values;
  const u = (xPx - (size.width - 1) / 2) / halfDiagonal(size);
  const v = (yPx - (size.height - 1) / 2) / halfDiagonal(size);
  const [p, q, r, s] = [a - u * g, b - u * h, d - v * g, e - v * h];
  const below = p * s - q * r;
  return {
    xMm: MIDDLE.xMm + (HALF_MM * ((u - c) * s - (v - f) * q)) / below,
    yMm: MIDDLE.yMm + (HALF_MM * (p * (v - f) - r * (u - c))) / below,
  };
}

/** About how the second mat lies: middles over its corners, so that wrong ones do not count. */
function firstPose(values: Values, size: Size, pairs: readonly Pair[]): number[] {
  const seen = pairs.map(({ mat, picture }) => ({ mat, is: onPlane(values, size, picture) }));
  const half = Math.floor(seen.length / 2);
  const angle = (from: MatPoint, to: MatPoint): number =>
    Math.atan2(to.yMm - from.yMm, to.xMm - from.xMm);
  const turnRad = median(
    seen.slice(0, half).map(({ mat, is }, i) => {
      const other = seen[i + half];
      if (!other) return 0;
      const turn = angle(is, other.is) - angle(mat, other.mat);
      return Math.atan2(Math.sin(turn), Math.cos(turn));
    }),
  );
  const turned = seen.map(({ mat, is }) => {
    const { xMm, yMm } = moved({ turnRad, xMm: 0, yMm: 0 }, mat);
    return { x: is.xMm - xMm, y: is.yMm - yMm };
  });
  return [
    turnRad,
    median(turned.map(({ x }) => x)) / HALF_MM,
    median(turned.map(({ y }) => y)) / HALF_MM,
  ];
}

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
 * corners that do not fit given no weight. The lie of a second mat is worked out in the same fit: two sheets laid side
 * by side by hand lie as they happen to. Its covariance is that of JCGM 102 for a fitted model, the corner's own
 * deviation taken from the misfit.
 *
 * Nothing where fewer than four markers are there, or they do not tell it.
 */
export function fitCamera(markers: readonly (readonly Pair[])[], size: Size): Camera | undefined {
  if (markers.length < 4) return undefined;
  const pairs = markers.flat();
  const besides = pairs.filter(({ beside }) => beside);
  const guess = firstGuess(
    markers.filter((marker) => marker.every(({ beside }) => !beside)),
    size,
  );
  if (!guess) return undefined;
  const pose = besides.length > 0 ? firstPose(guess, size, besides) : [];
  let values: readonly number[] = [...guess, 0, 0, 0, 0, ...pose];
  let deviation = Math.max(2, median(missesOf(values, size, pairs)) / 1.18);
  let weights = pairs.map(() => 1);
  let covariance: readonly (readonly number[])[] = [];
  const sizes = [...new Array<number>(8).fill(0.5), 0.1, 0.1, 0.1, 0.1, ...pose.map(() => 0.1)];
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
        // Where the lens hardly bends the corners do not tell its axis: near the middle, as it is usually.
        (tried) => [
          ...counted.flatMap((pair) => {
            const { xPx, yPx } = shown(tried, size, placeOf(tried, pair));
            return [xPx, yPx];
          }),
          ...tried.slice(10, CAMERA_VALUES),
        ],
        [
          ...counted.flatMap(({ picture: { xPx, yPx } }, i) => [
            { value: xPx, u: us[i] ?? 1 },
            { value: yPx, u: us[i] ?? 1 },
          ]),
          { value: 0, u: AXIS_U },
          { value: 0, u: AXIS_U },
        ],
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
  return {
    ...size,
    values: values.slice(0, CAMERA_VALUES),
    covariance: covariance.slice(0, CAMERA_VALUES).map((row) => row.slice(0, CAMERA_VALUES)),
    misfitPx,
    ...(pose.length > 0 && { beside: poseIn(values) }),
  };
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
