import type { CommandAnswer, CycleEvent } from '@tally-stone/contract';
import type { WriteScope } from './connection.js';
import type { JournalRow } from './rows.js';
import type { Tables } from './tables.js';

/** What a command handler may use: the tables inside this transaction, and the clock. */
export interface WriteContext {
  readonly tables: Tables;
  readonly scope: WriteScope;
  /** When the server accepted the command, UTC ISO 8601. */
  readonly receivedAt: string;
  /** Folder the photos lie in. */
  readonly photos: string;
}

export type Change = Pick<JournalRow, 'what' | 'subjectKind' | 'subjectId' | 'before' | 'after'>;

/** What a handler did: journal entries (at least one), the event of a cycle, and what to answer. */
export interface Done {
  readonly changes: readonly [Change, ...Change[]];
  readonly event?: CycleEvent;
  readonly answer?: Pick<CommandAnswer, 'cycleId' | 'revision' | 'blades'>;
}
