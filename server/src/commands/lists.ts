import type { ShopCommand } from '@tally-stone/contract';
import { Refusal } from '@tally-stone/cycle';
import { ForeignKeyConstraintError } from 'sequelize';
import { registerBlades } from '../blade/commands.js';
import { readMeter } from '../fleet/commands.js';
import { addMower } from '../fleet/mowers.js';
import { addSpec } from '../spec/specs.js';
import type { Change, Done, WriteContext } from '../write-context.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

/** What a list brought, kept with it so that it can be taken back. */
interface Brought {
  readonly specIds?: readonly string[];
  readonly mowerIds: readonly string[];
  readonly bladeIds: readonly string[];
  readonly meters: readonly {
    readonly mowerId: string;
    readonly fromH: number;
    readonly toH: number;
  }[];
}

/** A refusal of one row, said at that row: `mowers.3.name`. */
function atRow(list: string, row: number, error: unknown): unknown {
  if (!(error instanceof Refusal)) return error;
  const errors = error.errors.map(({ field, message }) => ({
    field: `${list}.${row}.${field}`,
    message,
  }));
  return new Refusal(error.kind, $localize`Row ${row + 1}:ph0:: ${error.detail}`, errors);
}

/** Brings a list in by what its rows would do one by one, in one transaction. Errors: of a row, at that row. */
export async function bringList(command: Of<'bring-list'>, context: WriteContext): Promise<Done> {
  const { id, personId, occurredAt, specs, mowers, blades, hours } = command;
  const envelope = { id, personId, occurredAt };
  const changes: Change[] = [];
  const made: { bladeId: string; code: string }[] = [];
  const each = async <Row>(
    list: string,
    rows: readonly Row[],
    act: (row: Row) => Promise<Done>,
  ): Promise<void> => {
    for (const [i, row] of rows.entries()) {
      try {
        const done = await act(row);
        changes.push(...done.changes);
        made.push(...(done.answer?.blades ?? []));
      } catch (error) {
        throw atRow(list, i, error);
      }
    }
  };
  await each('specs', specs, (row) => addSpec({ ...row, ...envelope, type: 'add-spec' }, context));
  await each('mowers', mowers, (row) =>
    addMower({ ...row, ...envelope, type: 'add-mower' }, context),
  );
  await each('blades', blades, (row) =>
    registerBlades({ ...row, ...envelope, type: 'register-blades' }, context),
  );
  const meters: Brought['meters'][number][] = [];
  await each('hours', hours, async (row) => {
    const done = await readMeter({ ...row, ...envelope, type: 'read-hours' }, context);
    const before = done.changes[0].before as { hoursH: number };
    meters.push({ mowerId: row.mowerId, fromH: before.hoursH, toH: row.hoursH });
    return done;
  });
  if (changes.length === 0)
    throw new Refusal('invalid', $localize`The list holds no rows: nothing was stored.`);
  const brought: Brought = {
    specIds: specs.map(({ specId }) => specId),
    mowerIds: mowers.map(({ mowerId }) => mowerId),
    bladeIds: made.map(({ bladeId }) => bladeId),
    meters,
  };
  return {
    changes: [
      { what: 'list brought in', subjectKind: 'shop', subjectId: id, before: null, after: brought },
      ...changes,
    ],
    answer: { blades: made },
  };
}

const doneWith = (what: string): Refusal =>
  new Refusal(
    'refused',
    $localize`${what} since the list came in: take it back by hand where it is wrong.`,
  );

/**
 * Takes a list back: its specs, mowers and blades are gone as if they had never been, its meters say what they said before.
 * Codes that were given are never given again. Errors: once something was done with any of it, nothing is taken back.
 */
