import type { Entered } from '@tally-stone/contract';
import { BenchError, kindOf, parseQuantity } from '@tally-stone/core';
import { refusalFromBench } from '../http/refusal.js';

/** Runs a core check and names the command's own field if it fails. */
export function at<T>(field: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof BenchError) throw refusalFromBench(error, field);
    throw error;
  }
}

/** What was typed, in mm, g or degrees. Refused when it measures something else. */
export function parsed(entered: Entered, kind: 'length' | 'mass' | 'angle', field: string): number {
  return at(field, () => {
    if (kindOf(entered.unit) !== kind) {
      throw new BenchError(`${field}.unit`, `measures ${kindOf(entered.unit)}, not ${kind}`);
    }
    return parseQuantity(entered.text, entered.unit, field).value;
  });
}
