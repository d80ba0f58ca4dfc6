import type { CycleState } from '@tally-stone/contract';
import type { Scope, WriteScope } from '../db/connection.js';
import { Remembered } from '../db/remembered.js';
import type { CycleRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';

/**
 * What is worked out from signed-off cycles alone: no command moves it but a sign-off, a correction and a retirement
 * taken back. Worked out once, until one of those is written.
 */
const records = new WeakMap<Tables, Remembered>();

function recordOf(tables: Tables): Remembered {
  const known = records.get(tables) ?? new Remembered();
  records.set(tables, known);
  return known;
}

export const fromSigned = <T extends object>(
  tables: Tables,
  question: unknown,
  scope: Scope,
  read: () => Promise<T[]>,
): Promise<T[]> => recordOf(tables).ask(question, scope, read);

/** Called by what writes into the record of signed-off cycles. */
export function signedRecordChanges(tables: Tables, { transaction, whenOver }: WriteScope): void {
  const record = recordOf(tables);
  if (!record.written(transaction)) return;
  whenOver(() => {
    record.over();
  });
}

/** A cycle in hand: its row as it stands, and the fold of its events. */
export interface InHand {
  readonly row: CycleRow;
  readonly state: CycleState;
}

/** Cycles kept folded: those at the bench, and some more. */
const MOST_IN_HAND = 64;
const inHand = new WeakMap<Tables, Map<string, InHand>>();

/**
 * What the last write left of a cycle. Inside a write that is how it stands, since one process writes, one write at a
 * time, and what is rolled back is forgotten; outside the row must be asked for its revision first.
 */
export const lastWritten = (tables: Tables, cycleId: string): InHand | undefined =>
  inHand.get(tables)?.get(cycleId);

export function keepInHand(tables: Tables, kept: InHand): void {
  const known = inHand.get(tables) ?? new Map<string, InHand>();
  inHand.set(tables, known);
  const { cycleId, signedOff } = kept.state;
  // Signed, its row has changed in more than its revision: it is read again when it is asked for.
  if (signedOff) {
    known.delete(cycleId);
    return;
  }
  if (known.size >= MOST_IN_HAND && !known.has(cycleId)) known.clear();
  known.set(cycleId, kept);
}

/** A write was rolled back: what was kept of it never happened. */
export const forgetInHand = (tables: Tables): boolean => inHand.delete(tables);
