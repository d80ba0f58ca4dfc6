import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { DeckFigures, GrinderFigures, ShopRules, SpecFigures } from '@tally-stone/contract';
import Papa from 'papaparse';
import { QueryTypes } from 'sequelize';
import type * as z from 'zod';
import type { Database } from '../database.js';
import type { Connection } from '../db/connection.js';
import { rawInsertAll, wordsOfRefusal } from '../db/raw-insert.js';
import { photoFile, photoFolder } from '../photo/photos.js';
import { headOf, walk } from '../record/chain.js';
import type { Watch } from './export.js';
import { descriptorOf, Package, refuse, type Descriptor, type Head } from './package-file.js';
import { parentsFirst, resourceName, tablesOf, type Field, type Table } from './tables.js';

/** What was brought in. */
export interface ImportReport {
  readonly rows: Readonly<Record<string, number>>;
  readonly photos: number;
  /** The end of the record, as the package says and as it was found when walked. */
  readonly head: z.infer<typeof Head>;
  readonly signedCycles: number;
}

const count = async (connection: Connection, sql: string): Promise<number> => {
  const [row] = await connection.sequelize.query<{ n: number }>(sql, { type: QueryTypes.SELECT });
  return row?.n ?? 0;
};

/** A cell of a CSV as its column stores it. */
function stored({ type, name }: Field, required: boolean, cell: string, table: string): unknown {
  if (cell === '') {
    if (!required) return null;
    if (type === 'string') return '';
    throw refuse($localize`${resourceName(table)}.csv lacks ${name} in one of its rows.`);
  }
  if (type === 'number' || type === 'integer' || type === 'boolean') {
    const value = Number(cell);
    if (!Number.isFinite(value) || (type !== 'number' && !Number.isInteger(value)))
      throw refuse(
        $localize`${resourceName(table)}.csv says ${name} is "${cell.slice(0, 40)}", which is not a number.`,
      );
    return value;
  }
  return cell;
}

/** Rules and figures are held to the same schemas as when a person enters them. */
const SCHEMAS: Readonly<Record<string, z.ZodType>> = {
  'shop.rules': ShopRules.partial(),
  'specRevision.figures': SpecFigures,
  'deck.figures': DeckFigures,
  'grinder.figures': GrinderFigures,
};

function checkFigures(table: string, column: string, text: unknown): void {
  const schema = SCHEMAS[`${table}.${column}`];
  if (!schema || typeof text !== 'string') return;
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw refuse($localize`${resourceName(table)}.csv holds ${column} that are not JSON.`);
  }
  const { error } = schema.safeParse(value);
  const [issue] = error?.issues ?? [];
  if (issue)
    throw refuse(
      $localize`${resourceName(table)}.csv holds ${column} no shop can have: ${issue.path.join(' ')} ${issue.message}.`,
    );
}

const ROWS_AT_ONCE = 500;

async function insert(
  table: string,
  columns: readonly string[],
  rows: readonly (readonly unknown[])[],
): Promise<void> {
  try {
    await rawInsertAll(table, columns, rows);
  } catch (error) {
    const words = wordsOfRefusal(error);
    if (words === undefined) throw error;
    throw refuse(
      $localize`${resourceName(table)}.csv holds a row this shop’s rules refuse (${words}).`,
    );
  }
}

async function readTable(
  bundle: Package,
  resource: Descriptor['resources'][number],
  { name, schema: { fields } }: Table,
  notNull: ReadonlySet<string>,
  watch: Watch,
): Promise<number> {
  const columns = fields.map((field) => field.name);
  const source = await bundle.read(resource);
  const parsed = source.pipe(Papa.parse(Papa.NODE_STREAM_INPUT, { delimiter: ',' }));
  // A pipe hands on no errors.
  source.once('error', (error) => parsed.destroy(error));
  let head: string[] | undefined;
  let rows = 0;
  let waiting: unknown[][] = [];
  for await (const cells of parsed as unknown as AsyncIterable<string[]>) {
    if (!head) {
      head = cells;
      if (head.join() !== columns.join())
        throw refuse($localize`${resourceName(name)}.csv has other columns than it should.`);
      continue;
    }
    // The newline at the end of the file is no row.
    if (cells.length === 1 && cells[0] === '') continue;
    if (cells.length !== columns.length)
      throw refuse(
        $localize`Row ${rows + 2} of ${resourceName(name)}.csv has ${cells.length} cells, not ${columns.length}.`,
      );
    const row = fields.map((field, i) =>
      stored(field, notNull.has(field.name), cells[i] ?? '', name),
    );
    fields.forEach((field, i) => {
      checkFigures(name, field.name, row[i]);
    });
    waiting.push(row);
    rows += 1;
    if (waiting.length < ROWS_AT_ONCE) continue;
    watch.signal?.throwIfAborted();
    await insert(name, columns, waiting);
    waiting = [];
    watch.tell?.({ resource: name, rows });
  }
  await insert(name, columns, waiting);
  return rows;
}

