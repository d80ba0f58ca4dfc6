import { BenchError, notNegative } from '../errors.js';
import { fitLogistic } from '../math/logistic.js';

/** Standard normal deviate that leaves one twentieth outside on both sides together. */
const Z_95 = 1.959964;

/** A share with the range it lies in nineteen times in twenty. */
export interface ShareOf {
  readonly share: number;
  readonly low: number;
  readonly high: number;
}

/**
 * Share of torn tips among those looked at, with Wilson's score interval (Wilson 1927, as compared by Newcombe 1998).
 *
 * Errors: `torn`, `clean` below zero, or both zero.
 * Example: 15 of 148 are 10 % (6 to 16).
 * @example rounded(tornShare(15, 133)) // { share: 0.101, low: 0.062, high: 0.16 }
 */
export function tornShare(torn: number, clean: number): ShareOf {
  const of = notNegative('torn', torn) + notNegative('clean', clean);
  if (of === 0) throw new BenchError('torn', $localize`and clean are both none: look at some tips`);
  const share = torn / of;
  const square = Z_95 ** 2;
  const middle = (share + square / (2 * of)) / (1 + square / of);
  const half =
    (Z_95 / (1 + square / of)) * Math.sqrt((share * (1 - share)) / of + square / (4 * of ** 2));
  return { share, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}

/** Student's t that leaves one twentieth outside, by its degrees of freedom (Abramowitz & Stegun 26.7.5, from memory). */
function studentT(freedom: number): number {
  const z = Z_95;
  return (
    z +
    (z ** 3 + z) / (4 * freedom) +
    (5 * z ** 5 + 16 * z ** 3 + 3 * z) / (96 * freedom ** 2) +
    (3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / (384 * freedom ** 3)
  );
}

/** With so many torn tips a lawn shows it a day later. Common practice, no source. */
export const TORN_SHOWS = 1 / 3;
/** Fewer looks than this tell no edge life. Common practice, no source. */
export const LEAST_LOOKS = 5;

/** One look at cut tips: hours the edge had mown, and what was seen. */
export interface GrassLook {
  readonly hours: number;
  readonly torn: number;
  readonly clean: number;
}

/** Hours after which so many tips are torn, with the range they lie in nineteen times in twenty. */
export interface EdgeByGrass {
  readonly hours: number;
  readonly low: number;
  readonly high: number;
  readonly looks: number;
}

/**
 * Hours an edge mows before {@link TORN_SHOWS} of the tips are torn, from looks at the grass: a logistic curve of the
 * share by hours, its doubt widened where looks differ more than counts do (quasi-likelihood), and the range by
 * Fieller's theorem (Fieller 1954, from memory). `undefined` while the looks are too few, or do not show that hours
 * tear more.
 *
 * Errors: negative hours or counts.
 * @example edgeHoursByGrass([]) // undefined
 */
export function edgeHoursByGrass(looks: readonly GrassLook[]): EdgeByGrass | undefined {
  const points = looks.map(({ hours, torn, clean }) => ({
    x: notNegative('hours', hours),
    hits: notNegative('torn', torn),
    of: torn + notNegative('clean', clean),
  }));
  if (points.length < LEAST_LOOKS) return undefined;
  const fit = fitLogistic(points);
  if (!fit || fit.b <= 0) return undefined;
  const { a, b, varA, varB, covAB, chiSquared } = fit;
  // Lawns that differ more than counts do: how much more is known from these looks alone.
  const freedom = points.length - 2;
  const scatter = chiSquared / freedom;
  const wider = scatter > 1 ? scatter * studentT(freedom) ** 2 : Z_95 ** 2;
  // (a + b·h − ℓ)² = z²·var(a + b·h) in h: both ends of the range are its roots.
  const over = a - Math.log(TORN_SHOWS / (1 - TORN_SHOWS));
  const square = b * b - wider * varB;
  if (square <= 0) return undefined;
  const half = over * b - wider * covAB;
  const under = half * half - square * (over * over - wider * varA);
  if (under < 0) return undefined;
  const root = Math.sqrt(under);
  return {
    hours: Math.max(0, -over / b),
    low: Math.max(0, (-half - root) / square),
    high: Math.max(0, (-half + root) / square),
    looks: points.length,
  };
}
