import { cpSync, existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { build, install } from './workspace.mjs';

/** `npm run backup -- FILE [DATA_FOLDER]`: a consistent copy of the shop, also while it is in use. */
const [file, folder = 'data'] = process.argv.slice(2);
const source = resolve(folder, 'tally-stone.sqlite');
if (!file || !existsSync(source)) {
  console.error(
    file ? `There is no shop in ${folder}.` : 'Usage: npm run backup -- FILE [DATA_FOLDER]',
  );
  process.exit(1);
}
if (existsSync(file)) {
  console.error(`${file} exists already: choose another name.`);
  process.exit(1);
}
install();
build();
const { openDatabase } = await import('../server/dist/database.js');
const { connection } = await openDatabase(source);
await connection.backUpTo(resolve(file));
await connection.close();
const photos = resolve(folder, 'photos');
if (existsSync(photos)) {
  cpSync(photos, resolve(`${file}-photos`), { recursive: true });
  console.log(
    `Photos copied to ${resolve(`${file}-photos`)}; put them back as "photos" beside the database`,
  );
}
console.log(`Backed up to ${resolve(file)}`);
