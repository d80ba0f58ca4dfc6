import type { CycleFigures, LastReading, Quantity } from '@tally-stone/contract';
import { historyKey } from '@tally-stone/cycle';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { Cycle } from './cycle.model.js';
import type { IntakeReadingRow } from '../intake/intake-reading.model.js';
import type { SignedCycleRow } from './signed-cycle.model.js';
import type { StandingReadingRow } from './standing-reading.model.js';
import type { Book } from '../database.js';
import type { Models } from '../models.js';
import { groupedBy } from '../db/grouped.js';
import { columnsOf, rowsInJson } from '../db/in-json.js';
import { intakeRowsOf, knownFromIntake } from '../intake/known.js';
import { rss } from '@tally-stone/core';
import type { TrimmingRow } from '../blade/trimming.model.js';

/** The figures that stand: those of the newest correction, else the signed ones. */
export const standingFigures = ({
  corrected,
  frozen,
}: Partial<Pick<SignedCycleRow, 'corrected' | 'frozen'>>): CycleFigures | undefined =>
  corrected ?? frozen ?? undefined;

/** How a blade was read at each place, by `historyKey`. */
export interface ReadHere {
  /** As it stands. */
  readonly last: ReadonlyMap<string, LastReading>;
  /** At the bench first of all. */
  readonly first: ReadonlyMap<string, LastReading>;
  /** Used when it came, or trimmed: it was narrower than new before anybody here read it. */
  readonly cameWorn: boolean;
}

/** What a history needs to know of a signed cycle; its figures besides are long. */
export type CycleEnd = Omit<SignedCycleRow, 'signedBy' | 'frozen' | 'corrected'>;

/** What a blade's signed-off cycles have left behind. */
export interface BladeHistory<Cycle extends CycleEnd = SignedCycleRow> extends ReadHere {
  /** Its last cycle retired it, and it was taken back since. */
  readonly takenBack: boolean;
  /** Of all its signed cycles, those that ground it and are not among these. */
  readonly laterGrinds: number;
  readonly cycles: readonly Cycle[];
  /** With what was corrected since. */
  readonly readings: readonly StandingReadingRow[];
  /** Its trimmings, oldest first. */
  readonly trimmings: readonly TrimmingRow[];
}

const LENGTH_KEY = historyKey({ quantity: 'length' });
/** What trimming changes: read before it, these say nothing of the blade. */
const CHANGED_BY_TRIMMING: readonly Quantity[] = ['length', 'width', 'mass', 'tip-height'];

export type Came = Pick<BladeRowStored, 'id' | 'knownFrom' | 'intakeId' | 'trimmedAt'>;

/** What was signed off of a blade. */
export const historyOf = ({ models, signed }: Book, blade: Came): Promise<BladeHistory> =>
  signed.of(`history ${blade.id}`, async () => {
    const read = await readOf(models, [blade]);
    return historyFrom(blade, read, () => true);
  });

/** Of each cycle, what was signed off of its blade before it; by the cycle. */
export async function historiesBefore(
  models: Models,
  rows: readonly Cycle[],
): Promise<Map<string, BladeHistory>> {
  const read = await readOf(
    models,
    rows.flatMap(({ blade }) => blade ?? []),
  );
  return new Map(
    rows.flatMap((row) => {
      const before = ({ id, openedAt }: SignedCycleRow): boolean =>
        id !== row.id && openedAt <= row.openedAt;
      return row.blade
        ? [[row.id, historyFrom(row.blade, read, before, row.openedAt)] as const]
        : [];
    }),
  );
}

export interface Read<Cycle extends CycleEnd = SignedCycleRow> {
  /** In the order they were opened. */
  readonly cyclesOf: ReadonlyMap<string, readonly Cycle[]>;
  readonly readingsOf: ReadonlyMap<string, readonly StandingReadingRow[]>;
  readonly intake: readonly IntakeReadingRow[];
  readonly trimmingsOf: ReadonlyMap<string, readonly TrimmingRow[]>;
}

/** Everything that was signed off of blades, and read when they came in. */
async function readOf(models: Models, blades: readonly Came[]): Promise<Read> {
  const cycles = await signedCyclesOf(models, blades);
  const [readings, intake, trimmingsOf] = await Promise.all([
    readingsIn(models, cycles),
    intakeRowsOf(models, blades),
    trimmingsOfEach(models, blades),
  ]);
  return {
    trimmingsOf,
    cyclesOf: groupedBy(cycles, ({ bladeId }) => bladeId),
    readingsOf: groupedBy(readings, ({ cycleId }) => cycleId),
    intake,
  };
}

/** Trimmings of blades that stand, oldest first. */
export const trimmingsOfEach = async (
  models: Models,
  blades: readonly Pick<Came, 'id' | 'trimmedAt'>[],
): Promise<Map<string, TrimmingRow[]>> => {
  const bladeId = blades.flatMap(({ id, trimmedAt }) => (trimmedAt === null ? [] : [id]));
  if (bladeId.length === 0) return new Map();
  const rows = await models.trimming
    .scope('standing')
    .findAll({ where: { bladeId }, order: [['at', 'ASC']] });
  return groupedBy(
    rows.map((row) => row.get()),
    (row) => row.bladeId,
  );
};

