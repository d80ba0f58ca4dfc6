import { DAY_MS } from '@tally-stone/core';
import type { RecordView } from '@tally-stone/contract';
import type { Database } from '../database.js';
import { backupsIn } from '../record/backup.js';
import { headOf } from '../record/chain.js';
import { roomFor } from '../record/room.js';

/** Older than this, and somebody should look why. */
const OLD_MS = 2 * DAY_MS;

/** How the record stands: its head to write down, and the newest backup. */
export async function recordView(
  { connection }: Database,
  backups: string | undefined,
  now = Date.now(),
): Promise<RecordView> {
  const head = await headOf(connection);
  const [newest] = backups ? backupsIn(backups) : [];
  return {
    head,
    ...(backups ? { folder: backups } : {}),
    ...(newest ? { newest: { at: newest.at, file: newest.file } } : {}),
    room: roomFor(connection),
    old: !newest || now - Date.parse(newest.at) > OLD_MS,
  };
}
