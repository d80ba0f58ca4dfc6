import { learnLives, type BladeLife, type LearnedLives } from '@tally-stone/core';
import type { Database } from '../database.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { allowances, livesFrom, NEWEST_BLADES, wearRowsOf } from './histories.js';

/** A shop's wear is learned anew after so large a share of new grinds: one in a hundred moves no forecast. */
const ANEW_AFTER = 0.01;
/** From so many blades on it is learned in a worker: it would hold up whoever asks something else. */
const LONG = 40;

/** The lives of blades, by a list of them or a question for it. */
export async function livesOf(
  database: Database,
  which: string,
  replacements: Record<string, unknown> = {},
): Promise<BladeLife[]> {
  const [rows, specs, { rules }] = await Promise.all([
    wearRowsOf(database, which, replacements),
    listSpecs(database),
    shopOf(database),
  ]);
  const limits = new Map(
    specs.map(({ specId, figures }) => [specId, allowances(figures, rules.retireBy)]),
  );
  return livesFrom(rows, (specId) => limits.get(specId) ?? { allowanceMm: {} });
}

/** What a shop has learned about wear, from so many grinds, after so many changes of the record. */
interface Known {
  readonly changes: number;
  grinds: number;
  readonly lives: Promise<LearnedLives>;
}

/** Learns a shop's wear when it is first asked for, and anew when enough has come in since. */
export class ShopWear {
  private known: Known | undefined;

  of(database: Database): Promise<LearnedLives> {
    const { changes } = database.signed;
    const { known } = this;
    if (known && changes - known.changes <= ANEW_AFTER * known.grinds) return known.lives;
    const now: Known = {
      changes,
      grinds: 0,
      lives: livesOf(database, NEWEST_BLADES).then((some) => {
        now.grinds = some.reduce((sum, { steps }) => sum + steps.length, 0);
        return some.length < LONG ? learnLives(some) : database.heavy.run('lives', some);
      }),
    };
    this.known = now;
    now.lives.catch(() => {
      if (this.known === now) this.known = known;
    });
    return now.lives;
  }
}

export const shopWear = (database: Database): Promise<LearnedLives> => database.wear.of(database);
