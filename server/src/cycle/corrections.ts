import type { CycleFigures, CycleState, CycleView, ShopCommand } from '@tally-stone/contract';
import {
  backFromRetirement,
  QUANTITIES,
  severityRank,
  type Finding,
  PLACES,
} from '@tally-stone/core';
import type { Done, WriteContext } from '../write-context.js';
import type { Database } from '../database.js';
import type { Correction, CorrectionRow } from './correction.model.js';
import type { ReadingRow } from './reading.model.js';
import type { Models } from '../models.js';
import {
  Refusal,
  wrongField,
  figuresOf,
  toJudgementView,
  widthsOf,
  toWitnessView,
  parsedReading,
  judgeBefore,
  judgeNow,
  witnesses,
} from '@tally-stone/cycle';
import { checkPin } from '../people/pins.js';
import { type LoadedFacts, cycleAt } from './facts.js';
import { historyOf } from './history.js';

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

async function signedCycle(cycleId: string, context: WriteContext): Promise<Signed> {
  const { state, facts } = await cycleAt(context, cycleId, context.receivedAt);
  if (!state.signedOff) {
    throw new Refusal('refused', $localize`This cycle is still open: change it in the run.`);
  }
  return { state, facts, rows: await correctionRows(context.models, cycleId) };
}

/** The corrections of a cycle with who made them, oldest first. */
export const correctionRows = (models: Models, cycleId: string): Promise<Correction[]> =>
  models.correction.findAll({
    where: { cycleId },
    include: ['person', 'second'],
    order: [['madeAt', 'ASC']],
  });

interface ToCorrect {
  readonly command: CorrectReading | CorrectCrack | TakeBack;
  readonly kind: CorrectionRow['correctsKind'];
  readonly correctsId: string;
  readonly value: unknown;
  readonly reason: string;
  readonly secondPersonId?: string;
}

/** Keeps a correction; one of what was read or seen with the cycle's figures as it makes them. */
async function keep(
  { command, kind, correctsId, value, reason, secondPersonId }: ToCorrect,
  { state, facts, rows }: Signed,
  { models, receivedAt }: WriteContext,
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
  await models.correction.create({ ...row, figures });
  return { ...row, figures };
}

/** Worked out again; the wheel that ground it is what it was, whatever stands on the machine today. */
const correctedFigures = (state: CycleState, facts: LoadedFacts): CycleFigures => ({
  ...figuresOf(state, facts),
  wheel: facts.row.frozen?.wheel,
});

/** The figures that stand for a cycle with its corrections; nothing where none moved any. */
export function correctedView(
  rows: readonly CorrectionRow[],
  state: CycleState,
  facts: LoadedFacts,
): CycleView['corrected'] {
  const figures = rows.findLast((row) => row.figures)?.figures;
  return (
    figures?.witnesses && {
      witnesses: toWitnessView(witnesses(corrected(state, rows), facts), figures.witnesses),
      now: toJudgementView(figures.judgement),
      widths: widthsOf(corrected(state, rows), facts),
    }
  );
}

/** Works out the figures of corrections that were made before they were kept. Once, at a start. */
export async function completeCorrections(database: Database): Promise<void> {
  const { connection, models } = database;
  const without = await models.correction.findAll({
    attributes: ['id', 'cycleId', 'madeAt'],
    where: { figures: null, correctsKind: ['reading', 'crack'] },
  });
  await database.signed.whileChanging(async () => {
    for (const { id, cycleId, madeAt } of without) {
      const { state, facts } = await cycleAt(database, cycleId, madeAt);
      const rows = await correctionRows(models, cycleId);
      const until = rows.filter((row) => row.madeAt <= madeAt);
      const figures = correctedFigures(corrected(state, until), facts);
      await connection.write(() => models.correction.update({ figures }, { where: { id } }));
    }
  });
}

/**
 * Corrects a reading of a signed-off cycle by a new record. The signed record stays as it is; the blade is put
 * on hold when the corrected reading makes its verdict worse. A retired blade stays retired: {@link takeBack}.
 */
