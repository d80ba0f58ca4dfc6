import { bladeFutures, COUNT_LIMIT, lifeSpans } from '@tally-stone/core';
import type { LifeLeftRow, ShopRules } from '@tally-stone/contract';
import { Op } from 'sequelize';
import type { Blade } from '../blade/blade.model.js';
import { standsAt } from '../cycle/own-recession.js';
import type { Database } from '../database.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { firstInList, measuredQuestion, newAt, placeOf, type Asked } from './forecast.js';
import { allowances, livesOf } from './histories.js';
import { shopWear } from './shop-wear.js';

/** From so many blades on their futures are drawn in a worker: nobody waits for them who asks something else. */
const MANY = 120;

/** What is left of blades by their ids; a retired one has nothing left. */
export const livesLeft = async (
  database: Database,
  bladeIds: readonly string[],
): Promise<Map<string, LifeLeftRow>> =>
  livesLeftOf(
    database,
    await database.models.blade.findAll({
      where: { id: [...bladeIds], state: { [Op.ne]: 'retired' } },
    }),
  );

/**
 * What is left of blades until their first limit, by blade: as their own pages say it. Nothing of one of which no place with
 * a limit was read.
 */
export async function livesLeftOf(
  database: Database,
  blades: readonly Blade[],
): Promise<Map<string, LifeLeftRow>> {
  const [{ fleet, guard }, lives, revisions, { rules }] = await Promise.all([
    shopWear(database),
    livesOf(
      database,
      blades.map(({ id }) => id),
    ),
    listSpecs(database),
    shopOf(database),
  ]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  const asked = blades.flatMap(({ id, specId, grinds }) => {
    const [known, spec] = [lives.get(id), specs.get(specId)];
    if (!known || !spec) return [];
    const { usualRecessionMm } = rules;
    const of: Asked = { wear: known.life, spec, grinds, read: known.read, usualRecessionMm };
    const question = measuredQuestion(of, rules.retireBy);
    return question ? [{ id, of, question }] : [];
  });
  const questions = asked.map(({ question }) => question);
  const futures =
    questions.length < MANY
      ? questions.map((question) => bladeFutures(fleet, question))
      : await database.heavy.run('futures', { fleet, questions });
  return new Map(
    asked.flatMap(({ id, of, question }, i): [string, LifeLeftRow][] => {
      const each = futures[i];
      if (!each) return [];
      const { grinds, first } = lifeSpans(each, question.wear.steps.length, guard);
      const { median, low, high } = grinds;
      return [
        [
          id,
          {
            grinds: { median, low, high },
            first: firstInList(first, of),
            ...roomLeft(first, of, rules),
          },
        ],
      ];
    }),
  );
}

/** What may still go at the place of a limit that was read; of a count of grinds the grinds say it. */
function roomLeft(first: string, of: Asked, { retireBy }: ShopRules): Pick<LifeLeftRow, 'roomMm'> {
  const stands = first === COUNT_LIMIT ? undefined : standsAt(of, placeOf(first));
  const allowedMm = allowances(of.spec, retireBy).allowanceMm[first];
  if (!stands || allowedMm === undefined) return {};
  return { roomMm: Math.max(0, allowedMm - (newAt(of.spec, first) - stands.value)) };
}
