import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { DateTime } from 'luxon';
import type { Connection } from '../db/connection.js';
import { MIGRATION_NAMES } from '../db/migrate.js';
import { troubleWith } from '../db/sound.js';
import { headOf } from './chain.js';

/** What a backup says of itself, in a file beside it. */
export interface BackupNote {
  readonly at: string;
  readonly file: string;
  /** Newest entry of the record, and its hash. */
  readonly sequence: number;
  readonly hash: string;
}

const noteOf = (file: string): string => `${file}.json`;
const photosOf = (file: string): string => `${file}-photos`;

/**
 * Backs the shop up to a file, with its photos beside it, and opens the copy to see that it is whole. Errors: in words;
 * what was written is taken away again.
 */
export async function backUp(connection: Connection, file: string): Promise<BackupNote> {
  if (!existsSync(dirname(file)))
    throw new Error(`There is no folder ${dirname(file)}: make it, or name another.`);
  const head = await headOf(connection);
  try {
    await connection.backUpTo(file);
    const trouble = await troubleWith(file, MIGRATION_NAMES, 'whole');
    if (trouble) throw new Error(`The copy is not complete: ${trouble}`);
    const photos = join(dirname(connection.file), 'photos');
    if (existsSync(photos)) cpSync(photos, photosOf(file), { recursive: true });
  } catch (error) {
    for (const part of [file, `${file}-wal`, `${file}-shm`, photosOf(file)])
      rmSync(part, { recursive: true, force: true });
    throw inWords(error);
  }
  for (const part of [`${file}-wal`, `${file}-shm`]) rmSync(part, { force: true });
  const note = { at: new Date().toISOString(), file: basename(file), ...head };
  writeFileSync(noteOf(file), `${JSON.stringify(note, undefined, 2)}\n`);
  return note;
}

/** What the system says of a disk, in words. */
export function inWords(error: unknown): Error {
  const { code, message = '' } = error as { code?: string; message?: string };
  const words = `${code ?? ''} ${message}`;
  if (/ENOSPC|SQLITE_FULL|disk is full/i.test(words))
    return new Error(
      $localize`The disk is full: make room, then try again. Nothing half done was left.`,
    );
  if (/EROFS|EACCES|EPERM|SQLITE_READONLY|readonly|unable to open/i.test(words))
    return new Error(
      $localize`The folder cannot be written to: see whose it is, and whether the drive is mounted for writing.`,
    );
  return error instanceof Error ? error : new Error(message);
}

/** Backups that were made on schedule, newest first. */
export function backupsIn(folder: string): BackupNote[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => name.endsWith('.sqlite.json') && existsSync(join(folder, name.slice(0, -5))))
    .map((name) => JSON.parse(readFileSync(join(folder, name), 'utf8')) as BackupNote)
    .sort((a, b) => (a.at < b.at ? 1 : -1));
}

/** So many of the newest days, weeks and months are kept. */
const KEPT = { day: 7, week: 5, month: 12 } as const;

/** The backups that are kept: the newest of each of the last days, weeks and months. */
export function kept(backups: readonly BackupNote[]): Set<string> {
  const stay = new Set<string>();
  for (const [unit, count] of Object.entries(KEPT)) {
    const seen = new Set<string>();
    for (const { at, file } of [...backups].sort((a, b) => (a.at < b.at ? 1 : -1))) {
      const start =
        DateTime.fromISO(at)
          .startOf(unit as keyof typeof KEPT)
          .toISODate() ?? '';
      if (seen.has(start) || seen.size >= count) continue;
      seen.add(start);
      stay.add(file);
    }
  }
  return stay;
}

/** One scheduled backup: made, proved, and those no longer needed thrown away. */
export async function backUpInto(connection: Connection, folder: string): Promise<BackupNote> {
  mkdirSync(folder, { recursive: true });
  const stamp = new Date().toISOString().replace(/[:.]/g, '-');
  const note = await backUp(connection, join(folder, `${stamp}.sqlite`));
  const all = backupsIn(folder);
  const stay = kept(all);
  for (const { file } of all.filter((each) => !stay.has(each.file))) {
    const path = join(folder, file);
    for (const part of [path, noteOf(path), photosOf(path)])
      rmSync(part, { recursive: true, force: true });
  }
  return note;
}

/** Puts a backup in the place of a shop. What was there is kept beside it. Errors: in words, nothing changed. */
export async function restore(file: string, folder: string, at = new Date()): Promise<string> {
  const trouble = await troubleWith(file, MIGRATION_NAMES, 'whole');
  if (trouble) throw new Error(trouble);
  mkdirSync(folder, { recursive: true });
  const aside = join(folder, `before-restore-${at.toISOString().replace(/[:.]/g, '-')}`);
  const shop = join(folder, 'tally-stone.sqlite');
  const draft = `${shop}.restoring`;
  cpSync(file, draft);
  const photos = join(folder, 'photos');
  mkdirSync(aside);
  // A journal of writes that belongs to another file must never stand beside this one.
  for (const part of [shop, `${shop}-wal`, `${shop}-shm`, photos]) {
    if (existsSync(part)) cpSync(part, join(aside, basename(part)), { recursive: true });
    rmSync(part, { recursive: true, force: true });
  }
  cpSync(draft, shop);
  rmSync(draft);
  if (existsSync(photosOf(file))) cpSync(photosOf(file), photos, { recursive: true });
  return aside;
}

/** Size of a file in whole megabytes, for words. */
export const megabytes = (file: string): number => Math.ceil(statSync(file).size / 2 ** 20);
