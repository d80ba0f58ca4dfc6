import { Op } from 'sequelize';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';
import { Remembered } from './remembered.js';

describe('what a table remembers', () => {
  const transaction = {};
  const inside = { transaction, whenOver: () => undefined } as never;

  /** A question that counts how often the database was asked. */
  function asked(remembered: Remembered) {
    let trips = 0;
    let now = 1;
    return {
      trips: () => trips,
      set: (value: number) => (now = value),
      ask: (question: unknown, scope: 'committed' | typeof inside = 'committed') =>
        remembered.ask(question, scope, () => {
          trips += 1;
          return Promise.resolve([{ value: now }]);
        }),
    };
  }

  it('is not asked for twice, and a write makes it old', async () => {
    const remembered = new Remembered();
    const table = asked(remembered);
    await table.ask({ id: 1 });
    await table.ask({ id: 1 });
    expect(table.trips()).toBe(1);
    await table.ask({ id: 2 });
    expect(table.trips()).toBe(2);
    remembered.written(transaction);
    await table.ask({ id: 1 });
    expect(table.trips()).toBe(3);
  });

  it('tells operators apart that JSON would drop', async () => {
    const table = asked(new Remembered());
    await table.ask({ at: { [Op.gt]: 1 } });
    await table.ask({ at: { [Op.lt]: 1 } });
    await table.ask({ at: { [Op.ne]: null } });
    expect(table.trips()).toBe(3);
  });

  it('keeps what a writer sees from everybody else, before and after the end', async () => {
    const remembered = new Remembered();
    const table = asked(remembered);
    expect(remembered.written(transaction)).toBeTrue();
    expect(remembered.written(transaction)).toBeFalse();
    table.set(2);
    expect(await table.ask({ id: 1 }, inside)).toEqual([{ value: 2 }]);
    table.set(1);
    // Outside the old state still stands; it must not outlive the commit.
    expect(await table.ask({ id: 1 })).toEqual([{ value: 1 }]);
    remembered.over();
    table.set(2);
    expect(await table.ask({ id: 1 })).toEqual([{ value: 2 }]);
  });

  it('does not keep an answer that a write has overtaken', async () => {
    const remembered = new Remembered();
    let release: (rows: object[]) => void = () => undefined;
    const slow = remembered.ask(
      { id: 1 },
      'committed',
      () => new Promise<object[]>((done) => (release = done)),
    );
    remembered.written(transaction);
    remembered.over();
    release([{ value: 1 }]);
    await slow;
    const next = await remembered.ask({ id: 1 }, 'committed', () =>
      Promise.resolve([{ value: 2 }]),
    );
    expect(next).toEqual([{ value: 2 }]);
  });

  it('hands out rows nobody can change for the next one', async () => {
    const remembered = new Remembered();
    const read = () => Promise.resolve([{ value: 1 }]);
    const rows = await remembered.ask({ id: 1 }, 'committed', read);
    rows.pop();
    expect((await remembered.ask({ id: 1 }, 'committed', read)).length).toBe(1);
    const [row] = await remembered.ask({ id: 1 }, 'committed', read);
    expect(() => Object.assign(row ?? {}, { value: 9 })).toThrowError(/read only/);
  });
});

describe('a rolled back write', () => {
  it('leaves no trace in what is remembered', async () => {
    const shop = await TestShop.open();
    const { tables, connection } = shop.database;
    const person = { id: uuidv7(), name: 'Nobody', role: 'crew', pinHash: null };
    const before = await tables.person.all({}, 'committed');
    await expectAsync(
      connection.write(async (scope) => {
        await tables.person.insert(person, scope);
        expect((await tables.person.all({}, scope)).length).toBe(before.length + 1);
        expect((await tables.person.all({}, 'committed')).length).toBe(before.length);
        throw new Error('no');
      }),
    ).toBeRejected();
    expect(await tables.person.all({}, 'committed')).toEqual(before);
    await connection.write(async (scope) => {
      expect(await tables.person.all({}, scope)).toEqual(before);
      await tables.person.insert(person, scope);
    });
    expect((await tables.person.all({}, 'committed')).length).toBe(before.length + 1);
    await shop.close();
  });
});
