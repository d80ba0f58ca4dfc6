import { createHash } from 'node:crypto';
import { PassThrough, type Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { Refusal } from '@tally-stone/cycle';
import yauzl from 'yauzl';
import * as z from 'zod';
import { MIGRATION_NAMES } from '../db/migrate.js';
import { DESCRIPTOR } from './export.js';

export const Head = z.object({ sequence: z.int(), hash: z.string() });
/** As much of a descriptor as the import goes by. */
const Descriptor = z.object({
  name: z.literal('tally-stone-shop'),
  version: z.string(),
  journal: z.object({ seal: z.object({ upTo: z.int(), hash: z.string() }), head: Head }),
  resources: z.array(
    z.object({ name: z.string(), path: z.string(), hash: z.string(), bytes: z.int() }),
  ),
});
export type Descriptor = z.infer<typeof Descriptor>;

/** Says why a package is not taken. */
export const refuse = (words: string): Refusal =>
  new Refusal('invalid', $localize`${words} Nothing was brought in.`, [
    { field: 'file', message: words },
  ]);

/** A package as a ZIP file on disk. */
export class Package {
  private constructor(
    private readonly zip: yauzl.ZipFile,
    private readonly entries: ReadonlyMap<string, yauzl.Entry>,
  ) {}

  static async open(file: string): Promise<Package> {
    const zip = await new Promise<yauzl.ZipFile>((resolve, reject) => {
      yauzl.open(file, { lazyEntries: true, autoClose: false }, (error, opened) => {
        if (error) reject(refuse($localize`This is not a ZIP file, or a part of it is missing.`));
        else resolve(opened);
      });
    });
    const entries = new Map<string, yauzl.Entry>();
    await new Promise<void>((resolve, reject) => {
      zip.on('entry', (entry: yauzl.Entry) => {
        entries.set(entry.fileName, entry);
        zip.readEntry();
      });
      zip.once('end', resolve);
      zip.once('error', () => {
        reject(refuse($localize`This ZIP file is damaged.`));
      });
      zip.readEntry();
    });
    return new Package(zip, entries);
  }

  has(path: string): boolean {
    return this.entries.has(path);
  }

  /** A file of the package as it is read. Its hash is proved at its end: what comes after a wrong one is an error. */
  async read({
    path,
    hash,
    bytes,
  }: Pick<Descriptor['resources'][number], 'path'> &
    Partial<Descriptor['resources'][number]>): Promise<Readable> {
    const entry = this.entries.get(path);
    if (!entry) throw refuse($localize`${path} is missing from the package.`);
    if (bytes !== undefined && entry.uncompressedSize !== bytes)
      throw refuse($localize`${path} is not as long as the package says.`);
    const stream = await new Promise<Readable>((resolve, reject) => {
      this.zip.openReadStream(entry, (error, opened) => {
        if (error) reject(refuse($localize`${path} cannot be read.`));
        else resolve(opened);
      });
    });
    const found = createHash('sha256');
    const proved = new PassThrough({
      transform(part: Buffer, _encoding, next) {
        found.update(part);
        next(null, part);
      },
      flush(done) {
        const wrong = hash !== undefined && hash !== `sha256:${found.digest('hex')}`;
        done(wrong ? refuse($localize`${path} was changed since the package was made.`) : null);
      },
    });
    void pipeline(stream, proved).catch((error: unknown) => {
      proved.destroy(error instanceof Refusal ? error : refuse($localize`${path} is damaged.`));
    });
    return proved;
  }

  close(): void {
    this.zip.close();
  }
}

/** What a package says of itself. Errors: where it is none, or of another version. */
export async function descriptorOf(bundle: Package): Promise<Descriptor> {
  if (!bundle.has(DESCRIPTOR))
    throw refuse(
      $localize`This ZIP file holds no ${DESCRIPTOR}:file:: choose one that "Export the shop" made.`,
    );
  let parsed: unknown;
  try {
    parsed = JSON.parse((await buffer(await bundle.read({ path: DESCRIPTOR }))).toString('utf8'));
  } catch {
    throw refuse($localize`${DESCRIPTOR} cannot be read.`);
  }
  const descriptor = Descriptor.safeParse(parsed);
  if (!descriptor.success) throw refuse($localize`This package is not a shop of Tally Stone.`);
  const known = MIGRATION_NAMES.at(-1);
  if (descriptor.data.version !== known) {
    throw refuse(
      MIGRATION_NAMES.includes(descriptor.data.version)
        ? $localize`This package was made by an older version: open its shop with this version once, and export it again.`
        : $localize`This package was made by a newer version: bring it into that one.`,
    );
  }
  return descriptor.data;
}
