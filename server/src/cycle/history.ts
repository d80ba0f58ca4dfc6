import type { CycleFigures, LastReading, Quantity } from '@tally-stone/contract';
import { historyKey } from '@tally-stone/cycle';
import { Op } from 'sequelize';
import type { Scope } from '../db/connection.js';
import type { BladeRowStored, CorrectionRow, CycleRow, ReadingRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { groupedBy } from '../db/grouped.js';
import { intakeRowsOf, knownAtIntake, knownFromIntake } from '../intake/known.js';
import { fromSigned } from './signed.js';

const CORRECTION_COLUMNS = [
  'cycleId',
  'correctsKind',
  'correctsId',
  'value',
  'figures',
] satisfies (keyof CorrectionRow)[];

type CorrectionOfSigned = Pick<CorrectionRow, (typeof CORRECTION_COLUMNS)[number]>;

const CYCLE_COLUMNS = [
  'id',
  'frozen',
  'openedAt',
  'signedAt',
  'signedBy',
  'outcome',
  'retireReason',
] satisfies (keyof CycleRow)[];

export type SignedCycle = Pick<CycleRow, (typeof CYCLE_COLUMNS)[number]> & {
  /** Its figures worked out again by the newest correction. */
  readonly corrected?: CycleFigures | undefined;
};

/** The figures that stand: those of the newest correction, else the signed ones. */
export const standingFigures = ({
  corrected,
  frozen,
}: Pick<SignedCycle, 'corrected' | 'frozen'>): CycleFigures | undefined =>
  corrected ?? frozen ?? undefined;

/** What a blade's signed-off cycles have left behind. */
export interface BladeHistory {
  /** Its last cycle retired it, and it was taken back since. */
  readonly takenBack: boolean;
  readonly last: Map<string, LastReading>;
  readonly cycles: readonly SignedCycle[];
  /** With what was corrected since. */
  readonly readings: readonly SignedReading[];
}

const HISTORY_COLUMNS = [
  'id',
  'cycleId',
  'phase',
  'quantity',
  'end',
  'stationKey',
  'radiusMm',
  'value',
  'u',
  'resolution',
  'takenAt',
  'source',
] satisfies (keyof ReadingRow)[];

export type SignedReading = Pick<ReadingRow, (typeof HISTORY_COLUMNS)[number]>;

/** What was signed off of a blade; of one of its cycles, what was signed off before that one. */
export async function historyOf(
  tables: Tables,
  bladeId: string,
  scope: Scope,
  before?: Pick<CycleRow, 'id' | 'openedAt'>,
): Promise<BladeHistory> {
  const question = ['history', bladeId, before?.id ?? ''];
  const [found] = await fromSigned(tables, question, scope, async () => [
    await readHistory(tables, bladeId, scope, before),
  ]);
  if (!found) throw new Error('a history is asked for and answered');
  return found;
}

async function readHistory(
  tables: Tables,
  bladeId: string,
  scope: Scope,
  before?: Pick<CycleRow, 'id' | 'openedAt'>,
): Promise<BladeHistory> {
  const everySigned = await tables.cycle.pick(
    [...CYCLE_COLUMNS, 'bladeId'],
    { bladeId, signedAt: { [Op.ne]: null } },
    scope,
    { order: [['openedAt', 'ASC']] },
  );
  const cycles = before
    ? everySigned.filter(({ id, openedAt }) => id !== before.id && openedAt <= before.openedAt)
    : everySigned;
  const inCycles = { cycleId: cycles.map(({ id }) => id) };
  const none = cycles.length === 0;
  const [readings, corrections, blade] = await Promise.all([
    none ? [] : tables.reading.pick(HISTORY_COLUMNS, inCycles, scope),
    none ? [] : tables.correction.pick(CORRECTION_COLUMNS, inCycles, scope, OLDEST_FIRST),
    tables.blade.one({ id: bladeId }, scope),
  ]);
  const atIntake = blade ? await knownAtIntake(tables, blade, scope) : new Map<string, never>();
  return historyFrom({ cycles, readings, corrections, atIntake });
}

const OLDEST_FIRST: { order: [string, string][] } = { order: [['madeAt', 'ASC']] };

/** Readings with what was corrected since. Of corrections the newest counts. */
function withCorrections<Reading extends Pick<ReadingRow, 'id' | 'value'>>(
  readings: readonly Reading[],
  corrections: readonly CorrectionOfSigned[],
): Reading[] {
  const values = new Map(
    corrections
      .filter(({ correctsKind }) => correctsKind === 'reading')
      .map(({ correctsId, value }) => [correctsId, (value as { value: number }).value]),
  );
  return readings.map((reading) => ({
    ...reading,
    value: values.get(reading.id) ?? reading.value,
  }));
}

/** The order in which readings replace each other: cycle by cycle, after a grind rather than before it, as taken. */
function oldestFirst<Reading extends Pick<ReadingRow, 'cycleId' | 'phase' | 'takenAt'>>(
  readings: readonly Reading[],
  nthCycle: ReadonlyMap<string, number>,
): Reading[] {
  const order = ({ cycleId, phase }: Reading): number =>
    2 * (nthCycle.get(cycleId) ?? 0) + (phase === 'after' ? 1 : 0);
  return [...readings].sort(
    (a, b) => order(a) - order(b) || (a.takenAt < b.takenAt ? -1 : a.takenAt > b.takenAt ? 1 : 0),
  );
}

interface SignedRows {
  /** In the order they were opened. */
  readonly cycles: readonly Pick<CycleRow, (typeof CYCLE_COLUMNS)[number]>[];
  readonly readings: readonly SignedReading[];
  /** In the order they were made. */
  readonly corrections: readonly CorrectionOfSigned[];
  readonly atIntake: ReadonlyMap<string, LastReading>;
}

/** A blade's history from the rows of its signed cycles. */
function historyFrom({ cycles: signed, readings: stored, ...rows }: SignedRows): BladeHistory {
  const takenBack = new Set(
    rows.corrections
      .filter(({ correctsKind }) => correctsKind === 'retirement')
      .map(({ cycleId }) => cycleId),
  );
  const figures = new Map(
    rows.corrections.flatMap((row) => (row.figures ? [[row.cycleId, row.figures] as const] : [])),
  );
  const cycles = signed.map((cycle): SignedCycle => ({
    ...cycle,
    corrected: figures.get(cycle.id),
  }));
  const readings = withCorrections(stored, rows.corrections);
  const nth = new Map(cycles.map(({ id }, i) => [id, i]));
  /** Grinds in a cycle and after it. */
  const grindsFrom: number[] = [0];
  for (const cycle of [...cycles].reverse())
    grindsFrom.unshift((grindsFrom[0] ?? 0) + (standingFigures(cycle)?.removedG ? 1 : 0));
  const last = new Map<string, LastReading>();
  for (const [key, reading] of rows.atIntake)
    last.set(key, { ...reading, grindsSince: grindsFrom[0] ?? 0 });
  for (const reading of oldestFirst(readings, nth)) {
    last.set(historyKey(reading), {
      value: reading.value,
      u: reading.u,
      at: reading.takenAt,
      radiusMm: reading.radiusMm ?? undefined,
      resolution: reading.resolution,
      grindsSince:
        grindsFrom[(nth.get(reading.cycleId) ?? 0) + (reading.phase === 'after' ? 1 : 0)] ?? 0,
    });
  }
  return { last, cycles, readings, takenBack: takenBack.has(cycles.at(-1)?.id ?? '') };
}

/** So many blades' rows are in memory at once. */
const BLADES_AT_ONCE = 250;

/** The last readings of many blades, some hundreds of them at a time. */
export async function lastReadingsOf(
  tables: Tables,
  blades: readonly Pick<BladeRowStored, 'id' | 'knownFrom' | 'intakeId'>[],
  scope: Scope,
): Promise<Map<string, Map<string, LastReading>>> {
  const lastOf = new Map<string, Map<string, LastReading>>();
  for (let from = 0; from < blades.length; from += BLADES_AT_ONCE) {
    const some = blades.slice(from, from + BLADES_AT_ONCE);
    const cycles = await tables.cycle.pick(
      [...CYCLE_COLUMNS, 'bladeId'],
      { bladeId: some.map(({ id }) => id), signedAt: { [Op.ne]: null } },
      scope,
      { order: [['openedAt', 'ASC']] },
    );
    const inCycles = { cycleId: cycles.map(({ id }) => id) };
    const [readings, corrections, intake] = await Promise.all([
      tables.reading.pick(HISTORY_COLUMNS, inCycles, scope),
      tables.correction.pick(CORRECTION_COLUMNS, inCycles, scope, OLDEST_FIRST),
      intakeRowsOf(tables, some, scope),
    ]);
    const [cyclesOf, readingsOf, correctionsOf] = [
      groupedBy(cycles, ({ bladeId }) => bladeId),
      groupedBy(readings, ({ cycleId }) => cycleId),
      groupedBy(corrections, ({ cycleId }) => cycleId),
    ];
    for (const blade of some) {
      const own = cyclesOf.get(blade.id) ?? [];
      const { last } = historyFrom({
        cycles: own,
        readings: own.flatMap(({ id }) => readingsOf.get(id) ?? []),
        corrections: own.flatMap(({ id }) => correctionsOf.get(id) ?? []),
        atIntake: knownFromIntake(blade, intake),
      });
      lastOf.set(blade.id, last);
    }
  }
  return lastOf;
}

const VALUE_COLUMNS = [
  'id',
  'cycleId',
  'phase',
  'quantity',
  'end',
  'stationKey',
  'value',
  'takenAt',
] satisfies (keyof ReadingRow)[];

/**
 * The last values at some places of many blades, by `historyKey`, without their whole histories: most are in a
 * blade's newest signed cycle, and only a blade that lacks one there is looked up further back.
 */
export async function lastValuesOf(
  tables: Tables,
  blades: readonly Pick<BladeRowStored, 'id' | 'knownFrom' | 'intakeId'>[],
  places: readonly { readonly quantity: Quantity; readonly key: string }[],
  scope: Scope,
): Promise<Map<string, Map<string, number>>> {
  const [cycles, intake] = await Promise.all([
    tables.cycle.pick(
      ['id', 'bladeId'],
      { bladeId: blades.map(({ id }) => id), signedAt: { [Op.ne]: null } },
      scope,
      { order: [['openedAt', 'ASC']] },
    ),
    intakeRowsOf(tables, blades, scope),
  ]);
  const nth = new Map(cycles.map(({ id }, i) => [id, i]));
  const bladeOf = new Map(cycles.map(({ id, bladeId }) => [id, bladeId]));
  const cyclesOf = groupedBy(cycles, ({ bladeId }) => bladeId);
  const read = async (cycleId: string[], quantity: Quantity[]) => {
    const found = new Map<string, Map<string, number>>();
    if (cycleId.length === 0) return found;
    const [readings, corrections] = await Promise.all([
      tables.reading.pick(VALUE_COLUMNS, { cycleId, quantity }, scope),
      tables.correction.pick(CORRECTION_COLUMNS, { cycleId }, scope, OLDEST_FIRST),
    ]);
    for (const reading of oldestFirst(withCorrections(readings, corrections), nth)) {
      const bladeId = bladeOf.get(reading.cycleId) ?? '';
      const values = found.get(bladeId) ?? new Map<string, number>();
      found.set(bladeId, values.set(historyKey(reading), reading.value));
    }
    return found;
  };
  const newest = await read(
    [...cyclesOf.values()].flatMap((own) => own.at(-1)?.id ?? []),
    [...new Set(places.map(({ quantity }) => quantity))],
  );
  const lacking = (bladeId: string) => places.filter(({ key }) => !newest.get(bladeId)?.has(key));
  const older = await read(
    [...cyclesOf].flatMap(([bladeId, own]) =>
      lacking(bladeId).length > 0 ? own.slice(0, -1).map(({ id }) => id) : [],
    ),
    [...new Set([...cyclesOf.keys()].flatMap(lacking).map(({ quantity }) => quantity))],
  );
  return new Map(
    blades.map((blade) => [
      blade.id,
      new Map([
        ...[...knownFromIntake(blade, intake)].map(([key, { value }]) => [key, value] as const),
        ...(older.get(blade.id) ?? []),
        ...(newest.get(blade.id) ?? []),
      ]),
    ]),
  );
}

/** Everything a blade's signed-off cycles have left behind. */
export const bladeHistory = (
  tables: Tables,
  bladeId: string,
  scope: Scope,
): Promise<BladeHistory> => historyOf(tables, bladeId, scope);

/** Newest reading of each place over a blade's signed-off cycles (after a grind rather than before it). */
export const lastReadings = async (
  tables: Tables,
  bladeId: string,
  scope: Scope,
): Promise<Map<string, LastReading>> => (await historyOf(tables, bladeId, scope)).last;
