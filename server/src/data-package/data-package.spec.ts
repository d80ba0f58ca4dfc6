import { createHash } from 'node:crypto';
import { createWriteStream, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import type { ImportSays, Problem, RackView } from '@tally-stone/contract';
import ucum from '@lhncbc/ucum-lhc';
import { convert, kindOf, UNIT_NAMES, unitsOf, type Unit } from '@tally-stone/core';
import { Resource } from 'datapackage';
import sharp from 'sharp';
import { v7 as uuidv7 } from 'uuid';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { openDatabase, type Database } from '../database.js';
import { serve } from '../http/serve.js';
import { emptyShop, TestShop } from '../testing/shop.js';
import { exportShop } from './export.js';
import { importShop } from './import.js';

const SITE = 'The "old" yard, =north; 1,5';
const STAMP = '2026-11-28T12:00:00.000Z';

/** The files of a package by their paths. */
async function filesOf(bytes: Buffer): Promise<Map<string, Buffer>> {
  const files = new Map<string, Buffer>();
  const zip = await yauzl.fromBufferPromise(bytes);
  for await (const entry of zip.eachEntry())
    files.set(entry.fileName, await buffer(await zip.openReadStreamPromise(entry)));
  return files;
}

async function packed(files: ReadonlyMap<string, Buffer>, file: string): Promise<void> {
  const zip = new yazl.ZipFile();
  for (const [path, bytes] of files) zip.addBuffer(bytes, path);
  zip.end();
  writeFileSync(file, await buffer(zip.outputStream));
}

async function emptyIn(folder: string): Promise<Database> {
  const file = join(folder, 'shop.sqlite');
  writeFileSync(file, await emptyShop());
  return openDatabase(file);
}

/** With its hash and length made right again, as somebody would who knows how. */
function changed(
  files: ReadonlyMap<string, Buffer>,
  path: string,
  change: (text: string) => string,
): Map<string, Buffer> {
  const bytes = Buffer.from(change((files.get(path) ?? Buffer.alloc(0)).toString('utf8')));
  const descriptor = JSON.parse((files.get('datapackage.json') ?? '').toString()) as {
    resources: { path: string; hash: string; bytes: number }[];
  };
  for (const resource of descriptor.resources.filter((each) => each.path === path)) {
    resource.hash = `sha256:${createHash('sha256').update(bytes).digest('hex')}`;
    resource.bytes = bytes.length;
  }
  return new Map(files)
    .set(path, bytes)
    .set('datapackage.json', Buffer.from(JSON.stringify(descriptor)));
}

describe('the whole shop as a data package', () => {
  let shop: TestShop;
  let folder: string;
  let exported: Buffer;
  let files: Map<string, Buffer>;
  const opened: Database[] = [];

  /** An empty shop in a folder of its own. */
  const empty = async (): Promise<Database> => {
    const database = await emptyIn(mkdtempSync(join(folder, 'shop-')));
    opened.push(database);
    return database;
  };
  const exportOf = async ({ connection }: Database): Promise<Buffer> => {
    const out = new PassThrough();
    const [bytes] = await Promise.all([buffer(out), exportShop(connection, out, STAMP)]);
    return bytes;
  };
  const bringIn = async (into: Database, these: ReadonlyMap<string, Buffer>) => {
    const file = join(folder, `${uuidv7()}.zip`);
    await packed(these, file);
    return importShop(into, file);
  };
  const nothingIn = async ({ models }: Database): Promise<void> => {
    expect(await models.blade.count()).toBe(0);
    expect(await models.journal.count()).toBe(0);
  };

  beforeAll(async () => {
    shop = await TestShop.open();
    folder = mkdtempSync(join(tmpdir(), 'tally-stone-package-'));
    const signed = await shop.openCycle();
    await signed.upToSignOff();
    const form = new FormData();
    const picture = await sharp({
      create: { width: 60, height: 40, channels: 3, background: 'grey' },
    })
      .jpeg()
      .toBuffer();
    form.append('photo', new Blob([new Uint8Array(picture)], { type: 'image/jpeg' }), 'tip.jpg');
    const sent = await fetch(`${shop.serving.address}/api/v1/photos`, {
      method: 'POST',
      body: form,
    });
    const { file } = (await sent.json()) as { file: string };
    await signed.do({ type: 'attach-photo', photoId: uuidv7(), file });
    await shop.send({
      type: 'measure-mat',
      measureId: uuidv7(),
      matNumber: 2,
      across: { text: '139.9', unit: 'mm' },
      down: { text: '140.2', unit: 'mm' },
    });
    await signed.do({
      type: 'read-edge',
      edgeId: uuidv7(),
      file,
      end: 'B',
      phase: 'before',
      edge: {
        matNumber: 2,
        widthsMm: Array.from({ length: 40 }, (_, i) => (i === 3 ? null : 60 + i / 100)),
        placeU: 0.01,
        sharedU: 0.05,
        pxPerMm: 9,
        misfitMm: 0.01,
        blurMm: 0.1,
      },
      readings: [],
    });
    await signed.do({ type: 'sign-off', outcome: 'hold' });
    const open = await shop.openCycle();
    await open.inspectClean();
    await open.do({
      type: 'mark-damage',
      damageId: uuidv7(),
      kind: 'nick',
      end: 'A',
      fromTip: { text: '20', unit: 'mm' },
      depth: { text: '1,25', unit: 'mm' },
    });
    await shop.send({
      type: 'add-mower',
      mowerId: uuidv7(),
      name: 'Dunnock',
      energy: 'petrol',
      site: SITE,
      bladeSpeedRpm: 3000,
      hoursH: 12.5,
      spindles: [{ spindleId: uuidv7(), position: 'middle' }],
    });
    await shop.send({
      type: 'fit-blade',
      fitId: uuidv7(),
      bladeId: await shop.readyBlade(),
      spindleId: shop.spindleIds[0],
      hoursH: 101,
    });
    exported = await exportOf(shop.database);
    files = await filesOf(exported);
  }, 60_000);

  afterAll(async () => {
    for (const { connection, heavy, pictures } of opened) {
      await connection.close();
      await heavy.close();
      await pictures.close();
    }
    await shop.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('comes out byte for byte as it went in, photos, open grinds and awkward texts too', async () => {
    const into = await empty();
    const report = await bringIn(into, files);
    expect(report.photos).toBe(1);
    expect(report.signedCycles).toBe(1);
    expect(report.rows['blade']).toBe(3);
    expect(report.head.sequence).toBe(report.rows['journal'] ?? NaN);
    expect((await exportOf(into)).equals(exported)).toBeTrue();
  });

  it('is what an independent reader of data packages calls valid', async () => {
    const descriptor = JSON.parse((files.get('datapackage.json') ?? '').toString()) as {
      resources: { path: string; name: string; schema?: object }[];
    };
    const tables = descriptor.resources.filter(({ path }) => path.endsWith('.csv'));
    expect(tables.length).toBeGreaterThan(28);
    for (const { path, ...table } of tables) {
      const text = (files.get(path) ?? '').toString();
      const out = join(folder, 'table.csv');
      writeFileSync(out, text);
      const resource = await Resource.load({ ...table, path: 'table.csv' }, { basePath: folder });
      expect(resource.valid)
        .withContext(`${table.name}: ${String(resource.errors)}`)
        .toBeTrue();
      // Every cell is read by its field's type: one that is not of it throws.
      const rows = await resource.read({ keyed: true });
      expect(rows.length).withContext(table.name).toBeGreaterThanOrEqual(0);
      if (table.name === 'mower') expect(rows.map((row) => row['site'])).toContain(SITE);
    }
  });

  it('names units by codes that a table of UCUM knows, and converts its own as that table does', () => {
    const table = ucum.UcumLhcUtils.getInstance();
    const descriptor = (files.get('datapackage.json') ?? '').toString();
    const quantities = (files.get('data/quantities.csv') ?? '').toString().trim().split('\n');
    const codes = [
      ...[...descriptor.matchAll(/"unit": "([^"]+)"/g)].map(([, unit]) => unit),
      ...quantities.slice(1).map((row) => row.split(',')[1]),
    ];
    for (const code of new Set(codes))
      expect(table.validateUnitString(code ?? '').status)
        .withContext(code ?? '')
        .toBe('valid');
    const UCUM: Readonly<Record<Unit, string>> = {
      mm: 'mm',
      in: '[in_i]',
      g: 'g',
      kg: 'kg',
      oz: '[oz_av]',
      lb: '[lb_av]',
      deg: 'deg',
      'N·m': 'N.m',
      'lbf·ft': '[lbf_av].[ft_i]',
      'lbf·in': '[lbf_av].[in_i]',
      'kgf·m': 'kgf.m',
      'g·mm': 'g.mm',
      'oz·in': '[oz_av].[in_i]',
    };
    for (const unit of UNIT_NAMES)
      for (const other of unitsOf(kindOf(unit))) {
        const theirs = table.convertUnitTo(UCUM[unit], 3, UCUM[other]).toVal ?? NaN;
        expect(convert(3, unit, other) / theirs)
          .withContext(`${unit} in ${other}`)
          .toBeCloseTo(1, 9);
      }
  });

  it('names the units it has and holds no secret', () => {
    const descriptor = (files.get('datapackage.json') ?? '').toString();
    const units = [...descriptor.matchAll(/"unit": "([^"]+)"/g)].map(([, unit]) => unit);
    expect([...new Set(units)].sort()).toEqual(['g', 'g.mm', 'h', 'h/d', 'mm', '{rev}/min']);
    expect((files.get('data/quantities.csv') ?? '').toString()).toContain('bevel,deg');
    for (const [path, bytes] of files)
      expect(bytes.includes('pinHash')).withContext(path).toBeFalse();
  });

  const refusals: readonly (readonly [string, () => Map<string, Buffer>, RegExp])[] = [
    [
      'a file changed on the way',
      () =>
        new Map(files).set(
          'data/blade.csv',
          Buffer.from(String(files.get('data/blade.csv')).replace('hold', 'gone')),
        ),
      /data\/blade\.csv was changed since/,
    ],
    [
      'a file that is missing',
      () => {
        const fewer = new Map(files);
        fewer.delete('data/cycle.csv');
        return fewer;
      },
      /data\/cycle\.csv is missing/,
    ],
    [
      'a reading of a signed grind made better, with hashes to match',
      () => changed(files, 'data/reading.csv', (text) => text.replace(/,61\.5,/, ',62,')),
      /changed since it was signed off/,
    ],
    [
      'an entry of the journal taken out',
      () => changed(files, 'journal.jsonl', (text) => text.replace(/^.*\n/, '')),
      /entry 1 is missing/,
    ],
    [
      'a state no blade has',
      () => changed(files, 'data/blade.csv', (text) => text.replace(/,hold,/, ',sharp,')),
      /blade\.csv holds a row this shop’s rules refuse/,
    ],
    [
      'a figure that is not a number',
      () => changed(files, 'data/reading.csv', (text) => text.replace(/,61\.5,/, ',sixty,')),
      /says value is "sixty", which is not a number/,
    ],
    [
      'a fit on a spindle that is not there',
      () => changed(files, 'data/spindle.csv', (text) => `${text.split('\n')[0] ?? ''}\n`),
      /rows that belong to nothing|FOREIGN KEY/,
    ],
    [
      'figures no spec can have',
      () =>
        changed(files, 'data/spec-revision.csv', (text) =>
          text.replace(/thicknessMm"":/, 'thicknessMm"":-'),
        ),
      /spec-revision\.csv holds figures no shop can have/,
    ],
    [
      'another version’s',
      () =>
        changed(files, 'datapackage.json', (text) => text).set(
          'datapackage.json',
          Buffer.from(
            String(files.get('datapackage.json')).replace(/"version": "\d{4}/, '"version": "9999'),
          ),
        ),
      /made by a newer version/,
    ],
    [
      'a ZIP file of something else',
      () => new Map([['readme.txt', Buffer.from('no')]]),
      /holds no datapackage\.json/,
    ],
  ];
  it('refuses what is not whole or not of this shop, and brings nothing in', async () => {
    const into = await empty();
    for (const [what, made, words] of refusals) {
      await expectAsync(bringIn(into, made())).withContext(what).toBeRejectedWithError(words);
      await nothingIn(into);
    }
    expect((await bringIn(into, files)).signedCycles).toBe(1);
    // The guards that are lifted for it stand again.
    for (const sql of [
      'DELETE FROM journal',
      'DELETE FROM reading',
      'UPDATE specRevision SET revision = 9',
    ])
      await expectAsync(into.connection.sequelize.query(sql)).withContext(sql).toBeRejected();
  });

  it('goes only where nothing is, says so, and can be cancelled', async () => {
    const into = await empty();
    const file = join(folder, 'once.zip');
    writeFileSync(file, exported);
    const stop = new AbortController();
    await expectAsync(
      importShop(into, file, { signal: stop.signal, tell: () => stop.abort() }),
    ).toBeRejected();
    stop.abort();
    await expectAsync(importShop(into, file, { signal: stop.signal })).toBeRejected();
    await nothingIn(into);
    await importShop(into, file);
    await expectAsync(importShop(into, file)).toBeRejectedWithError(/has a record already/);
    const broken = join(folder, 'broken.zip');
    writeFileSync(broken, readFileSync(file).subarray(0, 5000));
    await expectAsync(importShop(await empty(), broken)).toBeRejectedWithError(/not a ZIP file/);
    const out = createWriteStream(join(folder, 'never.zip'));
    await expectAsync(
      exportShop(shop.database.connection, out, STAMP, { signal: AbortSignal.abort() }),
    ).toBeRejected();
  });

  it('goes over the wire both ways, and the shop works on at once', async () => {
    const down = await fetch(`${shop.serving.address}/api/v1/export`);
    expect(down.headers.get('content-disposition')).toMatch(/tally-stone-\d{4}-\d\d-\d\d\.zip/);
    const bytes = await down.arrayBuffer();
    const database = await emptyIn(mkdtempSync(join(folder, 'shop-')));
    const serving = await serve({ database, host: '127.0.0.1', port: 0 });
    const send = async (body: string | ArrayBuffer, type = 'application/zip') => {
      const answer = await fetch(`${serving.address}/api/v1/import`, {
        method: 'POST',
        headers: { 'Content-Type': type },
        body,
      });
      return { status: answer.status, text: await answer.text() };
    };
    expect((await send('{}', 'application/json')).status).toBe(415);
    const last = async (body: string | ArrayBuffer): Promise<ImportSays> =>
      JSON.parse((await send(body)).text.trim().split('\n').at(-1) ?? '') as ImportSays;
    const refused = await send('no zip');
    expect(refused.status).toBe(422);
    expect((JSON.parse(refused.text) as Problem).detail).toContain('not a ZIP file');
    expect(await last(bytes)).toEqual({
      done: jasmine.objectContaining({ blades: 3, mowers: 2, signedCycles: 1, photos: 1 }),
    });
    const rack = (await (await fetch(`${serving.address}/api/v1/rack`)).json()) as RackView;
    expect(JSON.stringify(rack)).toContain('hold');
    const registered = await fetch(`${serving.address}/api/v1/commands`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        type: 'register-blades',
        specId: shop.specId,
        count: 1,
        ...shop.envelope(),
      }),
    });
    expect(registered.status).toBe(200);
    await serving.close();
  });
});
