import { makeSafeFor, type MakeSafe, type ShopCommand } from '@tally-stone/contract';
import {
  BenchError,
  kindOf,
  parseQuantity,
  type Unit,
  BLADE_STATES,
  PLACES,
} from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { bladeOf } from '../blade/look-up.js';
import type { Change, Done, WriteContext } from '../write-context.js';
import type { DeckRow } from './deck.model.js';
import type { HourMeterSegmentRow } from './hour-meter-segment.model.js';
import type { MowerRow } from './mower.model.js';
import type { SpindleRow } from './spindle.model.js';
import { Refusal, refusalFromBench, wrongField } from '@tally-stone/cycle';
import { readHours, type SpindlePlace } from './mowers.js';
import { currentRevision } from '../spec/specs.js';
import { geometryOf } from './geometry.js';
import {
  bladeComesOff,
  misreadUndone,
  bladeGoesOn,
  refuseAfterStrike,
  setComplainedOf,
  setStruck,
} from './standing.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

interface WholeDeck {
  readonly mower: MowerRow;
  readonly deck: DeckRow;
  readonly spindles: readonly SpindleRow[];
  readonly meter: HourMeterSegmentRow;
}

export async function wholeDeck(
  where: { readonly deckId: string } | { readonly mowerId: string },
  { models }: WriteContext,
): Promise<WholeDeck> {
  const deck = await models.deck.findOne({
    where: 'deckId' in where ? { id: where.deckId } : { mowerId: where.mowerId },
    include: [
      { association: 'mower', include: [{ association: 'meters', where: { to: null } }] },
      'spindles',
    ],
    order: [['spindles', 'ordinal', 'ASC']],
  });
  const { mower, spindles = [] } = deck ?? {};
  const [meter] = mower?.meters ?? [];
  if (!deck || !mower || !meter) throw new Refusal('notFound', $localize`There is no such mower.`);
  return { mower, deck, spindles, meter };
}

const changeOf = (
  what: string,
  mowerId: string,
  after: object,
  before: object | null = null,
): Change => ({ what, subjectKind: 'mower', subjectId: mowerId, before, after });

/** A deck as measured and as its manual says. New blades of its spec must clear each other on it. */
export async function setDeck(
  { deckId, figures }: Of<'set-deck'>,
  context: WriteContext,
): Promise<Done> {
  const { models } = context;
  const { deck, mower, spindles } = await wholeDeck({ deckId }, context);
  const known = new Set(spindles.map(({ id }) => id));
  if (
    figures.spindles.length !== spindles.length ||
    figures.spindles.some(({ spindleId }) => !known.has(spindleId))
  ) {
    throw wrongField(
      'figures.spindles',
      $localize`must place each of the deck's ${spindles.length} spindles`,
    );
  }
  if (figures.boltTorque) {
    const { text, unit } = figures.boltTorque;
    try {
      const read = parseQuantity(text, unit as Unit, 'figures.boltTorque.text');
      if (kindOf(read.unit) !== 'torque') {
        throw wrongField(
          'figures.boltTorque.text',
          $localize`is not a torque: give it in N·m or lbf·ft`,
        );
      }
      if (!(read.value > 0))
        throw wrongField('figures.boltTorque.text', $localize`must be above zero`);
    } catch (error) {
      if (error instanceof BenchError) throw refusalFromBench(error, 'figures.boltTorque.text');
      throw error;
    }
  }
  if (figures.specId) {
    const { figures: spec } = await currentRevision(context, figures.specId);
    const size = { lengthMm: spec.newLengthMm, widthMm: spec.newWidthMm };
    const { clash, faults } = geometryOf({ ...deck, figures }, spindles, () => size);
    if (clash) {
      throw wrongField(
        'figures.specId',
        $localize`does not fit this deck: new blades at ${faults[0] ?? ''}. Measure again, or choose a shorter blade`,
      );
    }
  }
  await models.deck.update({ figures }, { where: { id: deckId } });
  return { changes: [changeOf('deck measured', mower.id, figures, deck.figures)] };
}

/** The reading before was wrong: what it put on hours, pace and edges is taken off again, then this one is read. */
async function readAfterMisread(
  { hoursH, occurredAt }: Of<'read-hours'>,
  { mower, deck, meter }: Pick<SpindlePlace, 'mower' | 'meter'> & { deck: { id: string } },
  context: WriteContext,
): Promise<void> {
  const { models } = context;
  const wrongH = meter.carriedH + meter.lastReadingH;
  const before = await misreadUndone(deck.id, context);
  const readBefore = Math.max(meter.startReadingH, before - meter.carriedH);
  if (hoursH < readBefore) {
    throw wrongField(
      'hoursH',
      $localize`is less than the ${readBefore} h read before the one that was misread: read the meter again`,
    );
  }
  const { id, mowerId, from, to, startReadingH, carriedH } = meter;
  const right = { id, mowerId, from, to, startReadingH, carriedH, lastReadingH: readBefore };
  const total = await readHours(
    { mower, meter: right, spindle: { deckId: deck.id } },
    hoursH,
    occurredAt,
    context,
  );
  // Blades that went on or came off at the misread figure did so no later than what the meter shows now.
  const spindles = await models.spindle.findAll({ where: { deckId: deck.id } });
  const of = { spindleId: spindles.map(({ id }) => id) };
  await models.fit.update({ fromHoursH: total }, { where: { ...of, fromHoursH: wrongH } });
  await models.fit.update({ toHoursH: total }, { where: { ...of, toHoursH: wrongH } });
}

