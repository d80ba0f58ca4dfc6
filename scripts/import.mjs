import { existsSync, mkdirSync } from 'node:fs';
import { resolve } from 'node:path';
import { build, install } from './workspace.mjs';

/** `npm run import -- FILE.zip [DATA_FOLDER]`: a data package becomes the shop of a folder that has none. */
const [file, folder = 'data'] = process.argv.slice(2);
if (!file || !existsSync(file)) {
  console.error(file ? `There is no ${file}.` : 'Usage: npm run import -- FILE.zip [DATA_FOLDER]');
  process.exit(1);
}
await install();
build();
const { lockFolder } = await import('../server/dist/db/lock.js');
const { openDatabase } = await import('../server/dist/database.js');
const { importShop } = await import('../server/dist/data-package/import.js');
const stop = new globalThis.AbortController();
process.once('SIGINT', () => stop.abort());
try {
  mkdirSync(resolve(folder), { recursive: true });
  const lock = await lockFolder(resolve(folder));
  const database = await openDatabase(resolve(folder, 'tally-stone.sqlite'));
  const { rows, photos, signedCycles, head } = await importShop(database, resolve(file), {
    signal: stop.signal,
    tell: ({ resource, rows }) => process.stdout.write(`\r${resource}: ${rows} rows        `),
  });
  await database.connection.close();
  await lock.release();
  console.log(
    `\n${rows.blade} blades, ${rows.mower} mowers, ${photos} photos. ${signedCycles} signed grinds are as they were signed; the record ends at entry ${head.sequence}, ${head.hash}.\nPINs are not in a package: set them under Shop, People before others reach the server.`,
  );
  process.exit(0);
} catch (error) {
  console.error(`\n${stop.signal.aborted ? 'Cancelled: nothing was brought in.' : error.message}`);
  process.exit(1);
}
