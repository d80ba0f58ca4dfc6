import type { CycleFacts, CycleState } from '@tally-stone/contract';
import {
  ENDS,
  hearWitnesses,
  removedByCaliper,
  removedByScale,
  rss,
  type CaliperEnd,
  type End,
  type JudgedReading,
  type Measured,
  type Testimony,
  type Witness,
} from '@tally-stone/core';
import { wheelOf } from './facts.js';
import { removedByCount } from './predicted.js';
import { valueAt } from './values.js';

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
    faceBefore: facts.faces[end],
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
  const byCount = facts.frozen?.witnesses?.said.passes ?? removedByCount(state, facts);
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
