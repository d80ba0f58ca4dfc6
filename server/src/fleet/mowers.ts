import { DAY_MS } from '@tally-stone/core';
import type { MowerView, ShopCommand } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import type { Done, WriteContext } from '../write-context.js';
import type { HourMeterSegmentRow } from './hour-meter-segment.model.js';
import { groupedBy } from '../db/grouped.js';
import {
  columnsOf,
  exactNumber,
  firstInJson,
  joinedInJson,
  objectInJson,
  rowsInJson,
} from '../db/in-json.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { DeckDueRow } from './deck-due.model.js';
import type { DeckRow } from './deck.model.js';
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

export async function spindlePlace(
  { spindle, mower, hourMeterSegment }: Models,
  spindleId: string,
): Promise<SpindlePlace> {
  const [found] = await rowsInJson<SpindlePlace>(
    spindle,
    {
      spindle: objectInJson(columnsOf(spindle)),
      mower: objectInJson(columnsOf(mower)),
      meter: objectInJson(columnsOf(hourMeterSegment)),
    },
    `FROM spindle JOIN deck ON deck.id = spindle.deckId JOIN mower ON mower.id = deck.mowerId
     JOIN hourMeterSegment ON hourMeterSegment.mowerId = mower.id AND hourMeterSegment."to" IS NULL
     WHERE spindle.id = :spindleId`,
    { spindleId },
  );
  if (!found) throw new Refusal('notFound', $localize`There is no such spindle.`);
  return found;
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
  readonly blade:
    | (Pick<BladeRowStored, 'specId' | 'state' | 'grinds' | 'lastLengthMm'> & {
        readonly bladeId: string;
        readonly code: string;
      })
    | null;
}

/** Every spindle with what is on it now, by its deck. */
export async function spindlesInUse({
  spindle,
  blade,
}: Models): Promise<Map<string, SpindleInUse[]>> {
  const on = {
    bladeId: 'blade.id',
    code: `coalesce(bladeCode.code, '')`,
    ...columnsOf(blade, ['specId', 'state', 'grinds', 'lastLengthMm']),
  };
  const rows = await rowsInJson<SpindleInUse>(
    spindle,
    { ...columnsOf<SpindleRow>(spindle), blade: joinedInJson(blade, on) },
    `FROM spindle LEFT JOIN fit ON fit.spindleId = spindle.id AND fit."to" IS NULL
     LEFT JOIN blade ON blade.id = fit.bladeId
     LEFT JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL`,
  );
  return groupedBy(
    rows.sort((a, b) => a.ordinal - b.ordinal),
    ({ deckId }) => deckId,
  );
}

export interface WholeDeck extends DeckRow {
  /** Where its set stands; nothing where none was ever fitted. */
  readonly standing: DeckDueRow | null;
}
/** A mower with its deck, its meter, where its set stands, and what it struck last that nobody has looked into. */
export interface WholeMower extends MowerRow {
  readonly deck: WholeDeck | null;
  readonly hoursH: number;
  readonly strike: StrikeRow | null;
}

/** Every mower by its name. */
export async function wholeMowers({ mower, deck, deckDue, strike }: Models): Promise<WholeMower[]> {
  const whole = { ...columnsOf(deck), standing: joinedInJson(deckDue) };
  const rows = await rowsInJson<WholeMower>(
    mower,
    {
      ...columnsOf<MowerRow>(mower),
      deck: joinedInJson(deck, whole),
      hoursH: exactNumber('coalesce(hourMeterSegment.lastReadingH, 0)'),
      strike: firstInJson(
        strike,
        'strike.mowerId = mower.id AND strike.clearedAt IS NULL',
        'strike.at DESC',
      ),
    },
    `FROM mower LEFT JOIN deck ON deck.mowerId = mower.id
     LEFT JOIN deckDue ON deckDue.deckId = deck.id
     LEFT JOIN hourMeterSegment ON hourMeterSegment.mowerId = mower.id AND hourMeterSegment."to" IS NULL`,
  );
  return rows.sort((a, b) => (a.name < b.name ? -1 : 1));
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
