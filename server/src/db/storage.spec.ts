import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BaseError, QueryTypes } from 'sequelize';
import { TestShop } from '../testing/shop.js';
import { openDatabase } from './database.js';

describe('storage', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());

  const sql = <T extends object>(
    text: string,
    replacements: Record<string, unknown> = {},
  ): Promise<T[]> =>
    shop.database.connection.sequelize.query<T>(text, { type: QueryTypes.SELECT, replacements });
  /** Sequelize calls every refusal of SQLite a unique constraint; SQLite's own words are beneath. */
  const run = async (text: string): Promise<unknown> => {
    try {
      return await shop.database.connection.sequelize.query(text);
    } catch (error) {
      throw new Error(error instanceof BaseError ? inner(error) : String(error));
    }
  };
  const inner = (error: BaseError): string =>
    (error as BaseError & { parent?: Error }).parent?.message ?? error.message;

  it('sets every pragma on the connection of every transaction', async () => {
    const seen = await shop.database.connection.write(async ({ transaction }) => {
      const ask = async (pragma: string): Promise<unknown> => {
        const [row] = await shop.database.connection.sequelize.query<Record<string, unknown>>(
          `PRAGMA ${pragma}`,
          { type: QueryTypes.SELECT, transaction },
        );
        return Object.values(row ?? {})[0];
      };
      return {
        journal: await ask('journal_mode'),
        synchronous: await ask('synchronous'),
        foreignKeys: await ask('foreign_keys'),
        busy: await ask('busy_timeout'),
        recursive: await ask('recursive_triggers'),
      };
    });
    expect(seen).toEqual({
      journal: 'wal',
      synchronous: 2,
      foreignKeys: 1,
      busy: 5000,
      recursive: 1,
    });
  });

  it('still has every trigger after the last migration', async () => {
    const rows = await sql<{ name: string }>(
      "SELECT name FROM sqlite_master WHERE type = 'trigger' ORDER BY name",
    );
    const names = rows.map(({ name }) => name);
    const children = ['reading', 'damage', 'pass', 'balanceRound'].flatMap((table) =>
      ['Insert', 'Update', 'Delete'].map((what) => `${table}No${what}OnceSigned`),
    );
    expect(names).toEqual(
      [
        ...children,
        'commandNoDelete',
        'commandNoReplace',
        'commandNoUpdate',
        'cycleNoDelete',
        'cycleNoReplace',
        'cycleNoUpdateOnceSigned',
        'cycleNoneForRetired',
        'fitNoneForRetired',
        'journalNoDelete',
        'journalNoReplace',
        'journalNoUpdate',
        'specRevisionNoUpdate',
      ].sort(),
    );
  });

  it('still has its CHECKs after the last migration', async () => {
    const rows = await sql<{ name: string; sql: string }>(
      "SELECT name, sql FROM sqlite_master WHERE type = 'table'",
    );
    const checks = Object.fromEntries(
      rows.map(({ name, sql: text }) => [name, text.match(/CHECK/g)?.length ?? 0]),
    );
    expect(checks).toEqual(
      jasmine.objectContaining({
        shop: 1,
        person: 2,
        specRevision: 3,
        blade: 5,
        bladeCode: 1,
        cycle: 6,
        reading: 12,
        damage: 6,
        grinder: 1,
        grinderCheck: 3,
        pass: 2,
        balanceRound: 7,
        correction: 4,
        mower: 1,
        deck: 2,
        hourMeterSegment: 2,
        deckDue: 4,
        strike: 4,
        cutReport: 2,
        fit: 2,
        setMembership: 1,
        command: 3,
      }),
    );
  });

  it('has the same columns in its models as in the file', async () => {
    for (const table of Object.values(shop.database.tables)) {
      const columns = await sql<{ name: string }>(`PRAGMA table_info("${table.name}")`);
      expect(Object.keys(table.model.getAttributes()).sort())
        .withContext(table.name)
        .toEqual(columns.map(({ name }) => name).sort());
    }
  });

  it('refuses to rewrite the journal by UPDATE, DELETE or INSERT OR REPLACE', async () => {
    await expectAsync(run(`UPDATE journal SET what = 'nothing'`)).toBeRejectedWithError(
      /append-only/,
    );
    await expectAsync(run(`DELETE FROM journal`)).toBeRejectedWithError(/append-only/);
    await expectAsync(
      run(
        `INSERT OR REPLACE INTO journal (sequence, at, personId, commandId, what, subjectKind, subjectId)
         VALUES (1, '', '', '', 'nothing', 'blade', '')`,
      ),
    ).toBeRejectedWithError(/append-only/);
    const [first] = await sql<{ what: string }>('SELECT what FROM journal WHERE sequence = 1');
    expect(first?.what).toBe('person added');
  });

  it('refuses to touch a signed-off cycle or anything in it', async () => {
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const where = `WHERE id = '${cycle.cycleId}'`;
    await expectAsync(run(`UPDATE cycle SET outcome = 'hold' ${where}`)).toBeRejectedWithError(
      /never edited/,
    );
    await expectAsync(run(`DELETE FROM cycle ${where}`)).toBeRejectedWithError(/never deleted/);
    await expectAsync(
      run(
        `INSERT OR REPLACE INTO cycle (id, bladeId, specRevisionId, revision, openedAt, openedBy)
         SELECT id, bladeId, specRevisionId, revision, openedAt, openedBy FROM cycle ${where}`,
      ),
    ).toBeRejectedWithError(/exists already/);
    const inCycle = `WHERE cycleId = '${cycle.cycleId}'`;
    for (const table of ['reading', 'pass', 'balanceRound']) {
      await expectAsync(run(`DELETE FROM ${table} ${inCycle}`)).toBeRejectedWithError(
        /never edited/,
      );
      await expectAsync(run(`UPDATE ${table} SET id = 'x' || id ${inCycle}`)).toBeRejectedWithError(
        /never edited/,
      );
    }
    await expectAsync(
      run(
        `INSERT INTO damage VALUES ('d', '${cycle.cycleId}', 'nick', 'A', 10, 250, 1, NULL, NULL)`,
      ),
    ).toBeRejectedWithError(/never edited/);
  });

  it('refuses what must never be stored, whoever writes it', async () => {
    const cycle = await shop.openCycle();
    const reading = (quantity: string, value: string): Promise<unknown> =>
      run(
        `INSERT INTO reading VALUES ('r', '${cycle.cycleId}', 'before', '${quantity}', NULL, NULL, NULL,
         ${value}, 0.1, 0.1, '', 'mm', NULL, NULL, 'typed', '2026-05-01T08:00:00Z')`,
      );
    await expectAsync(reading('mass', '-1')).toBeRejectedWithError(/CHECK/);
    await expectAsync(reading('bevel', '3')).toBeRejectedWithError(/CHECK/);
    await expectAsync(reading('width', "'wide'")).toBeRejectedWithError(/CHECK/);
    await expectAsync(reading('width', 'NULL')).toBeRejectedWithError(/NOT NULL/);
    await expectAsync(run(`UPDATE blade SET state = 'lost'`)).toBeRejectedWithError(/CHECK/);
  });

  it('lets no retired blade have a cycle or a fit, by SQL neither', async () => {
    const { bladeId } = await shop.newBlade();
    await run(`UPDATE blade SET state = 'retired' WHERE id = '${bladeId}'`);
    await expectAsync(
      run(
        `INSERT INTO cycle (id, bladeId, specRevisionId, revision, openedAt, openedBy)
         SELECT 'c', '${bladeId}', id, 0, '2026-05-01T08:00:00Z', '${shop.personId}' FROM specRevision`,
      ),
    ).toBeRejectedWithError(/never opened again/);
    await expectAsync(
      run(
        `INSERT INTO fit (id, bladeId, spindleId, "from", fromHoursH)
         VALUES ('f', '${bladeId}', '${shop.spindleIds[0]}', '2026-05-01T08:00:00Z', 1)`,
      ),
    ).toBeRejectedWithError(/never fitted/);
  });

  it('keeps concurrent read-then-write commands apart: thirty at once give thirty codes', async () => {
    const answers = await Promise.all(
      Array.from({ length: 30 }, () =>
        shop.send({ type: 'register-blades', specId: shop.specId, count: 1 }),
      ),
    );
    const codes = answers.flatMap(({ blades }) => blades ?? []).map(({ code }) => code);
    expect(new Set(codes).size).toBe(30);
    expect(new Set(answers.map(({ sequence }) => sequence)).size).toBe(30);
  });

  it('runs every query of a command inside its transaction', async () => {
    const { options } = shop.database.connection.sequelize as unknown as {
      options: { logging: false | ((text: string) => void) };
    };
    const outside: string[] = [];
    let inside = 0;
    options.logging = (text) => {
      if (text.startsWith('Executing (default)')) outside.push(text);
      else inside += 1;
    };
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    options.logging = false;
    expect(inside).toBeGreaterThan(150);
    expect(outside).toEqual([]);
  });

  it('leaves nothing behind of a write that fails half way', async () => {
    const before = await shop.database.tables.blade.count({}, 'committed');
    await expectAsync(
      shop.database.connection.write(async (scope) => {
        await shop.database.tables.blade.insert(
          {
            id: 'half',
            specId: shop.specId,
            state: 'new',
            place: '',
            grinds: 0,
            createdAt: '2026-05-01T08:00:00Z',
            waitingSince: null,
            lastLengthMm: null,
            knownFrom: 'new',
            intakeId: null,
          },
          scope,
        );
        throw new Error('power cut');
      }),
    ).toBeRejectedWithError('power cut');
    expect(await shop.database.tables.blade.count({}, 'committed')).toBe(before);
  });

  it('backs up while in use into a file that opens as a shop', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-backup-'));
    const file = join(folder, 'copy.sqlite');
    await shop.database.connection.backUpTo(file);
    const copy = await openDatabase(file);
    expect(await copy.tables.journal.count({}, 'committed')).toBe(
      await shop.database.tables.journal.count({}, 'committed'),
    );
    await copy.connection.close();
    rmSync(folder, { recursive: true });
  });

  it('migrates once and opens the same file again as it was', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-again-'));
    const file = join(folder, 'shop.sqlite');
    const first = await openDatabase(file);
    await first.connection.close();
    const again = await openDatabase(file);
    expect(await again.tables.blade.count({}, 'committed')).toBe(0);
    await again.connection.close();
    rmSync(folder, { recursive: true });
  });
});
