import { lifeLeft } from '@tally-stone/core';
import { Op } from 'sequelize';
import { lastReadingsOf } from '../cycle/history.js';
import type { Database } from '../database.js';
import { currentRevision } from '../spec/specs.js';
import { lifeQuestion } from './forecast.js';
import { livesOf, shopWear } from './shop-wear.js';

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
  const [{ fleet, guard }, own, lastOf] = await Promise.all([
    shopWear(database),
    livesOf(database, ':bladeIds', { bladeIds: blades.map(({ id }) => id) }),
    lastReadingsOf(models, blades),
  ]);
  const lives: number[] = [];
  for (const { id, specId, grinds } of blades) {
    const wear = own.find(({ bladeId }) => bladeId === id);
    if (!wear) continue;
    const { figures: spec } = await currentRevision(database, specId);
    const last = lastOf.get(id) ?? new Map<string, never>();
    const question = lifeQuestion({
      ...wear,
      wear,
      spec,
      grinds,
      last: (place) => {
        const [quantity = '', end, stationKey] = place.split(':');
        return last.get([quantity, end ?? '-', stationKey ?? '-'].join(':'));
      },
    });
    if (question) lives.push(grinds + lifeLeft(fleet, question, guard).grinds.median);
  }
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
