import type { CycleEvent, ShopCommand } from '@tally-stone/contract';
import { BLADE_STATES, PLACES } from '@tally-stone/core';
import { foldCycle, Refusal } from '@tally-stone/cycle';
import { bladeOf } from '../blade/look-up.js';
import { currentRevision } from '../spec/specs.js';
import type { Done, WriteContext } from '../write-context.js';
import type { CycleRow } from './cycle.model.js';
import { keepFold } from './facts.js';

type OpenCycle = Extract<ShopCommand, { type: 'open-cycle' }>;

/** Takes a blade up at the bench. A retired blade is never opened again. */
export async function openCycle(command: OpenCycle, context: WriteContext): Promise<Done> {
  const { models } = context;
  const blade = await bladeOf(models, command.bladeId);
  if (blade.state === 'retired') {
    throw new Refusal(
      'retired',
      $localize`This blade is retired: it is never opened for grinding again.`,
    );
  }
  const { notTakenUp: why } = BLADE_STATES[blade.state];
  if (why) throw new Refusal('refused', $localize`This blade ${why}.`);
  const fits = await models.fit.count({ where: { bladeId: blade.id, to: null } });
  if (fits > 0)
    throw new Refusal(
      'refused',
      $localize`This blade is still on ${blade.place}:ph0:: pull the set first.`,
    );
  const revision = await currentRevision(context, blade.specId);
  const row: CycleRow = {
    id: command.cycleId,
    bladeId: blade.id,
    specRevisionId: revision.id,
    openedAt: command.occurredAt,
    openedBy: command.personId,
    signedAt: null,
    signedBy: null,
    outcome: null,
    retireReason: null,
    frozen: null,
  };
  await models.cycle.create(row);
  await models.blade.update(
    { state: 'at-bench', place: PLACES.bench },
    { where: { id: blade.id } },
  );
  const event: CycleEvent = {
    type: 'opened',
    cycleId: command.cycleId,
    bladeId: blade.id,
    specRevisionId: revision.id,
    personId: command.personId,
    at: command.occurredAt,
  };
  keepFold(context, foldCycle([event]));
  return {
    changes: [
      {
        what: 'cycle opened',
        subjectKind: 'blade',
        subjectId: blade.id,
        before: { state: blade.state, place: blade.place },
        after: { state: 'at-bench', place: PLACES.bench, cycleId: command.cycleId },
      },
    ],
    event,
    answer: { cycleId: command.cycleId, revision: 0 },
  };
}
