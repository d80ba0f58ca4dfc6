import type { ShopRules, SpecRevision } from '@tally-stone/contract';
import type { BladeLife, LifeQuestion } from '@tally-stone/core';
import { carriedToday } from '@tally-stone/cycle';
import { QueryTypes } from 'sequelize';
import type { ReadingRow } from '../cycle/reading.model.js';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { lifeQuestion } from './forecast.js';
import { allowances } from './histories.js';
import { livesOf } from './shop-wear.js';

type Last = Pick<ReadingRow, 'quantity' | 'end' | 'stationKey' | 'value' | 'u'> & {
  readonly bladeId: string;
};

const LAST = `
  WITH numbered AS (
    SELECT cycle.bladeId AS bladeId, reading.quantity, reading."end", reading.stationKey, reading.value,
      reading.u, row_number() OVER (
        PARTITION BY cycle.bladeId, reading.quantity, reading."end", reading.stationKey
        ORDER BY cycle.openedAt DESC, reading.phase = 'before', reading.takenAt DESC) AS n
    FROM standingReading AS reading JOIN cycle ON cycle.id = reading.cycleId AND cycle.signedAt IS NOT NULL
      -- Before a trimming nothing was as it is now.
      JOIN blade ON blade.id = cycle.bladeId AND cycle.openedAt >= coalesce(blade.trimmedAt, '')
    WHERE blade.id IN (:bladeIds) AND reading.quantity IN ('width', 'wing'))
  SELECT * FROM numbered WHERE n = 1`;

/** How well a place is known that was never measured, mm: as new, and as unsure as a new blade is. */
const NEVER_MEASURED_U = 0.25;
/** Looked up at a time: a shop of thousands of blades with years of grinds keeps no command waiting meanwhile. */
const BLADES_AT_ONCE = 50;

/** A blade in use whose life is asked for. */
export interface InUse {
  readonly bladeId: string;
  readonly specId: string;
  readonly grinds: number;
}

/** What is known of one blade: its grinds, and what it read last. */
interface Known {
  readonly life?: BladeLife | undefined;
  readonly last: readonly Last[];
}

function questionOf(
  blade: InUse,
  revisions: readonly SpecRevision[],
  { retireBy }: ShopRules,
  { life, last }: Known,
): LifeQuestion | undefined {
  const spec = revisions.find(({ specId }) => specId === blade.specId)?.figures;
  return (
    spec &&
    lifeQuestion({
      wear: life ?? { ...blade, steps: [] },
      spec,
      grinds: blade.grinds,
      ...allowances(spec, retireBy),
      last: (place) => {
        const [quantity, end = null, stationKey = null] = place.split(':');
        const found = last.find(
          (each) =>
            each.quantity === quantity && each.end === end && each.stationKey === stationKey,
        );
        if (found) return carriedToday(found.quantity, found);
        const asNew = quantity === 'wing' ? spec.wingMm : spec.newWidthMm;
        return { value: asNew, u: NEVER_MEASURED_U };
      },
    })
  );
}

/**
 * What each of these blades' lives depends on: looked up once between two sign-offs, for one way to retire. A blade that
 * came since has no history yet.
 */
export async function lifeQuestions(
  database: Database,
  blades: readonly InUse[],
  revisions: readonly SpecRevision[],
  rules: ShopRules,
): Promise<ReadonlyMap<string, LifeQuestion | undefined>> {
  const specs = revisions.map(({ specRevisionId }) => specRevisionId);
  const key = JSON.stringify(['life questions', rules.retireBy, specs]);
  const known = await database.signed.of(key, async () => {
    const found = new Map<string, LifeQuestion | undefined>();
    for (let from = 0; from < blades.length; from += BLADES_AT_ONCE) {
      const some = blades.slice(from, from + BLADES_AT_ONCE);
      const replacements = { bladeIds: some.map(({ bladeId }) => bladeId) };
      const [lives, last] = await Promise.all([
        livesOf(database, ':bladeIds', replacements),
        database.connection.sequelize.query<Last>(LAST, { type: QueryTypes.SELECT, replacements }),
      ]);
      const lifeOf = new Map(lives.map((life) => [life.bladeId, life]));
      const lastOf = groupedBy(last, ({ bladeId }) => bladeId);
      for (const blade of some) {
        const { bladeId } = blade;
        const history = { life: lifeOf.get(bladeId), last: lastOf.get(bladeId) ?? [] };
        found.set(bladeId, questionOf(blade, revisions, rules, history));
      }
    }
    return found;
  });
  return new Map(
    blades.map((blade) => [
      blade.bladeId,
      known.has(blade.bladeId)
        ? known.get(blade.bladeId)
        : questionOf(blade, revisions, rules, { last: [] }),
    ]),
  );
}
