import { learnLives, type LearnedLives } from '@tally-stone/core';
import type { Database } from '../database.js';
import { newestLives } from './histories.js';

/** A shop's wear is learned anew after so large a share of new grinds: one in a hundred moves no forecast. */
const ANEW_AFTER = 0.01;
/** From so many blades on it is learned in a worker: it would hold up whoever asks something else. */
const LONG = 40;

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
      lives: newestLives(database).then((some) => {
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
