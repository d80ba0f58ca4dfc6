import { TestBed } from '@angular/core/testing';
import { SpecFigures } from '@tally-stone/contract';
import { Served, problem } from '../../testing/served';
import { FirstDay } from './first-day';
import { specOf, USUAL_SIZES } from './usual-sizes';

const kept = { commandId: 'k', sequence: 1 };
const ALL = ['people', 'spec', 'grinder', 'mower', 'blades'] as const;
const open = (missing: readonly (typeof ALL)[number][], answers: Record<string, unknown> = {}) =>
  Served.open(FirstDay, answers, { missing });
const stateOf = (page: Served<FirstDay>, name: string): string =>
  [...page.element.querySelectorAll('.thing')]
    .find((each) => each.textContent?.includes(name))
    ?.className.replace('thing', '')
    .trim() ?? '';

describe('the first day', () => {
  beforeEach(() => {
    localStorage.clear();
  });
  afterEach(() => {
    localStorage.clear();
  });

  it('asks for what is needed first, and keeps the rest in view', async () => {
    const page = await open(ALL);
    expect(page.find('h2').textContent).toBe('Who works here?');
    expect(page.find('a.next-thing').getAttribute('href')).toBe('/shop/people');
    expect(stateOf(page, 'You')).toBe('now');
    expect(stateOf(page, 'A mower')).toBe('missing');
    expect(page.text).toContain('0 of 5 there.');
  });

  it('makes a spec of a usual size by one touch, its limits on the safe side', async () => {
    const page = await open(['spec', 'grinder', 'mower', 'blades'], { 'POST add-spec': kept });
    expect(stateOf(page, 'You')).toBe('there');
    await page.click('483');
    const figures = page.commands.at(-1)?.['figures'] as SpecFigures;
    expect(figures.name).toBe('483 high-lift');
    const widths = figures.limits.filter(({ kind }) => kind === 'width');
    expect(widths.map(({ value }) => value)).toEqual([51, 51, 51]);
    expect(widths.every(({ source }) => source === 'shop')).toBeTrue();
  });

  it('offers no size that the contract would refuse', () => {
    for (const size of USUAL_SIZES)
      expect(SpecFigures.safeParse(specOf(size)).success)
        .withContext(String(size.newLengthMm))
        .toBeTrue();
  });

  it('takes what the shop has in a list already, where there can be one', async () => {
    const listLink = async (missing: readonly (typeof ALL)[number][]) => {
      TestBed.resetTestingModule();
      const page = await open(missing);
      return page.element.querySelector('a[href^="/shop/lists"]')?.getAttribute('href');
    };
    expect(await listLink(['spec'])).toBe('/shop/lists?of=specs');
    expect(await listLink(['mower'])).toBe('/shop/lists?of=mowers');
    expect(await listLink(['blades'])).toBe('/shop/lists?of=blades');
    expect(await listLink(['grinder'])).toBeUndefined();
  });

  it('says why a size was refused', async () => {
    const page = await open(['spec'], {
      'POST add-spec': problem('/problems/refused', 'A technician may not do that.'),
    });
    await page.click('610');
    expect(page.find('[role=alert]').textContent).toContain('A technician may not do that');
  });

  it('goes past what is skipped, and comes back to it when nothing else is left', async () => {
    const page = await open(['grinder', 'blades']);
    await page.click('Skip this');
    expect(page.find('h2').textContent).toBe('How many blades lie there?');
    expect(stateOf(page, 'The grinder')).toBe('skipped');
    const later = await openAgain(['grinder']);
    expect(later.find('h2').textContent).toBe('What do you grind on?');
  });
});

/** As after the page was left and opened again. */
async function openAgain(missing: readonly (typeof ALL)[number][]): Promise<Served<FirstDay>> {
  TestBed.resetTestingModule();
  return open(missing);
}
