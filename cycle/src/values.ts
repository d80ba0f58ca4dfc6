import type { CycleFacts, CycleState } from '@tally-stone/contract';
import type { JudgedReading, Measured } from '@tally-stone/core';
import { carriedBefore, valueBefore } from './before.js';
import { passesIn, placeKey } from './fold.js';
import type { Place } from './place.js';
import { predictedAt, worthAfter } from './predicted.js';
import { takenAt } from './standing.js';

/** What stands for a place that is not worth reading now: carried forward before, worked out after. */
export function withoutReading(
  state: CycleState,
  facts: CycleFacts,
  place: Place,
): Measured | undefined {
  if (place.phase === 'before') return carriedBefore(state, facts, place);
  if (passesIn(state) === 0 || worthAfter(state, facts).has(placeKey(place))) return undefined;
  return predictedAt(state, facts, place);
}

/** What stands for a place in this cycle: the mean of its readings, or what was carried forward or worked out. */
export function valueAt(
  state: CycleState,
  facts: CycleFacts,
  place: Place,
): JudgedReading | undefined {
  if (place.phase === 'before') return valueBefore(state, facts, place);
  const taken = takenAt(state, facts, place, valueAt);
  if (taken) return taken;
  const predicted = withoutReading(state, facts, place);
  return predicted && { ...predicted, repeated: false, carried: true, predicted: true };
}

/** The blade as it stands: read after the grind where it was, else before it. */
export function nowAt(
  state: CycleState,
  facts: CycleFacts,
  place: Omit<Place, 'phase'>,
): JudgedReading | undefined {
  return (
    valueAt(state, facts, { ...place, phase: 'after' }) ??
    valueAt(state, facts, { ...place, phase: 'before' })
  );
}
