import { ENTERED_RANGE, QUANTITIES } from '@tally-stone/core/basics';
import * as z from 'zod';
import './zod.js';

/** A bound as a refusal says it; joined to its unit as the core does, so that a screen can say it in inches. */
export const withUnit = (value: number, unit: string): string =>
  unit === '°' ? `${value}°` : `${value}${unit && `\u00a0${unit}`}`;

/**
 * A number between two bounds that the trade can hold, both allowed. Every number that comes in has both:
 * what is far too small underflows in the arithmetic just as what is far too large overflows.
 */
export const between = (least: number, most: number, unit = '') =>
  z
    .number({ error: () => $localize`must be a number` })
    .min(least, {
      error: ({ input }) =>
        least > 0 && Number(input) <= 0
          ? $localize`must be above zero`
          : least === 0
            ? $localize`must not be negative`
            : $localize`is less than ${withUnit(least, unit)}`,
    })
    .max(most, { error: () => $localize`is more than ${withUnit(most, unit)}` });

/** A whole number between two bounds, both allowed. */
export const wholeBetween = (
  least: number,
  most: number,
  tooMany = (): string => $localize`is more than ${most}`,
) =>
  z
    .int({ error: () => $localize`must be a whole number` })
    .min(least, { error: () => $localize`must be at least ${least}` })
    .max(most, { error: tooMany });

/** What an hour meter can show. */
export const MeterHours = between(0, 100_000, 'h');
/** A drop on a shaft, from level to its mark; longer than two minutes it hangs on its friction. */
export const DropSeconds = between(0.05, 120, 's');
export const BladeMassG = between(...QUANTITIES.mass.possible, 'g');
export const BladeLengthMm = between(...QUANTITIES.length.possible, 'mm');
export const BladeWidthMm = between(...QUANTITIES.width.possible, 'mm');
/** A test weight or a coin, and how far from the hole centre it lies. */
export const TestWeightG = between(...ENTERED_RANGE.testWeightG, 'g');
export const TestRadiusMm = between(...ENTERED_RANGE.testRadiusMm, 'mm');
export const BladeSpeedRpm = between(100, 10_000, 'rpm');
/** Balance grade G as ISO 21940-11 writes it, mm/s. */
export const GradeMmPerS = between(0.1, 100, 'mm/s');
export const BevelDeg = between(15, 60, '°');
export const COUNTED_AT_ONCE_MOST = 500;
/** Passes, strokes or seconds told at once: eight minutes of a disc, ten ends of a file. */
export const CountedAtOnce = wholeBetween(
  1,
  COUNTED_AT_ONCE_MOST,
  () => $localize`is more than ${COUNTED_AT_ONCE_MOST} at once: add it in parts`,
);
