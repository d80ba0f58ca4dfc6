import type { CycleFacts, CycleView } from '@tally-stone/contract';
import { labelOf, standingOf } from '@tally-stone/cycle';
import { bladeRow } from './blade-rows.js';
import { afterTrimming } from './story.js';
import type { Database } from '../database.js';
import type { Models } from '../models.js';
import { toSpecRevision } from '../spec/specs.js';
import {
  correctedView,
  correctionRows,
  correctionsView,
  takeBackView,
} from '../cycle/corrections.js';
import { cycleAt, type LoadedFacts } from '../cycle/facts.js';

const MOST_EARLIER = 6;

/** Marks of the last cycles before this one. */
async function damageBefore(
  models: Models,
  { earlier, blade, spec }: LoadedFacts,
): Promise<CycleView['earlierDamage']> {
  const cycleId = earlier.slice(-MOST_EARLIER);
  const damage = cycleId.length === 0 ? [] : await models.damage.findAll({ where: { cycleId } });
  const rows = damage.map((mark) => mark.get());
  return afterTrimming(rows, blade.trimmedAt, spec.newLengthMm).map(
    ({ id, kind, end, fromTipMm, depthMm }) => ({
      damageId: id,
      kind,
      end,
      fromTipMm,
      depthMm,
    }),
  );
}

/** What crosses the wire of a cycle's facts: the rows they were read from stay here. */
function plain(facts: LoadedFacts): CycleFacts {
  const { id, grinds, knownFrom, trimmed } = facts.blade;
  const rows = { row: undefined, revision: undefined, earlier: undefined };
  return { ...facts, ...rows, blade: { id, grinds, knownFrom, ...(trimmed ? { trimmed } : {}) } };
}

/** One cycle as the run shows it, with what a browser needs to go on with it by itself. */
export async function cycleView(database: Database, cycleId: string): Promise<CycleView> {
  const { models } = database;
  const { state, facts } = await cycleAt(database, cycleId, undefined, 'all');
  const [blade, earlierDamage, corrections] = await Promise.all([
    bladeRow(database, facts.blade.id),
    database.signed.of(`damage before ${cycleId}`, () => damageBefore(models, facts)),
    state.signedOff ? correctionRows(models, cycleId) : [],
  ]);
  const corrected = correctedView(corrections, state, facts);
  const back = takeBackView(corrections, state, facts);
  return {
    ...standingOf(state, facts),
    blade,
    spec: toSpecRevision(facts.revision),
    openedBy: facts.openedByName,
    earlierDamage,
    corrections: correctionsView(corrections, (reading) => labelOf(facts, reading)),
    ...(corrected ? { corrected } : {}),
    ...(back ? { takeBack: back } : {}),
    bench: { state, facts: plain(facts) },
  };
}
