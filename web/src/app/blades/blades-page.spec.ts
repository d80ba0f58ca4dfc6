import type { LivesView, RegisterRow, RegisterView } from '@tally-stone/contract';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { HttpResponse, provideHttpClient, withInterceptors } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import { MatMenuHarness } from '@angular/material/menu/testing';
import { ActivatedRoute, convertToParamMap, provideRouter } from '@angular/router';
import { EMPTY, of } from 'rxjs';
import { Changes } from '../data/changes';
import { Served } from '../../testing/served';
import { BladesPage } from './blades-page';

const blade = (n: number, change: Partial<RegisterRow> = {}): RegisterRow => ({
  bladeId: `0190b7a0-0000-7000-8000-${String(n).padStart(12, '0')}`,
  code: `4${n}KJ`,
  specName: 'Churchyard 457',
  lengthMm: 457,
  widthMm: 57,
  state: 'ready',
  place: 'Rack',
  grinds: 0,
  ...change,
});
const page1 = (total: number, blades: RegisterRow[]): RegisterView => ({
  blades,
  total,
  states: { ready: total },
});

async function open(view: RegisterView, lives: LivesView['lives'] = []) {
  const page = await Served.open(BladesPage, {
    '/api/v1/register': view,
    // Nothing is asked of what is retired, or was never ground.
    [`/api/v1/register/lives?ids=${lives.map(({ bladeId }) => bladeId).join()}`]: { lives },
    '/api/v1/specs': [],
  });
  page.element.style.height = '600px';
  await later(page);
  return page;
}
async function later(page: Served<BladesPage>): Promise<void> {
  await new Promise((next) => setTimeout(next, 260));
  await page.settle();
  await new Promise((next) => setTimeout(next, 60));
  await page.settle();
}
const key = (page: Served<BladesPage>, name: string): void => {
  page
    .find('cdk-virtual-scroll-viewport')
    .dispatchEvent(new KeyboardEvent('keydown', { key: name, cancelable: true }));
};

