import type { CycleState, CycleView, ShopCommand } from '@tally-stone/contract';
import {
  backFromRetirement,
  BASE_UNIT,
  BenchError,
  kindOf,
  parseQuantity,
  possible,
  severityRank,
  type Finding,
  type Unit,
} from '@tally-stone/core';
import type { Done, WriteContext } from '../commands/context.js';
import type { Scope } from '../db/connection.js';
import type { CorrectionRow, ReadingRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { refusalFromBench, Refusal, wrongField } from '../http/refusal.js';
import { checkPin } from '../people/pins.js';
import { cycleAt, lastReadings, type CycleFacts } from './facts.js';
import { signedRecordChanges } from './signed.js';
import { judgeBefore, judgeNow } from './judge.js';

type CorrectReading = Extract<ShopCommand, { type: 'correct-reading' }>;
type CorrectCrack = Extract<ShopCommand, { type: 'correct-crack' }>;
type TakeBack = Extract<ShopCommand, { type: 'take-back' }>;

const KIND_OF_BASE = { mm: 'length', g: 'mass', deg: 'angle' } as const;

/** What a correction's own row holds. */
export interface CorrectedReading {
  readonly quantity: ReadingRow['quantity'];
  readonly end: ReadingRow['end'];
  readonly stationKey: string | null;
  readonly was: number;
  readonly value: number;
}

function valueOf({ entered }: CorrectReading, quantity: ReadingRow['quantity']): number {
  try {
    const base = BASE_UNIT[quantity];
    if (kindOf(entered.unit) !== KIND_OF_BASE[base]) {
      throw new BenchError('entered.unit', `measures ${kindOf(entered.unit)}`);
    }
    const { value } = parseQuantity(entered.text, entered.unit as Unit, 'entered.text');
    return possible(quantity, value, 'entered.text');
  } catch (error) {
    if (error instanceof BenchError) throw refusalFromBench(error, 'entered.text');
    throw error;
  }
}

const NO_CRACK = { found: false } as const;

/** The cycle as it stands with its corrections: later ones count. */
function corrected(state: CycleState, rows: readonly CorrectionRow[]): CycleState {
  const values = new Map(
    rows.flatMap(({ correctsKind, correctsId, value }) =>
      correctsKind === 'reading' ? [[correctsId, (value as CorrectedReading).value] as const] : [],
    ),
  );
  const noCrack = rows.some(({ correctsKind }) => correctsKind === 'crack');
  return {
    ...state,
    ...(noCrack ? { crack: NO_CRACK } : {}),
    damage: noCrack ? state.damage.filter(({ kind }) => kind !== 'crack') : state.damage,
    readings: state.readings.map((reading) => ({
      ...reading,
      value: values.get(reading.readingId) ?? reading.value,
    })),
  };
}

const everyFinding = (state: CycleState, facts: CycleFacts): Finding[] => [
  ...judgeBefore(state, facts).findings,
  ...judgeNow(state, facts).findings,
];

/** Did what was signed retire the blade, or did the shop decide? Only the first can be corrected. */
const retiredByReading = (state: CycleState, facts: CycleFacts): boolean =>
  everyFinding(state, facts).some(({ severity }) => severity === 'retire');

interface Signed {
  readonly state: CycleState;
  readonly facts: CycleFacts;
  readonly rows: readonly CorrectionRow[];
}

async function signedCycle(
  cycleId: string,
  { tables, scope, receivedAt }: WriteContext,
): Promise<Signed> {
  const { state, facts } = await cycleAt(tables, cycleId, scope, receivedAt);
  if (!state.signedOff) {
    throw new Refusal('refused', 'This cycle is still open: change it in the run.');
  }
  return { state, facts, rows: await correctionRows(tables, cycleId, scope) };
}

const correctionRows = (tables: Tables, cycleId: string, scope: Scope): Promise<CorrectionRow[]> =>
  tables.correction.all({ cycleId }, scope, { order: [['madeAt', 'ASC']] });

interface Correction {
  readonly command: CorrectReading | CorrectCrack | TakeBack;
  readonly kind: CorrectionRow['correctsKind'];
  readonly correctsId: string;
  readonly value: unknown;
  readonly reason: string;
  readonly secondPersonId?: string;
}

async function keep(
  { command, kind, correctsId, value, reason, secondPersonId }: Correction,
  { tables, scope, receivedAt }: WriteContext,
): Promise<CorrectionRow> {
  const row: CorrectionRow = {
    id: command.correctionId,
    cycleId: command.cycleId,
    correctsKind: kind,
    correctsId,
    value,
    reason,
    personId: command.personId,
    secondPersonId: secondPersonId ?? null,
    madeAt: receivedAt,
  };
  signedRecordChanges(tables, scope);
  await tables.correction.insert(row, scope);
  return row;
}

/**
 * Corrects a reading of a signed-off cycle by a new record. The signed record stays as it is; the blade is put
 * on hold when the corrected reading makes its verdict worse. A retired blade stays retired: {@link takeBack}.
 */
export async function correctReading(
  command: CorrectReading,
  context: WriteContext,
): Promise<Done> {
  const { tables, scope } = context;
  const reading = await tables.reading.one({ id: command.readingId }, scope);
  if (!reading || reading.cycleId !== command.cycleId) {
    throw wrongField('readingId', 'is no reading of this cycle');
  }
  const { state, facts, rows } = await signedCycle(command.cycleId, context);
  const value = valueOf(command, reading.quantity);
  const wording: CorrectedReading = {
    quantity: reading.quantity,
    end: reading.end,
    stationKey: reading.stationKey,
    was: reading.value,
    value,
  };
  const { reason } = command;
  const correction = { command, correctsId: reading.id, value: wording, reason };
  const newest = await keep({ ...correction, kind: 'reading' }, context);
  if (reading.quantity === 'length') {
    const last = await lastReadings(tables, facts.blade.id, scope);
    const lastLengthMm = last.get('length:-:-')?.value ?? null;
    await tables.blade.update({ lastLengthMm }, { id: facts.blade.id }, scope);
  }
  const change = {
    what: 'reading corrected',
    subjectKind: 'cycle' as const,
    subjectId: command.cycleId,
    before: { readingId: reading.id, value: reading.value },
    after: { value, reason },
  };
  const again = judgeNow(corrected(state, [...rows, newest]), facts);
  const was = facts.row.frozen?.judgement.verdict ?? 'fine';
  const worse = severityRank(again.verdict) < severityRank(was);
  const { blade } = facts;
  if (!worse || blade.state === 'retired' || blade.state === 'hold') {
    return { changes: [change], answer: { cycleId: command.cycleId } };
  }
  await tables.blade.update({ state: 'hold', place: 'Hold hook' }, { id: blade.id }, scope);
  return {
    changes: [
      change,
      {
        what: 'blade put on hold by a correction',
        subjectKind: 'blade',
        subjectId: blade.id,
        before: { state: blade.state, verdict: was },
        after: { state: 'hold', verdict: again.verdict },
      },
    ],
    answer: { cycleId: command.cycleId },
  };
}

/** Corrects what was called a crack. The blade stays retired until two people take it back. */
export async function correctCrack(command: CorrectCrack, context: WriteContext): Promise<Done> {
  const { state } = await signedCycle(command.cycleId, context);
  const marked = state.damage.find(({ kind }) => kind === 'crack');
  if (!state.crack?.found && !marked) {
    throw new Refusal('refused', 'No crack was found in this cycle.');
  }
  const { reason, cycleId } = command;
  await keep({ command, kind: 'crack', correctsId: cycleId, value: NO_CRACK, reason }, context);
  return {
    changes: [
      {
        what: 'crack corrected',
        subjectKind: 'cycle',
        subjectId: cycleId,
        before: { crack: state.crack ?? null, marked: marked ?? null },
        after: { crack: NO_CRACK, reason },
      },
    ],
    answer: { cycleId },
  };
}

/** Takes a retired blade back to the waiting ones, to be inspected anew; see the core's rule. */
export async function takeBack(command: TakeBack, context: WriteContext): Promise<Done> {
  const { tables, scope, receivedAt } = context;
  const { cycleId, secondPersonId, personId, whole } = command;
  const { state, facts, rows } = await signedCycle(cycleId, context);
  const { blade } = facts;
  if (blade.state !== 'retired' || state.signedOff?.outcome !== 'retired') {
    throw new Refusal('refused', 'This blade is not retired by this cycle.');
  }
  if (!(await tables.person.one({ id: secondPersonId }, scope))) {
    throw wrongField('secondPersonId', 'is nobody of this shop');
  }
  const [block] = backFromRetirement({
    findings: everyFinding(corrected(state, rows), facts),
    corrected: rows.length > 0 && retiredByReading(state, facts),
    by: personId,
    second: secondPersonId,
    whole,
  });
  if (block) throw wrongField(block.field, block.words);
  await checkPin(secondPersonId, command.secondPin, 'secondPin', context);
  const value = { retireReason: state.signedOff.retireReason ?? null };
  const reason = 'nothing retires it any more';
  const correction = { command, correctsId: blade.id, value, reason, secondPersonId };
  await keep({ ...correction, kind: 'retirement' }, context);
  const after = { state: 'waiting' as const, place: 'Waiting heap', waitingSince: receivedAt };
  await tables.blade.update(after, { id: blade.id }, scope);
  return {
    changes: [
      {
        what: 'retired blade taken back',
        subjectKind: 'blade',
        subjectId: blade.id,
        before: { state: blade.state, ...value },
        after: { ...after, secondPersonId },
      },
    ],
    answer: { cycleId },
  };
}

/** What still stands in the way of taking the blade of a cycle back, once something was corrected. */
export async function takeBackView(
  tables: Tables,
  state: CycleState,
  facts: CycleFacts,
): Promise<CycleView['takeBack']> {
  const { blade } = facts;
  if (blade.state !== 'retired' || state.signedOff?.outcome !== 'retired') return undefined;
  const rows = await correctionRows(tables, state.cycleId, 'committed');
  if (rows.length === 0 || !retiredByReading(state, facts)) return undefined;
  const blocks = backFromRetirement({
    findings: everyFinding(corrected(state, rows), facts),
    corrected: true,
    by: 'first',
    second: 'second',
    whole: true,
  });
  return { blocks: blocks.map(({ words }) => words) };
}

const WHAT = { reading: 'reading', crack: 'crack', retirement: 'taken-back' } as const;

/** The corrections of a cycle, oldest first, as its page shows them. */
export async function correctionsOf(
  tables: Tables,
  cycleId: string,
  scope: Scope,
  label: (reading: CorrectedReading) => string,
): Promise<CycleView['corrections']> {
  const [rows, people] = await Promise.all([
    correctionRows(tables, cycleId, scope),
    tables.person.all({}, scope),
  ]);
  const nameOf = (id: string | null): string => people.find((each) => each.id === id)?.name ?? '';
  return rows.map((row) => {
    const said = {
      correctionId: row.id,
      what: WHAT[row.correctsKind],
      reason: row.reason,
      by: nameOf(row.personId),
      ...(row.secondPersonId ? { second: nameOf(row.secondPersonId) } : {}),
      at: row.madeAt,
    };
    if (row.correctsKind !== 'reading') return { ...said, label: '' };
    const reading = row.value as CorrectedReading;
    return {
      ...said,
      label: label(reading),
      unit: BASE_UNIT[reading.quantity],
      was: reading.was,
      value: reading.value,
    };
  });
}
