import { existsSync, mkdirSync } from 'node:fs';
import { resolve } from 'node:path';
import { build, install } from './workspace.mjs';

/** `npm run restore -- FILE [DATA_FOLDER]`: puts a backup in the shop's place and keeps what was there. */
const [file, folder = 'data'] = process.argv.slice(2);
if (!file || !existsSync(file)) {
  console.error(file ? `There is no ${file}.` : 'Usage: npm run restore -- FILE [DATA_FOLDER]');
  process.exit(1);
}
await install();
build();
const { lockFolder } = await import('../server/dist/db/lock.js');
const { restore } = await import('../server/dist/record/backup.js');
try {
  mkdirSync(resolve(folder), { recursive: true });
  const lock = await lockFolder(resolve(folder));
  const aside = await restore(resolve(file), resolve(folder));
  await lock.release();
  console.log(`Restored from ${resolve(file)}. What was there is kept in ${aside}.`);
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
