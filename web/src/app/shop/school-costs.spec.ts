import { DEFAULT_RULES, type SchoolCostRow, type SchoolCostsView } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { SchoolCosts } from './school-costs';

const row = (change: Partial<SchoolCostRow>, blade: number): SchoolCostRow => ({
  current: false,
  recessionMm: 0.5,
  grinds: 12,
  perHour: {
    blade,
    bench: 0.08,
    abrasive: 0.004,
    dull: 0.2,
    ground: blade + 0.084,
    total: blade + 0.284,
  },
  ...change,
});
const COSTS: SchoolCostsView = {
  currency: 'GBP',
  grinds: 40,
  withNicks: 9,
  bladesAYear: 210,
  rows: [
    row({ nicks: { kind: 'clear-all' }, recessionMm: 0.9, grinds: 7 }, 0.04),
    row({ nicks: { kind: 'leave-to', depthMm: 0.8 }, current: true }, 0.02),
    row({ nicks: { kind: 'leave-all' } }, 0.019),
    row({ afterGrinds: 'limits', current: true }, 0.02),
    row({ afterGrinds: 4, grinds: 4 }, 0.06),
  ],
};
const open = (costs: SchoolCostsView) =>
  Served.open(SchoolCosts, { '/api/v1/school-costs': costs }, { rules: DEFAULT_RULES });

describe('what a school costs here', () => {
  it('answers in words first, for the way that is furthest from the shop’s', async () => {
    const page = await open(COSTS);
    const answers = [...page.element.querySelectorAll(':scope > .answer')].map(
      ({ textContent }) => textContent,
    );
    expect(answers).toEqual([
      'To clear every nick would cost £2.00 more for 100 hours of a blade: 7.0 grinds a blade instead of 12.0.',
      'To retire after 4 grinds would cost £4.00 more for 100 hours of a blade: 4.0 grinds a blade instead of 12.0.',
    ]);
  });

  it('sets the ways side by side, marks the shop’s own, and says what it rests on', async () => {
    const page = await open(COSTS);
    const rows = [...page.element.querySelectorAll('tbody tr')];
    expect(rows.filter((each) => each.textContent?.includes('as you do it')).length).toBe(2);
    expect(rows[0]?.textContent?.replace(/\s+/g, ' ')).toContain(
      '£12.40 steel £4.00, bench £8.00, abrasive £0.40',
    );
    expect(page.text).toContain('Your last 40 grinds replayed, 9 of them with a nick');
  });

  it('says when the history is too short to tell', async () => {
    const page = await open({ ...COSTS, rows: [] });
    expect(page.text).toContain('After some ten finished grinds');
    expect(page.element.querySelector('table')).toBeNull();
  });

  it('says which tool pays at the shop’s blades a year, from how many on, and goes by what is typed', async () => {
    const page = await open(COSTS);
    const answer = (): string => page.find('ts-which-tool .answer').textContent ?? '';
    expect(answer()).toContain('At your 210 blades a year the belt or wheel machine costs');
    const pays = /pays from about (\d+) blades a year on \((\d+) to (\d+)\)/;
    const [, from = '0', least = '0', most = '0'] = pays.exec(answer()) ?? [];
    expect([Number(least) < Number(from), Number(from) < Number(most)]).toEqual([true, true]);
    expect(page.find('ts-which-tool svg').getAttribute('aria-label')).toBe(answer());
    await page.type('ts-which-tool fieldset:last-of-type ts-quantity:nth-of-type(2) input', '11,8');
    expect(answer()).toContain('or never');
    await page.type('ts-which-tool fieldset:last-of-type ts-quantity:nth-of-type(2) input', '14');
    expect(answer()).toContain('it never pays');
    await page.enter('Paid off in', '700');
    expect(page.element.querySelector('ts-which-tool .answer')?.textContent ?? '').toBe('');
    await page.enter('Paid off in', '5');
    // What is not a number yet says nothing of anything.
    await page.type('ts-which-tool fieldset:last-of-type ts-quantity:nth-of-type(2) input', 'x');
    expect(page.element.querySelector('ts-which-tool .answer')).toBeNull();
  });
});