export async function correctReading(
  command: CorrectReading,
  context: WriteContext,
): Promise<Done> {
  const { models } = context;
  const reading = await models.reading.findByPk(command.readingId);
  if (!reading || reading.cycleId !== command.cycleId) {
    throw wrongField('readingId', $localize`is not a reading of this cycle`);
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
    context.signed.forget();
    const { last } = await historyOf(context, facts.blade);
    const lastLengthMm = last.get('length:-:-')?.value ?? null;
    await models.blade.update({ lastLengthMm }, { where: { id: facts.blade.id } });
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
  const isHeld =
    worse &&
    blade.state !== 'retired' &&
    blade.state !== 'hold' &&
    (await isNewest(command.cycleId, blade.id, models));
  if (!isHeld) return { changes: [change], answer: { cycleId: command.cycleId } };
  // On a mower it stays where it is until somebody takes it off: the mower is not run meanwhile.
  const place = blade.state === 'on-mower' ? blade.place : PLACES.hook;
  await models.blade.update({ state: 'hold', place }, { where: { id: blade.id } });
  return {
    changes: [
      change,
      {
        what: 'blade put on hold by a correction',
        subjectKind: 'blade',
        subjectId: blade.id,
        before: { state: blade.state, verdict: was },
        after: { state: 'hold', place, verdict },
      },
    ],
    answer: { cycleId: command.cycleId },
  };
}

/** A cycle signed off later has judged the blade anew: what is corrected before it holds nothing up. */
async function isNewest(cycleId: string, bladeId: string, models: Models): Promise<boolean> {
  const newest = await models.signedCycle.findOne({
    attributes: ['id'],
    where: { bladeId },
    order: [['signedAt', 'DESC']],
  });
  return newest?.id === cycleId;
}

/** Corrects what was called a crack. The blade stays retired until two people take it back. */
export async function correctCrack(command: CorrectCrack, context: WriteContext): Promise<Done> {
  const signed = await signedCycle(command.cycleId, context);
  const { state } = signed;
  const marked = state.damage.find(({ kind }) => kind === 'crack');
  if (!state.crack?.found && !marked) {
    throw new Refusal('refused', $localize`No crack was found in this cycle.`);
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
  const { models, receivedAt } = context;
  const { cycleId, secondPersonId, personId, whole } = command;
  const signed = await signedCycle(cycleId, context);
  const { state, facts, rows } = signed;
  const { blade } = facts;
  if (blade.state !== 'retired' || state.signedOff?.outcome !== 'retired') {
    throw new Refusal('refused', $localize`This blade is not retired by this cycle.`);
  }
  if (!(await models.person.findByPk(secondPersonId))) {
    throw wrongField('secondPersonId', $localize`is not one of this shop’s people`);
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
  const reason = $localize`nothing retires it any more`;
  const correction = { command, correctsId: blade.id, value, reason, secondPersonId };
  await keep({ ...correction, kind: 'retirement' }, signed, context);
  const after = { state: 'waiting' as const, place: PLACES.heap, waitingSince: receivedAt };
  await models.blade.update(after, { where: { id: blade.id } });
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
export function takeBackView(
  rows: readonly CorrectionRow[],
  state: CycleState,
  facts: LoadedFacts,
): CycleView['takeBack'] {
  const { blade } = facts;
  if (blade.state !== 'retired' || state.signedOff?.outcome !== 'retired') return undefined;
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
export const correctionsView = (
  rows: readonly Correction[],
  label: (reading: CorrectedReading) => string,
): CycleView['corrections'] =>
  rows.map((row) => {
    const base = {
      correctionId: row.id,
      what: WHAT[row.correctsKind],
      reason: row.reason,
      by: row.person?.name ?? '',
      ...(row.second ? { second: row.second.name } : {}),
      at: row.madeAt,
    };
    if (row.correctsKind !== 'reading') return { ...base, label: '' };
    const reading = row.value as CorrectedReading;
    return {
      ...base,
      label: label(reading),
      unit: QUANTITIES[reading.quantity].unit,
      was: reading.was,
      value: reading.value,
    };
  });
