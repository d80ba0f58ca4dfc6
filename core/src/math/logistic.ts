import { BenchError, finite, notNegative } from '../errors.js';
import { solve } from './least-squares.js';

/** So many of `of` showed something at `x`. */
export interface CountedAt {
  readonly x: number;
  readonly hits: number;
  readonly of: number;
}

export interface Logistic {
  /** log(p / (1 − p)) = a + b·x. */
  readonly a: number;
  readonly b: number;
  /** Variances and covariance of a and b. */
  readonly varA: number;
  readonly varB: number;
  readonly covAB: number;
  /** Pearson's sum over the points: about their number less two where they scatter as counts do. */
  readonly chiSquared: number;
}

const STEPS = 30;

/**
 * Share by x as a logistic curve, by iteratively reweighted least squares (McCullagh & Nelder, Generalized Linear
 * Models, 2nd ed., 4.4, from memory). `undefined` where the points do not tell a slope: all at one x, or torn apart
 * without overlap.
 *
 * Errors: `hits` below zero or above `of`.
 * @example fitLogistic([{ x: 0, hits: 1, of: 4 }, { x: 1, hits: 3, of: 4 }])?.b // 2.2
 */
export function fitLogistic(points: readonly CountedAt[]): Logistic | undefined {
  for (const { x, hits, of } of points) {
    finite('x', x);
    if (notNegative('hits', hits) > of)
      throw new BenchError('hits', $localize`are more than there were`, hits);
  }
  let [a, b] = [0, 0];
  const shareAt = (x: number): number => 1 / (1 + Math.exp(-(a + b * x)));
  const sums = (): { square: number[][]; down: number[] } => {
    const square = [
      [0, 0],
      [0, 0],
    ] as [[number, number], [number, number]];
    const down: [number, number] = [0, 0];
    for (const { x, hits, of } of points) {
      const p = shareAt(x);
      const weight = of * p * (1 - p);
      const miss = hits - of * p;
      square[0][0] += weight;
      square[0][1] += weight * x;
      square[1][0] += weight * x;
      square[1][1] += weight * x * x;
      down[0] += miss;
      down[1] += miss * x;
    }
    return { square, down };
  };
  for (let step = 0; step < STEPS; step++) {
    const { square, down } = sums();
    const move = solve(square, down);
    if (!move) return undefined;
    a += move[0] ?? 0;
    b += move[1] ?? 0;
    if (!Number.isFinite(a) || !Number.isFinite(b)) return undefined;
    if (Math.abs(move[0] ?? 0) + Math.abs(move[1] ?? 0) < 1e-10) break;
  }
  const { square } = sums();
  const first = solve(square, [1, 0]);
  const second = solve(square, [0, 1]);
  if (!first || !second) return undefined;
  const chiSquared = points.reduce((sum, { x, hits, of }) => {
    const p = shareAt(x);
    const spread = of * p * (1 - p);
    return spread > 0 ? sum + (hits - of * p) ** 2 / spread : sum;
  }, 0);
  return { a, b, varA: first[0] ?? 0, varB: second[1] ?? 0, covAB: first[1] ?? 0, chiSquared };
}
