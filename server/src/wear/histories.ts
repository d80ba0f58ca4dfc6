import {
  limitsUnder,
  sinceFirstGrind,
  type BladeLife,
  type RetireSchool,
  type WearStep,
} from '@tally-stone/core';
import type { SpecFigures } from '@tally-stone/contract';
import { QueryTypes } from 'sequelize';
import { RETIRED_BY_DAMAGE } from '@tally-stone/core';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { inSql } from '../db/in-sql.js';

/** The last reading of one place in one finished cycle; without a place where nothing that wears was read. */
export interface WearRow {
  readonly bladeId: string;
  readonly specId: string;
  /** Used when it came, or trimmed: what it lost before its first grind since nobody saw. */
  readonly cameWorn: boolean;
  readonly signedAt: string;
  /** Counted in the blade's grinds. */
  readonly ground: boolean;
  /** It retired the blade by a limit. */
  readonly wornOut: boolean;
  /** Mown until then, since new. */
  readonly hours: number;
  readonly place: string | null;
  readonly lostMm: number | null;
}

/** A shop learns from the blades of its newest finished cycles; smaller shops from all of theirs. */
const MOST_CYCLES = 240;
export const NEWEST_BLADES = `SELECT bladeId FROM cycle WHERE signedAt IS NOT NULL ORDER BY signedAt DESC LIMIT ${MOST_CYCLES}`;

const historyOf = (which: string): string => `
  WITH numbered AS (
    SELECT cycle.id, cycle.bladeId, cycle.specRevisionId, cycle.signedAt, cycle.outcome, cycle.retireReason,
      EXISTS (SELECT 1 FROM pass WHERE pass.cycleId = cycle.id) AS ground
    FROM cycle WHERE cycle.signedAt IS NOT NULL AND cycle.bladeId IN (${which})),
  last AS (
    SELECT cycleId, quantity, "end", stationKey, value,
      row_number() OVER (PARTITION BY cycleId, quantity, "end", stationKey
                         ORDER BY phase = 'before', takenAt DESC) AS n
    FROM standingReading WHERE cycleId IN (SELECT id FROM numbered WHERE ground)
      AND quantity IN ('width', 'wing') AND source <> 'carried' AND "end" IN ('A', 'B'))
  SELECT numbered.bladeId AS bladeId, specRevision.specId AS specId, numbered.signedAt AS signedAt,
    blade.knownFrom = 'used' OR blade.trimmedAt IS NOT NULL AS cameWorn,
    numbered.ground AS ground,
    numbered.outcome = 'retired' AND numbered.retireReason NOT IN (${inSql(RETIRED_BY_DAMAGE)}) AS wornOut,
    last.quantity || ':' || last."end" || coalesce(':' || last.stationKey, '') AS place,
    json_extract(specRevision.figures, CASE last.quantity WHEN 'width' THEN '$.newWidthMm' ELSE '$.wingMm' END)
      - last.value AS lostMm,
    coalesce((SELECT sum(fit.toHoursH - fit.fromHoursH) FROM fit
              WHERE fit.bladeId = numbered.bladeId AND fit."to" <= numbered.signedAt), 0) AS hours
  FROM numbered LEFT JOIN last ON last.cycleId = numbered.id AND last.n = 1
    JOIN specRevision ON specRevision.id = numbered.specRevisionId
    -- A trimmed blade's life is counted from its trimming: it is of another spec since.
    JOIN blade ON blade.id = numbered.bladeId AND blade.specId = specRevision.specId
  ORDER BY numbered.bladeId, numbered.signedAt, numbered.id`;

/** Rows of finished cycles, oldest first within a blade. */
export const wearRowsOf = (
  { connection }: Database,
  which: string,
  replacements: Record<string, unknown> = {},
): Promise<WearRow[]> =>
  connection.sequelize.query<WearRow>(historyOf(which), { type: QueryTypes.SELECT, replacements });

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

/**
 * One blade's history, from the rows of its cycles in order. A cycle without a grind is no step: its hours
 * count to the grind that follows. The cycle that retired a worn blade is one, the grind it could not have any more.
 */
function stepsOf(rows: readonly WearRow[]): { steps: WearStep[]; endedByWear: boolean } {
  const steps: (WearStep & { lostMm: Record<string, number> })[] = [];
  let [hours, until] = [0, ''];
  for (const row of rows) {
    if (!row.ground && !row.wornOut) continue;
    if (row.signedAt !== until) {
      steps.push({
        at: Date.parse(row.signedAt),
        hours: Math.max(0, row.hours - hours),
        lostMm: {},
      });
      [hours, until] = [row.hours, row.signedAt];
    }
    if (row.ground && row.place && row.lostMm !== null) {
      const step = steps.at(-1);
      if (step) step.lostMm[row.place] = row.lostMm;
    }
  }
  return { steps, endedByWear: rows.at(-1)?.wornOut ? true : false };
}

type Limits = Pick<BladeLife, 'allowanceMm' | 'mostGrinds'>;

/** One blade's life from the rows of its cycles in order: since new, or since its first grind where it came worn. */
export function lifeFrom(
  blade: Pick<BladeLife, 'bladeId' | 'specId'>,
  rows: readonly WearRow[],
  limits: Limits,
): BladeLife {
  const life = { ...blade, ...stepsOf(rows), ...limits };
  return rows[0]?.cameWorn ? sinceFirstGrind(life) : life;
}

/** All blades of these rows. */
export const livesFrom = (
  rows: readonly WearRow[],
  limitsOf: (specId: string) => Limits,
): BladeLife[] =>
  [...groupedBy(rows, (row) => row.bladeId)].map(([bladeId, own]) => {
    const specId = own[0]?.specId ?? '';
    return lifeFrom({ bladeId, specId }, own, limitsOf(specId));
  });
