import type { CycleFacts, CycleState } from '@tally-stone/contract';
import type { JudgedReading, Measured } from '@tally-stone/core';
import { carriedAt } from './carried.js';
import { placeKey } from './fold.js';
import { oncePerPlace } from './once.js';
import type { Place } from './place.js';
import { takenAt } from './standing.js';
import { worthBefore } from './worth-before.js';

/** What stands for a place that is not worth reading before the grind: its last reading, carried forward. */
export const carriedBefore = (
  state: CycleState,
  facts: CycleFacts,
  place: Place,
): Measured | undefined =>
  worthBefore(state, facts).has(placeKey(place)) ? undefined : carriedAt(facts, place);

function findBefore(
  state: CycleState,
  facts: CycleFacts,
  place: Omit<Place, 'phase'>,
): JudgedReading | undefined {
  const before: Place = { ...place, phase: 'before' };
  const taken = takenAt(state, facts, before, valueBefore);
  if (taken) return taken;
  const carried = carriedBefore(state, facts, before);
  return carried && { ...carried, repeated: false, carried: true, predicted: false };
}

/** What stands for a place before the grind. */
export const valueBefore = oncePerPlace(findBefore);
