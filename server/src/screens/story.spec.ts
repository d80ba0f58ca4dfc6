import type { BladeView } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop, type TestCycle } from '../testing/shop.js';

describe("a blade's story", () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const life = async (bladeId: string): Promise<BladeView> =>
    (await shop.get<BladeView>(`/api/v1/blades/${bladeId}`)).body;
  const nick = (cycle: TestCycle, fromTip: string): Promise<void> =>
    cycle.do({
      type: 'mark-damage',
      damageId: uuidv7(),
      kind: 'nick',
      end: 'A',
      fromTip: { text: fromTip, unit: 'mm' },
      depth: { text: '0.4', unit: 'mm' },
    });
  const through = async (cycle: TestCycle, width: string): Promise<void> => {
    await cycle.inspectClean();
    await cycle.measure('before', { width });
    await cycle.grind();
    await cycle.balance();
    await cycle.measure('after', { mass: '1592.0', width: '61.5', land: '0.15' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
  };

  it('tells fits, hours, strikes and grinds in order, and what it all cost', async () => {
    const cycle = await shop.openCycle();
    await through(cycle, '62.0');
    const { bladeId } = cycle;
    const [spindleId] = shop.spindleIds;
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH: 100 });
    const strike = { what: 'stone', hard: 'glanced', vibration: false } as const;
    await shop.send({
      type: 'report-strike',
      strikeId: uuidv7(),
      mowerId: shop.mowerId,
      ...strike,
    });
    const due = (await life(bladeId)).due;
    expect([due?.state, due?.because]).toEqual(['now', 'strike']);
    await shop.send({ type: 'bring-in', bladeId, place: 'Heap', hoursH: 120 });
    // What its mower strikes without it is none of its life.
    await shop.send({
      type: 'report-strike',
      strikeId: uuidv7(),
      mowerId: shop.mowerId,
      ...strike,
    });
    const { timeline, cost, due: none } = await life(bladeId);
    expect(timeline.map(({ kind }) => kind)).toEqual([
      'came',
      'ground',
      'fitted',
      'strike',
      'pulled',
    ]);
    expect(timeline.at(-1)?.words).toBe('Off Wagtail after 20 h');
    expect(none).toBeUndefined();
    // 18 for the blade, 12 minutes at 28 an hour, 0.30 of abrasive, over 20 h.
    expect(cost.total).toBeCloseTo(18 + 5.6 + 0.3, 9);
    expect(cost.perHour).toBeCloseTo(cost.total / 20, 9);
  });

  it('says what the bench finds before it is signed off, and orders limits by when they are met', async () => {
    const first = await shop.openCycle();
    await through(first, '62.0');
    const signed = await life(first.bladeId);
    expect(signed.inHand).toBeUndefined();
    const places = signed.left.flatMap(({ id }) => signed.forecast?.grindsAt[id] ?? []);
    expect(places.length).toBeGreaterThan(1);
    expect(places).toEqual([...places].sort((a, b) => a - b));
    expect(signed.forecast?.first).toBe(signed.left[0]?.id ?? '');
    // One limit alone is never met sooner than all of them together.
    expect(Math.min(...places)).toBeGreaterThanOrEqual(signed.forecast?.grinds.median ?? NaN);

    await shop.send({ type: 'bring-in', bladeId: first.bladeId, place: 'Heap' });
    const second = await shop.openCycleOf(first.bladeId);
    await second.do({ type: 'clean', done: true });
    await second.do({ type: 'judge-crack', found: true, where: 'wing-root' });
    const { inHand, left, cycles } = await life(first.bladeId);
    expect([inHand?.cycleId, inHand?.verdict]).toEqual([second.cycleId, 'retire']);
    expect(inHand?.words.toLowerCase()).toContain('crack');
    expect(left.map(({ id }) => id)).toEqual(signed.left.map(({ id }) => id));
    expect(cycles.at(-1)?.signedAt).toBeUndefined();
  });

  it('frames a nick that came back at its place, and follows mass over the cycles', async () => {
    const first = await shop.openCycle();
    await nick(first, '20').catch(() => undefined);
    await first.do({ type: 'clean', done: true });
    await nick(first, '20');
    await through(first, '62.0');
    await shop.send({ type: 'bring-in', bladeId: first.bladeId, place: 'Heap' });
    const second = await shop.openCycleOf(first.bladeId);
    await nick(second, '22');
    await nick(second, '60');
    const { marks, series, timeline } = await life(first.bladeId);
    expect(marks.slice(-2).map(({ fromTipMm, returns }) => [fromTipMm, returns])).toEqual(
      jasmine.arrayWithExactContents([
        [22, true],
        [60, false],
      ]),
    );
    expect(series['mass']).toEqual([{ cycle: 1, value: 1592 }]);
    expect(timeline.at(-1)?.words).toBe('Started at the bench');
  });
});
