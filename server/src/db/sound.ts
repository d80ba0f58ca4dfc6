import { closeSync, existsSync, openSync, readSync, statSync } from 'node:fs';
import sqlite3 from 'sqlite3';

const HEADER = 'SQLite format 3\u0000';

function headerOf(file: string): string {
  const bytes = Buffer.alloc(HEADER.length);
  const handle = openSync(file, 'r');
  try {
    readSync(handle, bytes, 0, bytes.length, 0);
  } finally {
    closeSync(handle);
  }
  return bytes.toString('latin1');
}

const all = (database: sqlite3.Database, sql: string): Promise<Record<string, unknown>[]> =>
  new Promise((resolve, reject) => {
    database.all(sql, (error, rows) => {
      if (error) reject(error);
      else resolve(rows as Record<string, unknown>[]);
    });
  });

const HOW_ON = 'Put a backup in its place: npm run restore -- FILE.';

/**
 * What is wrong with a database file, in words; nothing where it is whole. `migrations` are those this version knows: a
 * file of a newer one is left alone. A whole look takes a second for a large shop.
 */
export async function troubleWith(
  file: string,
  migrations: readonly string[],
  look: 'quick' | 'whole' = 'quick',
): Promise<string | undefined> {
  if (!existsSync(file)) return `There is no ${file}.`;
  if (statSync(file).size === 0)
    return `${file} is empty: a shop was here, or a copy broke off. ${HOW_ON}`;
  if (headerOf(file) !== HEADER) return `${file} is no database of a shop. ${HOW_ON}`;
  const database = await new Promise<sqlite3.Database>((resolve, reject) => {
    const opened = new sqlite3.Database(file, sqlite3.OPEN_READWRITE, (error) => {
      if (error) reject(error);
      else resolve(opened);
    });
  });
  try {
    const [found] = await all(
      database,
      look === 'whole' ? 'PRAGMA integrity_check(1)' : 'PRAGMA quick_check(1)',
    );
    const words = Object.values(found ?? {})[0];
    if (words !== 'ok') return `${file} is damaged (${String(words)}). ${HOW_ON}`;
    const tables = await all(database, `SELECT name FROM sqlite_master WHERE name = 'migration'`);
    if (tables.length === 0) return `${file} is a database, but not of a shop. ${HOW_ON}`;
    const newer = (await all(database, 'SELECT name FROM migration')).find(
      ({ name }) => !migrations.includes(String(name)),
    );
    return newer
      ? `${file} was written by a newer version of Tally Stone: start that one, nothing was changed.`
      : undefined;
  } catch (error) {
    return `${file} cannot be read (${(error as Error).message}). ${HOW_ON}`;
  } finally {
    await new Promise((closed) => database.close(closed));
  }
}
