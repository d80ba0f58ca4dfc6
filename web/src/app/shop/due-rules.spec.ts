import { DEFAULT_RULES, type ShopRules } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { DueRules } from './due-rules';

async function open(change: Partial<ShopRules> = {}) {
  const page = await Served.open(DueRules, {}, { rules: { ...DEFAULT_RULES, ...change } });
  const chosen: ShopRules[] = [];
  page.fixture.componentInstance.chosen.subscribe((each) => chosen.push(each));
  return { page, chosen };
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
    const { page, chosen } = await open();
    await page.type('form > label input', '8,5');
    page.element.querySelectorAll<HTMLInputElement>('.day input')[0]?.click();
    await page.settle();
    await page.click('Keep the bench days');
    expect(chosen[0]).toEqual(
      jasmine.objectContaining({
        interval: { kind: 'hours', hours: 8.5 },
        benchWeekdays: [1, 2, 4],
        benchBlades: 12,
      }),
    );
  });
  it('names what is wrong and keeps it: no hours, no bench day', async () => {
    const { page, chosen } = await open({ benchWeekdays: [2] });
    await page.type('form > label input', '0');
    await page.click('Keep the bench days');
    expect(page.find('[role=alert]').textContent).toContain('The interval: must be above zero');
    await page.type('form > label input', '9');
    page.element.querySelectorAll<HTMLInputElement>('.day input')[1]?.click();
    await page.settle();
    await page.click('Keep the bench days');
    expect(page.find('[role=alert]').textContent).toContain('Bench days: is empty');
    expect(page.find<HTMLInputElement>('form > label input').value).toBe('9');
    expect(chosen).toEqual([]);
  });
});
