import type { BladeRow, RackView } from '@tally-stone/contract';
import { By } from '@angular/platform-browser';
import { CdkDropList } from '@angular/cdk/drag-drop';
import { Served, problem } from '../../testing/served';
import { deckBlade, fleetMower, MOWER_ID } from '../../testing/fleet';
import { Rack } from './rack';

const blade = (i: number, state: BladeRow['state'], change: Partial<BladeRow> = {}): BladeRow => ({
  bladeId: `018f0000-0000-7000-8000-0000000001${i}0`,
  code: `44C${i}`,
  specName: 'Churchyard',
  lengthMm: 457,
  widthMm: 57,
  state,
  place: 'Peg',
  grinds: 2,
  ...change,
});
const set = (change: Partial<RackView['sets'][number]> = {}): RackView['sets'][number] => ({
  mowerId: MOWER_ID,
  mowerName: 'Yew',
  blades: [deckBlade(5, '47AAA'), deckBlade(6, '47CCC')],
  worst: 0.1,
  over: [],
  spread: { lengthMm: 0, widthMm: 0.2, massG: 3 },
  faults: [],
  ...change,
});
const rack = (change: Partial<RackView> = {}): RackView => ({
  waiting: [blade(1, 'waiting')],
  atBench: [blade(2, 'at-bench', { cycleId: '018f0000-0000-7000-8000-000000000601' })],
  ready: [blade(5, 'ready'), blade(6, 'ready'), blade(7, 'ready')],
  hold: [],
  retired: [blade(9, 'retired')],
  sets: [set()],
  mowers: [fleetMower()],
  ...change,
});
const open = (view = rack(), more: Record<string, unknown> = {}) =>
  Served.open(Rack, { '/api/rack': view, ...more });
const lane = (page: Served<Rack>, name: string): HTMLElement =>
  page.find(`section[aria-label="${name}"]`);

/** As the drag and drop package tells it: a blade let go over a lane. */
function drop(page: Served<Rack>, from: string, to: string, what: BladeRow): void {
  const list = page.fixture.debugElement
    .queryAll(By.directive(CdkDropList))
    .map((each) => each.injector.get(CdkDropList))
    .find(({ data }) => data === to);
  list?.dropped.emit({
    item: { data: { lane: from, blade: what } },
    container: { data: to },
  } as never);
}

describe('the rack', () => {
  it('says for which mower a set stands ready, and groups it', async () => {
    const page = await open();
    expect(page.find('h1').textContent).toBe('A set stands ready for Yew');
    const ready = lane(page, 'Ready');
    expect(ready.textContent).toContain('Next for Yew');
    expect(ready.textContent).toContain('alike: apart by 0.0 mm in length');
    // The two of the set stand in it, not beside it.
    expect(ready.querySelectorAll('.blade').length).toBe(1);
    expect(lane(page, 'On hold').textContent).toContain('Nothing on hold');
  });
  it('names the odd one of a set that does not match, and a mower without one', async () => {
    const odd = set({ over: ['massG'], oddCode: '47CCC' });
    const short = set({ blades: [], mowerName: 'Lark', refused: '2 short of a set' });
    const page = await open(rack({ sets: [odd, short] }));
    expect(page.find('h1').textContent).toContain('none for Lark');
    expect(page.text).toContain('not alike');
    expect(page.text).toContain('47CCC is the odd one');
  });
  it('moves a blade by drag: to the heap, or up to the bench', async () => {
    const page = await open(rack(), { 'POST bring-in': { commandId: 'c', sequence: 1 } });
    drop(page, 'ready', 'waiting', blade(7, 'ready'));
    await page.settle();
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'bring-in', bladeId: blade(7, 'ready').bladeId }),
    );
    expect(page.text).toContain('44C7 waits for the bench');
  });
  it('says why a blade cannot go where it was let go, and sends nothing', async () => {
    const page = await open();
    for (const [from, to, words] of [
      ['waiting', 'ready', 'Only its sign-off'],
      ['retired', 'waiting', 'stays retired'],
      ['atBench', 'waiting', 'Its cycle is open'],
      ['ready', 'atBench', 'Bring it to the waiting heap first'],
      ['ready', 'retired', 'with the reason'],
    ] as const) {
      drop(page, from, to, blade(7, 'ready'));
      await page.settle();
      expect(page.find('[role=alert]').textContent).toContain(words);
    }
    expect(page.commands.filter(({ type }) => type)).toEqual([]);
  });
  it('does the same from the keyboard’s menu, and says what the server refuses', async () => {
    const page = await open(rack(), {
      'POST open-cycle': problem('/problems/refused', 'This blade is at the bench already.'),
    });
    page.find<HTMLButtonElement>('section[aria-label="Waiting"] .blade button').click();
    await page.settle();
    const item = [...document.querySelectorAll<HTMLElement>('.mat-mdc-menu-item')].find((each) =>
      each.textContent.includes('Start it at the bench'),
    );
    item?.click();
    await page.settle();
    expect(page.commands.at(-1)).toEqual(jasmine.objectContaining({ type: 'open-cycle' }));
    expect(page.find('[role=alert]').textContent).toContain(
      '44C1: This blade is at the bench already',
    );
  });
});
