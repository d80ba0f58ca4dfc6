import { FILE_ROUTES, PHOTO_MOST_BYTES, PHOTO_PATH, PHOTOS_PATH } from '@tally-stone/contract';
import { Refusal, wrongField } from '@tally-stone/cycle';
import type { Express, Request } from 'express';
import multer from 'multer';
import type { Heavy } from '../heavy/heavy.js';
import { allowed } from './sessions.js';
import { hasPhoto, keepPhoto } from '../photo/photos.js';

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
export function mountPhotos(app: Express, folder: string, heavy: Heavy): void {
  app.post(PHOTOS_PATH, allowed(FILE_ROUTES.sendPhoto.who), async (request, response) => {
    const file = await keepPhoto(folder, await received(request, response), heavy);
    response.set('Cache-Control', 'no-store').json({ file });
  });
  app.get(PHOTO_PATH, allowed(FILE_ROUTES.photo.who), (request, response) => {
    const name = String(request.params['file']);
    if (!hasPhoto(folder, name)) throw new Refusal('notFound', 'There is no such photo.');
    response.sendFile(name, { root: folder, immutable: true, maxAge: '1y' });
  });
}
