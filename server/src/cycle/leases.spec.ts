import type { LeaseView } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';
import { Leases } from './leases.js';

describe('Leases', () => {
  it('gives a blade to who speaks first, and to the next when that one has fallen silent', () => {
    let now = 0;
    const leases = new Leases(() => now);
    expect(leases.speak('c', 'one', 'ash').holder).toBe('one');
    expect(leases.speak('c', 'two', 'juniper').holder).toBe('one');
    now = 15_000;
    leases.speak('c', 'one', 'ash');
    now = 30_000;
    expect(leases.speak('c', 'two', 'juniper').holder).toBe('one');
    now = 36_000;
    expect(leases.speak('c', 'two', 'juniper').holder).toBe('two');
    expect(leases.speak('c', 'one', 'ash').holder).toBe('two');
    leases.letGo('c', 'one');
    expect(leases.holderOf('c')?.holder).toBe('two');
    leases.letGo('c', 'two');
    expect(leases.speak('c', 'one', 'ash').holder).toBe('one');
  });
  it('follows who is at the screen', () => {
    const leases = new Leases(() => 0);
    leases.speak('c', 'one', 'ash');
    expect(leases.speak('c', 'one', 'juniper').personId).toBe('juniper');
  });
});

describe('a blade open at two screens', () => {
  it('is watched by the second, and taken over with an entry in the journal', async () => {
    const shop = await TestShop.open();
    const second = uuidv7();
    await shop.send({
      type: 'add-person',
      newPersonId: second,
      name: 'Juniper',
      role: 'technician',
    });
    const cycle = await shop.openCycle();
    const speak = async (holder: string, personId: string, more: object = {}) => {
      const response = await fetch(`${shop.serving.address}/api/v1/cycles/${cycle.cycleId}/lease`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ holder, personId, ...more }),
      });
      return (await response.json()) as LeaseView;
    };
    expect((await speak('one', shop.personId)).mine).toBeTrue();
    const watching = await speak('two', second);
    expect(watching).toEqual(jasmine.objectContaining({ mine: false, name: 'Ash' }));
    expect((await speak('two', second, { takeOver: uuidv7() })).mine).toBeTrue();
    expect(await speak('one', shop.personId)).toEqual(
      jasmine.objectContaining({ mine: false, name: 'Juniper' }),
    );
    const [entry] = await shop.database.models.journal.findAll({
      order: [['sequence', 'DESC']],
      limit: 1,
    });
    expect(entry?.what).toBe('blade taken over');
    expect(entry?.before).toEqual({ personId: shop.personId });
    expect(entry?.after).toEqual({ personId: second });
    await shop.close();
  });
});
