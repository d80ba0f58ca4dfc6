import { DEFAULT_RULES, type ShopRules } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { ShopSchools } from './shop-schools';

async function open(change: Partial<ShopRules> = {}) {
  const page = await Served.open(ShopSchools, {}, { rules: { ...DEFAULT_RULES, ...change } });
  const chosen: ShopRules[] = [];
  page.fixture.componentInstance.chosen.subscribe((each) => chosen.push(each));
  return { page, chosen };
}

describe("the shop's own schools", () => {
  it('stand side by side with what speaks for and against each', async () => {
    const { page } = await open();
    for (const words of [
      'Before and after: the plan knows the heavy end',
      'Hardly ever: quickest; the mower’s bearings',
      'Nail in the wall: always there; holds the blade off its centre',
      'Measured limits: the default',
    ]) {
      expect(page.text).toContain(words);
    }
  });
  it('are kept as picked, a count with its figure', async () => {
    const { page, chosen } = await open();
    await page.click('Hardly ever');
    await page.click('Nail in the wall');
    await page.click('A count of grinds too');
    expect(chosen.map(({ balanceWhen }) => balanceWhen)[0]).toBe('seldom');
    expect(chosen[1]?.balanceDevice).toBe('nail');
    expect(chosen[2]?.retireBy).toEqual({ kind: 'count', grinds: 4 });
    expect(page.element.querySelector('input')).toBeNull();
  });
  it('let the count be changed', async () => {
    const counted = await open({ retireBy: { kind: 'count', grinds: 4 } });
    await counted.page.enter('Grinds at most', '3');
    await counted.page.click('Keep the count');
    expect(counted.chosen.at(-1)?.retireBy).toEqual({ kind: 'count', grinds: 3 });
  });
  it('let the share be changed, with a comma too', async () => {
    const held = await open({ retireBy: { kind: 'wont-hold', share: 0.5 } });
    await held.page.enter('Watch below this share', '0,6');
    await held.page.click('Keep the share');
    expect(held.chosen.at(-1)?.retireBy).toEqual({ kind: 'wont-hold', share: 0.6 });
  });
});