export async function undoList(
  { listId, ...envelope }: Of<'undo-list'>,
  context: WriteContext,
): Promise<Done> {
  const { models } = context;
  const list = await models.command.findByPk(listId);
  // Of all a list writes only its own entry is about itself; another one is of its being taken back.
  const about = await models.journal.findAll({ where: { subjectId: listId } });
  const entry = about.find(({ commandId }) => commandId === listId);
  if (list?.type !== 'bring-list' || !entry)
    throw new Refusal('notFound', $localize`There is no such list.`);
  if (about.length > 1) throw new Refusal('refused', $localize`This list was taken back already.`);
  const { specIds = [], mowerIds, bladeIds, meters } = entry.after as Brought;
  const changes: Change[] = [];
  const gone = (subjectKind: Change['subjectKind'], subjectId: string): void => {
    changes.push({
      what: 'taken back with its list',
      subjectKind,
      subjectId,
      before: null,
      after: null,
    });
  };
  const erase = async (
    subjectKind: 'blade' | 'mower' | 'spec',
    id: string,
    how: typeof eraseBlade,
    used: string,
  ): Promise<void> => {
    try {
      await how(id, context);
    } catch (error) {
      // Another table holds on to it: whatever that is, something was done with it.
      if (error instanceof ForeignKeyConstraintError) throw doneWith(used);
      throw error;
    }
    gone(subjectKind, id);
  };
  for (const bladeId of bladeIds)
    await erase('blade', bladeId, eraseBlade, $localize`A blade was used`);
  for (const mowerId of mowerIds)
    await erase('mower', mowerId, eraseMower, $localize`A mower was used`);
  for (const specId of specIds) await erase('spec', specId, eraseSpec, $localize`A spec was used`);
  for (const { mowerId, fromH, toH } of meters) {
    const meter = await models.hourMeterSegment.findOne({ where: { mowerId, to: null } });
    if (!meter || meter.lastReadingH !== toH || meter.startReadingH > fromH)
      throw doneWith($localize`An hour meter was read or changed`);
    const { changes: more } = await readMeter(
      { ...envelope, type: 'read-hours', mowerId, hoursH: fromH, because: 'misread-before' },
      context,
    );
    changes.push(...more);
  }
  return {
    changes: [
      {
        what: 'list taken back',
        subjectKind: 'shop',
        subjectId: listId,
        before: entry.after,
        after: null,
      },
      ...changes,
    ],
  };
}

async function eraseBlade(bladeId: string, { models }: WriteContext): Promise<void> {
  const blade = await models.blade.findByPk(bladeId);
  const code = await models.bladeCode.findOne({ where: { bladeId } });
  const touched =
    !blade ||
    !code ||
    !['new', 'waiting'].includes(blade.state) ||
    (await models.cycle.count({ where: { bladeId } })) > 0 ||
    (await models.fit.count({ where: { bladeId } })) > 0 ||
    (await models.intakeReading.count({ where: { bladeId } })) > 0;
  if (touched) throw doneWith($localize`${code?.code ?? ''} was started`);
  await models.erasedCode.create({ code: code.code, serial: code.serial });
  await models.bladeCode.destroy({ where: { bladeId } });
  await models.blade.destroy({ where: { id: bladeId } });
}

async function eraseMower(mowerId: string, { models }: WriteContext): Promise<void> {
  const mower = await models.mower.findByPk(mowerId);
  const deck = await models.deck.findOne({ where: { mowerId } });
  const meters = await models.hourMeterSegment.findAll({ where: { mowerId } });
  const spindles = deck ? await models.spindle.findAll({ where: { deckId: deck.id } }) : [];
  const [meter] = meters;
  const touched =
    !mower ||
    !deck ||
    deck.figures !== null ||
    meters.length !== 1 ||
    meter?.lastReadingH !== meter?.startReadingH ||
    (await models.fit.count({ where: { spindleId: spindles.map(({ id }) => id) } })) > 0 ||
    (await models.strike.count({ where: { mowerId } })) > 0 ||
    (await models.cutReport.count({ where: { mowerId } })) > 0;
  if (touched) throw doneWith($localize`${mower?.name ?? $localize`A mower`} was used`);
  await models.deckDue.destroy({ where: { mowerId } });
  await models.spindle.destroy({ where: { deckId: deck.id } });
  await models.hourMeterSegment.destroy({ where: { mowerId } });
  await models.deck.destroy({ where: { id: deck.id } });
  await models.mower.destroy({ where: { id: mowerId } });
}

async function eraseSpec(specId: string, { models }: WriteContext): Promise<void> {
  const spec = await models.spec.findByPk(specId);
  const touched =
    !spec ||
    (await models.specRevision.count({ where: { specId } })) > 1 ||
    (await models.blade.count({ where: { specId } })) > 0;
  if (touched)
    throw doneWith($localize`${spec?.name ?? $localize`A spec`} was changed or has blades`);
  await models.specRevision.destroy({ where: { specId } });
  await models.spec.destroy({ where: { id: specId } });
}
