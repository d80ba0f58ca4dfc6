import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Command, type ShopAct } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { CommandService } from '../commands/service.js';
import { SPECS } from '../demo/catalogue.js';
import { openDatabase, type Database } from './database.js';

describe('a batch of commands', () => {
  let folder = '';
  let database: Database;
  let service: CommandService;
  const personId = uuidv7();
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'tally-stone-batch-'));
    database = await openDatabase(join(folder, 'shop.sqlite'));
    service = new CommandService(database);
  });
  afterEach(async () => {
    await database.connection.close();
    rmSync(folder, { recursive: true });
  });

  const send = (act: ShopAct) =>
    service.accept(
      Command.parse({ ...act, id: uuidv7(), personId, occurredAt: new Date().toISOString() }),
    );
  const openShop = async (specId: string): Promise<void> => {
    const [figures] = SPECS;
    if (!figures) throw new Error('no spec to test with');
    await send({ type: 'add-person', newPersonId: personId, name: 'Ash', role: 'technician' });
    await send({ type: 'add-spec', specId, specRevisionId: uuidv7(), figures });
  };
  const count = (table: 'command' | 'journal' | 'blade') =>
    database.tables[table].count({}, 'committed');

  it('writes everything in the end, the journal in one row of numbers, as one by one would', async () => {
    const specId = uuidv7();
    await database.connection.batch(async () => {
      await openShop(specId);
      for (let i = 0; i < 5; i++) await send({ type: 'register-blades', specId, count: 100 });
    });
    expect([await count('command'), await count('blade')]).toEqual([7, 500]);
    const journal = await database.tables.journal.pick(['sequence'], {}, 'committed', {
      order: [['sequence', 'ASC']],
    });
    expect(journal.map(({ sequence }) => sequence)).toEqual(
      Array.from({ length: 502 }, (_, i) => i + 1),
    );
  });

  it('reads what it has gathered, before it is written', async () => {
    const specId = uuidv7();
    await database.connection.batch(async () => {
      await openShop(specId);
      const { blades } = await send({ type: 'register-blades', specId, count: 1 });
      const cycleId = uuidv7();
      await send({ type: 'open-cycle', cycleId, bladeId: blades?.[0]?.bladeId ?? '' });
      await database.connection.write(async (scope) => {
        const events = await database.tables.command.pick(['event'], { cycleId }, scope);
        expect(events.map(({ event }) => event?.type)).toEqual(['opened']);
      });
    });
  });

  it('leaves nothing behind where one of them is refused', async () => {
    const specId = uuidv7();
    const refused = database.connection.batch(async () => {
      await openShop(specId);
      await send({ type: 'register-blades', specId, count: 3 });
      await send({ type: 'register-blades', specId: uuidv7(), count: 1 });
    });
    await expectAsync(refused).toBeRejected();
    expect([await count('command'), await count('journal'), await count('blade')]).toEqual([
      0, 0, 0,
    ]);
    await openShop(specId);
    expect(await count('command')).toBe(2);
  });
});
