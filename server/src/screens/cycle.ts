import type { CycleFacts, CycleView } from '@tally-stone/contract';
import { labelOf, standingOf } from '@tally-stone/cycle';
import { Op } from 'sequelize';
import { bladeRow } from './blade-rows.js';
import type { Database } from '../db/database.js';
import type { Tables } from '../db/tables.js';
import { toSpecRevision } from '../spec/specs.js';
import { correctedView, correctionsOf, takeBackView } from '../cycle/corrections.js';
import { cycleAt, type LoadedFacts } from '../cycle/facts.js';

const MOST_EARLIER = 6;

/** Marks of the last cycles before this one. */
async function damageBefore(
  tables: Tables,
  { blade, row }: LoadedFacts,
): Promise<CycleView['earlierDamage']> {
  const cycles = await tables.cycle.pick(
    ['id'],
    { bladeId: blade.id, openedAt: { [Op.lt]: row.openedAt } },
    'committed',
    { order: [['openedAt', 'DESC']], limit: MOST_EARLIER },
  );
  const damage =
    cycles.length === 0
      ? []
      : await tables.damage.all({ cycleId: cycles.map(({ id }) => id) }, 'committed');
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
  const { tables } = database;
  const { state, facts } = await cycleAt(tables, cycleId, 'committed', undefined, 'all');
  const [blade, person, earlierDamage, corrections, back, corrected] = await Promise.all([
    bladeRow(database, facts.blade.id),
    tables.person.one({ id: state.openedBy }, 'committed'),
    damageBefore(tables, facts),
    correctionsOf(tables, cycleId, 'committed', (reading) => labelOf(facts, reading)),
    takeBackView(tables, state, facts),
    correctedView(tables, state, facts),
  ]);
  return {
    ...standingOf(state, facts),
    blade,
    spec: toSpecRevision(facts.revision),
    openedBy: person?.name ?? '',
    earlierDamage,
    corrections,
    ...(corrected ? { corrected } : {}),
    ...(back ? { takeBack: back } : {}),
    bench: { state, facts: plain(facts) },
  };
}
