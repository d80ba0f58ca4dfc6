import {
  limitsUnder,
  RETIRED_BY_DAMAGE,
  sinceFirstGrind,
  type BladeLife,
  type RetireReason,
  type RetireSchool,
  type WearStep,
} from '@tally-stone/core';
import type { SpecFigures } from '@tally-stone/contract';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { BladeHistory, CycleEnd, ReadHere } from '../cycle/history.js';
import { ofEachHistory, someAtATime, type MownSpell } from '../cycle/many-histories.js';
import type { StandingReadingRow } from '../cycle/standing-reading.model.js';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';

/** What may be lost at each place with a limit, and the count of grinds, under the shop's way to retire. */
export function allowances(
  spec: SpecFigures,
  retireBy: RetireSchool,
): Pick<BladeLife, 'allowanceMm' | 'mostGrinds'> {
  const limits = limitsUnder(retireBy, spec.limits);
  const allowanceMm = Object.fromEntries(
    limits.flatMap(({ kind, stationKey, value }) =>
      (['A', 'B'] as const).flatMap((end): [string, number][] => {
        if (kind === 'width' && stationKey)
          return [[`width:${end}:${stationKey}`, spec.newWidthMm - value]];
        return kind === 'wing' ? [[`wing:${end}`, spec.wingMm - value]] : [];
      }),
    ),
  );
  return { allowanceMm, mostGrinds: limits.find(({ kind }) => kind === 'grinds')?.value };
}

/** What wears. */
const WORN = ['width', 'wing'] as const;

/** What each place that wears had lost in a cycle, mm since new, by its last reading: after the grind rather than before it. */
function lostIn(
  readings: readonly StandingReadingRow[],
  spec: SpecFigures,
): Record<string, number> {
  const rank = ({ phase, takenAt }: StandingReadingRow): string =>
    `${phase === 'after' ? 1 : 0} ${takenAt}`;
  const last = new Map<string, StandingReadingRow>();
  for (const reading of readings) {
    const { quantity, end, stationKey, source } = reading;
    if (source === 'carried' || !end || !WORN.some((each) => each === quantity)) continue;
    const place = [quantity, end, stationKey].filter(Boolean).join(':');
    const known = last.get(place);
    if (!known || rank(known) <= rank(reading)) last.set(place, reading);
  }
  return Object.fromEntries(
    [...last].map(([place, { quantity, value }]) => [
      place,
      (quantity === 'width' ? spec.newWidthMm : spec.wingMm) - value,
    ]),
  );
}

/** It retired the blade by a limit, and nobody took the blade back. */
const woreItOut = ({ outcome, retireReason, takenBack }: CycleEnd): boolean =>
  outcome === 'retired' &&
  !takenBack &&
  !RETIRED_BY_DAMAGE.some((reason: RetireReason) => reason === retireReason);

/**
 * One blade's life from its finished cycles: since new, or since its first grind where it came worn. A cycle without a
 * grind is no step: its hours count to the grind that follows. The cycle that retired a worn blade is one, the grind it
 * could not have any more. A trimmed blade counts from its trimming.
 */
export function lifeOf(
  { id: bladeId, specId }: Pick<BladeRowStored, 'id' | 'specId'>,
  spec: SpecFigures,
  { cycles, readings, trimmings, cameWorn }: BladeHistory<CycleEnd>,
  mown: readonly MownSpell[],
  retireBy: RetireSchool,
): BladeLife {
  const readingsOf = groupedBy(readings, ({ cycleId }) => cycleId);
  const counted = cycles.filter(({ openedAt }) => openedAt >= (trimmings.at(-1)?.at ?? ''));
  let before = 0;
  const steps = counted
    .filter((cycle) => cycle.ground || woreItOut(cycle))
    .map(({ id, signedAt, ground }): WearStep => {
      const until = mown.reduce((sum, { to, hoursH }) => (to <= signedAt ? sum + hoursH : sum), 0);
      const hours = Math.max(0, until - before);
      before = until;
      const lostMm = ground ? lostIn(readingsOf.get(id) ?? [], spec) : {};
      return { at: Date.parse(signedAt), hours, lostMm };
    });
  const last = counted.at(-1);
  const life = {
    bladeId,
    specId,
    steps,
    endedByWear: last !== undefined && woreItOut(last),
    ...allowances(spec, retireBy),
  };
  return cameWorn ? sinceFirstGrind(life) : life;
}

/** Lives of blades, their ids in SQL, and how they were read; of a blade whose spec is gone nothing. */
async function livesWhere(
  database: Database,
  which: string,
  replacements: Readonly<Record<string, unknown>> = {},
): Promise<Map<string, { readonly life: BladeLife; readonly read: ReadHere }>> {
  const [revisions, { rules }] = await Promise.all([listSpecs(database), shopOf(database)]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  const lives = await ofEachHistory(
    database.models,
    which,
    replacements,
    ({ blade, history, mown }) => {
      const { last, first, cameWorn } = history;
      const spec = specs.get(blade.specId);
      if (!spec) return undefined;
      const life = lifeOf(blade, spec, history, mown, rules.retireBy);
      return { life, read: { last, first, cameWorn } };
    },
    WORN,
  );
  return new Map([...lives].flatMap(([id, known]) => (known ? [[id, known]] : [])));
}

export const livesOf = (database: Database, bladeIds: readonly string[]) =>
  someAtATime(bladeIds, (some) => livesWhere(database, ':some', { some }));

/** A shop learns from the blades of its newest finished cycles; smaller shops from all of theirs. */
const MOST_CYCLES = 240;
const NEWEST_BLADES = `SELECT bladeId FROM cycle WHERE signedAt IS NOT NULL ORDER BY signedAt DESC LIMIT ${MOST_CYCLES}`;

/** The lives that a shop learns from. */
export const newestLives = async (database: Database): Promise<BladeLife[]> =>
  [...(await livesWhere(database, NEWEST_BLADES)).values()].map(({ life }) => life);
