import { BenchError, notNegative, positive } from '../errors.js';

export interface Sample {
  readonly timeS: number;
  readonly value: number;
}

export interface Steadiness {
  readonly steady: boolean;
  /** Mean over the window, only when steady: never an average of a moving value. */
  readonly value?: number;
  readonly spread: number;
  /** Fitted slope times the window. */
  readonly drift: number;
}

/** What was not seen for longer than this share of the window may have moved and come back. */
const MOST_GAP = 0.25;

/**
 * Whether a stream stands still: over a window of at least one period of whatever swings, the spread (max −
 * min) and the drift (least-squares slope × window) are within the instrument's tolerance. A turning point
 * of a swing looks steady over less than its period, which is why the window must hold one; and a stream with a
 * gap is not known to have stood still.
 *
 * Errors: `windowS` when shorter than the period.
 * Example: a scale settling from 800 to 812 g is steady only once its last window lies within tolerance.
 * @example steadiness([], { windowS: 1, tolerance: 0.1 }).steady // false
 */
export function steadiness(
  samples: readonly Sample[],
  options: { readonly windowS: number; readonly tolerance: number; readonly periodS?: number },
): Steadiness {
  const window = positive('windowS', options.windowS);
  notNegative('tolerance', options.tolerance);
  if (window < (options.periodS ?? 0)) {
    throw new BenchError(
      'windowS',
      $localize`must be at least one period, ${options.periodS ?? 0} s`,
      window,
    );
  }
  const newest = samples.at(-1)?.timeS ?? 0;
  const inside = samples.filter(({ timeS }) => timeS >= newest - window);
  const first = inside[0]?.timeS ?? newest;
  const widest = inside.reduce(
    (gap, { timeS }, i) => Math.max(gap, timeS - (inside[i - 1]?.timeS ?? timeS)),
    0,
  );
  const covered = newest - first >= 0.9 * window && widest <= MOST_GAP * window;
  if (!covered) return { steady: false, spread: Infinity, drift: Infinity };
  const n = inside.length;
  const meanT = inside.reduce((sum, { timeS }) => sum + timeS, 0) / n;
  const mean = inside.reduce((sum, { value }) => sum + value, 0) / n;
  const sxx = inside.reduce((sum, { timeS }) => sum + (timeS - meanT) ** 2, 0);
  const sxy = inside.reduce((sum, { timeS, value }) => sum + (timeS - meanT) * (value - mean), 0);
  const values = inside.map(({ value }) => value);
  const spread = Math.max(...values) - Math.min(...values);
  const drift = Math.abs((sxy / sxx) * window);
  const steady = spread <= options.tolerance && drift <= options.tolerance;
  return steady ? { steady, value: mean, spread, drift } : { steady, spread, drift };
}