/** In the order they were opened. */
async function signedCyclesOf(
  { signedCycle }: Models,
  blades: readonly Pick<Came, 'id'>[],
): Promise<SignedCycleRow[]> {
  if (blades.length === 0) return [];
  const rows = await rowsInJson<SignedCycleRow>(
    signedCycle,
    columnsOf<SignedCycleRow>(signedCycle),
    'FROM signedCycle WHERE bladeId IN (:bladeId)',
    { bladeId: blades.map(({ id }) => id) },
  );
  return rows.sort((a, b) => (a.openedAt < b.openedAt ? -1 : a.openedAt > b.openedAt ? 1 : 0));
}

/** Most rows that are ever read at once. */
async function readingsIn(
  { standingReading }: Models,
  cycles: readonly Pick<SignedCycleRow, 'id'>[],
  quantity?: readonly Quantity[],
): Promise<StandingReadingRow[]> {
  if (cycles.length === 0 || quantity?.length === 0) return [];
  const cycleId = cycles.map(({ id }) => id);
  return rowsInJson<StandingReadingRow>(
    standingReading,
    columnsOf<StandingReadingRow>(standingReading),
    `FROM standingReading WHERE cycleId IN (:cycleId) ${quantity ? 'AND quantity IN (:quantity)' : ''}`,
    { cycleId, quantity },
  );
}

/** The order in which readings replace each other: cycle by cycle, after a grind rather than before it, as taken. */
function oldestFirst<Reading extends Pick<StandingReadingRow, 'cycleId' | 'phase' | 'takenAt'>>(
  readings: readonly Reading[],
  nthCycle: ReadonlyMap<string, number>,
): Reading[] {
  const order = ({ cycleId, phase }: Reading): number =>
    2 * (nthCycle.get(cycleId) ?? 0) + (phase === 'after' ? 1 : 0);
  return [...readings].sort(
    (a, b) => order(a) - order(b) || (a.takenAt < b.takenAt ? -1 : a.takenAt > b.takenAt ? 1 : 0),
  );
}

/** Grinds since a cycle was opened, and since it was signed off, of a blade's cycles in order. */
interface GrindsSince {
  readonly from: number;
  readonly after: number;
}

/** The same of each of a blade's cycles, by cycle. */
function grindsSinceEach(
  cycles: readonly Pick<CycleEnd, 'id' | 'ground'>[],
): [string, GrindsSince][] {
  let after = 0;
  return [...cycles].reverse().map(({ id, ground }) => {
    const since = { from: after + (ground ? 1 : 0), after };
    after = since.from;
    return [id, since];
  });
}

const grindsSinceRead = (
  { cycleId, phase }: StandingReadingRow,
  grinds: ReadonlyMap<string, GrindsSince>,
): number => grinds.get(cycleId)?.[phase === 'after' ? 'after' : 'from'] ?? 0;

const lastReading = (
  { value, u, takenAt: at, radiusMm, resolution }: StandingReadingRow,
  grindsSince: number,
): LastReading => ({
  value,
  u,
  at,
  radiusMm: radiusMm ?? undefined,
  resolution,
  grindsSince,
});

/** Used when it came, or trimmed since. */
const cameWorn = ({ knownFrom, trimmedAt }: Came): boolean =>
  knownFrom === 'used' || trimmedAt !== null;

/** A blade's history from what was read, over those of its signed cycles that count, until a moment. */
export function historyFrom<Cycle extends CycleEnd>(
  blade: Came,
  { cyclesOf, readingsOf, intake, trimmingsOf }: Read<Cycle>,
  counts: (cycle: Cycle) => boolean,
  until?: string,
): BladeHistory<Cycle> {
  const trimmings = (trimmingsOf.get(blade.id) ?? []).filter(
    ({ at }) => until === undefined || at <= until,
  );
  const trimmed = trimmings.at(-1);
  const every = cyclesOf.get(blade.id) ?? [];
  const cycles = every.filter(counts);
  const readings = cycles.flatMap(({ id }) => readingsOf.get(id) ?? []);
  const atIntake = knownFromIntake(blade, intake);
  const nth = new Map(cycles.map(({ id }, i) => [id, i]));
  const grinds = new Map(grindsSinceEach(cycles));
  const sinceOpened = (from: CycleEnd | undefined): number => grinds.get(from?.id ?? '')?.from ?? 0;
  const last = new Map<string, LastReading>();
  const first = new Map<string, LastReading>();
  const isOld = (key: string, at: string): boolean =>
    trimmed !== undefined &&
    at < trimmed.at &&
    CHANGED_BY_TRIMMING.some((quantity) => key.startsWith(`${quantity}:`));
  for (const [key, reading] of atIntake)
    if (!isOld(key, reading.at)) last.set(key, { ...reading, grindsSince: sinceOpened(cycles[0]) });
  if (trimmed) {
    const next = cycles.find(({ openedAt }) => openedAt > trimmed.at);
    last.set(LENGTH_KEY, lengthTrimmed(trimmed, sinceOpened(next)));
  }
  for (const reading of oldestFirst(readings, nth)) {
    if (isOld(historyKey(reading), reading.takenAt)) continue;
    const key = historyKey(reading);
    const read = lastReading(reading, grindsSinceRead(reading, grinds));
    last.set(key, read);
    if (!first.has(key)) first.set(key, read);
  }
  return {
    last,
    first,
    cameWorn: trimmed !== undefined || blade.knownFrom === 'used',
    cycles,
    readings,
    trimmings,
    takenBack: cycles.at(-1)?.takenBack ?? false,
    laterGrinds: every.filter((cycle) => !counts(cycle) && cycle.ground).length,
  };
}

