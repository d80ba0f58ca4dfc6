import { createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import {
  FILE_ROUTES,
  EXPORT_PATH,
  IMPORT_PATH,
  PACKAGE_MEDIA_TYPE,
  type ImportSays,
} from '@tally-stone/contract';
import { Refusal } from '@tally-stone/cycle';
import type { Express, Request, Response } from 'express';
import { exportShop } from '../data-package/export.js';
import { importShop } from '../data-package/import.js';
import type { Database } from '../database.js';
import { toProblem } from './problem.js';
import { allowed } from './sessions.js';

/** A package larger than this is brought in by `npm run import`. */
const MOST_BYTES = 4 * 2 ** 30;

/** Aborts once whoever asked is gone. */
function untilGone(response: Response): AbortSignal {
  const gone = new AbortController();
  response.once('close', () => {
    if (!response.writableFinished) gone.abort();
  });
  return gone.signal;
}

async function receive(request: Request, file: string, signal: AbortSignal): Promise<void> {
  let bytes = 0;
  const counted = new Transform({
    transform(part: Buffer, _encoding, next) {
      bytes += part.length;
      next(
        bytes > MOST_BYTES
          ? new Refusal(
              'tooLarge',
              $localize`This package is larger than 4 GB: bring it in with npm run import.`,
            )
          : null,
        part,
      );
    },
  });
  await pipeline(request, counted, createWriteStream(file), { signal });
}

/** The whole shop out as one file, and in again where there is nothing yet. */
export function mountPackages(app: Express, database: Database): void {
  const { connection } = database;
  app.get(EXPORT_PATH, allowed(FILE_ROUTES.exportShop.who), async (_request, response) => {
    const created = new Date().toISOString();
    response
      .set('Cache-Control', 'no-store')
      .attachment(`tally-stone-${created.slice(0, 10)}.zip`)
      .type(PACKAGE_MEDIA_TYPE);
    const signal = untilGone(response);
    await exportShop(connection, response, created, { signal }).catch((error: unknown) => {
      if (!signal.aborted) throw error;
    });
  });
  app.post(IMPORT_PATH, async (request, response) => {
    // Before anybody works here nobody can sign in: whoever may start the server may bring a shop in.
    if (response.locals['locked'])
      throw new Refusal(
        'notAllowed',
        $localize`Where people sign in, a shop is brought in on the server itself: npm run import -- FILE.`,
      );
    if (!request.is(PACKAGE_MEDIA_TYPE))
      throw new Refusal('notAsJson', $localize`Send the package as ${PACKAGE_MEDIA_TYPE}.`);
    const folder = mkdtempSync(join(dirname(connection.file), 'import-'));
    const signal = untilGone(response);
    const say = (what: ImportSays): void => {
      response.write(`${JSON.stringify(what)}\n`);
    };
    try {
      const file = join(folder, 'shop.zip');
      await receive(request, file, signal);
      response.set('Cache-Control', 'no-store').type('application/x-ndjson');
      const { rows, photos, signedCycles, head } = await importShop(database, file, {
        signal,
        tell: say,
      });
      const { blade: blades = 0, mower: mowers = 0 } = rows;
      say({ done: { blades, mowers, signedCycles, entries: head.sequence, photos } });
    } catch (error) {
      if (signal.aborted) return;
      if (!response.headersSent || !(error instanceof Refusal)) throw error;
      say({
        problem: toProblem(error, request.originalUrl, response.locals['requestId'] as string),
      });
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
    response.end();
  });
}
