import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { build, install } from './workspace.mjs';

/**
 * `npm run verify [-- DATA_FOLDER [SEQUENCE:HASH …]]`: walks the record and the signed-off cycles, and holds them
 * against the heads of the backups and those that were written down.
 */
const [folder = 'data', ...heads] = process.argv.slice(2);
const source = resolve(folder, 'tally-stone.sqlite');
if (!existsSync(source)) {
  console.error(`There is no shop in ${folder}.`);
  process.exit(1);
}
await install();
build();
const { Connection } = await import('../server/dist/db/connection.js');
const { walk } = await import('../server/dist/record/chain.js');
const backups = join(resolve(folder), 'backups');
const noted = existsSync(backups)
  ? readdirSync(backups)
      .filter((name) => name.endsWith('.sqlite.json'))
      .map((name) => JSON.parse(readFileSync(join(backups, name), 'utf8')))
  : [];
const written = heads.map((head) => {
  const [sequence, hash] = head.split(':');
  return { sequence: Number(sequence), hash };
});
const connection = new Connection(source);
const { entries, cycles, head, broken } = await walk(connection, [...noted, ...written]);
await connection.close();
if (broken) {
  console.error(`The record is not as it was written: ${broken}.`);
  process.exit(1);
}
console.log(
  `${entries} entries and ${cycles} signed-off cycles are as they were written; ${noted.length + written.length} heads written down earlier agree.\nWrite this down: ${head.sequence}:${head.hash}`,
);
