import type { ShopCommand } from '@tally-stone/contract';
import { BLADE_STATES } from '@tally-stone/core';
import { Refusal, wrongField } from '@tally-stone/cycle';
import type { Done, WriteContext } from '../write-context.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

const MAY_JOIN = ['waiting', 'new', 'hold', 'at-bench'];

/** Makes a batch of blades that are at the bench or wait for it. One batch is open at a time. */
export async function makeBatch(
  { batchId, bladeIds, personId }: Of<'make-batch'>,
  { models, receivedAt }: WriteContext,
): Promise<Done> {
  if (new Set(bladeIds).size < bladeIds.length) {
    throw wrongField('bladeIds', $localize`hold one blade twice`);
  }
  const blades = await models.blade.findAll({
    attributes: ['id', 'state'],
    where: { id: [...bladeIds] },
  });
  if (blades.length < bladeIds.length)
    throw wrongField('bladeIds', $localize`hold an unknown blade`);
  const away = blades.find(({ state }) => !MAY_JOIN.includes(state));
  if (away) {
    throw wrongField(
      'bladeIds',
      $localize`hold a blade that is ${BLADE_STATES[away.state].words}:ph0:: only what waits or is at the bench can be batched`,
    );
  }
  await models.batch.update({ closedAt: receivedAt }, { where: { closedAt: null } });
  await models.batch.create({
    id: batchId,
    madeAt: receivedAt,
    madeBy: personId,
    bladeIds: [...bladeIds],
    closedAt: null,
  });
  return {
    changes: [
      {
        what: 'batch made',
        subjectKind: 'shop',
        subjectId: batchId,
        before: null,
        after: { bladeIds },
      },
    ],
  };
}

export async function closeBatch(
  { batchId }: Of<'close-batch'>,
  { models, receivedAt }: WriteContext,
): Promise<Done> {
  const batch = await models.batch.findOne({ where: { id: batchId, closedAt: null } });
  if (!batch) throw new Refusal('refused', $localize`This batch is closed already.`);
  await models.batch.update({ closedAt: receivedAt }, { where: { id: batchId } });
  return {
    changes: [
      { what: 'batch closed', subjectKind: 'shop', subjectId: batchId, before: null, after: {} },
    ],
  };
}
