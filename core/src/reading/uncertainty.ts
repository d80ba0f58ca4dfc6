import { BenchError, finite, notNegative, positive } from '../errors.js';

/** A measured quantity: best value and its standard uncertainty (k = 1), both in the same unit. */
export interface Measured {
  readonly value: number;
  readonly u: number;
}

/** Coverage factor of every expanded uncertainty shown: k = 2, about 95 % for a normal error. */
export const COVERAGE_K = 2;

/**
 * Expanded uncertainty U = k·u with k = 2 (JCGM 100:2008, 6.2.1).
 * @example expanded(0.3) // 0.6
 */
export const expanded = (u: number): number => COVERAGE_K * notNegative('u', u);

/**
 * Standard uncertainty from the display's resolution alone: a rectangular distribution of full width
 * one resolution step has u = step/√12 (JCGM 100:2008, F.2.2.1).
 * Example: a 1 g scale gives 0.289 g for one reading.
 * @example resolutionUncertainty(1) // 0.289
 */
export function resolutionUncertainty(resolution: number): number {
  return positive('resolution', resolution) / Math.sqrt(12);
}

/**
 * Root sum of squares of independent standard uncertainties. Example: `rss(3, 4)` is 5.
 * @example rss(3, 4) // 5
 */
export function rss(...parts: readonly number[]): number {
  return Math.hypot(...parts.map((part) => notNegative($localize`uncertainty part`, part)));
}

/**
 * Law of propagation for uncorrelated inputs (JCGM 100:2008, 5.1.2, eq. 10), the sensitivities taken by
 * central differences of a tenth of each standard uncertainty. Inputs with u = 0 cost nothing.
 *
 * Errors: whatever `model` throws at the estimates themselves.
 * Example: `propagate(([a, b]) => a * b, [{ value: 2, u: 0.1 }, { value: 3, u: 0 }])` is `{ value: 6, u: 0.3 }`.
 * @example rounded(propagate(([a, b]) => a * b, [{ value: 2, u: 0.1 }, { value: 3, u: 0 }])) // { value: 6, u: 0.3 }
 */
export function propagate<const T extends readonly Measured[]>(
  model: (values: { [K in keyof T]: number }) => number,
  inputs: T,
): Measured {
  const at = inputs.map((input, i) => finite(`inputs[${i}].value`, input.value));
  const evaluate = (values: number[]): number => model(values as { [K in keyof T]: number });
  const variance = inputs.reduce((sum, input, i) => {
    const u = notNegative(`inputs[${i}].u`, input.u);
    if (u === 0) return sum;
    const step = u / 10;
    const shifted = (by: number): number[] => at.map((value, j) => (j === i ? value + by : value));
    const slope = (evaluate(shifted(step)) - evaluate(shifted(-step))) / (2 * step);
    return sum + (slope * u) ** 2;
  }, 0);
  return { value: evaluate(at), u: Math.sqrt(variance) };
}

/**
 * Mean of repeated readings of one quantity, u of the mean from the readings' own uncertainties.
 * @example rounded(meanOf([{ value: 1, u: 0.2 }, { value: 3, u: 0.2 }])) // { value: 2, u: 0.141 }
 */
export function meanOf(readings: readonly Measured[]): Measured {
  if (readings.length === 0)
    throw new BenchError('readings', $localize`must hold at least one reading`);
  const n = readings.length;
  return {
    value: readings.reduce((sum, { value }) => sum + finite('value', value), 0) / n,
    u: rss(...readings.map(({ u }) => u)) / n,
  };
}

/**
 * Agreement of two results, E_n = |a − b| / √(U_a² + U_b²) with expanded uncertainties k = 2
 * (ISO 13528, E_n score, from memory of its formula). Above 1 they disagree.
 *
 * Errors: `u` when both uncertainties are zero.
 * Example: 10 ± 3 against 14 ± 4 (k = 2) is 0.8: they agree.
 * @example agreementEn({ value: 10, u: 1.5 }, { value: 14, u: 2 }) // 0.8
 */
export function agreementEn(a: Measured, b: Measured): number {
  const spread = rss(expanded(a.u), expanded(b.u));
  if (spread === 0)
    throw new BenchError('u', $localize`must be above zero for at least one of the two results`);
  return Math.abs(finite('a', a.value) - finite('b', b.value)) / spread;
}

/**
 * Is `after` believably not above `before`? Grinding only takes away, so a later reading above an earlier
 * one is accepted within the combined uncertainty, k = 2, and questioned beyond it.
 * Example: 812.3 g after 812.0 g on a 1 g scale is accepted; 815 g is not.
 * @example risesBeyondDoubt({ value: 812, u: 0.289 }, { value: 815, u: 0.289 }) // true
 */
export function risesBeyondDoubt(before: Measured, after: Measured): boolean {
  return after.value - before.value > expanded(rss(before.u, after.u));
}
