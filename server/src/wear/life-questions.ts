import type { ShopRules, SpecRevision } from '@tally-stone/contract';
import type { BladeLife, LifeQuestion } from '@tally-stone/core';
import { lastReadingsOf, NEVER_READ, type ReadHere } from '../cycle/history.js';
import type { Database } from '../database.js';
import { lifeQuestion } from './forecast.js';
import { livesOf } from './shop-wear.js';

/** Looked up at a time: a shop of thousands of blades with years of grinds keeps no command waiting meanwhile. */
const BLADES_AT_ONCE = 50;

/** A blade in use whose life is asked for. */
export interface InUse {
  readonly bladeId: string;
  readonly specId: string;
  readonly grinds: number;
  /** Used when it came. */
  readonly cameUsed: boolean;
}

/** What is known of one blade: its grinds, and how it was read. */
interface Known {
  readonly life?: BladeLife | undefined;
  readonly read?: ReadHere | undefined;
}

function questionOf(
  blade: InUse,
  revisions: readonly SpecRevision[],
  { retireBy }: ShopRules,
  { life, read }: Known,
): LifeQuestion | undefined {
  const spec = revisions.find(({ specId }) => specId === blade.specId)?.figures;
  return (
    spec &&
    lifeQuestion(
      {
        wear: life ?? { ...blade, steps: [] },
        spec,
        grinds: blade.grinds,
        read: read ?? { ...NEVER_READ, cameWorn: blade.cameUsed },
      },
      retireBy,
    )
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
      const bladeIds = some.map(({ bladeId }) => bladeId);
      const [lives, readHere] = await Promise.all([
        livesOf(database, ':bladeIds', { bladeIds }),
        database.models.blade
          .findAll({ where: { id: bladeIds } })
          .then((rows) => lastReadingsOf(database.models, rows)),
      ]);
      const lifeOf = new Map(lives.map((life) => [life.bladeId, life]));
      for (const blade of some) {
        const { bladeId } = blade;
        const history = { life: lifeOf.get(bladeId), read: readHere.get(bladeId) };
        found.set(bladeId, questionOf(blade, revisions, rules, history));
      }
    }
    return found;
  });
  return new Map(
    blades.map((blade) => [
      blade.bladeId,
      known.has(blade.bladeId) ? known.get(blade.bladeId) : questionOf(blade, revisions, rules, {}),
    ]),
  );
}
