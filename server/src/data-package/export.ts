import { createHash } from 'node:crypto';
import { createReadStream, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Readable, Transform, type Writable } from 'node:stream';
import { finished, pipeline } from 'node:stream/promises';
import Papa from 'papaparse';
import { QueryTypes } from 'sequelize';
import yazl from 'yazl';
import { Connection } from '../db/connection.js';
import { MIGRATION_NAMES } from '../db/migrate.js';
import { hasPhoto, photoFile, photoFolder } from '../photo/photos.js';
import { entries, headOf } from '../record/chain.js';
import { quantityUnits, resourceName, tablesOf, type Table } from './tables.js';

/** What is under way, for whoever waits. */
export interface Progress {
  readonly resource: string;
  readonly rows: number;
}

export interface Watch {
  readonly signal?: AbortSignal;
  readonly tell?: (progress: Progress) => void;
}

/** The one thing that differs between two exports of the same shop is `created`: every file carries this date. */
const EVERY_FILE = new Date(1980, 0, 1);
const PAGE = 1000;

/** The rows of a table in the order they were written, page by page. */
async function* rowsOf(connection: Connection, { name, schema }: Table, watch: Watch) {
  const columns = schema.fields.map((field) => `"${field.name}"`).join(', ');
  let rows = 0;
  for (let after = 0; ;) {
    watch.signal?.throwIfAborted();
    const page = await connection.sequelize.query<Record<string, unknown> & { _row: number }>(
      `SELECT rowid AS _row, ${columns} FROM "${name}" WHERE rowid > :after ORDER BY rowid LIMIT ${PAGE}`,
      { type: QueryTypes.SELECT, replacements: { after } },
    );
    yield page;
    rows += page.length;
    watch.tell?.({ resource: name, rows });
    const last = page.at(-1);
    if (!last || page.length < PAGE) return;
    after = last._row;
  }
}

async function* asCsv(connection: Connection, table: Table, watch: Watch) {
  const columns = table.schema.fields.map(({ name }) => name);
  yield Papa.unparse([columns], { newline: '\n' }) + '\n';
  for await (const page of rowsOf(connection, table, watch)) {
    if (page.length > 0)
      yield (
        Papa.unparse(
          page.map((row) => columns.map((column) => row[column])),
          { newline: '\n' },
        ) + '\n'
      );
  }
}

async function* asLines(connection: Connection, watch: Watch) {
  let rows = 0;
  for await (const entry of entries(connection)) {
    watch.signal?.throwIfAborted();
    yield `${JSON.stringify(entry)}\n`;
    if (++rows % PAGE === 0) watch.tell?.({ resource: 'journal', rows });
  }
}

/** A file of the package, as it says of itself. */
interface Resource {
  readonly name: string;
  readonly path: string;
  readonly bytes: number;
  readonly hash: string;
}

/**
 * The whole shop as a Frictionless Data Package in a ZIP: a CSV with its Table Schema for every table, the journal as JSON
 * Lines, the photos. Taken from a copy, so that it is the shop of one moment while others go on. Written as it is read: a large
 * shop needs no more memory than a small one. Errors: the disk's, and an `AbortError` when it is cancelled.
 */
export async function exportShop(
  connection: Connection,
  out: Writable,
  created: string,
  watch: Watch = {},
): Promise<void> {
  const folder = mkdtempSync(join(dirname(connection.file), 'export-'));
  try {
    const file = join(folder, 'shop.sqlite');
    await connection.backUpTo(file);
    const copy = new Connection(file);
    try {
      await writePackage(copy, photoFolder(connection.file), out, created, watch);
    } finally {
      await copy.close();
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function writePackage(
  connection: Connection,
  photos: string,
  out: Writable,
  created: string,
  watch: Watch,
): Promise<void> {
  const zip = new yazl.ZipFile();
  const written = pipeline(zip.outputStream, out, {
    ...(watch.signal && { signal: watch.signal }),
  });
  // A broken pipe is told where it is waited for below.
  written.catch(() => undefined);
  /** Puts one file in, and waits until it is through. */
  const put = async (name: string, path: string, parts: Readable): Promise<Resource> => {
    const hash = createHash('sha256');
    let bytes = 0;
    const counted = new Transform({
      transform(part: Buffer, _encoding, next) {
        hash.update(part);
        bytes += part.length;
        next(null, part);
      },
    });
    parts.once('error', (error) => counted.destroy(error));
    zip.addReadStream(parts.pipe(counted), path, { mtime: EVERY_FILE });
    await Promise.race([finished(counted), written]);
    return { name, path, bytes, hash: `sha256:${hash.digest('hex')}` };
  };
  try {
    const resources: object[] = [];
    for (const table of await tablesOf(connection)) {
      const path = `data/${resourceName(table.name)}.csv`;
      const said = await put(
        resourceName(table.name),
        path,
        Readable.from(asCsv(connection, table, watch)),
      );
      resources.push({ ...said, ...CSV, schema: table.schema });
    }
    const quantities = `${Papa.unparse([...quantityUnits()], { newline: '\n' })}\n`;
    resources.push({
      ...(await put('quantities', 'data/quantities.csv', Readable.from([quantities]))),
      ...CSV,
      schema: QUANTITIES_SCHEMA,
    });
    resources.push({
      ...(await put('journal', 'journal.jsonl', Readable.from(asLines(connection, watch)))),
      format: 'jsonl',
      mediatype: 'application/x-ndjson',
      encoding: 'utf-8',
    });
    for (const name of existsSync(photos) ? readdirSync(photos).sort() : []) {
      watch.signal?.throwIfAborted();
      if (!hasPhoto(photos, name)) continue;
      const said = await put(
        `photo-${name.slice(0, -'.jpg'.length)}`,
        `photos/${name}`,
        createReadStream(photoFile(photos, name)),
      );
      resources.push({ ...said, format: 'jpg', mediatype: 'image/jpeg' });
    }
    const descriptor = {
      profile: 'data-package',
      name: 'tally-stone-shop',
      title: 'A shop’s blades, their grinds and what was measured',
      created,
      version: MIGRATION_NAMES.at(-1),
      journal: { seal: await sealOf(connection), head: await headOf(connection) },
      resources,
    };
    zip.addBuffer(Buffer.from(`${JSON.stringify(descriptor, undefined, 2)}\n`), DESCRIPTOR, {
      mtime: EVERY_FILE,
    });
    zip.end();
    await written;
  } catch (error) {
    out.destroy();
    throw error;
  }
}

export const DESCRIPTOR = 'datapackage.json';

const CSV = {
  profile: 'tabular-data-resource',
  format: 'csv',
  mediatype: 'text/csv',
  encoding: 'utf-8',
  dialect: { delimiter: ',', lineTerminator: '\n', quoteChar: '"', doubleQuote: true },
};
const QUANTITIES_SCHEMA = {
  fields: [
    { name: 'quantity', type: 'string', description: 'What reading.quantity names' },
    { name: 'unit', type: 'string', description: 'UCUM code of reading.value, u and resolution' },
  ],
  primaryKey: ['quantity'],
};

/** Where the chain begins, and what it seals of the time before it. */
async function sealOf(connection: Connection): Promise<{ upTo: number; hash: string } | undefined> {
  const [seal] = await connection.sequelize.query<{ upTo: number; hash: string }>(
    'SELECT upTo, hash FROM journalSeal',
    { type: QueryTypes.SELECT },
  );
  return seal;
}
