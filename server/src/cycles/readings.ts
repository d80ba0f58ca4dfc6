import {
  passesIn,
  placeKey,
  readingsAt,
  type CycleState,
  type LeftOut,
  type Phase,
  type PlannedReading,
  type Quantity,
  type ReadingSlot,
  type TakenReading,
} from '@tally-stone/contract';
import {
  QUANTITIES,
  QUANTITY_KEYS,
  bevelFromFace,
  meanOf,
  questionReading,
  sourceWords,
  type End,
  type JudgedReading,
  type Measured,
} from '@tally-stone/core';
import { carriedToday, historyKey, type CycleFacts } from './facts.js';
import { carriedAt, predictedAt, worthAfter, worthBefore } from './worth.js';

/** Quantities read again after the grind. */
export const AFTER: readonly Quantity[] = QUANTITY_KEYS.filter((key) => QUANTITIES[key].proves);

/** How far new blades of one spec differ from its figures. Common practice, no source. */
export const NEW_TOLERANCE: Readonly<Record<'mm' | 'g' | 'deg', number>> = {
  mm: 0.8,
  g: 15,
  deg: 2,
};

export interface Place {
  readonly phase: Phase;
  readonly quantity: Quantity;
  readonly end?: End | undefined;
  readonly stationKey?: string | undefined;
}

/** What stands for a place in this cycle: the mean of its readings, or what was carried forward. */
export function valueAt(
  state: CycleState,
  facts: CycleFacts,
  place: Place,
): JudgedReading | undefined {
  const taken = readingsAt(state, place);
  if (taken.length > 0) {
    return {
      ...meanOf(taken.map((reading) => asPlaced(state, facts, reading))),
      repeated: taken.length > 1,
      carried: false,
    };
  }
  const leftOut = leftOutAt(state, place);
  if (leftOut?.carried) {
    return { value: leftOut.carried.value, u: leftOut.carried.u, repeated: true, carried: true };
  }
  const without = withoutReading(state, facts, place);
  return (
    without && { ...without, repeated: false, carried: true, predicted: place.phase === 'after' }
  );
}

/** What stands for a place that is not worth reading now: carried forward before, worked out after. */
function withoutReading(state: CycleState, facts: CycleFacts, place: Place): Measured | undefined {
  if (place.phase === 'before') {
    return worthBefore(state, facts).has(placeKey(place)) ? undefined : carriedAt(facts, place);
  }
  if (passesIn(state) === 0 || worthAfter(state, facts).has(placeKey(place))) return undefined;
  return predictedAt(state, facts, place);
}

/** A bevel read as the width of its face, turned into degrees; every other reading as it is. */
function asPlaced(state: CycleState, facts: CycleFacts, reading: TakenReading): Measured {
  if (reading.quantity !== 'face') return { value: reading.value, u: reading.u };
  const thickness = valueAt(state, facts, { phase: 'before', quantity: 'thickness' });
  const land = valueAt(state, facts, { phase: reading.phase, quantity: 'land', end: reading.end });
  return bevelFromFace({
    thicknessMm: thickness ?? { value: facts.spec.thicknessMm, u: 0.05 },
    landMm: land ?? { value: 0.1, u: 0.1 },
    faceMm: reading,
  });
}

const leftOutAt = (state: CycleState, place: Place): LeftOut | undefined =>
  state.leftOut.find((other) => placeKey(other) === placeKey(place));

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

export function asNew(facts: CycleFacts, quantity: Quantity): number | undefined {
  const { spec } = facts;
  const values: Partial<Record<Quantity, number>> = {
    mass: spec.newMassG,
    length: spec.newLengthMm,
    thickness: spec.thicknessMm,
    width: spec.newWidthMm,
    wing: spec.wingMm,
    bevel: spec.bevelDeg,
  };
  return values[quantity];
}

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
  return [QUANTITIES[quantity].words, end && `end ${end}`, station?.name]
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
  const last = facts.last.get(historyKey(planned));
  const before =
    phase === 'after' ? valueAt(state, facts, { ...place, phase: 'before' }) : undefined;
  const value = valueAt(state, facts, place);
  const limit = facts.spec.limits.find(
    (each) => each.kind === quantity && (each.stationKey ?? undefined) === stationKey,
  );
  const newValue = asNew(facts, quantity);
  const unit = QUANTITIES[quantity].unit;
  const why = (phase === 'before' ? worthBefore : worthAfter)(state, facts).get(placeKey(place));
  const standsIn = why || taken.length > 0 ? undefined : withoutReading(state, facts, place);
  const across = end && { ...planned, end: end === 'A' ? ('B' as const) : ('A' as const) };
  const otherEnd =
    across &&
    (phase === 'after'
      ? valueAt(state, facts, { ...across, phase: 'before' })
      : facts.last.get(historyKey(across)));
  const question =
    newest && value
      ? questionReading({
          quantity,
          unit,
          reading: value,
          before: before && !before.carried ? before : undefined,
          last: phase === 'before' && last ? last : undefined,
          otherEnd,
          asNew: newValue,
          newTolerance: NEW_TOLERANCE[unit],
        })
      : undefined;
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
    ...(question ? { question } : {}),
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
