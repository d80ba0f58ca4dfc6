import type { Quantity } from '@tally-stone/contract';
import type { BladeRowStored } from '../blade/blade.model.js';
import { besideInJson, columnsOf, objectInJson, rowsInJson } from '../db/in-json.js';
import { inSql } from '../db/in-sql.js';
import { intakeRowsOf } from '../intake/known.js';
import type { Models } from '../models.js';
import {
  historyFrom,
  trimmingsOfEach,
  type BladeHistory,
  type CycleEnd,
  type ReadHere,
} from './history.js';
import type { StandingReadingRow } from './standing-reading.model.js';

/** A time on a mower that is over: until when, and the hours mown. */
export interface MownSpell {
  readonly to: string;
  readonly hoursH: number;
}

interface WholeBlade extends BladeRowStored {
  readonly cycles: readonly (CycleEnd & { readonly readings: readonly StandingReadingRow[] })[];
  readonly mown: readonly MownSpell[];
}

const CYCLE_END = [
  'id',
  'bladeId',
  'openedAt',
  'signedAt',
  'outcome',
  'retireReason',
  'takenBack',
  'ground',
] as const satisfies (keyof CycleEnd)[];

/** A blade with its signed cycles, what was read in each and the times it mowed, in SQL. */
function wholeBlade(
  { blade, signedCycle, standingReading }: Models,
  quantities: readonly Quantity[] | undefined,
): Readonly<Record<keyof WholeBlade, string>> {
  const wanted = quantities ? `AND standingReading.quantity IN (${inSql(quantities)})` : '';
  const cycle = {
    ...columnsOf<CycleEnd>(signedCycle, CYCLE_END),
    readings: besideInJson(
      standingReading,
      `standingReading.cycleId = signedCycle.id ${wanted}`,
      columnsOf(standingReading, undefined, quantities ? 'roughly' : 'exactly'),
    ),
  };
  return {
    ...columnsOf<BladeRowStored>(blade),
    cycles: `(SELECT json_group_array(${objectInJson(cycle)}) FROM signedCycle WHERE signedCycle.bladeId = blade.id)`,
    mown: `(SELECT json_group_array(json_object('to', fit."to", 'hoursH', fit.toHoursH - fit.fromHoursH))
      FROM fit WHERE fit.bladeId = blade.id AND fit."to" IS NOT NULL)`,
  };
}

/** What a question about many blades is answered from. */
export interface Seen {
  readonly blade: BladeRowStored;
  readonly history: BladeHistory<CycleEnd>;
  readonly mown: readonly MownSpell[];
}

/**
 * What is wanted of each of many blades' histories, `which` in SQL, in one question; from some quantities alone where told,
 * to 15 digits.
 */
export async function ofEachHistory<Wanted>(
  models: Models,
  which: string,
  replacements: Readonly<Record<string, unknown>>,
  wanted: (seen: Seen) => Wanted,
  quantities?: readonly Quantity[],
): Promise<Map<string, Wanted>> {
  const blades = await rowsInJson<WholeBlade>(
    models.blade,
    wholeBlade(models, quantities),
    `FROM blade WHERE blade.id IN (${which})`,
    replacements,
  );
  const [intake, trimmingsOf] = await Promise.all([
    intakeRowsOf(models, blades),
    trimmingsOfEach(models, blades),
  ]);
  return new Map(
    blades
      .sort((a, b) => (a.id < b.id ? -1 : 1))
      .map(({ cycles, mown, ...blade }) => {
        const inOrder = [...cycles].sort((a, b) => (a.openedAt < b.openedAt ? -1 : 1));
        const read = {
          cyclesOf: new Map([[blade.id, inOrder]]),
          readingsOf: new Map(cycles.map(({ id, readings }) => [id, readings])),
          intake,
          trimmingsOf,
        };
        const history = historyFrom<CycleEnd>(blade, read, () => true);
        return [blade.id, wanted({ blade, history, mown })];
      }),
  );
}

/** So many blades' rows are in memory at once: ten thousand blades' would be longer than a text may be. */
const BLADES_AT_ONCE = 250;

/** What is found of some blades at a time, of however many by their ids. */
export async function someAtATime<Found>(
  bladeIds: readonly string[],
  find: (some: readonly string[]) => Promise<ReadonlyMap<string, Found>>,
): Promise<Map<string, Found>> {
  const found = new Map<string, Found>();
  for (let from = 0; from < bladeIds.length; from += BLADES_AT_ONCE)
    for (const [id, each] of await find(bladeIds.slice(from, from + BLADES_AT_ONCE)))
      found.set(id, each);
  return found;
}

/** How many blades were read. */
export const lastReadingsOf = (
  models: Models,
  bladeIds: readonly string[],
): Promise<Map<string, ReadHere>> =>
  someAtATime(bladeIds, (some) =>
    ofEachHistory(models, ':some', { some }, ({ history: { last, first, cameWorn } }) => ({
      last,
      first,
      cameWorn,
    })),
  );
