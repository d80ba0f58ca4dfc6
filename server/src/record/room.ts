import { statfsSync, statSync } from 'node:fs';
import { dirname } from 'node:path';
import type { Connection } from '../db/connection.js';

/** Less room than this, and a day's photos may fill the disk. */
const LEAST_BYTES = 500 * 2 ** 20;
/** A migration keeps a copy of the shop's file, a backup makes another, and SQLite's own journal may grow as large. */
const COPIES = 3;

/** Room on the disk where a shop lives. */
export interface Room {
  readonly freeMb: number;
  /** Nearly full: somebody has to make room. */
  readonly low: boolean;
}

/** Room that is left beside the shop's file, whose size says what is needed. `free` gives the bytes left in a folder. */
export function roomFor(
  { file }: Pick<Connection, 'file'>,
  free = (folder: string): number => {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  },
): Room {
  const bytes = free(dirname(file));
  return {
    freeMb: Math.floor(bytes / 2 ** 20),
    low: bytes < Math.max(LEAST_BYTES, COPIES * statSync(file).size),
  };
}
