import { DAY_MS } from '@tally-stone/core';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { wrongField } from '@tally-stone/cycle';
import { TookTooLong, type Heavy } from '../heavy/heavy.js';
import type { Models } from '../models.js';

const FILE_NAME = /^[0-9a-f]{32}\.jpg$/;

/** Photos lie beside the database, each under the hash of what is in it. */
export const photoFolder = (databaseFile: string): string => join(dirname(databaseFile), 'photos');
export const photoFile = (folder: string, name: string): string => join(folder, name);
export const hasPhoto = (folder: string, name: string): boolean =>
  FILE_NAME.test(name) && existsSync(photoFile(folder, name));

/** A picture that takes longer to decode was made to. */
const MOST_DECODING_MS = 20_000;

async function cleaned(bytes: Uint8Array, heavy: Heavy): Promise<Uint8Array> {
  const message = $localize`is not a picture this shop can read: take a JPEG, PNG or WebP`;
  const picture = await heavy
    .run('photo', bytes, MOST_DECODING_MS)
    .catch((error: unknown) => (error instanceof TookTooLong ? undefined : Promise.reject(error)));
  if (!picture) throw wrongField('photo', message);
  return picture;
}

/** Keeps a photo's bytes, safe against a power cut before its name is answered. The same photo has one name. */
export async function keepPhoto(folder: string, bytes: Uint8Array, heavy: Heavy): Promise<string> {
  const picture = await cleaned(bytes, heavy);
  const name = `${createHash('sha256').update(picture).digest('hex').slice(0, 32)}.jpg`;
  const target = photoFile(folder, name);
  if (existsSync(target)) return name;
  await mkdir(folder, { recursive: true });
  const draft = `${target}.${process.pid}.draft`;
  const file = await open(draft, 'w');
  try {
    await file.writeFile(picture);
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(draft, target);
  return name;
}

/** A photo that was sent and never put on a blade is kept for so long: somebody may still be at it. */
const UNATTACHED_MS = 2 * DAY_MS;

/** Files that something in the book shows. */
export async function photosInUse({ photo, grassLook }: Models): Promise<Set<string>> {
  const [ofBlades, ofGrass] = await Promise.all([
    photo.findAll({ attributes: ['file'], raw: true }),
    grassLook.scope('standing').findAll({ attributes: ['file'], raw: true }),
  ]);
  return new Set([...ofBlades, ...ofGrass].flatMap(({ file }) => file ?? []));
}

/** Throws away photos that nothing shows. Returns how many. */
export async function sweepPhotos(
  folder: string,
  attached: ReadonlySet<string>,
  now = Date.now(),
): Promise<number> {
  if (!existsSync(folder)) return 0;
  let swept = 0;
  for (const name of await readdir(folder)) {
    if (attached.has(name)) continue;
    const file = photoFile(folder, name);
    const { mtimeMs } = await stat(file);
    if (now - mtimeMs < UNATTACHED_MS) continue;
    await rm(file, { force: true });
    swept += 1;
  }
  return swept;
}
