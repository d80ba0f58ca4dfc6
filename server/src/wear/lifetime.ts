import { Op } from 'sequelize';
import type { Database } from '../database.js';
import { livesLeftOf } from './lives-left.js';

/** Grinds from new to the last, as this shop's blades have it. */
export interface Lifetime {
  readonly blades: number;
  readonly mean?: number;
  /** Coefficient of variation. */
  readonly variation?: number;
}

/** So many blades tell enough; fewer than this tell nothing. */
const MOST_ASKED = 60;
const LEAST_ASKED = 5;

async function work(database: Database): Promise<Lifetime> {
  const { models } = database;
  const blades = await models.blade.findAll({
    where: { state: { [Op.ne]: 'retired' }, grinds: { [Op.gt]: 0 } },
    order: [['grinds', 'DESC']],
    limit: MOST_ASKED,
  });
  const left = await livesLeftOf(database, blades);
  const lives = blades.flatMap(({ id, grinds }) => {
    const found = left.get(id);
    return found ? [grinds + found.grinds.median] : [];
  });
  if (lives.length < LEAST_ASKED) return { blades: lives.length };
  const mean = lives.reduce((sum, each) => sum + each, 0) / lives.length;
  const spread = Math.sqrt(
    lives.reduce((sum, each) => sum + (each - mean) ** 2, 0) / (lives.length - 1),
  );
  return {
    blades: lives.length,
    mean: Math.round(mean * 10) / 10,
    variation: Math.round((100 * spread) / mean) / 100,
  };
}

/** Worked out once between two sign-offs. */
export async function grindsInALife(database: Database): Promise<Lifetime> {
  return database.signed.of('grinds in a life', () => work(database));
}
