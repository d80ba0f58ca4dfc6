import { literal, Op } from 'sequelize';
import type { Blade } from '../blade/blade.model.js';
import type { Database } from '../database.js';
import type { Models } from '../models.js';
import { livesLeftOf } from './lives-left.js';

/** Grinds from new to the last, as this shop's blades have it. */
export interface Lifetime {
  readonly blades: number;
  readonly mean?: number;
  /** Coefficient of variation. */
  readonly variation?: number;
}

/** So many blades tell enough, taken whatever their grinds: ids end in chance (RFC 9562). Fewer than this tell nothing. */
const MOST_ASKED = 60;
const BY_CHANCE = 'substr(id, -6)';
const LEAST_ASKED = 5;

/** Blades in use that were ground, all their grinds known, as they come. */
export const sampleOfBlades = ({ blade }: Models): Promise<Blade[]> =>
  blade.findAll({
    where: { state: { [Op.ne]: 'retired' }, grinds: { [Op.gt]: 0 }, knownFrom: 'new' },
    order: [[literal(BY_CHANCE), 'ASC']],
    limit: MOST_ASKED,
  });

async function work(database: Database): Promise<Lifetime> {
  const { models } = database;
  const blades = await sampleOfBlades(models);
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
