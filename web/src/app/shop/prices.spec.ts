import { DEFAULT_RULES, type ShopRules } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { SPEC } from '../../testing/views';
import { Prices } from './prices';

describe('what things cost in a shop', () => {
  it('is kept as typed, with a decimal comma too', async () => {
    const page = await Served.open(Prices, {}, { rules: DEFAULT_RULES });
    const chosen: ShopRules[] = [];
    page.fixture.componentInstance.chosen.subscribe((each) => chosen.push(each));
    await page.type('input[name=blade]', '21,50');
    await page.click('Keep these prices');
    expect(chosen[0]?.prices.blade).toBe(21.5);
    expect(chosen[0]?.prices.benchHour).toBe(DEFAULT_RULES.prices.benchHour);
  });
  it('may be of a spec’s own, the rest as usual, and is named where it cannot be', async () => {
    const page = await Served.open(Prices, {}, { rules: DEFAULT_RULES, specs: [SPEC] });
    const chosen: ShopRules[] = [];
    page.fixture.componentInstance.chosen.subscribe((each) => chosen.push(each));
    await page.click('Keep these prices');
    expect(chosen[0]?.prices.bladeOf).toEqual({});
    await page.type(`input[name="${SPEC.specId}"]`, '26,5');
    await page.click('Keep these prices');
    expect(chosen[1]?.prices.bladeOf).toEqual({ [SPEC.specId]: 26.5 });
    await page.type(`input[name="${SPEC.specId}"]`, '-1');
    await page.click('Keep these prices');
    expect(page.find('[role=alert]').textContent).toBe(
      `${SPEC.figures.name}: must not be negative.`,
    );
    expect(chosen.length).toBe(2);
  });
  it('names the price that cannot be, and keeps what was typed', async () => {
    const page = await Served.open(Prices, {}, { rules: DEFAULT_RULES });
    await page.type('input[name=dullHour]', '-3');
    await page.click('Keep these prices');
    expect(page.find('[role=alert]').textContent).toBe('An hour mown dull: must not be negative.');
    expect(page.find<HTMLInputElement>('input[name=dullHour]').value).toBe('-3');
    await page.type('input[name=dullHour]', '');
    await page.click('Keep these prices');
    expect(page.find('[role=alert]').textContent).toContain('An hour mown dull: must be a number');
  });
});
