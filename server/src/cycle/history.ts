import type { CycleFigures, LastReading } from '@tally-stone/contract';
import { historyKey } from '@tally-stone/cycle';
import { Op } from 'sequelize';
import type { Scope } from '../db/connection.js';
import type { CorrectionRow, CycleRow, ReadingRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { knownAtIntake } from '../intake/known.js';
import { fromSigned } from './signed.js';

/** Corrections of signed cycles: values in the place of readings (the newest counts), retirements undone. */
async function correctionsSince(
  tables: Tables,
  cycleIds: readonly string[],
  scope: Scope,
): Promise<{
  readonly values: Map<string, number>;
  readonly takenBack: ReadonlySet<string>;
  readonly figures: Map<string, CycleFigures>;
}> {
  const rows =
    cycleIds.length === 0
      ? []
      : await tables.correction.pick(
          ['cycleId', 'correctsKind', 'correctsId', 'value', 'figures'],
          { cycleId: [...cycleIds] },
          scope,
          { order: [['madeAt', 'ASC']] },
        );
  const of = (kind: CorrectionRow['correctsKind']) =>
    rows.filter(({ correctsKind }) => correctsKind === kind);
  return {
    values: new Map(
      of('reading').map(({ correctsId, value }) => [
        correctsId,
        (value as { value: number }).value,
      ]),
    ),
    takenBack: new Set(of('retirement').map(({ cycleId }) => cycleId)),
    figures: new Map(
      rows.flatMap(({ cycleId, figures }) => (figures ? [[cycleId, figures] as const] : [])),
    ),
  };
}

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
    CYCLE_COLUMNS,
    { bladeId, signedAt: { [Op.ne]: null } },
    scope,
    { order: [['openedAt', 'ASC']] },
  );
  const signedCycles = before
    ? everySigned.filter(({ id, openedAt }) => id !== before.id && openedAt <= before.openedAt)
    : everySigned;
  const signed = signedCycles.map(({ id }) => id);
  const stored =
    signed.length === 0
      ? []
      : await tables.reading.pick(HISTORY_COLUMNS, { cycleId: signed }, scope);
  const { values, takenBack, figures } = await correctionsSince(tables, signed, scope);
  const cycles = signedCycles.map((cycle): SignedCycle => ({
    ...cycle,
    corrected: figures.get(cycle.id),
  }));
  const readings = stored.map((reading) => ({
    ...reading,
    value: values.get(reading.id) ?? reading.value,
  }));
  const nth = new Map(signed.map((id, i) => [id, i]));
  const order = (reading: Pick<ReadingRow, 'cycleId' | 'phase'>): number =>
    2 * (nth.get(reading.cycleId) ?? 0) + (reading.phase === 'after' ? 1 : 0);
  const blade = await tables.blade.one({ id: bladeId }, scope);
  /** Grinds in a cycle and after it. */
  const grindsFrom: number[] = [0];
  for (const cycle of [...cycles].reverse())
    grindsFrom.unshift((grindsFrom[0] ?? 0) + (standingFigures(cycle)?.removedG ? 1 : 0));
  const last = new Map<string, LastReading>();
  for (const [key, reading] of blade ? await knownAtIntake(tables, blade, scope) : [])
    last.set(key, { ...reading, grindsSince: grindsFrom[0] ?? 0 });
  for (const reading of [...readings].sort(
    (a, b) => order(a) - order(b) || (a.takenAt < b.takenAt ? -1 : a.takenAt > b.takenAt ? 1 : 0),
  )) {
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
  return {
    last,
    cycles,
    readings,
    takenBack: takenBack.has(signed.at(-1) ?? ''),
  };
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
