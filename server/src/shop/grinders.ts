import { shopDay } from './day.js';
import type { GrinderView, ShopCommand } from '@tally-stone/contract';
import { preUseChecks } from '@tally-stone/core';
import type { Done, WriteContext } from '../db/write-context.js';
import type { Scope } from '../db/connection.js';
import type { GrinderRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { Refusal, wrongField } from '@tally-stone/cycle';
import { shopOf } from './look-up.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

/** A wheel marked for less than the machine turns is never mounted. */
function checkSpeed({ ratedRpm, spindleRpm, kind }: GrinderRow['figures']): void {
  if (kind === 'file' || !ratedRpm || !spindleRpm || ratedRpm >= spindleRpm) return;
  throw wrongField(
    'figures.ratedRpm',
    `is marked for ${ratedRpm} rpm but the machine turns ${spindleRpm}: never mount it`,
  );
}

export async function grinderOf(tables: Tables, id: string, scope: Scope): Promise<GrinderRow> {
  const grinder = await tables.grinder.one({ id }, scope);
  if (!grinder) throw new Refusal('notFound', 'There is no such grinder.');
  return grinder;
}

export async function addGrinder(
  command: Of<'add-grinder'>,
  { tables, scope }: WriteContext,
): Promise<Done> {
  const { grinderId, abrasiveId, figures } = command;
  checkSpeed(figures);
  await tables.grinder.insert({ id: grinderId, abrasiveId, figures }, scope);
  return {
    changes: [
      {
        what: 'grinder added',
        subjectKind: 'grinder',
        subjectId: grinderId,
        before: null,
        after: { abrasiveId, figures },
      },
    ],
  };
}

export async function changeGrinder(
  command: Of<'change-grinder'>,
  { tables, scope }: WriteContext,
): Promise<Done> {
  const { grinderId, abrasiveId, figures } = command;
  const before = await grinderOf(tables, grinderId, scope);
  for (const field of ['kind', 'counts'] as const) {
    if (figures[field] === before.figures[field]) continue;
    throw wrongField(
      `figures.${field}`,
      `is what its grinds so far were counted on, ${before.figures[field]}: add another grinder`,
    );
  }
  checkSpeed(figures);
  await tables.grinder.update({ abrasiveId, figures }, { id: grinderId }, scope);
  return {
    changes: [
      {
        what: abrasiveId === before.abrasiveId ? 'grinder changed' : 'wheel or belt changed',
        subjectKind: 'grinder',
        subjectId: grinderId,
        before: { abrasiveId: before.abrasiveId, figures: before.figures },
        after: { abrasiveId, figures },
      },
    ],
  };
}

/** Was what is on the grinder now looked over on that day, every point of it? */
export async function checkedOn(
  tables: Tables,
  { id, abrasiveId, figures }: Pick<GrinderRow, 'id' | 'abrasiveId' | 'figures'>,
  day: string,
  scope: Scope,
): Promise<boolean> {
  const checks = await tables.grinderCheck.pick(
    ['checked'],
    { grinderId: id, abrasiveId, day },
    scope,
  );
  return checks.some(({ checked }) =>
    preUseChecks(figures.kind).every((point) => checked.includes(point)),
  );
}

export async function checkGrinder(
  command: Of<'check-grinder'>,
  { tables, scope, receivedAt }: WriteContext,
): Promise<Done> {
  const { grinderId, checkId, checked, personId } = command;
  const grinder = await grinderOf(tables, grinderId, scope);
  const missing = preUseChecks(grinder.figures.kind).filter((point) => !checked.includes(point));
  if (missing.length > 0) {
    throw wrongField('checked', `is not whole: still to look at are ${missing.join(', ')}`);
  }
  const { timeZone } = await shopOf(tables, scope);
  await tables.grinderCheck.insert(
    {
      id: checkId,
      grinderId,
      abrasiveId: grinder.abrasiveId,
      day: shopDay(receivedAt, timeZone),
      checked: [...checked],
      personId,
      at: receivedAt,
    },
    scope,
  );
  return {
    changes: [
      {
        what: 'grinder checked',
        subjectKind: 'grinder',
        subjectId: grinderId,
        before: null,
        after: { checked, abrasiveId: grinder.abrasiveId },
      },
    ],
  };
}

export async function listGrinders(
  tables: Tables,
  scope: Scope,
  now: string = new Date().toISOString(),
): Promise<GrinderView[]> {
  const { timeZone } = await shopOf(tables, scope);
  const today = shopDay(now, timeZone);
  const grinders = await tables.grinder.all({}, scope);
  return Promise.all(
    grinders.map(async (grinder) => ({
      grinderId: grinder.id,
      abrasiveId: grinder.abrasiveId,
      figures: grinder.figures,
      checkedToday: await checkedOn(tables, grinder, today, scope),
    })),
  );
}
