import { createWriteStream, existsSync, rmSync } from 'node:fs';
import { resolve } from 'node:path';
import { build, install } from './workspace.mjs';

/** `npm run export -- FILE.zip [DATA_FOLDER]`: the whole shop as a data package, also while it is in use. */
const [file, folder = 'data'] = process.argv.slice(2);
const source = resolve(folder, 'tally-stone.sqlite');
const refuse = (words) => {
  console.error(words);
  process.exit(1);
};
if (!file) refuse('Usage: npm run export -- FILE.zip [DATA_FOLDER]');
if (!existsSync(source)) refuse(`There is no shop in ${folder}.`);
if (existsSync(file)) refuse(`${file} exists already: choose another name.`);
await install();
build();
const { Connection } = await import('../server/dist/db/connection.js');
const { exportShop } = await import('../server/dist/data-package/export.js');
const connection = new Connection(source);
const stop = new globalThis.AbortController();
process.once('SIGINT', () => stop.abort());
try {
  await exportShop(connection, createWriteStream(file), new Date().toISOString(), {
    signal: stop.signal,
    tell: ({ resource, rows }) => process.stdout.write(`\r${resource}: ${rows} rows        `),
  });
  console.log(`\nThe whole shop is in ${resolve(file)}.`);
} catch (error) {
  rmSync(file, { force: true });
  refuse(`\n${stop.signal.aborted ? 'Cancelled: nothing was left behind.' : error.message}`);
} finally {
  await connection.close();
}
