import type { ShopRules, SpecRevision } from '@tally-stone/contract';
import type { BladeLife, LifeQuestion } from '@tally-stone/core';
import { NEVER_READ, type ReadHere } from '../cycle/history.js';
import type { Database } from '../database.js';
import { rawRows } from '../db/raw-rows.js';
import { lifeQuestion } from './forecast.js';
import { livesOf } from './histories.js';

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

function questionOf(
  blade: InUse,
  revisions: readonly SpecRevision[],
  { retireBy, usualRecessionMm }: ShopRules,
  known?: { readonly life: BladeLife; readonly read: ReadHere },
): LifeQuestion | undefined {
  const spec = revisions.find(({ specId }) => specId === blade.specId)?.figures;
  return (
    spec &&
    lifeQuestion(
      {
        wear: known?.life ?? { ...blade, steps: [] },
        spec,
        grinds: blade.grinds,
        usualRecessionMm,
        read: known?.read ?? { ...NEVER_READ, cameWorn: blade.cameUsed },
      },
      retireBy,
    )
  );
}

/**
 * What a blade's life is worked out from, in short: it changes with whatever of its cycles is signed off or corrected, with
 * what it mows, when it is trimmed, and with what was read when it came in.
 */
const PRINTS = `
  SELECT blade.id AS bladeId,
    blade.specId || ' ' || blade.grinds || ' ' || coalesce(blade.trimmedAt, '') || ' ' ||
    (SELECT count(*) || ' ' || coalesce(max(signedAt), '') FROM cycle
     WHERE cycle.bladeId = blade.id AND signedAt IS NOT NULL) || ' ' ||
    (SELECT count(*) || ' ' || coalesce(max(madeAt), '') FROM cycle JOIN correction ON correction.cycleId = cycle.id
     WHERE cycle.bladeId = blade.id) || ' ' ||
    (SELECT count(*) || ' ' || total(toHoursH - fromHoursH) FROM fit
     WHERE fit.bladeId = blade.id AND "to" IS NOT NULL) || ' ' ||
    (SELECT count(*) FROM intakeReading WHERE intakeReading.intakeId = blade.intakeId) AS print
  FROM blade WHERE blade.state <> 'retired'`;

interface Known {
  readonly print: string;
  readonly question: LifeQuestion | undefined;
}

/** What the lives of a shop's blades depend on, looked up anew for those alone of which something was written since. */
export class KnownLives {
  private known: ReadonlyMap<string, Known> = new Map();
  /** The specs and the way to retire that they are known under. */
  private under = '';
  private asked: Promise<unknown> = Promise.resolve();

  /** Of each of these blades; one after the other where several ask. */
  of(
    database: Database,
    blades: readonly InUse[],
    revisions: readonly SpecRevision[],
    rules: ShopRules,
  ): Promise<ReadonlyMap<string, LifeQuestion | undefined>> {
    const answer = this.asked.then(() => this.lookUp(database, blades, revisions, rules));
    this.asked = answer.catch(() => undefined);
    return answer;
  }

  private async lookUp(
    database: Database,
    blades: readonly InUse[],
    revisions: readonly SpecRevision[],
    rules: ShopRules,
  ): Promise<ReadonlyMap<string, LifeQuestion | undefined>> {
    const specs = revisions.map(({ specRevisionId }) => specRevisionId);
    const under = JSON.stringify([rules.retireBy, specs]);
    const before = under === this.under ? this.known : new Map<string, Known>();
    const rows = await rawRows<{ bladeId: string; print: string }>(
      database.models.blade,
      PRINTS,
      {},
    );
    const printOf = new Map(rows.map(({ bladeId, print }) => [bladeId, print]));
    const now = new Map<string, Known>();
    const anew = blades.filter(({ bladeId }) => {
      const known = before.get(bladeId);
      if (known === undefined || known.print !== printOf.get(bladeId)) return true;
      now.set(bladeId, known);
      return false;
    });
    for (let from = 0; from < anew.length; from += BLADES_AT_ONCE) {
      const some = anew.slice(from, from + BLADES_AT_ONCE);
      const lives = await livesOf(
        database,
        some.map(({ bladeId }) => bladeId),
      );
      for (const blade of some) {
        const { bladeId } = blade;
        const question = questionOf(blade, revisions, rules, lives.get(bladeId));
        now.set(bladeId, { print: printOf.get(bladeId) ?? '', question });
      }
    }
    this.known = now;
    this.under = under;
    return new Map(blades.map(({ bladeId }) => [bladeId, now.get(bladeId)?.question]));
  }
}
