import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BaseError, QueryTypes, type Model, type ModelStatic } from 'sequelize';
import { TestShop } from '../testing/shop.js';
import { openDatabase } from '../database.js';
import { rawInsert } from './raw-insert.js';

describe('storage', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open('power-safe');
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
    const seen = await shop.database.connection.write(async () => {
      const ask = async (pragma: string): Promise<unknown> => {
        const [row] = await shop.database.connection.sequelize.query<Record<string, unknown>>(
          `PRAGMA ${pragma}`,
          { type: QueryTypes.SELECT },
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
        'journalSealNoDelete',
        'journalSealNoUpdate',
        'specRevisionNoUpdate',
      ].sort(),
    );
  });

  describe('after the last migration still refuses, whatever program writes it,', () => {
    let cycleId = '';
    beforeAll(async () => {
      const cycle = await shop.openCycle();
      ({ cycleId } = cycle);
      await cycle.do({ type: 'clean', done: true });
      await cycle.read('before', 'mass', '1600.0');
      await cycle.read('before', 'bevel', '30.0', { end: 'A' });
      await cycle.grind(1);
    });
    const reading = (change: string): string =>
      `UPDATE reading SET ${change} WHERE cycleId = '${cycleId}'`;
    const cases: readonly (readonly [what: string, sql: () => string])[] = [
      ['a reading of no quantity', () => reading("quantity = 'colour'")],
      ['a reading at no end', () => reading(`"end" = 'C'`)],
      ['a reading of no phase', () => reading("phase = 'meanwhile'")],
      ['a reading beyond any blade', () => reading('value = 20001')],
      ['a reading without resolution', () => reading('resolution = 0')],
      ['a bevel of no blade', () => `${reading('value = 61')} AND quantity = 'bevel'`],
      ['a mass of nothing', () => `${reading('value = 0')} AND quantity = 'mass'`],
      ['a typed reading with an instrument', () => reading("instrumentKey = 'scale'")],
      ['a reading at no time', () => reading("takenAt = 'yesterday'")],
      [
        'a mark of no kind',
        () => `INSERT INTO damage (id, cycleId, kind, "end", fromTipMm, radiusMm, depthMm)
               VALUES ('d', '${cycleId}', 'stain', 'A', 1, 1, 1)`,
      ],
      [
        'a mark without depth',
        () => `INSERT INTO damage (id, cycleId, kind, "end", fromTipMm, radiusMm, depthMm)
               VALUES ('d', '${cycleId}', 'nick', 'A', 1, 1, 0)`,
      ],
      ['passes of none', () => `UPDATE pass SET count = 0 WHERE cycleId = '${cycleId}'`],
      ['a blade in no state', () => "UPDATE blade SET state = 'lost'"],
      ['a blade ground less than never', () => 'UPDATE blade SET grinds = -1'],
      [
        'a cycle signed by nobody',
        () => `UPDATE cycle SET outcome = 'ready' WHERE id = '${cycleId}'`,
      ],
      ['a person of no role', () => "UPDATE person SET role = 'owner'"],
      [
        'rules that are no JSON',
        () => "INSERT INTO shop (id, name, timeZone, rules) VALUES ('s', 'S', 'UTC', 'as usual')",
      ],
      ['a mower of no energy', () => "UPDATE mower SET energy = 'steam'"],
      ['a deck that stands still', () => 'UPDATE deck SET bladeSpeedRpm = 0'],
      ['a meter that runs backwards', () => 'UPDATE hourMeterSegment SET lastReadingH = -1'],
    ];
    for (const [what, statement] of cases) {
      it(what, async () => {
        await expectAsync(run(statement())).toBeRejectedWithError(/CHECK|FOREIGN KEY/);
      });
    }
  });

  it('has the same columns in its models as in the file', async () => {
    for (const table of Object.values(
      shop.database.models as unknown as Record<string, ModelStatic<Model>>,
    )) {
      const columns = await sql<{ name: string }>(`PRAGMA table_info("${table.name}")`);
      expect(Object.keys(table.getAttributes()).sort())
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
        `INSERT OR REPLACE INTO cycle (id, bladeId, specRevisionId, openedAt, openedBy)
         SELECT id, bladeId, specRevisionId, openedAt, openedBy FROM cycle ${where}`,
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
         ${value}, 0.1, 0.1, '', 'mm', NULL, 'typed', '2026-05-01T08:00:00Z')`,
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
        `INSERT INTO cycle (id, bladeId, specRevisionId, openedAt, openedBy)
         SELECT 'c', '${bladeId}', id, '2026-05-01T08:00:00Z', '${shop.personId}' FROM specRevision`,
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
    // The view that goes with an answer is read after the write, from what is committed.
    let accepting = false;
    const { commands } = shop.serving;
    const accept = commands.accept.bind(commands);
    spyOn(commands, 'accept').and.callFake(async (command) => {
      accepting = true;
      return accept(command).finally(() => (accepting = false));
    });
    options.logging = (text) => {
      if (!accepting) return;
      if (text.startsWith('Executing (default)')) outside.push(text);
      else inside += 1;
    };
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    options.logging = false;
    expect(inside).toBeGreaterThan(80);
    expect(outside).toEqual([]);
    // What the driver inserts by itself is not among them; outside of a write there is none for it.
    await expectAsync(rawInsert(shop.database.models.pass, {})).toBeRejectedWithError(
      /in a write only/,
    );
  });

  it('leaves nothing behind of a write that fails half way', async () => {
    const before = await shop.database.models.blade.count();
    await expectAsync(
      shop.database.connection.write(async () => {
        await shop.database.models.blade.create({
          id: 'half',
          specId: shop.specId,
          state: 'new',
          place: '',
          grinds: 0,
          createdAt: '2026-05-01T08:00:00Z',
          waitingSince: null,
          lastLengthMm: null,
          trimmedAt: null,
          knownFrom: 'new',
          intakeId: null,
        });
        throw new Error('power cut');
      }),
    ).toBeRejectedWithError('power cut');
    expect(await shop.database.models.blade.count()).toBe(before);
  });

  it('backs up while in use into a file that opens as a shop', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-backup-'));
    const file = join(folder, 'copy.sqlite');
    await shop.database.connection.backUpTo(file);
    const copy = await openDatabase(file);
    expect(await copy.models.journal.count()).toBe(await shop.database.models.journal.count());
    await copy.connection.close();
    rmSync(folder, { recursive: true });
  });

  it('migrates once and opens the same file again as it was', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-again-'));
    const file = join(folder, 'shop.sqlite');
    const first = await openDatabase(file);
    await first.connection.close();
    const again = await openDatabase(file);
    expect(await again.models.blade.count()).toBe(0);
    await again.connection.close();
    rmSync(folder, { recursive: true });
  });
});
