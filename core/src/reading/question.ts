import { COVERAGE_K, risesBeyondDoubt, rss, type Measured } from './uncertainty.js';
import { QUANTITIES, type BenchQuantity } from '../vocabulary/quantities.js';

const shown = (value: number, unit: string): string => `${value.toFixed(1)} ${unit}`;

/**
 * Why a reading cannot be believed as it stands, or `undefined`. It is kept either way; a questioned one
 * blocks sign-off until it is read again. Compared within the combined uncertainty, k = 2:
 * an after-reading above its before-reading, a before-reading above the last cycle's, anything above new.
 * @example questionReading({ quantity: 'mass', unit: 'g', reading: { value: 812.1, u: 0.3 }, before: { value: 812, u: 0.3 }, newTolerance: 10 }) // undefined
 */
export function questionReading(input: {
  readonly quantity: BenchQuantity;
  readonly unit: string;
  readonly reading: Measured;
  readonly before?: Measured | undefined;
  readonly last?: Measured | undefined;
  /** What it is compared with at the other end: a reading that is too large here and right there was swapped. */
  readonly otherEnd?: Measured | undefined;
  readonly asNew?: number | undefined;
  /** Allowed spread of new blades about the spec's figure, same unit. */
  readonly newTolerance: number;
}): string | undefined {
  const { quantity, unit, reading, before, last, otherEnd, asNew, newTolerance } = input;
  const { shrinksUnless } = QUANTITIES[quantity];
  if (shrinksUnless === undefined) return undefined;
  const swapped =
    otherEnd && Math.abs(reading.value - otherEnd.value) <= COVERAGE_K * rss(reading.u, otherEnd.u);
  const cause = swapped ? 'as the other end was: ends swapped' : shrinksUnless;
  const against = (what: string, other: Measured): string =>
    `${shown(reading.value, unit)} is ${shown(reading.value - other.value, unit)} above ${what}, ${shown(other.value, unit)} (allowed ${(COVERAGE_K * rss(reading.u, other.u)).toFixed(1)}): ${cause}? Read it again`;
  if (before && risesBeyondDoubt(before, reading)) return against('before the grind', before);
  if (!before && last && risesBeyondDoubt(last, reading))
    return against('after the last cycle', last);
  if (asNew !== undefined && reading.value - newTolerance - asNew > COVERAGE_K * reading.u) {
    return against('a new blade', { value: asNew, u: 0 });
  }
  return undefined;
}
