import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { build, install } from './workspace.mjs';

/** `npm run backup -- FILE [DATA_FOLDER]`: a proved copy of the shop, also while it is in use. */
const [file, folder = 'data'] = process.argv.slice(2);
const source = resolve(folder, 'tally-stone.sqlite');
const refuse = (words) => {
  console.error(words);
  process.exit(1);
};
if (!file) refuse('Usage: npm run backup -- FILE [DATA_FOLDER]');
if (!existsSync(source)) refuse(`There is no shop in ${folder}.`);
if (existsSync(file)) refuse(`${file} exists already: choose another name.`);
await install();
build();
const { Connection } = await import('../server/dist/db/connection.js');
const { backUp } = await import('../server/dist/record/backup.js');
const connection = new Connection(source);
try {
  const { sequence, hash } = await backUp(connection, resolve(file));
  console.log(
    `Backed up to ${resolve(file)}, opened and found whole.\nThe record ends at entry ${sequence}, ${hash}`,
  );
} catch (error) {
  refuse(error.message);
} finally {
  await connection.close();
}
