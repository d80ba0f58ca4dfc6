import { DAY_MS } from '@tally-stone/core';
import type { BladeState, MowerView, ShopCommand } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import type { Done, WriteContext } from '../write-context.js';
import type { HourMeterSegmentRow } from './hour-meter-segment.model.js';
import { groupedBy } from '../db/grouped.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { DeckDueRow } from './deck-due.model.js';
import { type DeckAsText, type DeckRow, plainDeck } from './deck.model.js';
import type { MowerRow } from './mower.model.js';
import type { SpindleRow } from './spindle.model.js';
import type { StrikeRow } from './strike.model.js';
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

/** A spindle with the blade that is on it now. */
export interface SpindleInUse extends SpindleRow {
  readonly blade?: Pick<BladeRowStored, 'specId' | 'state' | 'grinds' | 'lastLengthMm'> & {
    readonly bladeId: string;
    readonly code: string;
  };
}
/** The same as it is asked for: plain, without an instance for each of thousands. */
interface SpindleJoined extends SpindleRow {
  readonly 'fits.bladeId': string | null;
  readonly 'fits.blade.specId': string;
  readonly 'fits.blade.state': BladeState;
  readonly 'fits.blade.grinds': number;
  readonly 'fits.blade.lastLengthMm': number | null;
  readonly 'fits.blade.codes.code': string;
}

/** Every spindle with what is on it now, by its deck. */
export async function spindlesInUse(models: Models): Promise<Map<string, SpindleInUse[]>> {
  const blade = {
    association: 'blade',
    attributes: ['specId', 'state', 'grinds', 'lastLengthMm'],
    include: [{ association: 'codes', attributes: ['code'], where: { to: null }, required: false }],
  };
  const standing = { where: { to: null }, required: false };
  const joined: unknown = await models.spindle.findAll({
    include: [{ association: 'fits', attributes: ['bladeId'], ...standing, include: [blade] }],
    order: [['ordinal', 'ASC']],
    raw: true,
  });
  const spindles = (joined as SpindleJoined[]).map((row): SpindleInUse => {
    const { id, deckId, position, ordinal, 'fits.bladeId': bladeId } = row;
    const spindle = { id, deckId, position, ordinal };
    if (bladeId === null) return spindle;
    const on = {
      bladeId,
      code: row['fits.blade.codes.code'],
      specId: row['fits.blade.specId'],
      state: row['fits.blade.state'],
      grinds: row['fits.blade.grinds'],
      lastLengthMm: row['fits.blade.lastLengthMm'],
    };
    return { ...spindle, blade: on };
  });
  return groupedBy(spindles, ({ deckId }) => deckId);
}

export interface WholeDeck extends DeckRow {
  /** Where its set stands; nothing where none was ever fitted. */
  readonly standing: DeckDueRow | undefined;
}
/** A mower with its deck, its meter, where its set stands, and what it struck last that nobody has looked into. */
export interface WholeMower extends MowerRow {
  readonly deck: WholeDeck | undefined;
  readonly hoursH: number;
  readonly strike: StrikeRow | undefined;
}
type DeckJoined = DeckAsText & { readonly standing: DeckDueRow };
/** The same as it is asked for: plain, once for each strike, and each neighbour full of nulls where there is none. */
interface MowerJoined extends MowerRow {
  readonly deck: DeckJoined;
  readonly meters: { readonly lastReadingH: number | null };
  readonly strikes: StrikeRow;
}

/** Every mower by its name. */
export async function wholeMowers({ mower }: Models): Promise<WholeMower[]> {
  const open = { where: { to: null }, required: false };
  const rows: unknown = await mower.findAll({
    include: [
      { association: 'deck', include: ['standing'] },
      { association: 'meters', attributes: ['lastReadingH'], ...open },
      { association: 'strikes', where: { clearedAt: null }, required: false },
    ],
    order: [
      ['name', 'ASC'],
      ['strikes', 'at', 'ASC'],
    ],
    raw: true,
    nest: true,
  });
  // The last strike of each stands.
  const byId = new Map((rows as MowerJoined[]).map((row) => [row.id, row]));
  return [...byId.values()].map(({ deck, meters, strikes, ...own }) => ({
    ...own,
    deck: isThere(deck.id) ? wholeDeck(deck) : undefined,
    hoursH: meters.lastReadingH ?? 0,
    strike: isThere(strikes.id) ? { ...strikes, vibration: Boolean(strikes.vibration) } : undefined,
  }));
}

/** Of a neighbour that is not there even the key is null. */
const isThere = (key: string | null): boolean => key !== null;

const wholeDeck = ({ standing, ...deck }: DeckJoined): WholeDeck => ({
  ...plainDeck(deck),
  standing: isThere(standing.deckId)
    ? { ...standing, struck: Boolean(standing.struck) }
    : undefined,
});

/** Every deck with where its set stands, in the order of `wholeMowers`. */
export async function wholeDecks({ deck }: Models): Promise<WholeDeck[]> {
  const rows: unknown = await deck.findAll({
    include: ['standing', { association: 'mower', attributes: [] }],
    order: [['mower', 'name', 'ASC']],
    raw: true,
    nest: true,
  });
  return (rows as DeckJoined[]).map(wholeDeck);
}

export async function listMowers(models: Models): Promise<MowerView[]> {
  const [mowers, spindlesOf] = await Promise.all([wholeMowers(models), spindlesInUse(models)]);
  return mowers.map(({ id, name, energy, site, deck, hoursH }) => ({
    mowerId: id,
    name,
    energy,
    site,
    bladeSpeedRpm: deck?.bladeSpeedRpm ?? 0,
    hoursH,
    spindles: (spindlesOf.get(deck?.id ?? '') ?? []).map(({ id: spindleId, position, blade }) => ({
      spindleId,
      position,
      ...(blade ? { bladeId: blade.bladeId, code: blade.code } : {}),
    })),
  }));
}
