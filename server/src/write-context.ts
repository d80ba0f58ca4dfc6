import type { CommandAnswer, CycleEvent } from '@tally-stone/contract';
import type { JournalRow } from './commands/journal.model.js';
import type { Book } from './database.js';
import type { Connection } from './db/connection.js';

/** What a command handler may use: the book inside its transaction, and the clock. */
export interface WriteContext extends Book {
  readonly connection: Connection;
  /** When the server accepted the command, UTC ISO 8601. */
  readonly receivedAt: string;
  /** Where the command came from; nothing inside the server itself. */
  readonly address?: string | undefined;
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
