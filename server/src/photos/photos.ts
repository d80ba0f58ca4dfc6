import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, open, rename } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import multer from 'multer';
import type { Express, Request } from 'express';
import { PHOTO_PATH, PHOTOS_PATH, PHOTO_MOST_BYTES } from '@tally-stone/contract';
import sharp from 'sharp';
import { Refusal, wrongField } from '@tally-stone/cycle';

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

const upload = multer({
  storage: multer.memoryStorage(),
  limits: { fileSize: PHOTO_MOST_BYTES, files: 1, fields: 0, parts: 2 },
}).single('photo');

/** Reads the one photo out of a request. */
const received = (request: Request, response: Parameters<typeof upload>[1]): Promise<Buffer> =>
  new Promise((resolve, reject) => {
    upload(request, response, (error: unknown) => {
      const { code } = (error ?? {}) as { code?: string };
      if (code === 'LIMIT_FILE_SIZE') {
        const most = Math.round(PHOTO_MOST_BYTES / 2 ** 20);
        const message = `is larger than ${most} MB: take it with fewer pixels`;
        reject(new Refusal('tooLarge', `photo ${message}`, [{ field: 'photo', message }]));
      } else if (error ?? !request.file) {
        reject(wrongField('photo', 'is missing: send one file named photo'));
      } else resolve(request.file?.buffer ?? Buffer.alloc(0));
    });
  });

/** Where photos are sent to and shown from. Sending one keeps the file; a command puts it on a blade. */
export function mountPhotos(app: Express, folder: string): void {
  app.post(PHOTOS_PATH, async (request, response) => {
    const file = await keepPhoto(folder, await received(request, response));
    response.set('Cache-Control', 'no-store').json({ file });
  });
  app.get(PHOTO_PATH, (request, response) => {
    const name = String(request.params['file']);
    if (!hasPhoto(folder, name)) throw new Refusal('notFound', 'There is no such photo.');
    response.sendFile(name, { root: folder, immutable: true, maxAge: '1y' });
  });
}
