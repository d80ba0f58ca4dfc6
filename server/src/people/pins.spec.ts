import type { Person, Problem } from '@tally-stone/contract';
import { QueryTypes } from 'sequelize';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';

describe('the language of a person', () => {
  it('goes with them, and nobody else’s', async () => {
    const shop = await TestShop.open();
    const other = uuidv7();
    await shop.send({ type: 'add-person', newPersonId: other, name: 'Ola', role: 'crew' });
    const languages = async () =>
      (await shop.get<Person[]>('/api/v1/people')).body.map(({ name, language }) => [
        name,
        language,
      ]);
    const [own] = await languages();
    await shop.post({
      ...shop.envelope(),
      type: 'pick-language',
      language: 'es',
      personId: other,
    });
    expect(await languages()).toEqual([own ?? [], ['Ola', 'es']]);
    const wrong = await shop.post({ ...shop.envelope(), type: 'pick-language', language: 'xx' });
    expect(wrong.status).toBe(422);
    await shop.close();
  });
});

describe('a PIN', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const set = (more: object) =>
    shop.post({ ...shop.envelope(), type: 'set-pin', ofPersonId: shop.personId, ...more });
  const fieldOf = ({ errors }: Problem): string | undefined => errors?.[0]?.field;

  it('is set once freely and changed with the old one', async () => {
    const has = async () => (await shop.get<Person[]>('/api/v1/people')).body[0]?.hasPin;
    expect(await has()).toBeFalse();
    expect((await set({ pin: '2468' })).status).toBe(200);
    expect(await has()).toBeTrue();
    expect(fieldOf((await set({ pin: '1111' })).body)).toBe('byPin');
    expect(fieldOf((await set({ pin: '1111', byPin: '9999' })).body)).toBe('byPin');
    expect((await set({ pin: '1111', byPin: '2468' })).status).toBe(200);
    expect((await set({ pin: '2222', byPin: '2468' })).status).toBe(422);
  });

  it('is four to eight digits, of somebody known', async () => {
    expect(fieldOf((await set({ pin: '12' })).body)).toBe('pin');
    expect(fieldOf((await set({ pin: 'abcd' })).body)).toBe('pin');
    expect(fieldOf((await set({ pin: '1234', ofPersonId: uuidv7() })).body)).toBe('ofPersonId');
  });

  it('may be set anew by a manager with their own', async () => {
    const manager = uuidv7();
    await shop.send({ type: 'add-person', newPersonId: manager, name: 'Elm', role: 'manager' });
    await shop.send({ type: 'set-pin', ofPersonId: manager, pin: '8080' });
    await set({ pin: '2468' });
    const anew = await set({ personId: manager, pin: '5555', byPin: '8080' });
    expect(anew.status).toBe(200);
    expect((await set({ pin: '6666', byPin: '5555' })).status).toBe(200);
  });

  it('cannot be guessed in a row: after five the next waits, the right one too', async () => {
    await set({ pin: '2468' });
    for (let i = 0; i < 5; i++) await set({ pin: '1111', byPin: `000${i}` });
    expect((await set({ pin: '1111', byPin: '2468' })).body.detail).toContain('wait a minute');
  });

  it('stands nowhere in the record, and a repeated command is still the same one', async () => {
    const command = {
      ...shop.envelope(),
      type: 'set-pin',
      ofPersonId: shop.personId,
      pin: '24681357',
    };
    const first = await shop.post<{ sequence: number }>(command);
    const again = await shop.post<{ sequence: number }>(command);
    expect(again.body.sequence).toBe(first.body.sequence);
    // The same id with other digits is another command, though the record holds neither.
    expect((await shop.post({ ...command, pin: '99999999' })).status).toBe(409);
    const query = (sql: string) =>
      shop.database.connection.sequelize.query(sql, { type: QueryTypes.SELECT });
    const stored = [
      ...(await query('SELECT * FROM command')),
      ...(await query('SELECT * FROM journal')),
      ...(await query('SELECT * FROM person')),
    ];
    expect(JSON.stringify(stored)).not.toContain('24681357');
  });
});
