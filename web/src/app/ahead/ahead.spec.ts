import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { AheadOutlook, AheadView } from '@tally-stone/contract';
import { EMPTY } from 'rxjs';
import { Changes } from '../data/changes';
import { Ahead } from './ahead';

const none = { expected: 0, enough: 0 };
const months = Array.from(
  { length: 36 },
  (_, i) => `${2026 + Math.floor((i + 10) / 12)}-${String(((i + 10) % 12) + 1).padStart(2, '0')}`,
);
const outlook = (need: AheadOutlook['total'], changedAfterH: number): AheadOutlook => ({
  total: need,
  specs: [
    { specId: 's', name: 'Towpath high-lift 533', blades: 9, price: 18.5, need, hoursPerBlade: [] },
    {
      specId: 't',
      name: 'Pitch low-lift 610',
      blades: 6,
      price: 18,
      need: months.map(() => none),
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
const view = (need: AheadOutlook['total']): AheadView => ({
  months,
  currency: 'GBP',
  outlooks: { 'last-year': outlook(need, 26), rule: outlook(twice(need), 10) },
  damagePerThousandHours: 0.42,
  past: { held: 41, judged: 50 },
});

describe('Ahead', () => {
  async function open(answer: AheadView): Promise<HTMLElement> {
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: Changes, useValue: { all$: EMPTY } },
      ],
    });
    const fixture = TestBed.createComponent(Ahead);
    TestBed.tick();
    TestBed.inject(HttpTestingController).expectOne('/api/v1/ahead').flush(answer);
    await fixture.whenStable();
    return fixture.nativeElement as HTMLElement;
  }

  it('says first what to have ready and by when, and starts its year a month before', async () => {
    const page = await open(
      view(months.map((_, i) => (i === 14 ? { expected: 1.2, enough: 2 } : none))),
    );
    expect(page.querySelector('h1')?.textContent).toBe(
      'None is used up before January 2028. Have ready by the end of February 2028: 2 × Towpath high-lift 533, £37',
    );
    const heads = [...page.querySelectorAll('section:first-of-type thead th')].map(
      (cell) => cell.textContent,
    );
    expect(heads.slice(0, 4)).toEqual(['Blade', 'In use', 'Dec 27', 'Jan 28']);
    expect(page.textContent).toContain('None within these months: Pitch low-lift 610');
    expect(page.textContent).toContain('likely to lose a blade by January 2028');
    expect(page.textContent).toContain('0.4 blades lost to damage per 1000 hours');
    expect(page.textContent).toContain('four times in five, 41 of 50 held');
  });
  it('lets choose how long sets stay on, and says what the other assumption comes to and why', async () => {
    const page = await open(
      view(months.map((_, i) => (i === 2 ? { expected: 3, enough: 4 } : none))),
    );
    expect(page.textContent).toContain(
      'Sets changed by your rule, after 10 h instead of 26, would use up 6 blades in a year instead of 3.',
    );
    const rule = [...page.querySelectorAll<HTMLElement>('mat-button-toggle button')].find(
      ({ textContent }) => textContent.includes('by our rule'),
    );
    rule?.click();
    TestBed.tick();
    expect(page.querySelector('h1')?.textContent).toContain('8 × Towpath high-lift 533');
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
    expect(page.querySelector('h1')?.textContent).toBe(
      'No blade is used up before the end of October 2029',
    );
  });
});