async function* linesOf(source: Readable): AsyncGenerator<string> {
  let rest = '';
  source.setEncoding('utf8');
  for await (const part of source as AsyncIterable<string>) {
    const lines = (rest + part).split('\n');
    rest = lines.pop() ?? '';
    yield* lines;
  }
  if (rest) yield rest;
}

const ENTRY = [
  'sequence',
  'at',
  'personId',
  'commandId',
  'what',
  'subjectKind',
  'subjectId',
  'before',
  'after',
  'hash',
];

async function readJournal(
  bundle: Package,
  resource: Descriptor['resources'][number],
  watch: Watch,
): Promise<number> {
  let rows = 0;
  let waiting: unknown[][] = [];
  for await (const line of linesOf(await bundle.read(resource))) {
    let entry: Record<string, unknown>;
    try {
      entry = JSON.parse(line) as Record<string, unknown>;
    } catch {
      throw refuse($localize`Line ${rows + 1} of the journal cannot be read.`);
    }
    waiting.push(
      ENTRY.map((column) => {
        const value = entry[column] ?? null;
        return (column === 'before' || column === 'after') && value !== null
          ? JSON.stringify(value)
          : value;
      }),
    );
    rows += 1;
    if (waiting.length < ROWS_AT_ONCE) continue;
    watch.signal?.throwIfAborted();
    await insert('journal', ENTRY, waiting);
    waiting = [];
    watch.tell?.({ resource: 'journal', rows });
  }
  await insert('journal', ENTRY, waiting);
  return rows;
}

/** What no shop's rows may say together, once they are all there; the tables' own rules saw each row by itself. */
const NEVER: readonly (readonly [() => string, string])[] = [
  [
    () => $localize`blades with two open grinds`,
    'SELECT count(*) AS n FROM (SELECT bladeId FROM cycle WHERE signedAt IS NULL GROUP BY bladeId HAVING count(*) > 1)',
  ],
  [
    () => $localize`retired blades with an open grind`,
    "SELECT count(*) AS n FROM cycle JOIN blade ON blade.id = cycle.bladeId WHERE cycle.signedAt IS NULL AND blade.state = 'retired'",
  ],
  [
    () => $localize`retired blades on a mower`,
    'SELECT count(*) AS n FROM fit JOIN blade ON blade.id = fit.bladeId WHERE fit."to" IS NULL AND blade.state = \'retired\'',
  ],
  [
    () => $localize`blades on two spindles`,
    'SELECT count(*) AS n FROM (SELECT bladeId FROM fit WHERE "to" IS NULL GROUP BY bladeId HAVING count(*) > 1)',
  ],
  [
    () => $localize`rows that belong to nothing`,
    'SELECT count(*) AS n FROM pragma_foreign_key_check',
  ],
];

/**
 * Brings a whole shop in from its package, in one transaction: all of it or nothing. Every file is held against its hash,
 * every row against its table's rules, the shop's rules and figures against the schemas people's entries go through; at the end
 * the record is walked entry by entry and every signed grind is held against the digest it was signed with.
 * PINs are not in a package. Errors: a refusal in words; an `AbortError` when it is cancelled.
 */
