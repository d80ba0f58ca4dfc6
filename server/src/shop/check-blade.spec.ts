import type { CheckView, ShopView } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';

describe('the check blade', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const checks = async (): Promise<CheckView[]> =>
    (await shop.get<ShopView>('/api/v1/shop')).body.checks;
  const of = async (quantity: CheckView['quantity']): Promise<CheckView | undefined> =>
    (await checks()).find((check) => check.quantity === quantity);
  const read = (quantity: CheckView['quantity'], text: string, unit = 'g') =>
    shop.post({
      ...shop.envelope(),
      type: 'read-check-blade',
      checkId: uuidv7(),
      quantity,
      entered: { text, unit },
    });

  it('is asked for every morning, and says that an instrument is true', async () => {
    expect((await checks()).map(({ today, readings }) => [today, readings])).toEqual([
      [false, 0],
      [false, 0],
      [false, 0],
    ]);
    expect((await read('mass', '500.1')).status).toBe(200);
    expect(await of('mass')).toEqual(
      jasmine.objectContaining({ today: true, trueness: 'true', readings: 1, reference: 500 }),
    );
    expect((await of('width'))?.today).toBeFalse();
  });

  it('says that the scale is off, and that a caliper read in inches is true', async () => {
    await read('mass', '503.0');
    expect(await of('mass')).toEqual(jasmine.objectContaining({ trueness: 'off' }));
    await read('width', '1.969', 'in');
    const width = await of('width');
    expect(width?.last).toBeCloseTo(50.01, 2);
    expect(width?.trueness).toBe('true');
  });

  it('sees a balancer creep away over the mornings', async () => {
    for (let day = 0; day < 24; day++) {
      await read('level', (1 + 0.006 * day).toFixed(3));
    }
    expect(await of('level')).toEqual(jasmine.objectContaining({ trueness: 'drifting' }));
  });

  it('keeps which instrument read it, with its own step and doubt', async () => {
    const by = (quantity: CheckView['quantity'], instrument: string) =>
      shop.post({
        ...shop.envelope(),
        type: 'read-check-blade',
        checkId: uuidv7(),
        quantity,
        entered: { text: '500.1', unit: quantity === 'width' ? 'mm' : 'g' },
        instrument,
      });
    expect((await by('mass', 'scale')).status).toBe(200);
    const [row] = await shop.database.models.instrumentCheck.findAll();
    expect(row).toEqual(jasmine.objectContaining({ instrumentKey: 'scale', resolution: 0.1 }));
    expect(row?.u).toBeCloseTo(Math.hypot(0.06, 0.1), 9);
    expect((await by('width', 'scale')).body.errors?.[0]?.field).toBe('instrument');
    expect((await by('level', 'balancer')).body.errors?.[0]?.field).toBe('instrument');
  });

  it('refuses words, grams of width, and nothing', async () => {
    const field = async (text: string, unit = 'g', quantity: CheckView['quantity'] = 'mass') =>
      (await read(quantity, text, unit)).body.errors?.[0]?.field;
    expect(await field('heavy')).toBe('entered.text');
    expect(await field('50', 'g', 'width')).toBe('entered.text');
    expect(await field('0')).toBe('entered.text');
    expect((await checks()).every(({ readings }) => readings === 0)).toBeTrue();
  });
});
