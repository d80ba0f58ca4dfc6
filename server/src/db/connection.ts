import { AsyncLocalStorage } from 'node:async_hooks';
import { closeSync, fsyncSync, openSync, renameSync, rmSync } from 'node:fs';
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

/**
 * sqlite3 as Sequelize loads it, with our pragmas set on every connection before anything else runs on
 * it. Sequelize opens a new connection for each transaction and would leave it at SQLite's defaults.
 */
function sqliteWithPragmas(durability: Durability): object {
  function Database(
    file: string,
    mode: number,
    opened: (error: Error | null) => void,
  ): sqlite3.Database {
    const database = new sqlite3.Database(file, mode, (error) => {
      if (error) opened(error);
      else database.exec(pragmas(durability), opened);
    });
    return database;
  }
  return { ...sqlite3, Database };
}

/**
 * Sequelize looks here for the transaction it is in, so that no query inside a write can forget to carry it. It asks
 * for a namespace of this shape; Node's own store does the work.
 */
const store = new AsyncLocalStorage<Map<string, unknown>>();
const namespace = {
  run: (work: (context: unknown) => void): void => {
    const context = new Map(store.getStore());
    store.run(context, () => {
      work(context);
    });
  },
  get: (key: string): unknown => store.getStore()?.get(key),
  set: (key: string, value: unknown): unknown => store.getStore()?.set(key, value),
  bind: <Work>(work: Work): Work => work,
};
Sequelize.useCLS(namespace);

const isInWrite = (): boolean => Boolean(namespace.get('transaction'));

/** The driver's own connection of the write under way. Errors: outside of a write there is none. */
export function driverOfWrite(): sqlite3.Database {
  const transaction = namespace.get('transaction') as { connection?: sqlite3.Database } | undefined;
  if (!transaction?.connection) throw new Error('rows are inserted in a write only');
  return transaction.connection;
}

/** One database file: many readers, one writer at a time. */
export class Connection {
  readonly sequelize: Sequelize;
  private tail: Promise<unknown> = Promise.resolve();

  constructor(
    readonly file: string,
    durability: Durability = 'power-safe',
  ) {
    this.sequelize = new Sequelize({
      dialect: 'sqlite',
      storage: file,
      dialectModule: sqliteWithPragmas(durability),
      define: { freezeTableName: true, timestamps: false },
      logging: false,
    });
  }

  /**
   * Runs `work` as one BEGIN IMMEDIATE transaction after all writes before it; inside of another write it is part
   * of that one. SQLite has one writer; queueing here keeps read-then-write work from failing half way with a busy
   * database.
   */
  write<T>(work: () => Promise<T>): Promise<T> {
    if (isInWrite()) return work();
    const run = this.tail.then(() =>
      this.sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, work),
    );
    this.tail = run.catch(() => undefined);
    return run;
  }

  /**
   * A consistent copy of the database, written while it is in use. It has its name only once it is whole: a copy that
   * broke off never looks like one.
   */
  async backUpTo(file: string): Promise<void> {
    const part = `${file}.part`;
    rmSync(part, { force: true });
    try {
      await this.sequelize.query('VACUUM INTO :file', { replacements: { file: part } });
      const handle = openSync(part, 'r+');
      fsyncSync(handle);
      closeSync(handle);
      renameSync(part, file);
    } catch (error) {
      rmSync(part, { force: true });
      throw error;
    }
  }

  /** Waits for the writes under way, then closes. */
  async close(): Promise<void> {
    await this.tail;
    await this.sequelize.close();
  }
}
