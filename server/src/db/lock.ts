import { join } from 'node:path';
import sqlite3 from 'sqlite3';

/** Held for as long as the process lives, however it ends: the system itself lets go of it. */
export interface FolderLock {
  release(): Promise<void>;
}

const run = (database: sqlite3.Database, sql: string): Promise<void> =>
  new Promise((resolve, reject) => {
    database.exec(sql, (error) => {
      if (error) reject(error);
      else resolve();
    });
  });

/** One process a data folder. Errors: in words, where another one has it. */
export async function lockFolder(folder: string): Promise<FolderLock> {
  const file = join(folder, 'in-use.lock');
  const database = await new Promise<sqlite3.Database>((resolve, reject) => {
    const opened = new sqlite3.Database(file, (error) => {
      if (error) reject(new Error(`The folder ${folder} cannot be written to: ${error.message}.`));
      else resolve(opened);
    });
  });
  try {
    await run(database, 'PRAGMA journal_mode = DELETE; PRAGMA busy_timeout = 0; BEGIN EXCLUSIVE');
  } catch {
    await new Promise((closed) => database.close(closed));
    throw new Error(
      `Another Tally Stone works in ${folder} already: stop that one first, or start this one with another --data.`,
    );
  }
  return {
    release: () =>
      new Promise((resolve) => {
        database.close(() => resolve());
      }),
  };
}
