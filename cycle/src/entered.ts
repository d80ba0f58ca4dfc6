import type { Entered } from '@tally-stone/contract';
import {
  BenchError,
  inRange,
  kindOf,
  named,
  parseQuantity,
  QUANTITIES,
  type BenchQuantity,
} from '@tally-stone/core';
import { refusalFromBench } from './refusal.js';

/** Runs a core check and names the command's own field if it fails. */
export function at<T>(field: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof BenchError) throw refusalFromBench(error, field);
    throw error;
  }
}

const KIND_OF = { mm: 'length', g: 'mass', deg: 'angle' } as const;
const SHOWN = { mm: 'mm', g: 'g', deg: '°' } as const;

/**
 * What was typed, in mm, g or degrees. Refused when it measures something else, or where nothing at the bench
 * can measure it.
 */
export function parsed(
  entered: Entered,
  base: 'mm' | 'g' | 'deg',
  field: string,
  range: readonly [number, number],
): number {
  return at(field, () => {
    const { value, unit } = parseQuantity(entered.text, entered.unit, field);
    if (kindOf(unit) !== KIND_OF[base]) {
      throw new BenchError(
        `${field}.unit`,
        $localize`measures ${named(kindOf(unit))}, not ${named(KIND_OF[base])}`,
      );
    }
    return inRange(field, value, range, SHOWN[base]);
  });
}

/** A reading as typed, in its quantity's own unit; refused where no mower blade can have it. */
export const parsedReading = (entered: Entered, quantity: BenchQuantity, field: string): number =>
  parsed(entered, QUANTITIES[quantity].unit, field, QUANTITIES[quantity].possible);
