import type { CycleFacts, CycleState } from '@tally-stone/contract';
import {
  DAMAGE,
  ENDS,
  interpolateMm,
  judge,
  type BenchQuantity,
  type End,
  type JudgedReading,
  type JudgedWidth,
  type Judgement,
} from '@tally-stone/core';
import { schoolsOf } from './schools.js';
import { isDoubted } from './doubt.js';
import { believedOrBefore, valueAt } from './values.js';

type Reader = (place: {
  quantity: BenchQuantity;
  end?: End | undefined;
  stationKey?: string | undefined;
}) => JudgedReading | undefined;

/** The depth up to which this blade's nicks are left, by its own school. */
function leaveTo(state: CycleState, facts: CycleFacts): number | undefined {
  const { nicks } = schoolsOf(state, facts);
  return nicks.kind === 'leave-to' ? nicks.depthMm : nicks.kind === 'clear-all' ? 0 : undefined;
}

function judgeWith(
  state: CycleState,
  facts: CycleFacts,
  read: Reader,
  grinds: number,
  beforeGrind = false,
): Judgement {
  const widths = ENDS.flatMap((end) =>
    facts.spec.stations.flatMap(({ key }): JudgedWidth[] => {
      const reading = read({ quantity: 'width', end, stationKey: key });
      return reading ? [{ ...reading, end, stationKey: key }] : [];
    }),
  );
  return judge({
    spec: facts.spec,
    rules: { ...facts.rules, leaveNicksToMm: leaveTo(state, facts) },
    crack: state.crack,
    read: (quantity, end) => read({ quantity, end }),
    widths,
    damage: state.damage.map((mark) => ({
      ...mark,
      id: mark.damageId,
      choice: state.nickChoices[mark.damageId],
    })),
    grinds,
    cameUsed: facts.blade.knownFrom === 'used',
    beforeGrind,
    ...edgeHeldOf(facts),
  });
}

function edgeHeldOf({ edgeHeld, shopRules: { retireBy } }: CycleFacts) {
  return edgeHeld && retireBy.kind === 'wont-hold'
    ? { edgeHeld: { ...edgeHeld, share: retireBy.share } }
    : {};
}

/** The verdict before grinding. */
export const judgeBefore = (state: CycleState, facts: CycleFacts): Judgement =>
  judgeWith(
    state,
    facts,
    (place) => believedOrBefore(state, facts, { ...place, phase: 'before' }),
    facts.blade.grinds,
    state.passes.length === 0 && !state.signedOff,
  );

/** How far the edge went back at a place of one end by its widths before and after, mm. */
function recessionAtMm(state: CycleState, facts: CycleFacts, end: End, radiusMm: number): number {
  const known = facts.spec.stations.flatMap((station) => {
    const place = { quantity: 'width', end, stationKey: station.key } as const;
    const before = valueAt(state, facts, { ...place, phase: 'before' });
    const after = valueAt(state, facts, { ...place, phase: 'after' });
    return before && after
      ? [{ radiusMm: station.radiusMm, valueMm: Math.max(0, before.value - after.value) }]
      : [];
  });
  return known.length === 0 ? 0 : interpolateMm(known, radiusMm);
}

/**
 * The verdict on the blade as it stands now: after-readings where there are any, and of each nick what
 * the grind has left of it.
 */
export function judgeNow(state: CycleState, facts: CycleFacts): Judgement {
  const damage = state.damage.flatMap((mark) => {
    if (!DAMAGE[mark.kind].groundOut) return [mark];
    const depthMm = mark.depthMm - recessionAtMm(state, facts, mark.end, mark.radiusMm);
    return depthMm > 0 ? [{ ...mark, depthMm }] : [];
  });
  return judgeWith(
    { ...state, damage },
    facts,
    (place) =>
      isDoubted(state, facts, { ...place, phase: 'after' })
        ? believedOrBefore(state, facts, { ...place, phase: 'before' })
        : (valueAt(state, facts, { ...place, phase: 'after' }) ??
          believedOrBefore(state, facts, { ...place, phase: 'before' })),
    facts.blade.grinds + (state.passes.length > 0 ? 1 : 0),
  );
}
