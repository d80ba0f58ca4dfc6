import type { CycleFigures, CycleState, CycleView, ShopCommand } from '@tally-stone/contract';
import { backFromRetirement, QUANTITIES, severityRank, type Finding } from '@tally-stone/core';
import type { Done, WriteContext } from '../db/write-context.js';
import type { Scope } from '../db/connection.js';
import type { Database } from '../db/database.js';
import type { CorrectionRow, ReadingRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import {
  Refusal,
  wrongField,
  figuresOf,
  toJudgementView,
  toWitnessView,
  parsedReading,
  judgeBefore,
  judgeNow,
  witnesses,
} from '@tally-stone/cycle';
import { checkPin } from '../people/pins.js';
import { type LoadedFacts, cycleAt } from './facts.js';
import { lastReadings } from './history.js';
import { signedRecordChanges } from './signed.js';

type CorrectReading = Extract<ShopCommand, { type: 'correct-reading' }>;
type CorrectCrack = Extract<ShopCommand, { type: 'correct-crack' }>;
type TakeBack = Extract<ShopCommand, { type: 'take-back' }>;

/** What a correction's own row holds. */
export interface CorrectedReading {
  readonly quantity: ReadingRow['quantity'];
  readonly end: ReadingRow['end'];
  readonly stationKey: string | null;
  readonly was: number;
  readonly value: number;
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

const everyFinding = (state: CycleState, facts: LoadedFacts): Finding[] => [
  ...judgeBefore(state, facts).findings,
  ...judgeNow(state, facts).findings,
];

/** Did what was signed retire the blade, or did the shop decide? Only the first can be corrected. */
const retiredByReading = (state: CycleState, facts: LoadedFacts): boolean =>
  everyFinding(state, facts).some(({ severity }) => severity === 'retire');

interface Signed {
  readonly state: CycleState;
  readonly facts: LoadedFacts;
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

/** Keeps a correction; one of what was read or seen with the cycle's figures as it makes them. */
async function keep(
  { command, kind, correctsId, value, reason, secondPersonId }: Correction,
  { state, facts, rows }: Signed,
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
    figures: null,
  };
  const figures =
    kind === 'retirement' ? null : correctedFigures(corrected(state, [...rows, row]), facts);
  signedRecordChanges(tables, scope);
  await tables.correction.insert({ ...row, figures }, scope);
  return { ...row, figures };
}

/** Worked out again; the wheel that ground it is what it was, whatever stands on the machine today. */
const correctedFigures = (state: CycleState, facts: LoadedFacts): CycleFigures => ({
  ...figuresOf(state, facts),
  wheel: facts.row.frozen?.wheel,
});

/** The figures that stand for a cycle with its corrections; nothing where none moved any. */
export async function correctedView(
  tables: Tables,
  state: CycleState,
  facts: LoadedFacts,
): Promise<CycleView['corrected']> {
  if (!state.signedOff) return undefined;
  const rows = await correctionRows(tables, state.cycleId, 'committed');
  const figures = rows.findLast((row) => row.figures)?.figures;
  return (
    figures?.witnesses && {
      witnesses: toWitnessView(witnesses(corrected(state, rows), facts), figures.witnesses),
      now: toJudgementView(figures.judgement),
    }
  );
}

/** Works out the figures of corrections that were made before they were kept. Once, at a start. */
export async function completeCorrections({ connection, tables }: Database): Promise<void> {
  const without = await tables.correction.pick(
    ['id', 'cycleId', 'madeAt'],
    { figures: null, correctsKind: ['reading', 'crack'] },
    'committed',
  );
  for (const { id, cycleId, madeAt } of without) {
    const { state, facts } = await cycleAt(tables, cycleId, 'committed', madeAt);
    const rows = await correctionRows(tables, cycleId, 'committed');
    const figures = correctedFigures(
      corrected(
        state,
        rows.filter((row) => row.madeAt <= madeAt),
      ),
      facts,
    );
    await connection.write(async (scope) => {
      signedRecordChanges(tables, scope);
      await tables.correction.update({ figures }, { id }, scope);
    });
  }
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
  const signed = await signedCycle(command.cycleId, context);
  const { facts } = signed;
  const value = parsedReading(command.entered, reading.quantity, 'entered.text');
  const wording: CorrectedReading = {
    quantity: reading.quantity,
    end: reading.end,
    stationKey: reading.stationKey,
    was: reading.value,
    value,
  };
  const { reason } = command;
  const correction = { command, correctsId: reading.id, value: wording, reason };
  const newest = await keep({ ...correction, kind: 'reading' }, signed, context);
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
  const verdict = newest.figures?.judgement.verdict ?? 'fine';
  const was = facts.row.frozen?.judgement.verdict ?? 'fine';
  const worse = severityRank(verdict) < severityRank(was);
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
        after: { state: 'hold', verdict },
      },
    ],
    answer: { cycleId: command.cycleId },
  };
}

/** Corrects what was called a crack. The blade stays retired until two people take it back. */
export async function correctCrack(command: CorrectCrack, context: WriteContext): Promise<Done> {
  const signed = await signedCycle(command.cycleId, context);
  const { state } = signed;
  const marked = state.damage.find(({ kind }) => kind === 'crack');
  if (!state.crack?.found && !marked) {
    throw new Refusal('refused', 'No crack was found in this cycle.');
  }
  const { reason, cycleId } = command;
  const correction = { command, correctsId: cycleId, value: NO_CRACK, reason };
  await keep({ ...correction, kind: 'crack' }, signed, context);
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
  const signed = await signedCycle(cycleId, context);
  const { state, facts, rows } = signed;
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
  await keep({ ...correction, kind: 'retirement' }, signed, context);
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
  facts: LoadedFacts,
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
      unit: QUANTITIES[reading.quantity].unit,
      was: reading.was,
      value: reading.value,
    };
  });
}
