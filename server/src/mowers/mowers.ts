import type { MowerView, ShopCommand } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import type { Done, WriteContext } from '../commands/context.js';
import type { Scope } from '../db/connection.js';
import type { FitRow, HourMeterSegmentRow, MowerRow, SpindleRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { Refusal, wrongField } from '../http/refusal.js';

type AddMower = Extract<ShopCommand, { type: 'add-mower' }>;

export async function addMower(command: AddMower, { tables, scope }: WriteContext): Promise<Done> {
  const { mowerId, name, energy, site, bladeSpeedRpm, spindles, hoursH, occurredAt } = command;
  if (await tables.mower.one({ name }, scope)) {
    throw wrongField('name', 'is taken by another mower: choose another name');
  }
  const deckId = uuidv7();
  await tables.mower.insert({ id: mowerId, name, energy, site }, scope);
  await tables.deck.insert({ id: deckId, mowerId, bladeSpeedRpm }, scope);
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

/** Moves the hour meter forward. Errors: at `hoursH` when it would run backward. */
export async function readHours(
  { mower, meter }: SpindlePlace,
  hoursH: number,
  { tables, scope }: WriteContext,
): Promise<void> {
  if (hoursH < meter.lastReadingH) {
    throw wrongField(
      'hoursH',
      `is less than the ${meter.lastReadingH} h last read on ${mower.name}: read the meter again`,
    );
  }
  await tables.hourMeterSegment.update({ lastReadingH: hoursH }, { id: meter.id }, scope);
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
