import type { CycleFacts, CycleView } from '@tally-stone/contract';
import { labelOf, standingOf } from '@tally-stone/cycle';
import { Op } from 'sequelize';
import { bladeRow } from './blade-rows.js';
import type { Database } from '../database.js';
import type { Models } from '../models.js';
import { toSpecRevision } from '../spec/specs.js';
import { listPeople } from '../people/people.js';
import { correctedView, correctionsOf, takeBackView } from '../cycle/corrections.js';
import { cycleAt, type LoadedFacts } from '../cycle/facts.js';

const MOST_EARLIER = 6;

/** Marks of the last cycles before this one. */
async function damageBefore(
  models: Models,
  { blade, row }: LoadedFacts,
): Promise<CycleView['earlierDamage']> {
  const cycles = await models.cycle.findAll({
    attributes: ['id'],
    where: { bladeId: blade.id, openedAt: { [Op.lt]: row.openedAt } },
    order: [['openedAt', 'DESC']],
    limit: MOST_EARLIER,
  });
  const damage =
    cycles.length === 0
      ? []
      : await models.damage.findAll({ where: { cycleId: cycles.map(({ id }) => id) } });
  return damage.map(({ id, kind, end, fromTipMm, depthMm }) => ({
    damageId: id,
    kind,
    end,
    fromTipMm,
    depthMm,
  }));
}

/** What crosses the wire of a cycle's facts: the rows they were read from stay here. */
function plain(facts: LoadedFacts): CycleFacts {
  const { id, grinds, knownFrom } = facts.blade;
  const rows = { row: undefined, revision: undefined };
  return { ...facts, ...rows, blade: { id, grinds, knownFrom } };
}

/** One cycle as the run shows it, with what a browser needs to go on with it by itself. */
export async function cycleView(database: Database, cycleId: string): Promise<CycleView> {
  const { models } = database;
  const { state, facts } = await cycleAt(database, cycleId, undefined, 'all');
  const [blade, people, earlierDamage, corrections, back, corrected] = await Promise.all([
    bladeRow(database, facts.blade.id),
    listPeople(database),
    database.signed.of(`damage before ${cycleId}`, () => damageBefore(models, facts)),
    state.signedOff ? correctionsOf(database, cycleId, (reading) => labelOf(facts, reading)) : [],
    takeBackView(models, state, facts),
    correctedView(models, state, facts),
  ]);
  return {
    ...standingOf(state, facts),
    blade,
    spec: toSpecRevision(facts.revision),
    openedBy: people.find(({ personId }) => personId === state.openedBy)?.name ?? '',
    earlierDamage,
    corrections,
    ...(corrected ? { corrected } : {}),
    ...(back ? { takeBack: back } : {}),
    bench: { state, facts: plain(facts) },
  };
}
