import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { DAMAGE_KINDS, QUANTITY_KEYS } from '@tally-stone/core';
import { QueryTypes } from 'sequelize';
import { bladeLife } from '../screens/life.js';
import { completeCorrections } from '../cycle/corrections.js';
import { cycleView } from '../screens/cycle.js';
import { openDatabase, type Database } from '../database.js';

/** A small shop as version 0.1.0 left it: a corrected grind, a blade retired for a crack, one half ground, a strike. */
const OLD_SHOP = resolve('server/src/testing/fixtures/shop-0.1.sqlite.gz');

describe('a shop made by version 0.1.0', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tally-stone-old-'));
  const file = join(folder, 'shop.sqlite');
  const told: string[] = [];
  let database: Database;
  beforeAll(async () => {
    writeFileSync(file, gunzipSync(readFileSync(OLD_SHOP)));
    database = await openDatabase(file, 'power-safe', (words) => told.push(words));
    await completeCorrections(database);
  });
  afterAll(async () => {
    await database.connection.close();
    rmSync(folder, { recursive: true, force: true });
  });
  const sql = <T extends object>(text: string) =>
    database.connection.sequelize.query<T>(text, { type: QueryTypes.SELECT });

  it('is copied beside itself before it is changed, and the copy is the old one', async () => {
    const copy = `${file}.before-0010-kinds-as-rows`;
    expect(told).toEqual([jasmine.stringContaining(copy)]);
    expect(existsSync(copy)).toBeTrue();
  });

  it('is whole, with every reading, mark, pass, round and line of its journal', async () => {
    const [row] = await sql<Record<string, number>>(`SELECT
      (SELECT count(*) FROM reading) AS readings, (SELECT count(*) FROM damage) AS marks,
      (SELECT count(*) FROM pass) AS passes, (SELECT count(*) FROM balanceRound) AS rounds,
      (SELECT count(*) FROM journal) AS journal, (SELECT count(*) FROM blade) AS blades,
      (SELECT count(*) FROM correction) AS corrections, (SELECT count(*) FROM strike) AS strikes`);
    expect(row).toEqual({
      readings: 37,
      marks: 1,
      passes: 4,
      rounds: 1,
      journal: 68,
      blades: 3,
      corrections: 1,
      strikes: 1,
    });
    expect(await sql('PRAGMA integrity_check')).toEqual([{ integrity_check: 'ok' }]);
    expect(await sql('PRAGMA foreign_key_check')).toEqual([]);
  });

  it('shows what was signed in the words it was signed with, and the correction worked out', async () => {
    const cycles = await database.models.cycle.findAll({ order: [['openedAt', 'ASC']] });
    const [ground, cracked, halfWay] = await Promise.all(
      cycles.map(({ id }) => cycleView(database, id)),
    );
    expect(ground?.now.findings.every(({ words }) => words.length > 10)).toBeTrue();
    expect(ground?.corrected?.witnesses.said.scale?.value).toBeCloseTo(9.1, 9);
    expect(cracked?.signedOff?.retireReason).toBe('crack');
    expect(cracked?.now.findings[0]?.words).toContain('never ground or fitted again');
    expect(halfWay?.passes.map(({ count }) => count)).toEqual([2, 2]);
    const life = await bladeLife(database, ground?.blade.bladeId ?? '');
    expect(life.cycles[0]?.removedG?.value).toBeCloseTo(9.1, 9);
  });

  it('knows every kind of the vocabulary, so that none is refused by the file', async () => {
    const keys = async (table: string) =>
      (await sql<{ key: string }>(`SELECT key FROM ${table}`)).map(({ key }) => key).sort();
    expect(await keys('quantity')).toEqual([...QUANTITY_KEYS].sort());
    expect(await keys('damageKind')).toEqual([...DAMAGE_KINDS].sort());
  });
});