describe('the register of all blades', () => {
  const heads = (element: HTMLElement): string[] =>
    [...element.querySelectorAll('[role=columnheader]')].map(({ textContent }) =>
      textContent.replace('▲', '').trim(),
    );
  const choose = async (page: Served<BladesPage>, column: string): Promise<void> => {
    const menu = await TestbedHarnessEnvironment.loader(page.fixture).getHarness(
      MatMenuHarness.with({ triggerText: /Columns/ }),
    );
    await menu.clickItem({ text: new RegExp(column) });
    await later(page);
  };

  it('opens on the state that a link asks for, and on all where it asks for none there is', async () => {
    for (const [asked, shown] of [
      ['waiting', 'state=waiting'],
      ['broken', 'sort=code'],
    ] as const) {
      const snapshot = { queryParamMap: convertToParamMap({ state: asked }) };
      const urls: string[] = [];
      TestBed.resetTestingModule().configureTestingModule({
        providers: [
          provideRouter([]),
          { provide: ActivatedRoute, useValue: { snapshot } },
          { provide: Changes, useValue: { all$: EMPTY } },
          provideHttpClient(
            withInterceptors([
              ({ urlWithParams }) => {
                urls.push(urlWithParams);
                const body = urlWithParams.endsWith('specs') ? [] : page1(0, []);
                return of(new HttpResponse({ body }));
              },
            ]),
          ),
        ],
      });
      await TestBed.createComponent(BladesPage).whenStable();
      const register = urls.find((url) => url.includes('/register'));
      expect(register).toContain(shown);
      expect(register?.includes('state=')).toBe(asked === 'waiting');
    }
  });

  it('takes an answer that is there before it is drawn, as one asked for early is', async () => {
    TestBed.configureTestingModule({
      providers: [
        provideRouter([]),
        { provide: Changes, useValue: { all$: EMPTY } },
        provideHttpClient(
          withInterceptors([
            ({ url }) =>
              of(
                new HttpResponse({
                  body: url.endsWith('specs') ? [] : page1(1, [blade(1, { code: '44SOON' })]),
                }),
              ),
          ]),
        ),
      ],
    });
    const page = TestBed.createComponent(BladesPage);
    await page.whenStable();
    await new Promise((next) => setTimeout(next, 60));
    expect((page.nativeElement as HTMLElement).textContent).toContain('44SOON');
  });

  it('tells what is left of each blade, which limit comes first, and when it was ground last', async () => {
    const page = await open(
      page1(3, [
        blade(0, { grinds: 3, lastGroundAt: '2026-11-02T07:40:20Z' }),
        blade(1, { grinds: 1 }),
        blade(2, { grinds: 9, state: 'retired' }),
      ]),
      [
        {
          bladeId: blade(0).bladeId,
          grinds: { median: 3, low: 2, high: 5 },
          first: 'width at end B, root',
          roomMm: 1.25,
        },
        {
          bladeId: blade(1).bladeId,
          grinds: { median: 4, low: 4, high: 4 },
          first: 'the number of grinds',
        },
      ],
    );
    const row = (n: number): string | undefined =>
      page.find(`#row-${n}`).textContent.replace(/\s+/g, ' ').trim();
    expect(row(0)).toContain('3 (2–5) 1.3 mm: width at end B, root 2 Nov');
    expect(row(1)).toMatch(/4 the number of grinds$/);
    expect(row(2)).toMatch(/retired Rack$/);
    expect(page.element.querySelector('[role=alert]')).toBeNull();
  });

  it('shows the columns that are chosen, here the next time too, and takes those away', async () => {
    const page = await open(page1(1, [blade(0)]));
    expect(heads(page.element)).toEqual([
      'Code',
      'Spec',
      'State',
      'Where',
      'Grinds',
      'Grinds left',
      'First limit',
      'Last ground',
    ]);
    for (const column of ['Spec', 'Grinds left', 'First limit', 'Waiting since'])
      await choose(page, column);
    const chosen = ['Code', 'State', 'Where', 'Grinds', 'Last ground', 'Waiting since'];
    expect(heads(page.element)).toEqual(chosen);
    await page.click('Export this list');
    const sheet = document.querySelector<HTMLAnchorElement>('a[href*="register.csv"]')?.href ?? '';
    expect(new URL(sheet).searchParams.get('columns')).toBe(
      'state,place,grinds,last-grind,waiting',
    );
    document.querySelector<HTMLElement>('.cdk-overlay-backdrop')?.click();
    const again = TestBed.createComponent(BladesPage);
    await again.whenStable();
    expect(heads(again.nativeElement as HTMLElement)).toEqual(chosen);
  });

  it('goes back to codes where the column it was sorted by is put away', async () => {
    const page = await open(page1(1, [blade(0)]));
    await page.click('Grinds left');
    await later(page);
    await choose(page, 'Grinds left');
    expect(page.button('Code').closest('[role=columnheader]')?.getAttribute('aria-sort')).toBe(
      'ascending',
    );
  });

  it('tells how many there are, draws only what is seen, and where each is', async () => {
    const rows = Array.from({ length: 100 }, (_, i) => blade(i));
    const page = await open(
      page1(10_000, [
        blade(1, { state: 'on-mower', mowerName: 'Yew', position: 'left' }),
        blade(2, { place: 'Peg 9', mowerName: 'Yew' }),
        ...rows.slice(2),
      ]),
    );
    expect(page.find('h1').textContent).toBe('10,000 blades');
    const drawn = page.element.querySelectorAll('.row:not(.head)').length;
    expect(drawn).toBeGreaterThan(3);
    expect(drawn).toBeLessThan(80);
    expect(page.text).toContain('Yew, left');
    expect(page.text).toContain('Peg 9, off Yew');
    expect(page.find('[role=grid]').getAttribute('aria-rowcount')).toBe('10001');
  });
  it('is whole by keyboard: from the search into the rows, arrows move, each row is a link', async () => {
    const page = await open(page1(3, [blade(0), blade(1), blade(2)]));
    document.body.append(page.element);
    const at = (): string | null | undefined => document.activeElement?.getAttribute('href');
    page
      .find('input[type=search]')
      .dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', cancelable: true }));
    await later(page);
    expect(at()).toBe(`/blade/${blade(0).bladeId}`);
    for (const name of ['ArrowDown', 'ArrowDown', 'ArrowDown']) key(page, name);
    await later(page);
    expect(at()).toBe(`/blade/${blade(2).bladeId}`);
    key(page, 'Home');
    await later(page);
    expect(at()).toBe(`/blade/${blade(0).bladeId}`);
    expect(page.element.querySelectorAll('a.code[tabindex="0"]').length).toBe(1);
  });
  it('sorts by a column, and turns the order at the second press', async () => {
    const page = await open(page1(1, [blade(0)]));
    const grinds = (): Element | null => page.button('Grinds').closest('[role=columnheader]');
    await page.click('Grinds');
    await later(page);
    expect(grinds()?.getAttribute('aria-sort')).toBe('ascending');
    await page.click('Grinds');
    await later(page);
    expect(grinds()?.getAttribute('aria-sort')).toBe('descending');
  });
  it('says what to do where nothing is found', async () => {
    const page = await open(page1(0, []));
    expect(page.text).toContain('No blade matches. Remove a word');
  });
});
