import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';
import { canonical, headOf, walk } from './chain.js';

describe('the record', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
  });
  afterEach(() => shop.close());
  const sql = (text: string) => shop.database.connection.sequelize.query(text);
  const look = () => walk(shop.database.connection);

  it('is whole as it was written, whatever order keys come in', async () => {
    const { entries, broken, cycles, head } = await look();
    expect(broken).toBeUndefined();
    expect(entries).toBeGreaterThan(5);
    expect(cycles).toBe(1);
    expect(await headOf(shop.database.connection)).toEqual(head);
    expect(canonical({ b: [1, { d: null, c: 'x' }], a: undefined })).toBe(
      '{"b":[1,{"c":"x","d":null}]}',
    );
  });

  it('names the first entry that was changed, though a trigger was dropped for it', async () => {
    await sql('DROP TRIGGER journalNoUpdate');
    await sql(`UPDATE journal SET personId = 'somebody' WHERE sequence = 4`);
    expect((await look()).broken).toContain('entry 4');
  });

  it('notices one that was taken out, put in, or cut off at the end', async () => {
    const head = await headOf(shop.database.connection);
    await sql('DROP TRIGGER journalNoDelete');
    await sql(`DELETE FROM journal WHERE sequence = ${head.sequence}`);
    expect((await look()).broken).toBeUndefined();
    expect((await walk(shop.database.connection, [head])).broken).toContain('ends before');
    await sql('DELETE FROM journal WHERE sequence = 3');
    expect((await look()).broken).toContain('entry 3 is missing');
  });

  it('notices figures of a signed-off cycle that were changed beside it', async () => {
    const [triggers] = await sql(
      `SELECT name FROM sqlite_master WHERE type = 'trigger' AND tbl_name = 'reading'`,
    );
    for (const { name } of triggers as { name: string }[]) await sql(`DROP TRIGGER ${name}`);
    await sql('UPDATE reading SET value = value + 1 WHERE id = (SELECT min(id) FROM reading)');
    expect((await look()).broken).toContain('was changed since it was signed off');
  });

  it('goes on from one entry to the next over a refused command and a restart', async () => {
    await shop.post({ ...shop.envelope(), type: 'set-pin', ofPersonId: uuidv7(), pin: '1234' });
    await shop.send({ type: 'set-pin', ofPersonId: shop.personId, pin: '2468' });
    expect((await look()).broken).toBeUndefined();
  });
});
