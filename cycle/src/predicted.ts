import type { CycleFacts, CycleState } from '@tally-stone/contract';
import {
  bevelToGrindDeg,
  DAMAGE,
  ENDS,
  FINISH_LAND_MM,
  planRows,
  notchDepth,
  predictRemoval,
  QUANTITIES,
  QUANTITY_KEYS,
  rss,
  simulatePasses,
  wheelSet,
  withLand,
  type BenchQuantity,
  type End,
  type KnownPlace,
  type Measured,
  type PlanInput,
  type PlanStation,
  type ZoneKey,
} from '@tally-stone/core';
import { valueBefore } from './before.js';
import { marginAt } from './carried.js';
import { wheelOf, zonesOfTool } from './facts.js';
import { edgesOf, placeKey, zonePassesAt } from './fold.js';
import { oncePerPlace, oncePerState } from './once.js';
import type { Place } from './place.js';
import { schoolsOf } from './schools.js';
import { removalsInUse } from './tools-used.js';
import { asWorth, wantsAll, type Worth } from './worth-before.js';

/** Quantities read again after the grind. */
export const AFTER: readonly BenchQuantity[] = QUANTITY_KEYS.filter(
  (key) => QUANTITIES[key].proves,
);

/** Half of the finish's own spread, and how far a set-up drifts. Common practice, no source. */
const FINISH_U_MM = 0.05;
const SET_UP_U_DEG = 1;

function findPredicted(state: CycleState, facts: CycleFacts, place: Place): Measured | undefined {
  const { quantity, end, stationKey } = place;
  const before = valueBefore(state, facts, place);
  if (!before) return undefined;
  if (!end || !removalsInUse(state, facts))
    return quantity === 'mass' ? massAfter(state, facts, before) : before;
  const ground = state.passes.some((passes) => passes.end === end);
  if (!ground) return before;
  if (quantity === 'land') {
    return { value: FINISH_LAND_MM[schoolsOf(state, facts).finish], u: FINISH_U_MM };
  }
  if (quantity === 'bevel') {
    return { value: bevelAimDeg(state, facts), u: SET_UP_U_DEG };
  }
  if (quantity !== 'width' || !stationKey) return before;
  const radiusMm = facts.spec.stations.find(({ key }) => key === stationKey)?.radiusMm;
  const recession =
    radiusMm === undefined ? undefined : recessionByPasses(state, facts, end, radiusMm);
  return recession && { value: before.value - recession.value, u: rss(before.u, recession.u) };
}

/** What the passes should have left at a place, from what the tool takes; nothing before any pass. */
export const predictedAt = oncePerPlace(findPredicted);

export const bevelAimDeg = (state: CycleState, facts: CycleFacts): number =>
  bevelToGrindDeg(schoolsOf(state, facts).bevel, {
    specDeg: facts.spec.bevelDeg,
    fixedDeg: facts.shopRules.schools.fixedBevelDeg,
    measuredDeg: ENDS.flatMap((end) => {
      const bevel = valueBefore(state, facts, { quantity: 'bevel', end });
      return bevel ? [bevel.value] : [facts.spec.bevelDeg];
    }),
  });

function massAfter(state: CycleState, facts: CycleFacts, before: Measured): Measured | undefined {
  if (!removalsInUse(state, facts)) return before;
  const gone = removedByCount(state, facts);
  return gone && { value: before.value - gone.value, u: rss(before.u, gone.u) };
}

/** Metal the counted passes should have taken, each by what its own tool takes: the third witness. */
export function removedByCount(state: CycleState, facts: CycleFacts): Measured | undefined {
  const byTool = removalsInUse(state, facts)?.map(({ passes, removal }) => {
    const counts: Record<string, number> = {};
    for (const { zone, count } of passes) counts[zone] = (counts[zone] ?? 0) + count;
    return predictRemoval(removal.learned, counts);
  });
  return (
    byTool && {
      value: byTool.reduce((sum, { value }) => sum + value, 0),
      u: rss(...byTool.map(({ u }) => u)),
    }
  );
}

/** What is left of a mark's depth after its end was ground, and who says so. */
export interface MarkLeft extends Measured {
  readonly by: 'photo' | 'count';
}

/**
 * What is left of a mark's depth, mm: what a photo after the grind shows, else what the counted passes should have left.
 * Nothing of a mark that grinding does not take out.
 */
export function leftOf(
  state: CycleState,
  facts: CycleFacts,
  { kind, end, fromTipMm, radiusMm, depthMm }: CycleState['damage'][number],
): MarkLeft | undefined {
  if (!DAMAGE[kind].groundOut || !state.passes.some((passes) => passes.end === end))
    return undefined;
  const photo = edgesOf(state).find((edge) => edge.end === end && edge.phase === 'after');
  const shown = photo && notchDepth(photo, facts.spec.edgeLengthMm, fromTipMm);
  if (shown) return { ...shown, by: 'photo' };
  const recession = recessionByPasses(state, facts, end, radiusMm);
  return (
    recession && { value: Math.max(0, depthMm - recession.value), u: recession.u, by: 'count' }
  );
}

/** How far the counted passes should have moved the edge back at a distance from the hole centre. */
function recessionByPasses(
  state: CycleState,
  facts: CycleFacts,
  end: End,
  radius: number,
): Measured | undefined {
  const { spec } = facts;
  const tools = removalsInUse(state, facts);
  if (!tools) return undefined;
  const bevel = valueBefore(state, facts, { quantity: 'bevel', end });
  const land = valueBefore(state, facts, { quantity: 'land', end });
  const face = facts.faces[end];
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
  const zonesOnTools = tools.flatMap(({ passes, removal }) =>
    zonesOfTool(removal).map((zone) => ({ zone, passes })),
  );
  const input: PlanInput = {
    thicknessMm: spec.thicknessMm,
    tipRadiusMm: spec.newLengthMm / 2,
    edgeLengthMm: spec.edgeLengthMm,
    stations: { A: along, B: along },
    nicks: [],
    zones: zonesOnTools.map(({ zone }) => zone),
    rules: {
      newBevelDeg,
      finishLandMm: FINISH_LAND_MM[schoolsOf(state, facts).finish],
      straightness: 1,
      wearWeightG: 0,
      mostPassesPerZone: 500,
      wheel: wheelSet(wheelOf(state, facts), newBevelDeg, spec.thicknessMm),
    },
  };
  const counts = zonesOnTools.map(({ zone, passes }) =>
    zonePassesAt({ passes }, end, zone.key as ZoneKey),
  );
  const forward = simulatePasses(input, planRows(input), { A: counts, B: counts });
  const recession = forward.stations[0]?.recessionMm ?? 0;
  const byCount = removedByCount(state, facts);
  const relative = byCount && byCount.value > 0 ? byCount.u / byCount.value : 0.5;
  return { value: recession, u: rss(0.05, recession * relative) };
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
  return asWorth({ places, fullLook: wantsAll(state, facts), struck: false });
}

/** Readings worth taking after the grind. */
export const worthAfter = oncePerState(findAfter);
