import { BenchError, notNegative, positive } from '../errors.js';
import { rss, type Measured, resolutionUncertainty } from './uncertainty.js';
import { convert, type Unit } from '../units/units.js';
import { QUANTITIES, type BenchQuantity } from '../vocabulary/quantities.js';

/**
 * Resolution that typed text claims, in the base unit of `unit`'s kind: one step of its last digit, or of
 * its fraction. Example: `812` g claims 1 g, `812.4` claims 0.1 g, `2 1/8` in claims 3.175 mm.
 * @example typedResolution('812.4', 'g', 'g') // 0.1
 */
export function typedResolution(text: string, unit: Unit, base: Unit): number {
  const fraction = /\/\s*(\d+)/.exec(text);
  const decimals = /[.,](\d+)/.exec(text);
  const step = fraction
    ? 1 / Number(fraction[1])
    : decimals
      ? 10 ** -(decimals[1] ?? '').length
      : 1;
  return positive('resolution', convert(step, unit, base));
}

/**
 * Standard uncertainty of a typed reading: last digit and handling together.
 * @example typedUncertainty('mass', 1) // 0.306
 */
export function typedUncertainty(quantity: BenchQuantity, resolution: number): number {
  return rss(resolutionUncertainty(resolution), QUANTITIES[quantity].handlingU);
}

/**
 * What else is typed at the bench, beside the quantities: a test weight and where it lies, a mark of damage, heights on
 * a balancer, and the range outside which it is refused. The lower bounds keep the arithmetic from dividing by next to nothing. Common practice, no source.
 */
export const ENTERED_RANGE = {
  testWeightG: [0.01, 200],
  testRadiusMm: [10, 1_000],
  fromTipMm: [0, 1_000],
  damageDepthMm: [0.01, 200],
  damageLengthMm: [0.1, 1_000],
  tipHeightDifferenceMm: [0, 1_000],
  belowPointMm: [-50, 50],
} as const satisfies Readonly<Record<string, readonly [number, number]>>;

/**
 * Returns the value if it lies in the range, otherwise throws a {@link BenchError} saying the range.
 * @param unit as a person reads it: mm, g, °
 * @example inRange('radius', 5, [10, 1000], 'mm') // throws radius
 */
export function inRange(
  field: string,
  value: number,
  [low, high]: readonly [number, number],
  unit: string,
): number {
  if (!Number.isFinite(value) || value < low || value > high) {
    const shown = unit === '°' ? unit : ` ${unit}`;
    throw new BenchError(
      field,
      $localize`is outside ${low} to ${high}${shown}:ph2:: read it again`,
      value,
    );
  }
  return value;
}

/**
 * Returns the value if a mower blade can have it, otherwise throws a {@link BenchError} saying the range.
 * @example possible('width', -1) // throws width
 */
export const possible = (
  quantity: BenchQuantity,
  value: number,
  field = quantity as string,
): number =>
  inRange(
    field,
    value,
    QUANTITIES[quantity].possible,
    QUANTITIES[quantity].unit === 'deg' ? '°' : QUANTITIES[quantity].unit,
  );

/**
 * A reading carried forward from an earlier cycle grows less sure: the blade has worked since. Adds the
 * usual change of each cycle since; what each grind takes for sure is taken off.
 *
 * Errors: `changePerCycle`, `cycles`, `takenPerGrind` when below zero.
 * @param cycles worked since it was read, at least the one before today
 * @param takenPerGrind what a grind takes of it; the first of the cycles is the one it was left by
 * @example carriedForward({ value: 60, u: 0.3 }, 0.4) // { value: 60, u: 0.5 }
 * @example carriedForward({ value: 60, u: 0.3 }, 0.2, 2, 0.5) // { value: 59.5, u: 0.5 }
 */
export function carriedForward(
  last: Measured,
  changePerCycle: number,
  cycles = 1,
  takenPerGrind = 0,
): Measured {
  const grinds = Math.max(0, notNegative('cycles', cycles) - 1);
  return {
    value: last.value - grinds * notNegative('takenPerGrind', takenPerGrind),
    u: rss(last.u, Math.max(1, cycles) * notNegative('changePerCycle', changePerCycle)),
  };
}