/** Reads the meter; one that shows less needs its reason: then the hours go on from where they were. */
export async function readMeter(command: Of<'read-hours'>, context: WriteContext): Promise<Done> {
  const { models } = context;
  const { mowerId, hoursH, because, occurredAt } = command;
  const { mower, deck, meter } = await wholeDeck({ mowerId }, context);
  const change = changeOf(
    'hours read',
    mowerId,
    { hoursH, because },
    { hoursH: meter.lastReadingH },
  );
  if (because === undefined || hoursH >= meter.lastReadingH) {
    await readHours({ mower, meter, spindle: { deckId: deck.id } }, hoursH, occurredAt, context);
    return { changes: [change] };
  }
  if (because === 'misread-before') {
    await readAfterMisread(command, { mower, deck, meter }, context);
    return { changes: [change] };
  }
  await models.hourMeterSegment.update({ to: occurredAt }, { where: { id: meter.id } });
  await models.hourMeterSegment.create({
    id: uuidv7(),
    mowerId,
    from: occurredAt,
    to: null,
    startReadingH: hoursH,
    lastReadingH: hoursH,
    // The mower has run as much as before, whatever the new meter shows.
    carriedH: meter.carriedH + meter.lastReadingH - hoursH,
  });
  return { changes: [change] };
}

export async function reportStrike(
  command: Of<'report-strike'>,
  context: WriteContext,
): Promise<Done> {
  const { strikeId, mowerId, what, hard, vibration, occurredAt, personId } = command;
  const { deck } = await wholeDeck({ mowerId }, context);
  const report = { what, hard, vibration };
  await context.models.strike.create({
    id: strikeId,
    mowerId,
    ...report,
    at: occurredAt,
    personId,
    clearedAt: null,
    clearedBy: null,
  });
  await setStruck(deck.id, context);
  return { changes: [changeOf('strike reported', mowerId, report)] };
}

/** What was struck is looked at. What is not sound is no reading to be overridden: it stays out of use. */
export async function clearStrike(
  { strikeId, spindleSound, mountSound, occurredAt, personId }: Of<'clear-strike'>,
  { models }: WriteContext,
): Promise<Done> {
  const strike = await models.strike.findByPk(strikeId);
  if (!strike) throw new Refusal('notFound', $localize`There is no such strike.`);
  if (strike.clearedAt)
    throw new Refusal('refused', $localize`This strike was looked into already.`);
  if (!spindleSound) {
    throw wrongField(
      'spindleSound',
      $localize`is not so: the mower stays out of use until it is mended`,
    );
  }
  if (!mountSound) {
    throw wrongField(
      'mountSound',
      $localize`is not so: the mower stays out of use until it is mended`,
    );
  }
  await models.strike.update(
    { clearedAt: occurredAt, clearedBy: personId },
    { where: { id: strikeId } },
  );
  return {
    changes: [changeOf('strike looked into', strike.mowerId, { spindleSound, mountSound })],
  };
}

export async function reportCut(
  { reportId, mowerId, signs, occurredAt, personId }: Of<'report-cut'>,
  context: WriteContext,
): Promise<Done> {
  const { deck } = await wholeDeck({ mowerId }, context);
  const { models } = context;
  await models.cutReport.create({ id: reportId, mowerId, signs, at: occurredAt, personId });
  await setComplainedOf(deck.id, context);
  return { changes: [changeOf('cut reported', mowerId, { signs })] };
}

function checkMadeSafe({ energy }: MowerRow, done: readonly MakeSafe[]): void {
  const missing = makeSafeFor(energy as 'petrol' | 'diesel' | 'battery').filter(
    (each) => !done.includes(each),
  );
  if (missing.length > 0) {
    throw wrongField(
      'madeSafe',
      $localize`is not complete: ${missing.length} of its points are still open`,
    );
  }
}

