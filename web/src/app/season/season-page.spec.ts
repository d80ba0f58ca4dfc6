import { DEFAULT_RULES } from '@tally-stone/contract';
import { TestBed } from '@angular/core/testing';
import {
  BenchError,
  seasonDifference,
  simulateSeason,
  simulateSeasons,
  steadyRain,
  type Season,
} from '@tally-stone/core';
import { delay, NEVER, Observable, of, throwError } from 'rxjs';
import { Served } from '../../testing/served';
import { SEASON } from './choice.spec';
import { SeasonPage } from './season-page';
import { Simulator, type SeasonProgress } from './simulator';
import type { SeasonQuestion } from './season.worker';
import { Weather } from './weather';

const VIEW = {
  season: SEASON,
  changedAfterH: { 'last-year': { Heron: 25 }, rule: { Heron: 10 } },
  prices: DEFAULT_RULES.prices,
  sources: [{ what: 'Strikes', words: '12 reported in 4000 mown hours' }],
};

/** The worker's own answer, without its thread. */
class Here {
  readonly asked: SeasonQuestion[] = [];
  answer: ((question: SeasonQuestion) => Observable<SeasonProgress>) | undefined;
  stopped = 0;
  run(question: SeasonQuestion): Observable<SeasonProgress> {
    this.asked.push(question);
    if (this.answer) return this.answer(question);
    return of({
      done: 1,
      total: 1,
      summaries: question.seasons.map((season) => simulateSeasons(season, 2, question.seed)),
      differences: question.seasons.map((season) => {
        const run = (of: Season) => [0, 1].map((i) => simulateSeason(of, question.seed + i));
        const [first = season] = question.seasons;
        return seasonDifference(run(first), run(season), question.prices);
      }),
    }).pipe(delay(0));
  }
}

async function open(here = new Here()) {
  TestBed.overrideProvider(Simulator, { useValue: here });
  TestBed.overrideProvider(Weather, {
    useValue: {
      openSeries: () => Promise.resolve(steadyRain(0)),
      ownFile: () => Promise.reject(new BenchError('The rain in line 3', 'is not a number', 'wet')),
    },
  });
  const page = await Served.open(SeasonPage, { '/api/v1/season': VIEW });
  await page.settle();
  return { page, here };
}

