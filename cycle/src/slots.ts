import type {
  CycleFacts,
  CycleState,
  Phase,
  PlannedReading,
  Quantity,
  ReadingSlot,
} from '@tally-stone/contract';
import { QUANTITIES, named, said, sourceWords, type End } from '@tally-stone/core';
import { asNew } from './carried.js';
import { doubtAt } from './doubt.js';
import { carriedToday, historyKey } from './facts.js';
import { placeKey, readBefore, readingsAt } from './fold.js';
import { AFTER, worthAfter } from './predicted.js';
import { leftOutAt } from './standing.js';
import { valueAt, withoutReading } from './values.js';
import { worthBefore } from './worth-before.js';

/** A reading's name as the screens show it: `Width, end A, tip`. */
export function labelOf(
  { spec }: CycleFacts,
  {
    quantity,
    end,
    stationKey,
  }: { quantity: Quantity; end?: End | null | undefined; stationKey?: string | null | undefined },
): string {
  const station = spec.stations.find(({ key }) => key === stationKey);
  return [QUANTITIES[quantity].words, end && $localize`end ${end}`, station && named(station.name)]
    .filter(Boolean)
    .join(', ');
}

function slotOf(
  state: CycleState,
  facts: CycleFacts,
  phase: Phase,
  planned: PlannedReading,
): ReadingSlot {
  const { quantity, end, stationKey } = planned;
  const place = { phase, quantity, end, stationKey };
  const station = facts.spec.stations.find(({ key }) => key === stationKey);
  const taken = readingsAt(state, place);
  const newest = taken.at(-1);
  const leftOut = leftOutAt(state, place);
  const last = facts.last[historyKey(planned)];
  const value = valueAt(state, facts, place);
  const limit = facts.spec.limits.find(
    (each) => each.kind === quantity && (each.stationKey ?? undefined) === stationKey,
  );
  const newValue = asNew(facts.spec, quantity);
  const unit = QUANTITIES[quantity].unit;
  const old = taken.length > 0 || leftOut ? undefined : readBefore(state, place);
  const stood = old && said(old.value, unit, QUANTITIES[quantity].digits);
  const why = stood
    ? old.burr === 'gone'
      ? $localize`read over the burr (${stood})`
      : $localize`ground since it was read (${stood})`
    : (phase === 'before' ? worthBefore : worthAfter)(state, facts).get(placeKey(place));
  const standsIn = why || taken.length > 0 ? undefined : withoutReading(state, facts, place);
  const doubt = newest && value ? doubtAt(state, facts, place) : undefined;
  return {
    key: placeKey(place),
    phase,
    quantity,
    ...(end ? { end } : {}),
    ...(stationKey ? { stationKey } : {}),
    ...(station ? { radiusMm: station.radiusMm } : {}),
    label: labelOf(facts, planned),
    unit,
    when: planned.when,
    needed: why !== undefined,
    ...(why ? { why } : {}),
    ...(standsIn ? { standsIn } : {}),
    ...(newest && value
      ? { taken: { ...newest, entered: newest.entered, value: value.value, u: value.u } }
      : {}),
    repeats: taken.length,
    ...(leftOut ? { leftOut: leftOut.reason } : {}),
    ...(leftOut?.carried
      ? { carried: { value: leftOut.carried.value, u: leftOut.carried.u, at: leftOut.carried.at } }
      : {}),
    ...(last ? { last: carriedToday(quantity, last) } : {}),
    ...(newValue === undefined ? {} : { newValue }),
    ...(limit ? { limit: limit.value, limitSource: sourceWords(limit) } : {}),
    ...(doubt ? { question: doubt.words } : {}),
    ...(doubt?.meant === undefined ? {} : { meant: doubt.meant }),
  };
}

/** Every reading field of a cycle, in the order the bench takes them: before, then after. */
export function slotsOf(state: CycleState, facts: CycleFacts): ReadingSlot[] {
  const { readings } = facts.spec;
  return [
    ...readings.map((planned) => slotOf(state, facts, 'before', planned)),
    ...readings
      .filter(({ quantity }) => AFTER.includes(quantity))
      .map((planned) => slotOf(state, facts, 'after', planned)),
  ];
}
