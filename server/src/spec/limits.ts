import { SpecFigures, type LimitPreview, type ShopCommand } from '@tally-stone/contract';
import { inWords, type Finding } from '@tally-stone/core';
import { judgedByLast } from '../blade/judged.js';
import type { Change, Done, WriteContext } from '../write-context.js';
import { NEVER_READ } from '../cycle/history.js';
import { lastReadingsOf } from '../cycle/many-histories.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { Book } from '../database.js';
import { geometryOf } from '../fleet/geometry.js';
import { v7 as uuidv7 } from 'uuid';
import { wrongField } from '@tally-stone/cycle';
import { shopOf } from '../shop/look-up.js';
import { currentRevision } from './specs.js';
import { refuseTrimmed, trimmedAlong } from './trimmed.js';

type ChangeLimits = Extract<ShopCommand, { type: 'change-limits' }>;
type ChangeSpec = Extract<ShopCommand, { type: 'change-spec' }>;
/** Other limits of the same sizes, or other figures whole. */
type Wanted = { readonly limits: ChangeLimits['limits'] } | { readonly figures: SpecFigures };

interface Doomed {
  readonly blade: BladeRowStored;
  readonly finding: Finding;
}

interface Revised {
  readonly specId: string;
  readonly judged: number;
  readonly doomed: readonly Doomed[];
  readonly figures: SpecFigures;
  readonly revision: number;
}

/** Blades in use that new limits would retire by their last readings, and that the old ones would not. */
async function doomedBy(book: Book, specId: string, wanted: Wanted): Promise<Revised> {
  const { models } = book;
  const row = await currentRevision(book, specId);
  // The same shape a new spec is held to: a limit above the new size is refused at its field.
  const figures =
    'figures' in wanted
      ? wanted.figures
      : SpecFigures.parse({ ...row.figures, limits: wanted.limits });
  const { rules } = await shopOf(book);
  const blades = await models.blade.scope('inUse').findAll({ where: { specId } });
  const doomed: Doomed[] = [];
  const readHere = await lastReadingsOf(
    models,
    blades.map(({ id }) => id),
  );
  for (const blade of blades) {
    const read = readHere.get(blade.id) ?? NEVER_READ;
    const over = (spec: SpecFigures) =>
      judgedByLast(spec, read, blade, rules).find(({ severity }) => severity === 'retire');
    const found = over(figures);
    if (found && !over(row.figures)) doomed.push({ blade, finding: found });
  }
  return { specId, judged: blades.length, doomed, figures, revision: row.revision };
}

/** The same of the spec and of those whose blades were trimmed from it. */
async function everyRevised(book: Book, specId: string, wanted: Wanted): Promise<Revised[]> {
  const own = await doomedBy(book, specId, wanted);
  const along = await trimmedAlong(book, specId, own.figures);
  return [
    own,
    ...(await Promise.all(
      along.map((each) => doomedBy(book, each.specId, { figures: each.figures })),
    )),
  ];
}

/** What a change of limits would do, before anybody keeps it. */
export async function previewLimits(
  book: Book,
  specId: string,
  wanted: Wanted,
): Promise<LimitPreview> {
  const revised = await everyRevised(book, specId, wanted);
  const doomed = revised.flatMap((each) => each.doomed);
  const codes = new Map(
    (
      await book.models.bladeCode.findAll({
        where: { bladeId: doomed.map(({ blade }) => blade.id), to: null },
      })
    ).map(({ bladeId, code }) => [bladeId, code]),
  );
  return {
    judged: revised.reduce((sum, { judged }) => sum + judged, 0),
    retires: doomed.map(({ blade, finding }) => ({
      bladeId: blade.id,
      code: codes.get(blade.id) ?? '',
      state: blade.state,
      place: blade.place,
      words: inWords(finding).words,
    })),
  };
}

/**
 * New limits from now on, with the reason: a new revision of the spec. Cycles that are open keep the one they were
 * opened by. A ready blade the new limits would retire goes on hold, so that nobody fits it.
 */
export async function changeLimits(
  { specId, specRevisionId, limits, reason }: ChangeLimits,
  context: WriteContext,
): Promise<Done> {
  const before = await currentRevision(context, specId);
  refuseTrimmed(before.figures);
  const held = await revise(specId, specRevisionId, { limits }, context);
  return {
    changes: [
      {
        what: 'limits changed',
        subjectKind: 'spec',
        subjectId: specId,
        before: before.figures.limits,
        after: { limits, reason },
      },
      ...held,
    ],
  };
}

/**
 * Other sizes from now on, with the reason. Refused where new blades of the size would strike each other on a deck
 * that takes them, and where the name is another spec's.
 */
export async function changeSpec(
  { specId, specRevisionId, figures, reason }: ChangeSpec,
  context: WriteContext,
): Promise<Done> {
  const { models } = context;
  const before = await currentRevision(context, specId);
  refuseTrimmed(before.figures);
  const namesake = await models.spec.findOne({ where: { name: figures.name } });
  if (namesake && namesake.id !== specId) {
    throw wrongField('figures.name', $localize`is taken by another spec: choose another name`);
  }
  const size = { lengthMm: figures.newLengthMm, widthMm: figures.newWidthMm };
  for (const deck of await models.deck.findAll()) {
    if (deck.figures?.specId !== specId) continue;
    const spindles = await models.spindle.findAll({ where: { deckId: deck.id } });
    const { clash, faults } = geometryOf(deck, spindles, () => size);
    if (!clash) continue;
    const mower = await models.mower.findByPk(deck.mowerId);
    throw wrongField(
      'figures.newLengthMm',
      $localize`does not fit ${mower?.name ?? $localize`a deck`} that takes this blade: new ones at ${faults[0] ?? ''}`,
    );
  }
  const held = await revise(specId, specRevisionId, { figures }, context);
  await models.spec.update({ name: figures.name }, { where: { id: specId } });
  return {
    changes: [
      {
        what: 'spec changed',
        subjectKind: 'spec',
        subjectId: specId,
        before: before.figures,
        after: { figures, reason },
      },
      ...held,
    ],
  };
}

/** Another revision of a spec and of those trimmed from it; ready blades they would retire go on hold. */
async function revise(
  specId: string,
  specRevisionId: string,
  wanted: Wanted,
  context: WriteContext,
): Promise<Change[]> {
  const { models, receivedAt } = context;
  const revised = await everyRevised(context, specId, wanted);
  for (const { revision, figures, ...of } of revised)
    await models.specRevision.create({
      id: of.specId === specId ? specRevisionId : uuidv7(),
      specId: of.specId,
      revision: revision + 1,
      figures,
      createdAt: receivedAt,
    });
  const held: Change[] = [];
  for (const { blade, finding } of revised.flatMap((each) => each.doomed)) {
    if (blade.state !== 'ready') continue;
    await models.blade.update({ state: 'hold' }, { where: { id: blade.id } });
    held.push({
      what: 'blade held by new limits',
      subjectKind: 'blade',
      subjectId: blade.id,
      before: { state: 'ready' },
      after: { state: 'hold', finding },
    });
  }
  return held;
}
