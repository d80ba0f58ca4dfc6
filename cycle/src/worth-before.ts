import type { CycleFacts, CycleState } from '@tally-stone/contract';
import {
  COVERAGE_K,
  FINISH_LAND_MM,
  flatSection,
  fullLookDue,
  readingsWorthTaking,
  removedAreaMm2,
  STEEL_G_PER_MM3,
  USUAL_PASS_G,
  type KnownPlace,
  type Measured,
} from '@tally-stone/core';
import { carriedAt, marginAt } from './carried.js';
import { placeKey } from './fold.js';
import { oncePerState } from './once.js';
import type { Place } from './place.js';
import { schoolsOf } from './schools.js';

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
  return grams / USUAL_PASS_G;
}

/** Readings worth taking, by place, with the reason. */
export type Worth = ReadonlyMap<string, string>;

export const wantsAll = (state: CycleState, facts: CycleFacts): boolean =>
  state.fullLook ||
  facts.takenBack ||
  fullLookDue(facts.sinceFullLook, {
    cycles: facts.shopRules.fullLookCycles,
    days: facts.shopRules.fullLookDays,
  });

export const asWorth = (question: Parameters<typeof readingsWorthTaking>[0]): Worth =>
  new Map(readingsWorthTaking(question).map(({ key, why }) => [key, why]));

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
  return asWorth({
    places,
    fullLook: wantsAll(state, facts),
    struck: false,
    trimmed: facts.blade.trimmed,
  });
}

/** Readings worth taking before the grind. */
export const worthBefore = oncePerState(findBefore);
