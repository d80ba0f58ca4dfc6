import type { CycleFacts, CycleState, LeftOut, TakenReading } from '@tally-stone/contract';
import { bevelFromFace, meanOf, type JudgedReading, type Measured } from '@tally-stone/core';
import { placeKey, readingsAt } from './fold.js';
import type { Place } from './place.js';

export const leftOutAt = (state: CycleState, place: Place): LeftOut | undefined =>
  state.leftOut.find((other) => placeKey(other) === placeKey(place));

type ValueAt = (state: CycleState, facts: CycleFacts, place: Place) => Measured | undefined;

/** A bevel read as the width of its face, turned into degrees; every other reading as it is. */
function asPlaced(
  state: CycleState,
  facts: CycleFacts,
  reading: TakenReading,
  valueAt: ValueAt,
): Measured {
  if (reading.quantity !== 'face') return { value: reading.value, u: reading.u };
  const thickness = valueAt(state, facts, { phase: 'before', quantity: 'thickness' });
  const land = valueAt(state, facts, { phase: reading.phase, quantity: 'land', end: reading.end });
  return bevelFromFace({
    thicknessMm: thickness ?? { value: facts.spec.thicknessMm, u: 0.05 },
    landMm: land ?? { value: 0.1, u: 0.1 },
    faceMm: reading,
  });
}

/** What somebody read or left out at a place: the mean of its readings, or what was carried forward for them. */
export function takenAt(
  state: CycleState,
  facts: CycleFacts,
  place: Place,
  valueAt: ValueAt,
): JudgedReading | undefined {
  const taken = readingsAt(state, place);
  if (taken.length > 0) {
    return {
      ...meanOf(taken.map((reading) => asPlaced(state, facts, reading, valueAt))),
      repeated: taken.length > 1,
      carried: false,
    };
  }
  const carried = leftOutAt(state, place)?.carried;
  return carried && { value: carried.value, u: carried.u, repeated: true, carried: true };
}
