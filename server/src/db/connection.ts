import sqlite3 from 'sqlite3';
import { Sequelize, Transaction } from 'sequelize';

/** Whether a power cut may lose the last writes: never for the shop, allowed while a demo is generated. */
export type Durability = 'power-safe' | 'throwaway';

const pragmas = (durability: Durability): string => `
  PRAGMA journal_mode = WAL;
  PRAGMA synchronous = ${durability === 'power-safe' ? 'FULL' : 'OFF'};
  PRAGMA foreign_keys = ON;
  PRAGMA recursive_triggers = ON;
  PRAGMA busy_timeout = 5000;
`;

type Answer = (error: Error | null, rows: unknown[]) => void;

/**
 * Sequelize asks for a table's columns before every single SELECT, a second trip to the database each time.
 * They only change in migrations: asked once, remembered until the schema changes.
 */
function rememberColumns(database: sqlite3.Database, columns: Map<string, unknown[]>): void {
  const all = database.all.bind(database) as (sql: string, ...rest: unknown[]) => unknown;
  const run = database.run.bind(database) as (sql: string, ...rest: unknown[]) => unknown;
  Object.assign(database, {
    all: (sql: string, ...rest: unknown[]): unknown => {
      const answer = rest.at(-1) as Answer;
      if (!sql.startsWith('PRAGMA table_info')) return all(sql, ...rest);
      const known = columns.get(sql);
      if (known) {
        answer(null, known);
        return database;
      }
      return all(sql, (error: Error | null, rows: unknown[]) => {
        if (!error && rows.length > 0) columns.set(sql, rows);
        answer(error, rows);
      });
    },
    run: (sql: string, ...rest: unknown[]): unknown => {
      if (/^\s*(ALTER|CREATE|DROP)\b/i.test(sql)) columns.clear();
      return run(sql, ...rest);
    },
  });
}

/**
 * sqlite3 as Sequelize loads it, with our pragmas set on every connection before anything else runs on
 * it. Sequelize opens a new connection for each transaction and would leave it at SQLite's defaults.
 */
function sqliteWithPragmas(durability: Durability): object {
  const columns = new Map<string, unknown[]>();
  function Database(
    file: string,
    mode: number,
    opened: (error: Error | null) => void,
  ): sqlite3.Database {
    const database = new sqlite3.Database(file, mode, (error) => {
      if (error) opened(error);
      else database.exec(pragmas(durability), opened);
    });
    rememberColumns(database, columns);
    return database;
  }
  return { ...sqlite3, Database };
}

/** A batch writes this many rows of a table at once. */
const GATHERED_MOST = 400;

/** Rows of a batch that nobody has asked for yet, by table: written many at once instead of one by one. */
export class Gathered {
  private readonly waiting = new Map<
    string,
    { rows: object[]; write: (rows: object[]) => Promise<void> }
  >();
  private readonly changed = new Map<string, Map<string, () => Promise<void>>>();

  async add(table: string, row: object, write: (rows: object[]) => Promise<void>): Promise<void> {
    const kept = this.waiting.get(table) ?? { rows: [], write };
    this.waiting.set(table, kept);
    kept.rows.push(row);
    if (kept.rows.length >= GATHERED_MOST) await this.settle(table);
  }

  /** One row's newest values of a table whose rows change at every command: only the last of them is written. */
  later(table: string, key: string, write: () => Promise<void>): void {
    const kept = this.changed.get(table) ?? new Map<string, () => Promise<void>>();
    this.changed.set(table, kept);
    kept.set(key, write);
  }

  /** Writes what waits of one table, or of all: before it is read, and before a trigger would look for it. */
  async settle(table?: string): Promise<void> {
    for (const name of table === undefined ? [...this.changed.keys()] : [table]) {
      const kept = this.changed.get(name);
      this.changed.delete(name);
      for (const write of kept?.values() ?? []) await write();
    }
    for (const name of table === undefined ? [...this.waiting.keys()] : [table]) {
      const kept = this.waiting.get(name);
      this.waiting.delete(name);
      if (kept && kept.rows.length > 0) await kept.write(kept.rows);
    }
  }
}

/** Inside a write: the transaction every query must carry. */
export interface WriteScope {
  readonly transaction: Transaction;
  /** Called once it is over, kept or rolled back. */
  readonly whenOver: (work: () => void) => void;
  /** Rows a batch has gathered to write many at once; nothing outside of one. */
  readonly gathered?: Gathered;
}
/** Outside: no transaction, the last committed state. */
export type Scope = WriteScope | 'committed';

/** One database file: many readers, one writer at a time. */
export class Connection {
  readonly sequelize: Sequelize;
  private tail: Promise<unknown> = Promise.resolve();
  private shared: WriteScope | undefined;

  constructor(
    readonly file: string,
    durability: Durability = 'power-safe',
  ) {
    this.sequelize = new Sequelize({
      dialect: 'sqlite',
      storage: file,
      dialectModule: sqliteWithPragmas(durability),
      logging: false,
    });
  }

  /**
   * Runs `work` as one BEGIN IMMEDIATE transaction after all writes before it. SQLite has one writer;
   * queueing here keeps read-then-write work from failing half way with a busy database.
   */
  write<T>(work: (scope: WriteScope) => Promise<T>): Promise<T> {
    return this.shared ? work(this.shared) : this.queued(work);
  }

  /**
   * Runs many writes, awaited one after the other by one caller, as a single transaction: all of them or
   * none. For making the demo and for imports, while nobody else writes. Rows of the tables that are written at
   * every command are gathered and written many at once.
   */
  batch(work: () => Promise<void>): Promise<void> {
    return this.queued(async (scope) => {
      const gathered = new Gathered();
      this.shared = { ...scope, gathered };
      try {
        await work();
        await gathered.settle();
      } finally {
        this.shared = undefined;
      }
    });
  }

  private queued<T>(work: (scope: WriteScope) => Promise<T>): Promise<T> {
    const over: (() => void)[] = [];
    const whenOver = (last: () => void): void => {
      over.push(last);
    };
    const run = this.tail
      .then(() =>
        this.sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, (transaction) =>
          work({ transaction, whenOver }),
        ),
      )
      .finally(() => {
        for (const last of over) last();
      });
    this.tail = run.catch(() => undefined);
    return run;
  }

  /** A consistent copy of the database, written while it is in use. */
  async backUpTo(file: string): Promise<void> {
    await this.sequelize.query('VACUUM INTO :file', { replacements: { file } });
  }

  /** Waits for the writes under way, then closes. */
  async close(): Promise<void> {
    await this.tail;
    await this.sequelize.close();
  }
}
