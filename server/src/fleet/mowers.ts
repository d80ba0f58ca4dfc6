import { DAY_MS } from '@tally-stone/core';
import type { MowerView, ShopCommand } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import type { Done, WriteContext } from '../write-context.js';
import type { HourMeterSegmentRow } from './hour-meter-segment.model.js';
import { groupedBy } from '../db/grouped.js';
import type { Mower, MowerRow } from './mower.model.js';
import type { SpindleRow } from './spindle.model.js';
import type { Models } from '../models.js';
import { hoursStand, newDeckStands } from './standing.js';
import { Refusal, wrongField } from '@tally-stone/cycle';

type AddMower = Extract<ShopCommand, { type: 'add-mower' }>;

export async function addMower(command: AddMower, context: WriteContext): Promise<Done> {
  const { models } = context;
  const { mowerId, name, energy, site, bladeSpeedRpm, spindles, hoursH, occurredAt } = command;
  if (await models.mower.findOne({ where: { name } })) {
    throw wrongField('name', $localize`is taken by another mower: choose another name`);
  }
  const deckId = command.deckId ?? uuidv7();
  await models.mower.create({ id: mowerId, name, energy, site });
  await models.deck.create({ id: deckId, mowerId, bladeSpeedRpm, figures: null });
  for (const [ordinal, { spindleId, position }] of spindles.entries()) {
    await models.spindle.create({ id: spindleId, deckId, position, ordinal });
  }
  await models.hourMeterSegment.create({
    id: uuidv7(),
    mowerId,
    from: occurredAt,
    to: null,
    startReadingH: hoursH,
    lastReadingH: hoursH,
    carriedH: 0,
  });
  await newDeckStands({ deckId, mowerId, hoursH, readAt: occurredAt }, context);
  return {
    changes: [
      {
        what: 'mower added',
        subjectKind: 'mower',
        subjectId: mowerId,
        before: null,
        after: { name, energy, site, bladeSpeedRpm, spindles, hoursH },
      },
    ],
  };
}

/** A spindle with its mower and the hour meter that runs there now. */
export interface SpindlePlace {
  readonly spindle: SpindleRow;
  readonly mower: MowerRow;
  readonly meter: HourMeterSegmentRow;
}

export async function spindlePlace(models: Models, spindleId: string): Promise<SpindlePlace> {
  const spindle = await models.spindle.findByPk(spindleId);
  const deck = spindle && (await models.deck.findByPk(spindle.deckId));
  const mower = deck && (await models.mower.findByPk(deck.mowerId));
  const meter =
    mower && (await models.hourMeterSegment.findOne({ where: { mowerId: mower.id, to: null } }));
  if (!spindle || !mower || !meter)
    throw new Refusal('notFound', $localize`There is no such spindle.`);
  return { spindle, mower, meter };
}

/** A meter that ran on by more hours a day was misread; and a reading may be entered a week late. Common practice, no source. */
const MISREAD_ABOVE_H_A_DAY = 20;
const LATE_DAYS = 7;
/**
 * Moves the hour meter forward and gives back all hours the mower has run, over every meter it had.
 * Errors: at `hoursH` when it would run backward, or faster than the clock.
 */
export async function readHours(
  {
    mower,
    meter,
    spindle,
  }: Pick<SpindlePlace, 'mower' | 'meter'> & { spindle: { deckId: string } },
  hoursH: number,
  at: string,
  context: WriteContext,
): Promise<number> {
  const { models } = context;
  if (hoursH < meter.lastReadingH) {
    throw wrongField(
      'hoursH',
      $localize`is less than the ${meter.lastReadingH} h last read on ${mower.name}:ph1:: read the meter again, or say that it was changed`,
    );
  }
  const standing = await models.deckDue.findOne({ where: { deckId: spindle.deckId } });
  const days = Math.max(0, (Date.parse(at) - Date.parse(standing?.readAt ?? at)) / DAY_MS);
  if (hoursH - meter.lastReadingH > MISREAD_ABOVE_H_A_DAY * (days + LATE_DAYS)) {
    throw wrongField(
      'hoursH',
      $localize`is ${Math.round(hoursH - meter.lastReadingH)} h more than last read, ${Math.round(days)} days ago: read the meter again`,
    );
  }
  await models.hourMeterSegment.update({ lastReadingH: hoursH }, { where: { id: meter.id } });
  const total = meter.carriedH + hoursH;
  await hoursStand(spindle.deckId, total, at, context);
  return total;
}

/** A spindle as a query joined it with the blade that is on it now; keys are null where none is. */
export interface SpindleInUse extends SpindleRow {
  readonly fits: {
    readonly bladeId: string | null;
    readonly blade: {
      readonly specId: string;
      readonly state: string;
      readonly grinds: number;
      readonly lastLengthMm: number | null;
      readonly codes: { readonly code: string };
    };
  };
}

/** Every spindle with what is on it now, by its deck; plain rows, no instance for each of thousands. */
export async function spindlesInUse(models: Models): Promise<Map<string, SpindleInUse[]>> {
  const blade = {
    association: 'blade',
    attributes: ['specId', 'state', 'grinds', 'lastLengthMm'],
    include: [{ association: 'codes', attributes: ['code'], where: { to: null }, required: false }],
  };
  const standing = { where: { to: null }, required: false };
  const rows: unknown = await models.spindle.findAll({
    include: [{ association: 'fits', attributes: ['bladeId'], ...standing, include: [blade] }],
    order: [['ordinal', 'ASC']],
    raw: true,
    nest: true,
  });
  return groupedBy(rows as SpindleInUse[], ({ deckId }) => deckId);
}

/** Every mower with its deck, its meter, where its set stands, and what it struck that nobody has looked into. */
export const wholeMowers = (models: Models): Promise<Mower[]> =>
  models.mower.findAll({
    include: [
      { association: 'deck', include: ['standing'] },
      { association: 'meters', where: { to: null }, required: false },
      { association: 'strikes', where: { clearedAt: null }, required: false },
    ],
    order: [
      ['name', 'ASC'],
      ['strikes', 'at', 'ASC'],
    ],
  });

export async function listMowers(models: Models): Promise<MowerView[]> {
  const [mowers, spindlesOf] = await Promise.all([wholeMowers(models), spindlesInUse(models)]);
  return mowers.map(({ id, name, energy, site, deck, meters }) => ({
    mowerId: id,
    name,
    energy,
    site,
    bladeSpeedRpm: deck?.bladeSpeedRpm ?? 0,
    hoursH: meters?.[0]?.lastReadingH ?? 0,
    spindles: (spindlesOf.get(deck?.id ?? '') ?? []).map(({ id: spindleId, position, fits }) => ({
      spindleId,
      position,
      ...(fits.bladeId ? { bladeId: fits.bladeId, code: fits.blade.codes.code } : {}),
    })),
  }));
}
