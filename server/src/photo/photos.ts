import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import { wrongField } from '@tally-stone/cycle';

/** Long side of a kept photo: a nick is still seen, and a season of them fits on a small disk. */
const LONG_SIDE_PX = 2000;
const MOST_PIXELS = 60_000_000;
const QUALITY = 82;
const FORMATS = ['jpeg', 'png', 'webp', 'avif', 'heif'];
const FILE_NAME = /^[0-9a-f]{32}\.jpg$/;

/** Photos lie beside the database, each under the hash of what is in it. */
export const photoFolder = (databaseFile: string): string => join(dirname(databaseFile), 'photos');
export const photoFile = (folder: string, name: string): string => join(folder, name);
export const hasPhoto = (folder: string, name: string): boolean =>
  FILE_NAME.test(name) && existsSync(photoFile(folder, name));

/**
 * Decodes what came, turns it upright and writes it again as a JPEG without anything but the picture: no place,
 * no time, no maker. What cannot be decoded is no photo, whatever its name says.
 */
async function cleaned(bytes: Buffer): Promise<Buffer> {
  const refused = wrongField(
    'photo',
    'is not a picture this shop can read: take a JPEG, PNG or WebP',
  );
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    const { format } = await picture.metadata();
    if (!FORMATS.includes(format)) throw refused;
    return await picture
      .rotate()
      .resize({
        width: LONG_SIDE_PX,
        height: LONG_SIDE_PX,
        fit: 'inside',
        withoutEnlargement: true,
      })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: QUALITY })
      .toBuffer();
  } catch {
    throw refused;
  }
}

/** Keeps a photo's bytes, safe against a power cut before its name is answered. The same photo has one name. */
export async function keepPhoto(folder: string, bytes: Buffer): Promise<string> {
  const picture = await cleaned(bytes);
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
const UNATTACHED_MS = 2 * 86_400_000;

/** Throws away photos no blade has. Returns how many. */
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
