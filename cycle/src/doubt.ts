import type { CycleFacts, CycleState } from '@tally-stone/contract';
import { QUANTITIES, questionReading, type Doubt } from '@tally-stone/core';
import { valueBefore } from './before.js';
import { asNew, cameWorn, NEW_TOLERANCE } from './carried.js';
import { historyKey } from './facts.js';
import { readingsAt } from './fold.js';
import { oncePerPlace } from './once.js';
import type { Place } from './place.js';
import { predictedAt } from './predicted.js';
import { takenAt } from './standing.js';

function findDoubt(state: CycleState, facts: CycleFacts, place: Place): Doubt | undefined {
  const { phase, quantity, end, stationKey } = place;
  const newest = readingsAt(state, place).at(-1);
  const reading = newest && takenAt(state, facts, place, valueBefore);
  if (!reading) return undefined;
  const { unit } = QUANTITIES[quantity];
  const last = facts.last[historyKey(place)];
  const before = phase === 'after' ? valueBefore(state, facts, place) : undefined;
  const measured = before && !before.carried ? before : undefined;
  /** What another place was, before the grind or after the last cycle. */
  const stood = (other: Omit<Place, 'phase'>) =>
    phase === 'after' ? valueBefore(state, facts, other) : facts.last[historyKey(other)];
  const across = end && { ...place, end: end === 'A' ? ('B' as const) : ('A' as const) };
  return questionReading({
    quantity,
    unit,
    reading,
    confirmed: newest.confirmed,
    before: measured,
    expected: measured && predictedAt(state, facts, place),
    last: phase === 'before' ? last : undefined,
    otherEnd: across && stood(across),
    neighbours: stationKey
      ? facts.spec.stations.flatMap(({ key, name }) => {
          const there = key === stationKey ? undefined : stood({ ...place, stationKey: key });
          return there ? [{ ...there, name }] : [];
        })
      : [],
    asNew: asNew(facts.spec, quantity),
    knownWorn: cameWorn(facts.blade) || facts.blade.grinds > 0,
    newTolerance: NEW_TOLERANCE[unit],
  });
}

/** Why what was read at a place cannot be believed as it stands; nothing where it can, or where nobody read it. */
export const doubtAt = oncePerPlace(findDoubt);

/**
 * A reading that is doubted stands for nothing in a verdict: what was there before does. What was signed was believed,
 * or read again, and what corrects it is said on purpose.
 */
export const isDoubted = (state: CycleState, facts: CycleFacts, place: Place): boolean =>
  state.signedOff === undefined &&
  readingsAt(state, place).length > 0 &&
  doubtAt(state, facts, place) !== undefined;
