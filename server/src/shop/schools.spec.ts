import { DEFAULT_RULES, type BladeView, type ShopRules } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop, type TestCycle } from '../testing/shop.js';

describe("the shop's own schools", () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const rule = (change: Partial<ShopRules>): Promise<unknown> =>
    shop.send({ type: 'set-rules', rules: { ...DEFAULT_RULES, ...change } });
  const hangBefore = (cycle: TestCycle): Promise<void> =>
    cycle.do({
      type: 'balance-round',
      roundId: uuidv7(),
      phase: 'before',
      device: 'nail',
      heavyEnd: 'A',
      endOnly: true,
    });

  it('before and after: the balancer comes before the grinder, and the grinder after it', async () => {
    await rule({ balanceWhen: 'before-and-after' });
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    expect((await cycle.view()).nextStep).toBe('balance');
    await hangBefore(cycle);
    expect((await cycle.view()).nextStep).toBe('grind');
  });

  it('after: the grind may come first, but nothing goes out unhung', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    expect((await cycle.view()).nextStep).toBe('grind');
    await cycle.grind();
    await cycle.do({ type: 'deburr', done: true });
    await cycle.measure('after', { mass: '1592.0', width: '61.5', land: '0.15' });
    await cycle.lightTests();
    expect((await cycle.act({ type: 'sign-off', outcome: 'ready' })).status).toBe(409);
  });

  it('new blades: fitted as they come, or waiting for the balancer before their first fit', async () => {
    const stateOf = async (bladeId: string): Promise<string> =>
      (await shop.get<BladeView>(`/api/v1/blades/${bladeId}`)).body.blade.state;
    const asItCame = (await shop.newBlade()).bladeId;
    await rule({ hangNew: true });
    const toBeHung = (await shop.newBlade()).bladeId;
    expect([await stateOf(asItCame), await stateOf(toBeHung)]).toEqual(['new', 'waiting']);
    // Nothing to grind on it: hung in balance, it is ready; unhung it is not.
    const cycle = await shop.openCycleOf(toBeHung);
    await cycle.inspectClean();
    await cycle.measure('before', { land: '0.10' });
    expect((await cycle.act({ type: 'sign-off', outcome: 'ready' })).status).toBe(409);
    await cycle.balance();
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    expect(await stateOf(toBeHung)).toBe('ready');
  });

  it('hardly ever: unhung goes out, said at the sign-off; hung and off is still stopped', async () => {
    await rule({ balanceWhen: 'seldom' });
    const ground = async (): Promise<TestCycle> => {
      const cycle = await shop.openCycle();
      await cycle.inspectClean();
      await cycle.measure('before');
      await cycle.grind();
      await cycle.do({ type: 'deburr', done: true });
      await cycle.measure('after', { mass: '1592.0', width: '61.5', land: '0.15' });
      await cycle.lightTests();
      return cycle;
    };
    const unhung = await ground();
    const { now } = await unhung.view();
    expect(now.verdict).toBe('watch');
    expect(now.findings.find(({ id }) => id === 'not-balanced')?.words).toContain(
      'Any vibration stops the mower',
    );
    await unhung.do({ type: 'sign-off', outcome: 'ready' });
    const off = await ground();
    await off.balance('9');
    expect((await off.act({ type: 'sign-off', outcome: 'ready' })).status).toBe(409);
  });

  it('a count of grinds retires what limits would not, and the page of its life says which', async () => {
    await rule({ retireBy: { kind: 'count', grinds: 1 } });
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const life = await shop.get<{ left: { id: string; source: string; margin: number }[] }>(
      `/api/v1/blades/${cycle.bladeId}`,
    );
    const count = life.body.left.find(({ id }) => id === 'grinds');
    expect(count?.margin).toBe(0);
    expect(count?.source).toContain('retire after 1 grinds');
    // Dull again, it is not ground once more only to be told afterwards.
    await shop.send({ type: 'bring-in', bladeId: cycle.bladeId, place: 'Heap' });
    const again = await shop.openCycleOf(cycle.bladeId);
    await again.inspectClean();
    await again.measure('before', { width: '61.5', mass: '1592.0' });
    const { signOff } = await again.view();
    expect(signOff.proposed).toBe('retired');
    expect(signOff.retireReasons).toEqual(['grind-count']);
  });

  it('when it will not hold an edge: a short last edge is a watch, and a reason to retire', async () => {
    await rule({ retireBy: { kind: 'wont-hold', share: 0.5 } });
    const [spindleId] = shop.spindleIds;
    let hoursH = 100;
    const cycleAfter = async (bladeId: string, hoursOn: number): Promise<TestCycle> => {
      await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH });
      hoursH += hoursOn;
      await shop.send({ type: 'bring-in', bladeId, place: 'Heap', hoursH });
      return shop.openCycleOf(bladeId);
    };
    for (let i = 0; i < 5; i++) await cycleAfter(await shop.readyBlade(), 12);
    const tired = await cycleAfter(await shop.readyBlade(), 4);
    // However many edges of others have ended since.
    const { fit } = shop.database.models;
    const [other] = await fit.findAll({ raw: true });
    await fit.bulkCreate(
      Array.from({ length: 205 }, (_, i) => ({
        ...other!,
        id: uuidv7(),
        from: new Date(Date.UTC(2090, 0, 1, i)).toISOString(),
        to: new Date(Date.UTC(2090, 0, 1, i + 1)).toISOString(),
      })),
    );
    await tired.inspectClean();
    await tired.measure('before');
    const view = await tired.view();
    expect(view.before.findings.find(({ id }) => id === 'holds-edge')?.words).toContain(
      'after 4.0 h on its last edge',
    );
    expect(view.signOff.retireReasons).toContain('wont-hold-edge');
    await tired.do({
      type: 'sign-off',
      outcome: 'retired',
      retireReason: 'wont-hold-edge',
      disposal: 'cut',
    });
  });

  it('refuses a count of none and a price below none, at the field', async () => {
    const bad = async (change: object) =>
      (
        await shop.post({
          type: 'set-rules',
          rules: { ...DEFAULT_RULES, ...change },
          ...shop.envelope(),
        })
      ).body.errors?.map(({ field }) => field);
    expect(await bad({ retireBy: { kind: 'count', grinds: 0 } })).toEqual([
      'rules.retireBy.grinds',
    ]);
    expect(await bad({ prices: { ...DEFAULT_RULES.prices, blade: -1 } })).toEqual([
      'rules.prices.blade',
    ]);
  });
});
