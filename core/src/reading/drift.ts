import { BenchError, positive } from '../errors.js';
import { COVERAGE_K, rss, type Measured } from './uncertainty.js';

/** What a reading of the check blade says of an instrument. */
export type Trueness = 'true' | 'drifting' | 'off';

export interface DriftFinding {
  readonly trueness: Trueness;
  /** Newest reading less the reference. */
  readonly deviation: number;
  /** Expanded uncertainty of that, k = 2. */
  readonly expanded: number;
  /** Smoothed deviation over the days, which sees a slow drift before one reading does. */
  readonly smoothed: number;
  /** What the smoothed deviation may be before it counts as a drift. */
  readonly driftLimit: number;
}

/** Weight of the newest reading in the smoothed deviation, and the width of its limits. */
const LAMBDA = 0.2;
const WIDTH = 3;

/**
 * Is an instrument still true, from readings of one check blade against its reference: off where the newest
 * stands apart by more than its own doubt (|d| > U, k = 2, that is E_n > 1, ISO 13528), drifting where the
 * exponentially weighted mean leaves its limits ± 3·u·√(λ/(2 − λ)·(1 − (1 − λ)^{2n})), λ = 0.2 (EWMA chart,
 * Roberts 1959, from memory).
 *
 * Shapes: readings oldest first, in the reference's unit. Errors: `readings` when empty; `u` when not above zero.
 * Example: a scale that reads 0.1 g more each morning is called drifting days before one reading stands out.
 * @example judgeDrift([{ value: 500.1, u: 0.1 }], { value: 500, u: 0 }).trueness // 'true'
 */
export function judgeDrift(readings: readonly Measured[], reference: Measured): DriftFinding {
  const newest = readings.at(-1);
  if (!newest) throw new BenchError('readings', $localize`must hold at least one`);
  let smoothed = 0;
  for (const { value } of readings) {
    smoothed = LAMBDA * (value - reference.value) + (1 - LAMBDA) * smoothed;
  }
  const deviation = newest.value - reference.value;
  const expanded = COVERAGE_K * rss(positive('u', newest.u), reference.u);
  const settled = 1 - (1 - LAMBDA) ** (2 * readings.length);
  const driftLimit = rss(
    WIDTH * newest.u * Math.sqrt((LAMBDA / (2 - LAMBDA)) * settled),
    COVERAGE_K * reference.u,
  );
  const off = Math.abs(deviation) > expanded;
  const drifting = Math.abs(smoothed) > driftLimit;
  return {
    trueness: off ? 'off' : drifting ? 'drifting' : 'true',
    deviation,
    expanded,
    smoothed,
    driftLimit,
  };
}
