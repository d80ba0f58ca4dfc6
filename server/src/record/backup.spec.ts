import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from '../database.js';
import { lockFolder } from '../db/lock.js';
import { MIGRATION_NAMES } from '../db/migrate.js';
import { troubleWith } from '../db/sound.js';
import { TestShop } from '../testing/shop.js';
import { backUp, backUpInto, backupsIn, inWords, kept, restore } from './backup.js';
import { walk } from './chain.js';
import { roomFor } from './room.js';

describe('backups', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tally-stone-backup-'));
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(async () => {
    await shop.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('are whole, say where the record ends, and leave nothing half done', async () => {
    const file = join(folder, 'one.sqlite');
    const note = await backUp(shop.database.connection, file);
    expect(await troubleWith(file, MIGRATION_NAMES, 'whole')).toBeUndefined();
    expect(existsSync(`${file}.part`)).toBeFalse();
    const { head } = await walk(shop.database.connection);
    expect([note.sequence, note.hash]).toEqual([head.sequence, head.hash]);
    await expectAsync(
      backUp(shop.database.connection, join(folder, 'nowhere', 'x.sqlite')),
    ).toBeRejectedWithError(/There is no folder/);
    // A folder in the way of the file: nothing is left behind.
    mkdirSync(join(folder, 'taken.sqlite.part'));
    writeFileSync(join(folder, 'taken.sqlite.part', 'x'), '');
    await expectAsync(
      backUp(shop.database.connection, join(folder, 'taken.sqlite')),
    ).toBeRejected();
    expect(existsSync(join(folder, 'taken.sqlite'))).toBeFalse();
  });

  it('are kept by day, week and month', () => {
    const days = Array.from({ length: 400 }, (_, i) => {
      const at = new Date(Date.UTC(2026, 10, 28) - i * 86_400_000).toISOString();
      return { at, file: String(i), sequence: 1, hash: '' };
    });
    const stay = kept(days);
    expect(stay.size).toBeGreaterThan(17);
    expect(stay.size).toBeLessThanOrEqual(7 + 5 + 12);
    for (let i = 0; i < 7; i++) expect(stay.has(String(i))).toBeTrue();
  });

  it('are made into their folder, the newest first', async () => {
    const into = join(folder, 'nightly');
    const first = await backUpInto(shop.database.connection, into);
    await new Promise((later) => setTimeout(later, 5));
    const second = await backUpInto(shop.database.connection, into);
    // Two of one day: the newer one is that day's.
    expect(backupsIn(into).map(({ file }) => file)).toEqual([second.file]);
    expect(first.file).not.toBe(second.file);
  });

  it('are put back without what a newer file left beside the old one, which is kept', async () => {
    const file = join(folder, 'back.sqlite');
    await backUp(shop.database.connection, file);
    const data = join(folder, 'data');
    mkdirSync(data);
    writeFileSync(join(data, 'tally-stone.sqlite'), 'old');
    writeFileSync(join(data, 'tally-stone.sqlite-wal'), 'stale');
    const aside = await restore(file, data);
    expect(existsSync(join(data, 'tally-stone.sqlite-wal'))).toBeFalse();
    expect(readFileSync(join(aside, 'tally-stone.sqlite-wal'), 'utf8')).toBe('stale');
    const restored = await openDatabase(join(data, 'tally-stone.sqlite'));
    expect(await restored.models.mower.count()).toBe(1);
    await restored.connection.close();
  });

  it('are refused where they are damaged, cut short, empty, or a newer version’s', async () => {
    const file = join(folder, 'bad.sqlite');
    await backUp(shop.database.connection, file);
    expect(await troubleWith(join(folder, 'none.sqlite'), MIGRATION_NAMES)).toContain(
      'There is no',
    );
    expect(await troubleWith(file, MIGRATION_NAMES.slice(0, -1))).toContain('newer version');
    truncateSync(file, 40_000);
    expect(await troubleWith(file, MIGRATION_NAMES, 'whole')).toMatch(/damaged|cannot be read/);
    await expectAsync(restore(file, join(folder, 'data'))).toBeRejectedWithError(/restore/);
    writeFileSync(file, 'not a database of any kind at all');
    expect(await troubleWith(file, MIGRATION_NAMES)).toContain('no database of a shop');
    truncateSync(file, 0);
    expect(await troubleWith(file, MIGRATION_NAMES)).toContain('is empty');
  });

  it('are told when the disk is nearly full; one that is full keeps nothing and loses nothing', async () => {
    const { connection, models } = shop.database;
    const mb = 2 ** 20;
    expect(roomFor(connection, () => 9000 * mb)).toEqual({ freeMb: 9000, low: false });
    expect(roomFor(connection, () => 400 * mb).low).toBeTrue();
    expect(roomFor(connection).freeMb).toBeGreaterThan(0);
    // SQLite’s own limit of pages stands in for the disk: it refuses in the same words.
    const { sequelize } = connection;
    const begin = sequelize.transaction.bind(sequelize) as (
      options: object,
      work: () => Promise<unknown>,
    ) => Promise<unknown>;
    const full = spyOn(sequelize, 'transaction').and.callFake(((
      options: object,
      work: () => Promise<unknown>,
    ) =>
      begin(options, async () => {
        await sequelize.query('PRAGMA max_page_count = 1');
        return work();
      })) as never);
    const before = await models.blade.count();
    const many = { type: 'register-blades', specId: shop.specId, count: 100 };
    const answer = await shop.post({ ...many, ...shop.envelope() });
    expect(answer.status).toBe(507);
    expect(answer.body.detail).toContain('disk is full');
    full.and.callThrough();
    expect(await models.blade.count()).toBe(before);
    expect((await shop.post({ ...many, ...shop.envelope() })).status).toBe(200);
    expect(await models.blade.count()).toBe(before + 100);
  });

  it('say what the disk says in words', () => {
    expect(inWords({ code: 'ENOSPC' }).message).toContain('disk is full');
    expect(inWords(new Error('SQLITE_FULL: database or disk is full')).message).toContain('full');
    expect(inWords({ code: 'EROFS' }).message).toContain('cannot be written to');
    expect(inWords(new Error('other')).message).toBe('other');
  });
});

describe('a data folder', () => {
  it('is one process’s at a time, and free again when that lets go', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-lock-'));
    const lock = await lockFolder(folder);
    await expectAsync(lockFolder(folder)).toBeRejectedWithError(/Another Tally Stone works in/);
    await lock.release();
    const again = await lockFolder(folder);
    await again.release();
    await expectAsync(lockFolder(join(folder, 'nowhere'))).toBeRejectedWithError(
      /cannot be written to/,
    );
    rmSync(folder, { recursive: true, force: true });
  });
});