export async function importShop(
  database: Database,
  file: string,
  watch: Watch = {},
): Promise<ImportReport> {
  const { connection } = database;
  const bundle = await Package.open(file);
  const photos = photoFolder(connection.file);
  const kept: string[] = [];
  try {
    const descriptor = await descriptorOf(bundle);
    const report = await database.signed.whileChanging(() =>
      database.atBench.whileChanging(() =>
        connection.write(async () => {
          const rows = await bringIn(connection, bundle, descriptor, watch);
          const proved = await prove(connection, descriptor);
          for (const resource of descriptor.resources.filter(({ path }) =>
            path.startsWith('photos/'),
          )) {
            watch.signal?.throwIfAborted();
            kept.push(...(await keepPhotoOf(bundle, resource, photos)));
          }
          return { rows, photos: kept.length, ...proved };
        }),
      ),
    );
    return report;
  } catch (error) {
    for (const each of kept) rmSync(each, { force: true });
    throw error;
  } finally {
    bundle.close();
  }
}

async function bringIn(
  connection: Connection,
  bundle: Package,
  descriptor: Descriptor,
  watch: Watch,
): Promise<Record<string, number>> {
  if ((await count(connection, 'SELECT count(*) AS n FROM journal')) > 0)
    throw refuse(
      $localize`This shop has a record already: a package is brought into an empty one.`,
    );
  const run = (sql: string): Promise<unknown> => connection.sequelize.query(sql);
  // Rows come table by table, so what ties tables together is held back until all are there.
  await run('PRAGMA defer_foreign_keys = ON');
  const guards = await connection.sequelize.query<{ type: string; name: string; sql: string }>(
    `SELECT type, name, sql FROM sqlite_master WHERE type = 'trigger' OR name = 'oneOpenCyclePerBlade'`,
    { type: QueryTypes.SELECT },
  );
  for (const { type, name } of guards) await run(`DROP ${type} "${name}"`);
  await run('DELETE FROM shop');
  await run('DELETE FROM journalSeal');
  const tables = parentsFirst(await tablesOf(connection));
  const resourceOf = (name: string): Descriptor['resources'][number] => {
    const found = descriptor.resources.find((each) => each.name === resourceName(name));
    if (!found) throw refuse($localize`The package lacks ${name}.`);
    return found;
  };
  const rows: Record<string, number> = {};
  for (const table of tables) {
    watch.signal?.throwIfAborted();
    watch.tell?.({ resource: table.name, rows: 0 });
    const columns = await connection.sequelize.query<{ name: string; notnull: number }>(
      `PRAGMA table_info("${table.name}")`,
      { type: QueryTypes.SELECT },
    );
    const notNull = new Set(columns.filter((each) => each.notnull).map(({ name }) => name));
    rows[table.name] = await readTable(bundle, resourceOf(table.name), table, notNull, watch);
  }
  rows['journal'] = await readJournal(bundle, resourceOf('journal'), watch);
  const { upTo, hash } = descriptor.journal.seal;
  await insert('journalSeal', ['upTo', 'hash'], [[upTo, hash]]);
  for (const { sql } of guards) await run(sql);
  return rows;
}

async function prove(
  connection: Connection,
  { journal }: Descriptor,
): Promise<Pick<ImportReport, 'head' | 'signedCycles'>> {
  for (const [what, sql] of NEVER) {
    const n = await count(connection, sql);
    if (n > 0) throw refuse($localize`The package holds ${n} ${what()}.`);
  }
  const { broken, cycles } = await walk(
    connection,
    journal.head.sequence > 0 ? [journal.head] : [],
  );
  if (broken) throw refuse($localize`The record of the package does not hold: ${broken}.`);
  const head = await headOf(connection);
  if (head.hash !== journal.head.hash)
    throw refuse($localize`The record of the package does not end where the package says.`);
  return { head, signedCycles: cycles };
}

const PHOTO = /^photos\/([0-9a-f]{32}\.jpg)$/;
/** A photo is named by the hash of what is in it, and kept only under its own name. */
async function keepPhotoOf(
  bundle: Package,
  resource: Descriptor['resources'][number],
  folder: string,
): Promise<string[]> {
  const name = PHOTO.exec(resource.path)?.[1];
  const bytes = await buffer(await bundle.read(resource));
  if (!name?.startsWith(createHash('sha256').update(bytes).digest('hex').slice(0, 32)))
    throw refuse($localize`${resource.path} is not the photo its name says.`);
  const target = photoFile(folder, name);
  if (existsSync(target)) return [];
  mkdirSync(folder, { recursive: true });
  writeFileSync(target, bytes, { flush: true });
  return [target];
}
