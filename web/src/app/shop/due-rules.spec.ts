import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { DEFAULT_RULES, type ShopRules } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { DueRules } from './due-rules';

async function open(change: Partial<ShopRules> = {}) {
  const page = await Served.open(DueRules, {}, { rules: { ...DEFAULT_RULES, ...change } });
  const chosen: ShopRules[] = [];
  page.fixture.componentInstance.chosen.subscribe((each) => chosen.push(each));
  const turn = async (day: string): Promise<void> => {
    const loader = TestbedHarnessEnvironment.loader(page.fixture);
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: day }))).toggle();
    await page.settle();
  };
  return { page, chosen, turn };
}

describe('the rule for when a set is due', () => {
  it('gives the reason of the school in force, and starts another from usual practice', async () => {
    const { page, chosen } = await open();
    expect(page.text).toContain(
      'needs the meter read. A strike or a complaint makes it due at once',
    );
    await page.click('Every so many days');
    await page.click('When the cut shows it');
    expect(chosen.map(({ interval }) => interval)).toEqual([
      { kind: 'days', days: 7 },
      { kind: 'when-shown' },
    ]);
  });
  it('keeps hours, bench days and what the bench does in one', async () => {
    const { page, chosen, turn } = await open();
    await page.enter('Hours on soft turf and loam', '8,5');
    await turn('Mon');
    await page.click('Keep the bench days');
    expect(chosen[0]).toEqual(
      jasmine.objectContaining({
        interval: { kind: 'hours', hours: 8.5 },
        benchWeekdays: [1, 2, 4],
        benchBlades: 12,
      }),
    );
  });
  it('says at its field what is wrong, and keeps what was typed: no hours, no bench day', async () => {
    const { page, chosen, turn } = await open({ benchWeekdays: [2] });
    await page.enter('Hours on soft turf and loam', '0');
    await page.enter('Blades in one bench day', '2.5');
    await turn('Tue');
    await page.click('Keep the bench days');
    expect(await page.wrongAt('Hours on soft turf and loam')).toContain('must be above zero');
    expect(await page.wrongAt('Blades in one bench day')).toContain('must be a whole number');
    expect(page.find('#bench-days-wrong').textContent).toContain('pick at least one day');
    expect(await page.valueOf('Hours on soft turf and loam')).toBe('0');
    expect(chosen).toEqual([]);
  });
});
