import type { LifeQuestion } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { TestShop } from '../testing/shop.js';
import { KnownLives } from './life-questions.js';

describe('what the lives of a shop’s blades depend on', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const inUse = async () =>
    (await shop.database.models.blade.scope('inUse').findAll()).map(
      ({ id: bladeId, specId, grinds, knownFrom }) => ({
        bladeId,
        specId,
        grinds,
        cameUsed: knownFrom === 'used',
      }),
    );
  const known = async (
    lives = shop.database.lives,
  ): Promise<ReadonlyMap<string, LifeQuestion | undefined>> => {
    const { database } = shop;
    const { rules } = await shopOf(database);
    return lives.of(database, await inUse(), await listSpecs(database), rules);
  };

  it('is looked up anew of the blade alone about which something was written', async () => {
    const blades: string[] = [];
    for (let i = 0; i < 3; i++) {
      const cycle = await shop.openCycle();
      await cycle.upToSignOff();
      await cycle.do({ type: 'sign-off', outcome: 'ready' });
      blades.push(cycle.bladeId);
    }
    const [bladeId = '', ...others] = blades;
    const [spindleId = ''] = shop.spindleIds;
    let before = await known();
    /** What was written since is known of this blade, and nothing was looked up of the others. */
    const expectAnew = async (what: string): Promise<void> => {
      const now = await known();
      const fresh = await known(new KnownLives());
      expect(now).withContext(what).toEqual(fresh);
      expect(now.get(bladeId)).withContext(what).not.toEqual(before.get(bladeId));
      for (const other of others) expect(now.get(other)).withContext(what).toBe(before.get(other));
      before = now;
    };
    expect(await known()).toEqual(before);

    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH: 100 });
    await shop.send({ type: 'bring-in', bladeId, place: 'Heap', hoursH: 120 });
    const cycle = await shop.openCycleOf(bladeId);
    await cycle.inspectClean();
    await cycle.measure('before', { mass: '1592.0', width: '61.5' });
    await cycle.grind();
    await cycle.balance();
    await cycle.measure('after', { mass: '1584.0', width: '61.0', land: '0.15' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    await expectAnew('a grind after twenty hours');

    const read = await shop.database.models.reading.findOne({
      where: {
        cycleId: cycle.cycleId,
        phase: 'after',
        quantity: 'width',
        end: 'A',
        stationKey: 'root',
      },
    });
    await shop.send({
      type: 'correct-reading',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      readingId: read?.id ?? '',
      entered: { text: '60.6', unit: 'mm' },
      reason: 'misread',
    });
    await expectAnew('a correction');
  });

  it('knows a blade that came since, and forgets none of what another way to retire asks for', async () => {
    await shop.newBlade();
    expect((await known()).size).toBe(1);
    const { bladeId } = await shop.newBlade();
    expect((await known()).get(bladeId)?.grindsAllowed).toBeUndefined();
    const { rules } = await shopOf(shop.database);
    const counted = { ...rules, retireBy: { kind: 'count', grinds: 4 } } as const;
    const { database } = shop;
    const now = await database.lives.of(
      database,
      await inUse(),
      await listSpecs(database),
      counted,
    );
    expect(now.get(bladeId)?.grindsAllowed).toBe(4);
  });
});
