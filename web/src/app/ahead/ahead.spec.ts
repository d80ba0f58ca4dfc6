import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { DeferBlockBehavior, DeferBlockState, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { AheadOutlook, AheadView } from '@tally-stone/contract';
import { EMPTY } from 'rxjs';
import { Served } from '../../testing/served';
import { Changes } from '../data/changes';
import { Ahead } from './ahead';

type Next = AheadOutlook['specs'][number]['next'][number];
const none = { expected: 0, enough: 0 };
const months = Array.from(
  { length: 36 },
  (_, i) => `${2026 + Math.floor((i + 10) / 12)}-${String(((i + 10) % 12) + 1).padStart(2, '0')}`,
);
const outlook = (
  need: AheadOutlook['total'],
  changedAfterH: number,
  next: Next[] = [],
): AheadOutlook => ({
  total: need,
  specs: [
    {
      specId: 's',
      name: 'Towpath high-lift 533',
      blades: 9,
      price: 18.5,
      need,
      next,
      hoursPerBlade: months.map(() => 10),
    },
    {
      specId: 't',
      name: 'Pitch low-lift 610',
      blades: 6,
      price: 18,
      need: months.map(() => none),
      next: [{ chance: 0.4, code: '47AME', bladeId: 'p' }],
      hoursPerBlade: [],
    },
  ],
  setsBreaking: months.map(() => none),
  sets: [
    { deckId: 'd', mowerName: 'Heron', blades: 3, whole: months.map(() => 0.4), breaksIn: 14 },
  ],
  changedAfterH,
});
const twice = (need: AheadOutlook['total']): AheadOutlook['total'] =>
  need.map(({ expected, enough }) => ({ expected: 2 * expected, enough: 2 * enough }));
/** The first is used up now, the next two in spring, a fourth perhaps. */
const going: Next[] = [
  { chance: 1, tenthAt: 0, evenAt: 0, nineTenthsAt: 0, code: '44A7X', bladeId: 'b1' },
  { chance: 0.98, tenthAt: 3.2, evenAt: 4.4, nineTenthsAt: 7.5, code: '44HAY', bladeId: 'b2' },
  { chance: 0.8, tenthAt: 4.1, evenAt: 5.3, code: '44ENK', bladeId: 'b3' },
  { chance: 0.3, tenthAt: 9, code: '44HKE', bladeId: 'b4' },
];
const view = (need: AheadOutlook['total'], next: Next[] = []): AheadView => ({
  months,
  currency: 'GBP',
  outlooks: {
    'last-year': outlook(need, 26, next),
    rule: outlook(twice(need), 10, next.length > 0 ? [next[0]!, ...next] : []),
  },
  damagePerThousandHours: 0.42,
  past: { held: 41, sooner: 5, later: 4, running: 30 },
});

describe('Ahead', () => {
  async function open(answer: AheadView): Promise<HTMLElement> {
    TestBed.configureTestingModule({
      deferBlockBehavior: DeferBlockBehavior.Manual,
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([]),
        { provide: Changes, useValue: { all$: EMPTY } },
      ],
    });
    const fixture = TestBed.createComponent(Ahead);
    TestBed.tick();
    TestBed.inject(HttpTestingController).expectOne('/api/v1/ahead').flush(answer);
    await fixture.whenStable();
    // What follows the headline is drawn after it.
    for (const block of await fixture.getDeferBlocks())
      await block.render(DeferBlockState.Complete);
    return fixture.nativeElement as HTMLElement;
  }

  it('says first what to buy, by when and for how much, and draws the year', async () => {
    const page = await open(
      view(
        months.map(() => none),
        going,
      ),
    );
    expect(page.querySelector('h1')?.textContent).toBe('Buy 1 × Towpath high-lift 533 now: £19');
    expect(page.textContent).toContain('Likely 2 more by October 2027.');
    const tags = [...page.querySelectorAll('.price')].map(({ textContent }) =>
      textContent.replace(/\s+/g, ' ').trim(),
    );
    expect(tags).toEqual(['£19 1 now', '£37 2 by 1 Mar']);
    expect(page.querySelector('.price.first')?.textContent).toContain('1 now');
    expect(page.textContent).toContain('£56 likely by October');
    expect(page.textContent).toContain('£74 is enough four times out of five');
    expect(page.textContent).toContain('Perhaps one: Pitch low-lift 610 (40 %).');
    expect(page.textContent).toContain('1 set stays whole past October 2027.');
  });

  it('tells of each blade when it goes, from one to the next by arrow keys', async () => {
    const page = await open(
      view(
        months.map(() => none),
        going,
      ),
    );
    const blades = [...page.querySelectorAll<HTMLElement>('a.blade')];
    expect(blades.map((each) => each.getAttribute('aria-label'))).toEqual([
      'Number 1 to go, most likely 44A7X: used up now',
      'Number 2 to go, most likely 44HAY: 1 in 10 by February, even by March, 9 in 10 by June',
      'Number 3 to go, most likely 44ENK: 1 in 10 by March, even by April, 80 % by October',
      'Number 4 to go, most likely 44HKE: 1 in 10 by August, 30 % by October',
    ]);
    expect(blades.map(({ tabIndex }) => tabIndex)).toEqual([0, -1, -1, -1]);
    document.body.append(page);
    blades[0]?.focus();
    blades[0]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
    TestBed.tick();
    expect(document.activeElement).toBe(blades[1] ?? null);
    expect(page.querySelector('.card')?.textContent).toContain('Number 2 to go, most likely 44HAY');
    page.remove();
  });

  it('says how many more the other way uses up, and after how long only where that differs', async () => {
    const some = view(months.map((_, i) => ({ expected: i / 10, enough: 1 })));
    const unlike = await open(some);
    expect(unlike.textContent).toContain('after 10 h instead of 26, would use up');
    unlike.remove();
    TestBed.resetTestingModule();
    const { rule } = some.outlooks;
    const alike = await open({
      ...some,
      outlooks: { ...some.outlooks, rule: { ...rule, changedAfterH: 26 } },
    });
    expect(alike.textContent).toContain('Sets changed by your rule would use up');
    expect(alike.textContent).not.toContain('h instead of');
  });

  it('says since when hours are on record where that is less than a year', async () => {
    const year = await open(view(months.map(() => none)));
    expect(year.textContent).toContain('the mowing hours of the same month a year ago');
    year.remove();
    TestBed.resetTestingModule();
    const page = await open({
      ...view(months.map(() => none)),
      recordSince: '2026-10-03T09:00:00Z',
    });
    expect(page.textContent).toContain('the mowing hours on record since 3 Oct, months without');
    page.remove();
    TestBed.resetTestingModule();
    const unknown = await open({ ...view(months.map(() => none)), recordSince: null });
    expect(unknown.textContent).toContain('until some are on record');
  });

  it('shows the same as a table on demand, whose year starts a month before the first goes', async () => {
    const page = await open(
      view(months.map((_, i) => (i === 14 ? { expected: 1.2, enough: 2 } : none))),
    );
    expect(page.querySelector('h1')?.textContent).toBe('Nothing to buy before November 2027');
    expect(page.textContent).toContain('The first is likely used up in January 2028.');
    expect(page.textContent).toContain('0.4 blades lost to damage per 1000 hours');
    expect(page.textContent).toContain('four times in five, 41 held, 5 ended sooner');
    expect(page.querySelector('table')).toBeNull();
    const figures = [...page.querySelectorAll('button')].find(({ textContent }) =>
      textContent.includes('Figures'),
    );
    figures?.click();
    TestBed.tick();
    const heads = [...page.querySelectorAll('table')[0]!.querySelectorAll('thead th')].map(
      (cell) => cell.textContent,
    );
    expect(heads.slice(0, 4)).toEqual(['Blade', 'In use', 'Dec 27', 'Jan 28']);
    expect(page.textContent).toContain('likely to lose a blade by January 2028');
  });

  it('lets choose how long sets stay on, and says what the other assumption comes to and why', async () => {
    const page = await open(
      view(
        months.map((_, i) => (i === 2 ? { expected: 3, enough: 4 } : none)),
        going,
      ),
    );
    expect(page.textContent).toContain(
      'Sets changed by your rule, after 10 h instead of 26, would use up 6 blades in a year instead of 3.',
    );
    const rule = [...page.querySelectorAll<HTMLElement>('mat-button-toggle button')].find(
      ({ textContent }) => textContent.includes('by our rule'),
    );
    rule?.click();
    TestBed.tick();
    expect(page.querySelector('h1')?.textContent).toContain('2 × Towpath high-lift 533');
    expect(page.textContent).toContain('would use up 3 blades in a year instead of 6.');
  });
  it('promises nothing where there is no blade yet', async () => {
    const of = view(months.map(() => none));
    const empty = { ...of.outlooks['last-year'], specs: [] };
    const page = await open({ ...of, outlooks: { 'last-year': empty, rule: empty } });
    expect(page.querySelector('h1')?.textContent).toContain('No blade to look ahead for yet');
  });
  it('says so when nothing needs buying', async () => {
    const page = await open(view(months.map(() => none)));
    expect(page.querySelector('h1')?.textContent).toBe('Nothing to buy before November 2027');
    expect(page.textContent).toContain('No blade is used up before the end of October 2029.');
  });
  it('has a way on where the server does not answer', async () => {
    const page = await Served.open(Ahead, {
      '/api/v1/ahead': { status: 500, body: { type: 'about:blank', title: 'no answer' } },
    });
    expect(page.element.querySelector('[role=alert]')).not.toBeNull();
    const asked = page.read.length;
    await page.click('Try again');
    expect(page.read.length).toBeGreaterThan(asked);
  });
});
