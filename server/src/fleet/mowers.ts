import type { MowerView, ShopCommand } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import type { Done, WriteContext } from '../db/write-context.js';
import type { Scope } from '../db/connection.js';
import type { FitRow, HourMeterSegmentRow, MowerRow, SpindleRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { hoursStand, newDeckStands } from './standing.js';
import { Refusal, wrongField } from '@tally-stone/cycle';

type AddMower = Extract<ShopCommand, { type: 'add-mower' }>;

export async function addMower(command: AddMower, context: WriteContext): Promise<Done> {
  const { tables, scope } = context;
  const { mowerId, name, energy, site, bladeSpeedRpm, spindles, hoursH, occurredAt } = command;
  if (await tables.mower.one({ name }, scope)) {
    throw wrongField('name', 'is taken by another mower: choose another name');
  }
  const deckId = command.deckId ?? uuidv7();
  await tables.mower.insert({ id: mowerId, name, energy, site }, scope);
  await tables.deck.insert({ id: deckId, mowerId, bladeSpeedRpm, figures: null }, scope);
  for (const [ordinal, { spindleId, position }] of spindles.entries()) {
    await tables.spindle.insert({ id: spindleId, deckId, position, ordinal }, scope);
  }
  await tables.hourMeterSegment.insert(
    {
      id: uuidv7(),
      mowerId,
      from: occurredAt,
      to: null,
      startReadingH: hoursH,
      lastReadingH: hoursH,
      carriedH: 0,
    },
    scope,
  );
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
  tables: Tables,
  spindleId: string,
  scope: Scope,
): Promise<SpindlePlace> {
  const spindle = await tables.spindle.one({ id: spindleId }, scope);
  const deck = spindle && (await tables.deck.one({ id: spindle.deckId }, scope));
  const mower = deck && (await tables.mower.one({ id: deck.mowerId }, scope));
  const meter =
    mower && (await tables.hourMeterSegment.one({ mowerId: mower.id, to: null }, scope));
  if (!spindle || !mower || !meter) throw new Refusal('notFound', 'There is no such spindle.');
  return { spindle, mower, meter };
}

/** More than anybody mows in a day; and a reading may be entered a week late. */
const MOST_HOURS_A_DAY = 20;
const LATE_DAYS = 7;
const DAY_MS = 86_400_000;

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
  const { tables, scope } = context;
  if (hoursH < meter.lastReadingH) {
    throw wrongField(
      'hoursH',
      `is less than the ${meter.lastReadingH} h last read on ${mower.name}: read the meter again, or say that it was changed`,
    );
  }
  const standing = await tables.deckDue.one({ deckId: spindle.deckId }, scope);
  const days = Math.max(0, (Date.parse(at) - Date.parse(standing?.readAt ?? at)) / DAY_MS);
  if (hoursH - meter.lastReadingH > MOST_HOURS_A_DAY * (days + LATE_DAYS)) {
    throw wrongField(
      'hoursH',
      `is ${Math.round(hoursH - meter.lastReadingH)} h more than last read, ${Math.round(days)} days ago: read the meter again`,
    );
  }
  await tables.hourMeterSegment.update({ lastReadingH: hoursH }, { id: meter.id }, scope);
  const total = meter.carriedH + hoursH;
  await hoursStand(spindle.deckId, total, at, context);
  return total;
}

export async function listMowers(tables: Tables): Promise<MowerView[]> {
  const [mowers, decks, spindles, meters, fits, codes] = await Promise.all([
    tables.mower.all({}, 'committed', { order: [['name', 'ASC']] }),
    tables.deck.all({}, 'committed'),
    tables.spindle.all({}, 'committed', { order: [['ordinal', 'ASC']] }),
    tables.hourMeterSegment.all({ to: null }, 'committed'),
    tables.fit.all({ to: null }, 'committed'),
    tables.bladeCode.all({ to: null }, 'committed'),
  ]);
  const fitAt = new Map<string, FitRow>(fits.map((fit) => [fit.spindleId, fit]));
  const codeOf = new Map(codes.map((code) => [code.bladeId, code.code]));
  return mowers.map((mower) => {
    const own = decks.filter((deck) => deck.mowerId === mower.id);
    return {
      mowerId: mower.id,
      name: mower.name,
      energy: mower.energy,
      site: mower.site,
      bladeSpeedRpm: own[0]?.bladeSpeedRpm ?? 0,
      hoursH: meters.find((meter) => meter.mowerId === mower.id)?.lastReadingH ?? 0,
      spindles: spindles
        .filter((spindle) => own.some((deck) => deck.id === spindle.deckId))
        .map((spindle) => {
          const bladeId = fitAt.get(spindle.id)?.bladeId;
          const code = bladeId && codeOf.get(bladeId);
          return {
            spindleId: spindle.id,
            position: spindle.position,
            ...(bladeId ? { bladeId } : {}),
            ...(code ? { code } : {}),
          };
        }),
    };
  });
}
