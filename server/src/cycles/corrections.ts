import type { CycleView, ShopCommand } from '@tally-stone/contract';
import {
  BASE_UNIT,
  BenchError,
  kindOf,
  parseQuantity,
  possible,
  severityRank,
  type Unit,
} from '@tally-stone/core';
import type { Done, WriteContext } from '../commands/context.js';
import type { Scope } from '../db/connection.js';
import type { CorrectionRow, ReadingRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { refusalFromBench, Refusal, wrongField } from '../http/refusal.js';
import { cycleFacts, cycleState } from './facts.js';
import { judgeNow } from './judge.js';

type CorrectReading = Extract<ShopCommand, { type: 'correct-reading' }>;

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

/**
 * Corrects a reading of a signed-off cycle by a new record. The signed record stays as it is; the blade is put
 * on hold when the corrected reading makes its verdict worse.
 */
export async function correctReading(
  command: CorrectReading,
  { tables, scope, receivedAt }: WriteContext,
): Promise<Done> {
  const reading = await tables.reading.one({ id: command.readingId }, scope);
  if (!reading || reading.cycleId !== command.cycleId) {
    throw wrongField('readingId', 'is no reading of this cycle');
  }
  const [state, facts] = [
    await cycleState(tables, command.cycleId, scope),
    await cycleFacts(tables, command.cycleId, scope, receivedAt),
  ];
  if (!state.signedOff) {
    throw new Refusal('refused', 'This cycle is still open: read it again in the run.');
  }
  const value = valueOf(command, reading.quantity);
  const corrected: CorrectedReading = {
    quantity: reading.quantity,
    end: reading.end,
    stationKey: reading.stationKey,
    was: reading.value,
    value,
  };
  await tables.correction.insert(
    {
      id: command.correctionId,
      cycleId: command.cycleId,
      correctsKind: 'reading',
      correctsId: reading.id,
      value: corrected,
      reason: command.reason,
      personId: command.personId,
      secondPersonId: null,
      madeAt: receivedAt,
    },
    scope,
  );
  const change = {
    what: 'reading corrected',
    subjectKind: 'cycle' as const,
    subjectId: command.cycleId,
    before: { readingId: reading.id, value: reading.value },
    after: { value, reason: command.reason },
  };
  const again = judgeNow(
    {
      ...state,
      readings: state.readings.map((each) =>
        each.readingId === reading.id ? { ...each, value } : each,
      ),
    },
    facts,
  );
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

/** The corrections of a cycle, oldest first, as its page shows them. */
export async function correctionsOf(
  tables: Tables,
  cycleId: string,
  scope: Scope,
  label: (reading: CorrectedReading) => string,
): Promise<CycleView['corrections']> {
  const [rows, people] = await Promise.all([
    tables.correction.all({ cycleId }, scope, { order: [['madeAt', 'ASC']] }),
    tables.person.all({}, scope),
  ]);
  return rows.map((row: CorrectionRow) => {
    const corrected = row.value as CorrectedReading;
    return {
      correctionId: row.id,
      label: label(corrected),
      unit: BASE_UNIT[corrected.quantity],
      was: corrected.was,
      value: corrected.value,
      reason: row.reason,
      by: people.find(({ id }) => id === row.personId)?.name ?? '',
      at: row.madeAt,
    };
  });
}
