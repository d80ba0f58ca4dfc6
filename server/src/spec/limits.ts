import { SpecFigures, type LimitPreview, type ShopCommand } from '@tally-stone/contract';
import { inWords, type Finding } from '@tally-stone/core';
import { judgedByLast } from '../blade/judged.js';
import type { Change, Done, WriteContext } from '../db/write-context.js';
import { lastReadingsOf } from '../cycle/history.js';
import type { Scope } from '../db/connection.js';
import type { BladeRowStored } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { geometryOf } from '../fleet/geometry.js';
import { wrongField } from '@tally-stone/cycle';
import { shopOf } from '../shop/look-up.js';
import { currentRevision } from './specs.js';

type ChangeLimits = Extract<ShopCommand, { type: 'change-limits' }>;
type ChangeSpec = Extract<ShopCommand, { type: 'change-spec' }>;
/** Other limits of the same sizes, or other figures whole. */
type Wanted = { readonly limits: ChangeLimits['limits'] } | { readonly figures: SpecFigures };

interface Doomed {
  readonly blade: BladeRowStored;
  readonly finding: Finding;
}

/** Blades in use that new limits would retire by their last readings, and that the old ones would not. */
async function doomedBy(
  tables: Tables,
  specId: string,
  wanted: Wanted,
  scope: Scope,
): Promise<{ judged: number; doomed: Doomed[]; figures: SpecFigures; revision: number }> {
  const row = await currentRevision(tables, specId, scope);
  // The same shape a new spec is held to: a limit above the new size is refused at its field.
  const figures =
    'figures' in wanted
      ? wanted.figures
      : SpecFigures.parse({ ...row.figures, limits: wanted.limits });
  const { rules } = await shopOf(tables, scope);
  const blades = (await tables.blade.all({ specId }, scope)).filter(
    ({ state }) => state !== 'retired',
  );
  const doomed: Doomed[] = [];
  const lastOf = await lastReadingsOf(tables, blades, scope);
  for (const blade of blades) {
    const last = lastOf.get(blade.id) ?? new Map<string, never>();
    const over = (spec: SpecFigures) =>
      judgedByLast(spec, last, blade.grinds, rules).find(({ severity }) => severity === 'retire');
    const found = over(figures);
    if (found && !over(row.figures)) doomed.push({ blade, finding: found });
  }
  return { judged: blades.length, doomed, figures, revision: row.revision };
}

/** What a change of limits would do, before anybody keeps it. */
export async function previewLimits(
  tables: Tables,
  specId: string,
  wanted: Wanted,
): Promise<LimitPreview> {
  const { judged, doomed } = await doomedBy(tables, specId, wanted, 'committed');
  const codes = new Map(
    (
      await tables.bladeCode.all(
        { bladeId: doomed.map(({ blade }) => blade.id), to: null },
        'committed',
      )
    ).map(({ bladeId, code }) => [bladeId, code]),
  );
  return {
    judged,
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
  const before = await currentRevision(context.tables, specId, context.scope);
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
  const { tables, scope } = context;
  const before = await currentRevision(tables, specId, scope);
  const namesake = await tables.spec.one({ name: figures.name }, scope);
  if (namesake && namesake.id !== specId) {
    throw wrongField('figures.name', 'is taken by another spec: choose another name');
  }
  const size = { lengthMm: figures.newLengthMm, widthMm: figures.newWidthMm };
  for (const deck of await tables.deck.all({}, scope)) {
    if (deck.figures?.specId !== specId) continue;
    const spindles = await tables.spindle.all({ deckId: deck.id }, scope);
    const { clash, faults } = geometryOf(deck, spindles, () => size);
    if (!clash) continue;
    const mower = await tables.mower.one({ id: deck.mowerId }, scope);
    throw wrongField(
      'figures.newLengthMm',
      `does not fit ${mower?.name ?? 'a deck'} that takes this blade: new ones at ${faults[0] ?? ''}`,
    );
  }
  const held = await revise(specId, specRevisionId, { figures }, context);
  await tables.spec.update({ name: figures.name }, { id: specId }, scope);
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

/** Another revision of a spec; ready blades it would retire go on hold. */
async function revise(
  specId: string,
  specRevisionId: string,
  wanted: Wanted,
  { tables, scope, receivedAt }: WriteContext,
): Promise<Change[]> {
  const { doomed, figures, revision } = await doomedBy(tables, specId, wanted, scope);
  await tables.specRevision.insert(
    { id: specRevisionId, specId, revision: revision + 1, figures, createdAt: receivedAt },
    scope,
  );
  const held: Change[] = [];
  for (const { blade, finding } of doomed) {
    if (blade.state !== 'ready') continue;
    await tables.blade.update({ state: 'hold' }, { id: blade.id }, scope);
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
