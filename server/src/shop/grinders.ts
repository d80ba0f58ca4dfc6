import { shopDay } from './day.js';
import type { GrinderView, ShopCommand } from '@tally-stone/contract';
import { COUNT_WORDS, named, preUseChecks } from '@tally-stone/core';
import type { Done, WriteContext } from '../write-context.js';
import type { GrinderRow } from './grinder.model.js';
import type { Book } from '../database.js';
import type { Models } from '../models.js';
import { Refusal, wrongField } from '@tally-stone/cycle';
import { shopOf } from './look-up.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

/** A wheel marked for less than the machine turns is never mounted. */
function checkSpeed({ ratedRpm, spindleRpm, kind }: GrinderRow['figures']): void {
  if (kind === 'file' || !ratedRpm || !spindleRpm || ratedRpm >= spindleRpm) return;
  throw wrongField(
    'figures.ratedRpm',
    $localize`is marked for ${ratedRpm} rpm but the machine turns ${spindleRpm}:ph1:: never mount it`,
  );
}

export async function grinderOf(models: Models, id: string): Promise<GrinderRow> {
  const grinder = await models.grinder.findByPk(id);
  if (!grinder) throw new Refusal('notFound', $localize`There is no such grinder.`);
  return grinder;
}

export async function addGrinder(
  command: Of<'add-grinder'>,
  { models }: WriteContext,
): Promise<Done> {
  const { grinderId, abrasiveId, figures } = command;
  checkSpeed(figures);
  await models.grinder.create({ id: grinderId, abrasiveId, figures });
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
  { models }: WriteContext,
): Promise<Done> {
  const { grinderId, abrasiveId, figures } = command;
  const before = await grinderOf(models, grinderId);
  const { kind, counts } = before.figures;
  for (const [field, was] of [
    ['kind', named(kind)],
    ['counts', COUNT_WORDS[counts].one],
  ] as const) {
    if (figures[field] === before.figures[field]) continue;
    throw wrongField(
      `figures.${field}`,
      $localize`is what its grinds so far were counted on, ${was}:ph0:: add another grinder`,
    );
  }
  checkSpeed(figures);
  await models.grinder.update({ abrasiveId, figures }, { where: { id: grinderId } });
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

export async function checkGrinder(
  command: Of<'check-grinder'>,
  context: WriteContext,
): Promise<Done> {
  const { models, receivedAt } = context;
  const { grinderId, checkId, checked, personId } = command;
  const grinder = await grinderOf(models, grinderId);
  const missing = preUseChecks(grinder.figures.kind).filter((point) => !checked.includes(point));
  if (missing.length > 0) {
    throw wrongField(
      'checked',
      $localize`is not complete: still to look at: ${missing.join(', ')}`,
    );
  }
  const { timeZone } = await shopOf(context);
  await models.grinderCheck.create({
    id: checkId,
    grinderId,
    abrasiveId: grinder.abrasiveId,
    day: shopDay(receivedAt, timeZone),
    checked: [...checked],
    personId,
    at: receivedAt,
  });
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

/** The shop's grinders; of each whether what is on it now was looked over today, every point of it. */
export async function listGrinders(
  book: Book,
  now: string = new Date().toISOString(),
): Promise<GrinderView[]> {
  const { timeZone } = await shopOf(book);
  const day = shopDay(now, timeZone);
  const grinders = await book.models.grinder.findAll({
    include: [{ association: 'checks', where: { day }, required: false }],
  });
  return grinders.map(({ id, abrasiveId, figures, checks = [] }) => ({
    grinderId: id,
    abrasiveId,
    figures,
    checkedToday: checks.some(
      (check) =>
        check.abrasiveId === abrasiveId &&
        preUseChecks(figures.kind).every((point) => check.checked.includes(point)),
    ),
  }));
}