/** The set comes off: each blade to the waiting place, its hours on it. */
export async function pullSet(command: Of<'pull-set'>, context: WriteContext): Promise<Done> {
  const { models } = context;
  const { deckId, place, madeSafe, found, hoursH, occurredAt } = command;
  const { mower, deck, spindles, meter } = await wholeDeck({ deckId }, context);
  checkMadeSafe(mower, madeSafe);
  const fits = await models.fit.findAll({
    where: { spindleId: spindles.map(({ id }) => id), to: null },
  });
  if (fits.length === 0) throw new Refusal('refused', $localize`${mower.name} has no blade on it.`);
  const totalH = await readHours(
    { mower, meter, spindle: { deckId: deck.id } },
    hoursH,
    occurredAt,
    context,
  );
  const states = await models.blade.findAll({
    attributes: ['id', 'state'],
    where: { id: fits.map(({ bladeId }) => bladeId) },
  });
  const changes: Change[] = [];
  for (const fit of fits) {
    await models.fit.update({ to: occurredAt, toHoursH: totalH }, { where: { id: fit.id } });
    const state = states.find(({ id }) => id === fit.bladeId)?.state ?? 'on-mower';
    // Held on the mower, it hangs on the hook now; the others wait for the bench.
    const after =
      state === 'hold'
        ? ({ state, place: PLACES.hook, waitingSince: null } as const)
        : ({ state: 'waiting', place, waitingSince: occurredAt } as const);
    await models.blade.update(after, { where: { id: fit.bladeId } });
    await bladeComesOff(deckId, context);
    const seen = found.find(({ spindleId }) => spindleId === fit.spindleId);
    changes.push({
      what: 'blade brought in',
      subjectKind: 'blade',
      subjectId: fit.bladeId,
      before: { state, place: mower.name },
      after: { ...after, ...(seen ? { bolt: seen.bolt, mount: seen.mount } : {}) },
    });
  }
  return { changes: [changeOf('set pulled', mower.id, { hoursH, found }), ...changes] };
}

/** A whole set goes on, or none of it: each blade ready, one hand, clear of each other, nothing left open. */
export async function fitSet(command: Of<'fit-set'>, context: WriteContext): Promise<Done> {
  const { models } = context;
  const { deckId, blades, madeSafe, hoursH, occurredAt } = command;
  const { mower, deck, spindles, meter } = await wholeDeck({ deckId }, context);
  checkMadeSafe(mower, madeSafe);
  await refuseAfterStrike(mower, context);
  const missing = spindles.filter(({ id }) => !blades.some(({ spindleId }) => spindleId === id));
  if (missing.length > 0) {
    throw wrongField(
      'blades',
      $localize`are ${missing.length} short of a set: none for ${missing.map(({ position }) => position).join(', ')}`,
    );
  }
  const ids = blades.map(({ bladeId }) => bladeId);
  if (new Set(ids).size < ids.length || blades.length > spindles.length) {
    throw wrongField('blades', $localize`must not hold one blade or one spindle twice`);
  }
  for (const field of ['wingsToDeck', 'stackInOrder', 'torqued'] as const) {
    if (!command[field])
      throw wrongField(field, $localize`is not done yet: the set counts as on only once it is`);
  }
  const found = await Promise.all(
    blades.map(async ({ fitId, spindleId, bladeId }) => {
      const spindle = spindles.find(({ id }) => id === spindleId);
      if (!spindle) throw wrongField('blades', $localize`name a spindle that is not on this deck`);
      const blade = await bladeOf(models, bladeId);
      if (blade.state !== 'ready') {
        throw new Refusal(
          blade.state === 'retired' ? 'retired' : 'refused',
          $localize`The blade for ${spindle.position} ${BLADE_STATES[blade.state].notFitted ?? $localize`is not ready`}.`,
        );
      }
      const { figures: spec } = await currentRevision(context, blade.specId);
      const lengthMm = blade.lastLengthMm ?? spec.newLengthMm;
      return { fitId, spindle, blade, spec, size: { lengthMm, widthMm: spec.newWidthMm } };
    }),
  );
  if (new Set(found.map(({ spec }) => spec.hand)).size > 1) {
    throw wrongField('blades', $localize`are of both hands: one deck turns its blades one way`);
  }
  const { clash, faults } = geometryOf(
    deck,
    spindles,
    (spindleId) => found.find(({ spindle }) => spindle.id === spindleId)?.size,
  );
  if (clash)
    throw new Refusal('refused', $localize`They would strike each other: ${faults[0] ?? ''}.`);
  const totalH = await readHours(
    { mower, meter, spindle: { deckId } },
    hoursH,
    occurredAt,
    context,
  );
  const changes: Change[] = [];
  for (const { fitId, spindle, blade } of found) {
    if (await models.fit.scope('standing').findOne({ where: { spindleId: spindle.id } })) {
      throw new Refusal(
        'refused',
        $localize`${mower.name}, ${spindle.position}, has a blade on it: pull the set first.`,
      );
    }
    await models.fit.create({
      id: fitId,
      bladeId: blade.id,
      spindleId: spindle.id,
      from: occurredAt,
      to: null,
      fromHoursH: totalH,
      toHoursH: null,
    });
    const after = { state: 'on-mower', place: `${mower.name}, ${spindle.position}` } as const;
    await models.blade.update({ ...after, waitingSince: null }, { where: { id: blade.id } });
    await bladeGoesOn(deckId, totalH, occurredAt, context);
    changes.push({
      what: 'blade fitted',
      subjectKind: 'blade',
      subjectId: blade.id,
      before: { state: blade.state, place: blade.place },
      after: { ...after, spindleId: spindle.id, hoursH },
    });
  }
  return { changes: [changeOf('set fitted', mower.id, { hoursH, blades: ids }), ...changes] };
}
