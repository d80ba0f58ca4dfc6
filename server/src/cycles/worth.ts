import { placeKey, zonePassesAt, type CycleState } from '@tally-stone/contract';
import {
  bevelToGrindDeg,
  ENDS,
  FINISH_LAND_MM,
  fullLookDue,
  marginOf,
  planRows,
  QUANTITIES,
  readingsWorthTaking,
  removedAreaMm2,
  flatSection,
  rss,
  simulatePasses,
  STEEL_G_PER_MM3,
  COVERAGE_K,
  USUAL_REMOVAL,
  wheelSet,
  withLand,
  type End,
  type KnownPlace,
  type Measured,
  type PlanInput,
  type PlanStation,
  type ZoneKey,
} from '@tally-stone/core';
import { carriedToday, historyKey, wheelOf, type CycleFacts } from './facts.js';
import { AFTER, asNew, NEW_TOLERANCE, valueAt, type Place } from './readings.js';
import { schoolsOf } from './schools.js';

/** What is known of a place without reading it: the last reading, or the new blade's figure, less sure by now. */
export function carriedAt(facts: CycleFacts, place: Omit<Place, 'phase'>): Measured | undefined {
  const { quantity } = place;
  const last = facts.last.get(historyKey(place));
  if (last) return carriedToday(quantity, last, facts.rules.recessionPerGrindMm);
  // Of a used blade nobody has measured nothing is known: it is no new one.
  if (quantity === 'bevel' || facts.blade.knownFrom === 'used') return undefined;
  const figure = asNew(facts, quantity);
  const fresh =
    QUANTITIES[quantity].whenNew ??
    (figure === undefined
      ? undefined
      : { value: figure, u: NEW_TOLERANCE[QUANTITIES[quantity].unit] / 2 });
  return (
    fresh && {
      value:
        fresh.value -
        (quantity === 'width' ? facts.blade.grinds * facts.rules.recessionPerGrindMm : 0),
      u: rss(fresh.u, facts.blade.grinds * QUANTITIES[quantity].changePerCycle),
    }
  );
}

/** Room inside the limit a place has, where it has one. */
function marginAt(
  facts: CycleFacts,
  place: Omit<Place, 'phase'>,
  value: number,
): number | undefined {
  const { quantity, stationKey } = place;
  if (quantity === 'tip-height') {
    const limit = facts.spec.limits.find(({ kind }) => kind === 'bend');
    const A = carriedAt(facts, { quantity, end: 'A' });
    const B = carriedAt(facts, { quantity, end: 'B' });
    return limit && A && B ? limit.value - Math.abs(A.value - B.value) : undefined;
  }
  const limit = facts.spec.limits.find(
    (each) =>
      each.kind === QUANTITIES[quantity].limit && (each.stationKey ?? undefined) === stationKey,
  );
  return limit && marginOf(limit, value);
}

/** Passes the plan would change by if an unread bevel or land were off by its expanded uncertainty. */
function passesAtStake(
  facts: CycleFacts,
  place: Omit<Place, 'phase'>,
  carried: Measured,
  finishLandMm: number,
): number | undefined {
  const { quantity } = place;
  if (quantity !== 'bevel' && quantity !== 'land') return undefined;
  const { spec } = facts;
  const bevelDeg = quantity === 'bevel' ? carried.value : spec.bevelDeg;
  const landMm = quantity === 'land' ? carried.value : 0.4;
  const target = flatSection(spec.thicknessMm, {
    bevelDeg: spec.bevelDeg,
    landMm: finishLandMm,
    recessionMm: 0,
  });
  const area = (by: number): number =>
    removedAreaMm2(
      flatSection(spec.thicknessMm, {
        bevelDeg: quantity === 'bevel' ? bevelDeg + by : bevelDeg,
        landMm: quantity === 'land' ? Math.max(0, landMm + by) : landMm,
        recessionMm: 0,
      }),
      target,
    );
  const doubt = COVERAGE_K * carried.u;
  const grams = (Math.abs(area(doubt) - area(-doubt)) / 2) * spec.edgeLengthMm * STEEL_G_PER_MM3;
  // One pass either way is seen by looking; it takes two to be worth a reading.
  return grams / USUAL_REMOVAL.gramsPerPass / 2;
}

type Worth = ReadonlyMap<string, string>;
interface Known {
  readonly before: Worth;
  after?: Worth;
}
/** Asked many times for one state: worked out once. */
const known = new WeakMap<CycleState, WeakMap<CycleFacts, Known>>();

function knownOf(state: CycleState, facts: CycleFacts): Known {
  const byFacts = known.get(state) ?? new WeakMap<CycleFacts, Known>();
  known.set(state, byFacts);
  const found = byFacts.get(facts) ?? { before: findBefore(state, facts) };
  byFacts.set(facts, found);
  return found;
}

const wantsAll = (state: CycleState, facts: CycleFacts): boolean =>
  state.fullLook ||
  facts.takenBack ||
  fullLookDue(facts.sinceFullLook, {
    cycles: facts.shopRules.fullLookCycles,
    days: facts.shopRules.fullLookDays,
  });

function findBefore(state: CycleState, facts: CycleFacts): Worth {
  const finishLandMm = FINISH_LAND_MM[schoolsOf(state, facts).finish];
  const places = facts.spec.readings.map((planned): KnownPlace => {
    const carried = carriedAt(facts, planned);
    return {
      key: placeKey({ ...planned, phase: 'before' }),
      quantity: planned.quantity,
      end: planned.end,
      carried,
      margin: carried && marginAt(facts, planned, carried.value),
      passesAtStake: carried && passesAtStake(facts, planned, carried, finishLandMm),
    };
  });
  return asMap({ places, fullLook: wantsAll(state, facts), struck: false });
}

