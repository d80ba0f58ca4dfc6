import type { ShopCommand } from '@tally-stone/contract';
import { Refusal, wrongField } from '@tally-stone/cycle';
import type { Done, WriteContext } from '../db/write-context.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

const MAY_JOIN = ['waiting', 'new', 'hold', 'at-bench'];

/** Makes a batch of blades that are at the bench or wait for it. One batch is open at a time. */
export async function makeBatch(
  { batchId, bladeIds, personId }: Of<'make-batch'>,
  { tables, scope, receivedAt }: WriteContext,
): Promise<Done> {
  if (new Set(bladeIds).size < bladeIds.length) {
    throw wrongField('bladeIds', 'hold one blade twice');
  }
  const blades = await tables.blade.pick(['id', 'state'], { id: [...bladeIds] }, scope);
  if (blades.length < bladeIds.length) throw wrongField('bladeIds', 'hold an unknown blade');
  const away = blades.find(({ state }) => !MAY_JOIN.includes(state));
  if (away) {
    throw wrongField(
      'bladeIds',
      `hold a blade that is ${away.state}: only what waits or is at the bench can be batched`,
    );
  }
  await tables.batch.update({ closedAt: receivedAt }, { closedAt: null }, scope);
  await tables.batch.insert(
    { id: batchId, madeAt: receivedAt, madeBy: personId, bladeIds: [...bladeIds], closedAt: null },
    scope,
  );
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
  { tables, scope, receivedAt }: WriteContext,
): Promise<Done> {
  const batch = await tables.batch.one({ id: batchId, closedAt: null }, scope);
  if (!batch) throw new Refusal('refused', 'This batch is closed already.');
  await tables.batch.update({ closedAt: receivedAt }, { id: batchId }, scope);
  return {
    changes: [
      { what: 'batch closed', subjectKind: 'shop', subjectId: batchId, before: null, after: {} },
    ],
  };
}
