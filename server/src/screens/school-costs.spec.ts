import { DEFAULT_RULES, type SchoolCostsView } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';

describe('what a school costs', () => {
  let shop: TestShop;
  let meterH: number;
  beforeEach(async () => {
    shop = await TestShop.open();
    meterH = 100;
  });
  afterEach(() => shop.close());

  const costs = async (): Promise<SchoolCostsView> =>
    (await shop.get<SchoolCostsView>('/api/v1/school-costs')).body;

  /** A blade ground by half a millimetre, with a nick where `depth` says so, then mown with for 20 h. */
  async function groundAndMown(depth?: string): Promise<void> {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    if (depth) {
      await cycle.do({
        type: 'mark-damage',
        damageId: uuidv7(),
        kind: 'nick',
        end: 'A',
        fromTip: { text: '20', unit: 'mm' },
        depth: { text: depth, unit: 'mm' },
      });
    }
    await cycle.measure('before');
    await cycle.grind();
    await cycle.balance();
    await cycle.measure('after', { mass: '1592.0', width: '61.5', land: '0.15' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const [spindleId] = shop.spindleIds;
    const { bladeId } = cycle;
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH: meterH });
    meterH += 20;
    await shop.send({ type: 'bring-in', bladeId, place: 'Heap', hoursH: meterH });
  }

  async function history(): Promise<void> {
    for (let i = 0; i < 8; i++) await groundAndMown();
    for (let i = 0; i < 2; i++) await groundAndMown('0.9');
  }

  it('says nothing while the history is short', async () => {
    const { rows, grinds } = await costs();
    expect(rows).toEqual([]);
    expect(grinds).toBe(0);
  });

  it('replays the shop’s grinds: clearing nicks and throwing away early cost steel, nothing else', async () => {
    await history();
    const { rows, grinds, withNicks, bladesAYear } = await costs();
    expect([grinds, withNicks, bladesAYear]).toEqual([10, 2, 10]);
    const nick = (kind: string) => rows.find(({ nicks }) => nicks?.kind === kind);
    const after = (count: number | 'limits') => rows.find((row) => row.afterGrinds === count);
    // 8 of 0.5 mm; 2 of 0.9 mm where all is cleared, of 0.5 mm where 0.8 mm may stay.
    expect(nick('clear-all')?.recessionMm).toBeCloseTo((8 * 0.5 + 2 * 0.9) / 10, 6);
    expect(nick('leave-to')?.recessionMm).toBeCloseTo(0.5, 6);
    expect([nick('leave-to')?.current, after('limits')?.current]).toEqual([true, true]);
    expect(nick('leave-to')?.perHour).toEqual(after('limits')?.perHour);
    expect(after(3)?.grinds).toBe(3);
    const { blade, minutesPerBlade, benchHour } = DEFAULT_RULES.prices;
    // The factory edge and three grinds are four edges of 20 h, of which three cost the bench.
    expect(after(3)?.perHour.blade).toBeCloseTo(blade / 80, 9);
    expect(after(3)?.perHour.bench).toBeCloseTo((3 * minutesPerBlade * benchHour) / 60 / 80, 9);
    expect(after('limits')?.perHour.bench).toBeGreaterThan(after(3)?.perHour.bench ?? NaN);

    // The shop's own count is among them, and prices are as they are now.
    const rules = { ...DEFAULT_RULES, retireBy: { kind: 'count' as const, grinds: 6 } };
    const prices = { ...rules.prices, blade: 2 * rules.prices.blade };
    await shop.send({ type: 'set-rules', rules: { ...rules, prices } });
    const { rows: anew } = await costs();
    const counts = anew.flatMap(({ afterGrinds }) => (afterGrinds ? [afterGrinds] : []));
    expect(counts).toEqual(['limits', 3, 4, 6]);
    expect(anew.filter(({ current }) => current).map(({ afterGrinds }) => afterGrinds)).toEqual([
      undefined,
      6,
    ]);
    expect(anew.find(({ afterGrinds }) => afterGrinds === 3)?.perHour.blade).toBeCloseTo(
      (2 * DEFAULT_RULES.prices.blade) / 80,
      9,
    );
  }, 60_000);
});
