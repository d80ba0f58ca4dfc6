import type { BladeRow, RegisterView } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { BladesPage } from './blades-page';

const blade = (n: number, change: Partial<BladeRow> = {}): BladeRow => ({
  bladeId: `0190b7a0-0000-7000-8000-${String(n).padStart(12, '0')}`,
  code: `4${n}KJ`,
  specName: 'Churchyard 457',
  lengthMm: 457,
  widthMm: 57,
  state: 'ready',
  place: 'Rack',
  grinds: 3,
  ...change,
});
const page1 = (total: number, blades: BladeRow[]): RegisterView => ({
  blades,
  total,
  states: { ready: total },
});

async function open(view: RegisterView) {
  const page = await Served.open(BladesPage, { '/api/v1/register': view, '/api/v1/specs': [] });
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
    expect(page.text).toContain('No blade is like that. Take a word out');
  });
});
