import type { CycleFacts, CycleState } from '@tally-stone/contract';
import type { JudgedReading, Measured } from '@tally-stone/core';
import { carriedBefore, valueBefore } from './before.js';
import { carriedAt } from './carried.js';
import { isDoubted } from './doubt.js';
import { passesIn, placeKey } from './fold.js';
import { oncePerPlace } from './once.js';
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

function findValue(state: CycleState, facts: CycleFacts, place: Place): JudgedReading | undefined {
  if (place.phase === 'before') return valueBefore(state, facts, place);
  const taken = takenAt(state, facts, place, valueAt);
  if (taken) return taken;
  const predicted = withoutReading(state, facts, place);
  return predicted && { ...predicted, repeated: false, carried: true, predicted: true };
}

/** What stands for a place in this cycle: the mean of its readings, or what was carried forward or worked out. */
export const valueAt = oncePerPlace(findValue);

/** The same, but nothing while what was read there is asked about. */
export const believedAt = (
  state: CycleState,
  facts: CycleFacts,
  place: Place,
): JudgedReading | undefined =>
  isDoubted(state, facts, place) ? undefined : valueAt(state, facts, place);

/** What is worked with at a place while the reading is asked about: what was known of it before. */
export function believedOrBefore(
  state: CycleState,
  facts: CycleFacts,
  place: Place,
): JudgedReading | undefined {
  if (!isDoubted(state, facts, place)) return valueAt(state, facts, place);
  const carried = carriedAt(facts, place);
  return carried && { ...carried, repeated: false, carried: true };
}

/**
 * The blade as it stands: read after the grind where it was, else before it. What is asked about stands for nothing, be it
 * a length that a plan is drawn over or a mass that the balance is allowed by.
 */
export const nowAt = (
  state: CycleState,
  facts: CycleFacts,
  place: Omit<Place, 'phase'>,
): JudgedReading | undefined =>
  believedAt(state, facts, { ...place, phase: 'after' }) ??
  believedOrBefore(state, facts, { ...place, phase: 'before' });
