import {
  FILE_ROUTES,
  MAT_PATH,
  MatNumber,
  PHOTO_MOST_BYTES,
  PHOTO_PATH,
  PHOTOS_PATH,
  STAND_PATH,
  StandQuery,
} from '@tally-stone/contract';
import { MAT_PAPERS, ONE_MAT_HOLDS_MM, type MatPaper } from '@tally-stone/core';
import { Refusal, wrongField } from '@tally-stone/cycle';
import type { Express, Request } from 'express';
import multer from 'multer';
import * as z from 'zod';
import { cycleAt } from '../cycle/facts.js';
import type { Database } from '../database.js';
import { trueWidthsMm } from '../instrument/true-edge.js';
import { shopOf } from '../shop/look-up.js';
import { refuseInvisible } from './edge.js';
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
        const message = $localize`is larger than ${most} MB: take it with fewer pixels`;
        reject(new Refusal('tooLarge', `photo ${message}`, [{ field: 'photo', message }]));
      } else if (error ?? !request.file) {
        reject(wrongField('photo', $localize`is missing: send one file named photo`));
      } else resolve(request.file?.buffer ?? Buffer.alloc(0));
    });
  });

const PAPERS = Object.keys(MAT_PAPERS) as [MatPaper, ...MatPaper[]];
const Mat = z.object({
  number: z.coerce.number().pipe(MatNumber),
  paper: z.enum(PAPERS).default('a4'),
});

/** Where photos are sent to and shown from. Sending one keeps the file; a command puts it on a blade. */
export function mountPhotos(app: Express, folder: string, database: Database): void {
  const { pictures } = database;
  app.post(PHOTOS_PATH, allowed(FILE_ROUTES.sendPhoto.who), async (request, response) => {
    const file = await keepPhoto(folder, await received(request, response), pictures);
    response.set('Cache-Control', 'no-store').json({ file });
  });
  app.get(PHOTO_PATH, allowed(FILE_ROUTES.photo.who), (request, response) => {
    const name = String(request.params['file']);
    if (!hasPhoto(folder, name)) throw new Refusal('notFound', $localize`There is no such photo.`);
    response.sendFile(name, { root: folder, immutable: true, maxAge: '1y' });
  });
  app.get(MAT_PATH, allowed(FILE_ROUTES.mat.who), async (request, response) => {
    const { number, paper } = Mat.parse({ ...request.query, ...request.params });
    const { photoMat } = await import('../report/photo-mat.js');
    response
      .set('Cache-Control', 'no-store')
      .set('Content-Disposition', `inline; filename="photo-mat-${number}.pdf"`)
      .type('application/pdf')
      .send(await photoMat(number, paper));
  });
  app.get(STAND_PATH, allowed(FILE_ROUTES.stand.who), async (request, response) => {
    refuseInvisible(request.query);
    const { cycle, end, mat, pose } = StandQuery.parse(request.query);
    if (!(await shopOf(database)).rules.standIns.includes('photo-stand'))
      throw new Refusal('notFound', $localize`The photo stand is not simulated in this shop.`);
    const { state, facts } = await cycleAt(database, cycle);
    const measured = facts.mats.find(({ matNumber }) => matNumber === mat);
    const second =
      facts.spec.edgeLengthMm > ONE_MAT_HOLDS_MM
        ? facts.mats.find(({ matNumber }) => matNumber !== mat)
        : undefined;
    const { across, down } = measured ?? { across: 1, down: 1 };
    const picture = await pictures.run('stand', {
      matNumber: mat,
      print: { across, down },
      ...(second && { beside: { matNumber: second.matNumber, print: second } }),
      end,
      hand: facts.spec.hand,
      widthsMm: trueWidthsMm(state, facts, end),
      pose,
    });
    response.set('Cache-Control', 'no-store').type('image/jpeg').send(Buffer.from(picture));
  });
}