/** Its length as measured after it was trimmed: two halves, each with its doubt. */
function lengthTrimmed(
  { halfAMm, halfBMm, u, resolution, at }: TrimmingRow,
  grindsSince: number,
): LastReading {
  const value = halfAMm + halfBMm;
  return { value, u: rss(u, u), at, resolution, radiusMm: undefined, grindsSince };
}

/** Of one that nobody has read. */
export const NEVER_READ: ReadHere = { last: new Map(), first: new Map(), cameWorn: false };

/**
 * How many blades were read last at some places, without their whole histories: most are in a blade's newest signed
 * cycle, and only a blade that lacks one there is looked up further back. How they were read first is not told.
 */
export async function lastReadAt(
  models: Models,
  blades: readonly Came[],
  places: readonly { readonly quantity: Quantity; readonly key: string }[],
): Promise<Map<string, ReadHere>> {
  const trimmingsOf = await trimmingsOfEach(models, blades);
  const [signed, intake] = await Promise.all([
    models.signedCycle.findAll({
      attributes: ['id', 'bladeId', 'openedAt', 'ground'],
      where: { bladeId: blades.map(({ id }) => id) },
      order: [['openedAt', 'ASC']],
      raw: true,
    }),
    intakeRowsOf(models, blades),
  ]);
  const trimmed = new Map(blades.map(({ id, trimmedAt: at }) => [id, at]));
  const trimmedAt = (bladeId: string): string => trimmed.get(bladeId) ?? '';
  // Before a trimming nothing that is asked here was as it is now.
  const cycles = signed.filter(({ bladeId, openedAt }) => openedAt >= trimmedAt(bladeId));
  const nth = new Map(cycles.map(({ id }, i) => [id, i]));
  const bladeOf = new Map(cycles.map(({ id, bladeId }) => [id, bladeId]));
  const cyclesOf = groupedBy(cycles, ({ bladeId }) => bladeId);
  const grinds = new Map([...cyclesOf.values()].flatMap(grindsSinceEach));
  const read = async (inCycles: readonly { readonly id: string }[], quantity: Quantity[]) => {
    const found = new Map<string, Map<string, LastReading>>();
    for (const reading of oldestFirst(await readingsIn(models, inCycles, quantity), nth)) {
      const bladeId = bladeOf.get(reading.cycleId) ?? '';
      const last = found.get(bladeId) ?? new Map<string, LastReading>();
      const read = lastReading(reading, grindsSinceRead(reading, grinds));
      found.set(bladeId, last.set(historyKey(reading), read));
    }
    return found;
  };
  const newest = await read(
    [...cyclesOf.values()].flatMap((own) => own.at(-1) ?? []),
    [...new Set(places.map(({ quantity }) => quantity))],
  );
  const lacking = (bladeId: string) => places.filter(({ key }) => !newest.get(bladeId)?.has(key));
  const older = await read(
    [...cyclesOf].flatMap(([bladeId, own]) =>
      lacking(bladeId).length > 0 ? own.slice(0, -1) : [],
    ),
    [...new Set([...cyclesOf.keys()].flatMap(lacking).map(({ quantity }) => quantity))],
  );
  return new Map(
    blades.map((blade) => {
      const own = cyclesOf.get(blade.id) ?? [];
      const grindsSince = grinds.get(own[0]?.id ?? '')?.from ?? 0;
      const trimming = trimmingsOf.get(blade.id)?.at(-1);
      const last = new Map<string, LastReading>([
        ...[...knownFromIntake(blade, intake)].flatMap(([key, reading]) =>
          reading.at >= trimmedAt(blade.id) ? [[key, { ...reading, grindsSince }] as const] : [],
        ),
        ...(trimming ? [[LENGTH_KEY, lengthTrimmed(trimming, grindsSince)] as const] : []),
        ...(older.get(blade.id) ?? []),
        ...(newest.get(blade.id) ?? []),
      ]);
      return [blade.id, { last, first: new Map(), cameWorn: cameWorn(blade) }];
    }),
  );
}