describe('the season ahead', () => {
  it('answers in words first, with the choices side by side and where the figures come from', async () => {
    const { page, here } = await open();
    expect(page.find('h1').textContent).toMatch(/takes dull hours from|does not help/);
    expect(page.element.querySelectorAll('thead th .title').length).toBe(3);
    expect(page.text).toContain('As it stands');
    expect(page.text).toContain('A third set for the three-spindle decks');
    expect(page.text).toContain('The bench on Monday too');
    expect(page.text).toContain('12 reported in 4000 mown hours');
    expect(page.text).toContain('A season costs£');
    const [first] = here.asked.slice(-1);
    expect(first?.seasons.map(({ mowers }) => mowers[0]?.sets)).toEqual([2, 3, 2]);
    // All choices start from one seed: they meet the same weather.
    expect(first?.seed).toBe(2027);
    expect(page.find('ts-season-lanes svg').getAttribute('aria-label')).toContain('One season');
  });
  it('asks again with what is changed in a column', async () => {
    const { page, here } = await open();
    const field = page.find<HTMLInputElement>('[aria-label="More sets, choice 1"]');
    field.value = '2';
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new Event('change'));
    await page.settle();
    expect(here.asked.at(-1)?.seasons[1]?.mowers[0]?.sets).toBe(4);
    await page.click('Another choice');
    expect(here.asked.at(-1)?.seasons.length).toBe(4);
    expect(page.text).not.toContain('Another choice');
    await page.click('Take away');
    expect(here.asked.at(-1)?.seasons.length).toBe(3);
  });
  it('refuses a figure of a choice that cannot be at its field, and keeps it there', async () => {
    const { page, here } = await open();
    const before = here.asked.length;
    const typed = async (name: string, value: string): Promise<string> => {
      const field = page.find<HTMLInputElement>(`[aria-label="${name}, choice 2"]`);
      field.value = value;
      field.dispatchEvent(new Event('input'));
      field.dispatchEvent(new Event('change', { bubbles: true }));
      await page.settle();
      expect(field.value).toBe(value);
      return field.closest('mat-form-field')?.querySelector('mat-error')?.textContent ?? '';
    };
    expect(await typed('Blades a bench day', 'many')).toBe('is not a number');
    expect(await typed('Edge life in per cent of now', '0')).toBe('must be above zero');
    expect(await typed('Edge life in per cent of now', '5')).toBe('is less than 10\u00a0%');
    expect(await typed('Strikes in per cent of now', '-1')).toBe('must not be negative');
    expect(await typed('More sets', '1e9')).toBe('is more than 20');
    expect(here.asked.length).toBe(before);
    expect(await typed('Edge life in per cent of now', '50')).toBe('');
    expect(here.asked.length).toBe(before + 1);
  });
  it('shows how far it is, and stops when told to', async () => {
    const here = new Here();
    here.answer = () =>
      new Observable<SeasonProgress>((listener) => {
        listener.next({ done: 40, total: 600 });
        return () => {
          here.stopped += 1;
        };
      });
    const { page } = await open(here);
    expect(page.text).toContain('40 of 600 seasons');
    await page.click('Stop');
    expect(here.stopped).toBeGreaterThan(0);
    expect(page.text).not.toContain('of 600 seasons');
    await page.click('Run it again');
    expect(page.text).toContain('40 of 600 seasons');
    expect(page.text).not.toContain('Run it again');
  });
  it('refuses a length that is none at its field: letters, and a season of thousands of years', async () => {
    const { page, here } = await open();
    const before = here.asked.length;
    for (const [typed, words] of [
      ['abc', 'is not a number'],
      ['1e9', 'is more than 1000'],
    ] as const) {
      await page.enter('For', typed);
      page.find('ts-quantity input').dispatchEvent(new Event('change', { bubbles: true }));
      await page.settle();
      expect(await page.wrongAt('For')).toBe(words);
    }
    expect(here.asked.length).toBe(before);
  });
  it('says what a season of no days is, and what a weather file misses', async () => {
    const here = new Here();
    const { page } = await open(here);
    here.answer = () =>
      throwError(
        () => new BenchError('days', 'must be at least one: a season of no days shows nothing', 0),
      );
    await page.click('Another choice');
    expect(page.find('[role=alert]').textContent).toContain('a season of no days shows nothing');
    here.answer = () => NEVER;
    await page.click('Rain of our own file');
    const file = page.find<HTMLInputElement>('input[type=file]');
    Object.defineProperty(file, 'files', { value: [new File(['x'], 'rain.csv')] });
    file.dispatchEvent(new Event('change'));
    await page.settle();
    expect(page.find('[role=alert]').textContent).toContain('line 3 is not a number');
  });
});

describe('the simulator', () => {
  it('runs the very same seasons in its own thread, and tells how far it is', async () => {
    const simulator = new Simulator();
    const heard: SeasonProgress[] = [];
    await new Promise<void>((done, failed) => {
      simulator.run({ seasons: [SEASON], times: 45, seed: 7, prices: VIEW.prices }).subscribe({
        next: (each) => heard.push(each),
        error: failed,
        complete: done,
      });
    });
    expect(heard.length).toBeGreaterThan(2);
    expect(heard.at(-1)?.summaries?.[0]).toEqual(simulateSeasons(SEASON, 45, 7));
  });
  it('says which figure cannot be', async () => {
    const words = await new Promise<string>((done) => {
      new Simulator()
        .run({ seasons: [{ ...SEASON, days: 0 }], times: 1, seed: 1, prices: VIEW.prices })
        .subscribe({ error: (error: Error) => done(error.message) });
    });
    expect(words).toContain('days must be at least one');
  });
});
