import type { CycleState } from '@tally-stone/contract';
import {
  DAMAGE,
  ENDS,
  hearWitnesses,
  interpolateMm,
  judge,
  removedByCaliper,
  removedByScale,
  rss,
  type BenchQuantity,
  type CaliperEnd,
  type End,
  type Judgement,
  type JudgedReading,
  type JudgedWidth,
  type Measured,
  type Testimony,
  type Witness,
} from '@tally-stone/core';
import { wheelOf, type CycleFacts } from './facts.js';
import { nowAt, valueAt } from './readings.js';
import { schoolsOf } from './schools.js';
import { removedByCount } from './worth.js';

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
    (place) => valueAt(state, facts, { ...place, phase: 'before' }),
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
    (place) => nowAt(state, facts, place),
    facts.blade.grinds + (state.passes.length > 0 ? 1 : 0),
  );
}

/** Metal removed as each witness saw it, and what they say of each other. */
export interface Witnesses extends Testimony {
  readonly said: Readonly<Partial<Record<Witness, Measured>>>;
  readonly caliperAbstains?: string;
}

function caliperEnd(state: CycleState, facts: CycleFacts, end: End): CaliperEnd | string {
  const { spec } = facts;
  const pair = (
    quantity: 'bevel' | 'land' | 'width',
    stationKey?: string,
  ): [JudgedReading, JudgedReading] | undefined => {
    const place = { quantity, end, stationKey };
    const before = valueAt(state, facts, { ...place, phase: 'before' });
    const after = valueAt(state, facts, { ...place, phase: 'after' });
    // What was worked out from the passes is no second witness of them.
    return before && after && !after.carried ? [before, after] : undefined;
  };
  const bevel = pair('bevel');
  const land = pair('land');
  if (!bevel) return `no bevel before and after at end ${end}`;
  if (!land)
    return `no land before and after at end ${end}: a land taken off is grams without width`;
  const stations = spec.stations.flatMap((station) => {
    const width = pair('width', station.key);
    return width
      ? [{ radiusMm: station.radiusMm, widthBeforeMm: width[0], widthAfterMm: width[1] }]
      : [];
  });
  if (stations.length === 0) return `no widths before and after at end ${end}`;
  const tip = spec.newLengthMm / 2;
  return {
    stations,
    bevelBeforeDeg: bevel[0],
    bevelAfterDeg: bevel[1],
    landBeforeMm: land[0],
    landAfterMm: land[1],
    edgeFromMm: tip - spec.edgeLengthMm,
    edgeToMm: tip,
    faceBefore: facts.faceLeft(end),
    wheel: wheelOf(state, facts),
  };
}

export function witnesses(state: CycleState, facts: CycleFacts): Witnesses {
  const before = valueAt(state, facts, { phase: 'before', quantity: 'mass' });
  const after = valueAt(state, facts, { phase: 'after', quantity: 'mass' });
  const byScale =
    before && after && !before.carried && !after.carried
      ? removedByScale(before, after)
      : undefined;
  const thickness =
    valueAt(state, facts, { phase: 'before', quantity: 'thickness' })?.value ??
    facts.spec.thicknessMm;
  const ends = ENDS.map((end) => caliperEnd(state, facts, end));
  const abstains = ends.find((end) => typeof end === 'string');
  const perEnd = ends.flatMap((end) =>
    typeof end === 'string' ? [] : [removedByCaliper(thickness, end)],
  );
  const byCaliper: Measured | undefined =
    abstains === undefined
      ? {
          value: perEnd.reduce((sum, { value }) => sum + value, 0),
          u: rss(...perEnd.map(({ u }) => u)),
        }
      : undefined;
  // Once signed, what the count foretold is what it foretold then, whatever the tool has taught since.
  const byCount = facts.row.frozen?.witnesses?.said.passes ?? removedByCount(state, facts);
  const said = {
    ...(byScale ? { scale: byScale } : {}),
    ...(byCaliper ? { caliper: byCaliper } : {}),
    ...(byCount ? { passes: byCount } : {}),
  };
  return {
    said,
    ...(typeof abstains === 'string' ? { caliperAbstains: abstains } : {}),
    ...hearWitnesses(said),
  };
}
