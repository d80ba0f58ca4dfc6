import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';
import { lostPerHour } from './lost-to-damage.js';

describe('blades lost to damage', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const perThousandHours = async (): Promise<number> =>
    1000 * (await lostPerHour(shop.database, ['crack', 'bend']));
  const cracked = async (bladeId: string): Promise<void> => {
    const cycle = await shop.openCycleOf(bladeId);
    await cycle.do({ type: 'clean', done: true });
    await cycle.do({ type: 'judge-crack', found: true, where: 'wing-root' });
    await cycle.do({
      type: 'sign-off',
      outcome: 'retired',
      retireReason: 'crack',
      disposal: 'cut',
    });
  };

  it('are the usual few in a shop that has not mown, however many came cracked', async () => {
    const { blades = [] } = await shop.send({
      type: 'register-blades',
      specId: shop.specId,
      count: 3,
      place: 'Heap',
      knownFrom: 'used',
    });
    for (const { bladeId } of blades) await cracked(bladeId);
    expect(await perThousandHours()).toBeCloseTo(0.3, 9);
  });

  it('are its own the more it has mown', async () => {
    const bladeId = await shop.readyBlade();
    const [spindleId = ''] = shop.spindleIds;
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH: 100 });
    for (let hoursH = 200; hoursH < 1100; hoursH += 100)
      await shop.send({ type: 'read-hours', mowerId: shop.mowerId, hoursH });
    await shop.send({ type: 'bring-in', bladeId, place: 'Heap', hoursH: 1100 });
    expect(await perThousandHours()).toBeCloseTo(0.3 / 2, 9);
    await cracked(bladeId);
    // One in a thousand hours, and the usual 0.3 in as many.
    expect(await perThousandHours()).toBeCloseTo(1.3 / 2, 9);
  });
});
