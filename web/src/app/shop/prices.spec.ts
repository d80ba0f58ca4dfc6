import { DEFAULT_RULES, type ShopRules } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { SPEC } from '../../testing/views';
import { Prices } from './prices';

async function open(inputs: object = {}) {
  const page = await Served.open(Prices, {}, { rules: DEFAULT_RULES, ...inputs });
  const chosen: ShopRules[] = [];
  page.fixture.componentInstance.chosen.subscribe((each) => chosen.push(each));
  return { page, chosen };
}

describe('what things cost in a shop', () => {
  it('is kept as typed, with a decimal comma too', async () => {
    const { page, chosen } = await open();
    await page.enter('A blade', '21,50');
    await page.click('Keep these prices');
    expect(chosen[0]?.prices.blade).toBe(21.5);
    expect(chosen[0]?.prices.benchHour).toBe(DEFAULT_RULES.prices.benchHour);
  });
  it('may be of a spec’s own, the rest as usual', async () => {
    const { page, chosen } = await open({ specs: [SPEC] });
    await page.click('Keep these prices');
    expect(chosen[0]?.prices.bladeOf).toEqual({});
    await page.enter(SPEC.figures.name, '26,5');
    await page.click('Keep these prices');
    expect(chosen[1]?.prices.bladeOf).toEqual({ [SPEC.specId]: 26.5 });
    await page.enter(SPEC.figures.name, '-1');
    await page.click('Keep these prices');
    expect(await page.wrongAt(SPEC.figures.name)).toBe('must not be negative');
    expect(chosen.length).toBe(2);
  });
  it('says at its field which price cannot be, and keeps what was typed', async () => {
    const { page, chosen } = await open();
    for (const [typed, words] of [
      ['-3', 'must not be negative'],
      ['', 'is empty: type a number'],
      ['dear', 'is not a number'],
      ['1000000000', 'is more than 100000'],
    ] as const) {
      await page.enter('An hour mown dull', typed);
      await page.click('Keep these prices');
      expect(await page.wrongAt('An hour mown dull')).toBe(words);
      expect(await page.valueOf('An hour mown dull')).toBe(typed);
    }
    expect(chosen).toEqual([]);
  });
});