const asMap = (question: Parameters<typeof readingsWorthTaking>[0]): Worth =>
  new Map(readingsWorthTaking(question).map(({ key, why }) => [key, why]));

/** Readings worth taking before the grind, by place, with the reason. */
export const worthBefore = (state: CycleState, facts: CycleFacts): Worth =>
  knownOf(state, facts).before;

/** Readings worth taking after the grind. */
export function worthAfter(state: CycleState, facts: CycleFacts): Worth {
  const found = knownOf(state, facts);
  found.after ??= findAfter(state, facts);
  return found.after;
}

function findAfter(state: CycleState, facts: CycleFacts): Worth {
  const planned = facts.spec.readings.filter(({ quantity }) => AFTER.includes(quantity));
  const places = planned.map((each): KnownPlace => {
    const carried = predictedAt(state, facts, { ...each, phase: 'after' });
    return {
      key: placeKey({ ...each, phase: 'after' }),
      quantity: each.quantity,
      end: each.end,
      carried,
      margin:
        carried && each.quantity !== 'mass' ? marginAt(facts, each, carried.value) : undefined,
    };
  });
  return asMap({ places, fullLook: wantsAll(state, facts), struck: false });
}

/** Half of the finish's own spread, and how far a set-up drifts. Common practice, no source. */
const FINISH_U_MM = 0.05;
const SET_UP_U_DEG = 1;

/** What the passes should have left at a place, from what the tool takes; nothing before any pass. */
export function predictedAt(
  state: CycleState,
  facts: CycleFacts,
  place: Place,
): Measured | undefined {
  const { quantity, end, stationKey } = place;
  const before = valueAt(state, facts, { ...place, phase: 'before' });
  if (!before) return undefined;
  if (!end || !facts.removal) return quantity === 'mass' ? massAfter(state, facts, before) : before;
  const ground = state.passes.some((passes) => passes.end === end);
  if (!ground) return before;
  if (quantity === 'land') {
    return { value: FINISH_LAND_MM[schoolsOf(state, facts).finish], u: FINISH_U_MM };
  }
  if (quantity === 'bevel') {
    return { value: bevelAimDeg(state, facts), u: SET_UP_U_DEG };
  }
  if (quantity !== 'width' || !stationKey) return before;
  const recession = recessionByPasses(state, facts, end, stationKey);
  return recession && { value: before.value - recession.value, u: rss(before.u, recession.u) };
}

export const bevelAimDeg = (state: CycleState, facts: CycleFacts): number =>
  bevelToGrindDeg(schoolsOf(state, facts).bevel, {
    specDeg: facts.spec.bevelDeg,
    fixedDeg: facts.shopRules.schools.fixedBevelDeg,
    measuredDeg: ENDS.flatMap((end) => {
      const bevel = valueAt(state, facts, { phase: 'before', quantity: 'bevel', end });
      return bevel ? [bevel.value] : [facts.spec.bevelDeg];
    }),
  });

function massAfter(state: CycleState, facts: CycleFacts, before: Measured): Measured | undefined {
  if (!facts.removal) return before;
  const gone = removedByCount(state, facts);
  return gone && { value: before.value - gone.value, u: rss(before.u, gone.u) };
}

/** Metal the counted passes should have taken: the third witness. */
export function removedByCount(state: CycleState, facts: CycleFacts): Measured | undefined {
  if (!facts.removal || state.passes.length === 0) return undefined;
  const passes: Record<string, number> = {};
  for (const { zone, count } of state.passes) passes[zone] = (passes[zone] ?? 0) + count;
  return facts.removal.learned.predict(passes);
}

/** How far the counted passes should have moved the edge back at a station. */
function recessionByPasses(
  state: CycleState,
  facts: CycleFacts,
  end: End,
  stationKey: string,
): Measured | undefined {
  const { spec, removal } = facts;
  const radius = spec.stations.find(({ key }) => key === stationKey)?.radiusMm;
  if (!removal || radius === undefined) return undefined;
  const bevel = valueAt(state, facts, { phase: 'before', quantity: 'bevel', end });
  const land = valueAt(state, facts, { phase: 'before', quantity: 'land', end });
  const face = facts.faceLeft(end);
  const station = (radiusMm: number): PlanStation => ({
    radiusMm,
    bevelDeg: bevel?.value ?? spec.bevelDeg,
    landMm: land?.value ?? FINISH_LAND_MM.working,
    section: face && withLand(face, land?.value ?? FINISH_LAND_MM.working),
    wornMm: 0,
    roomMm: spec.newWidthMm,
  });
  const along = [station(radius), station(radius - 1)];
  const newBevelDeg = bevelAimDeg(state, facts);
  const zones = [...removal.zones, removal.trailing];
  const input: PlanInput = {
    thicknessMm: spec.thicknessMm,
    tipRadiusMm: spec.newLengthMm / 2,
    edgeLengthMm: spec.edgeLengthMm,
    stations: { A: along, B: along },
    nicks: [],
    zones,
    rules: {
      newBevelDeg,
      finishLandMm: FINISH_LAND_MM[schoolsOf(state, facts).finish],
      straightness: 1,
      wearWeightG: 0,
      mostPassesPerZone: 500,
      wheel: wheelSet(wheelOf(state, facts), newBevelDeg, spec.thicknessMm),
    },
  };
  const counts = zones.map(({ key }) => zonePassesAt(state, end, key as ZoneKey));
  const forward = simulatePasses(input, planRows(input), { A: counts, B: counts });
  const recession = forward.stations[0]?.recessionMm ?? 0;
  const said = removedByCount(state, facts);
  const relative = said && said.value > 0 ? said.u / said.value : 0.5;
  return { value: recession, u: rss(0.05, recession * relative) };
}
