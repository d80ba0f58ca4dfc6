import type { BladeRow, RackView } from '@tally-stone/contract';
import { By } from '@angular/platform-browser';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
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
  blades: [
    { ...deckBlade(5, '47AAA'), bladeId: blade(5, 'ready').bladeId },
    { ...deckBlade(6, '47CCC'), bladeId: blade(6, 'ready').bladeId },
  ],
  worst: 0.1,
  over: [],
  spread: { lengthMm: 0, widthMm: 0.2, massG: 3 },
  faults: [],
  ...change,
});
const ids = (...blades: BladeRow[]): string[] => blades.map(({ bladeId }) => bladeId);
const rack = (change: Partial<RackView> = {}): RackView => ({
  sizes: [
    {
      specId: '018f0000-0000-7000-8000-000000000701',
      name: 'Churchyard',
      lengthMm: 457,
      widthMm: 57,
      pegs: [
        {
          name: '1',
          specId: '018f0000-0000-7000-8000-000000000701',
          mowerId: MOWER_ID,
          mowerName: 'Yew',
          bladeIds: ids(blade(7, 'ready'), blade(5, 'ready'), blade(6, 'ready')),
        },
      ],
    },
  ],
  waiting: [blade(1, 'waiting')],
  atBench: [blade(2, 'at-bench', { cycleId: '018f0000-0000-7000-8000-000000000601' })],
  ready: [blade(5, 'ready'), blade(6, 'ready'), blade(7, 'ready')],
  hold: [],
  retired: [blade(9, 'retired')],
  counts: { waiting: 1, atBench: 1, ready: 3, hold: 0, retired: 1 },
  sets: [set()],
  mowers: [fleetMower()],
  ...change,
});
const open = (view = rack(), more: Record<string, unknown> = {}) =>
  Served.open(Rack, { '/api/v1/rack': view, ...more });
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
  it('hangs the wall by size and peg, a set that hangs together tied, its blades first', async () => {
    const page = await open();
    expect(page.find('h1').textContent).toBe('A set hangs ready for every mower');
    const ready = lane(page, 'Ready');
    expect(ready.querySelector('.board')?.textContent).toContain('457 Churchyard');
    expect(ready.querySelector('.plate')?.textContent).toBe('1');
    expect(ready.querySelector('.tied')).not.toBeNull();
    const codes = [...ready.querySelectorAll('.blade b')].map((each) => each.textContent);
    expect(codes).toEqual(['44C5', '44C6', '44C7']);
    expect(ready.querySelectorAll('.blade.next').length).toBe(2);
    expect(ready.textContent).toContain('Next for Yew: 47AAA · 47CCC');
    expect(lane(page, 'On hold').textContent).toContain('Nothing on hold');
    expect(lane(page, 'On mowers').textContent).toContain('Yew');
  });
  it('counts the blades of a large shop, not those it shows', async () => {
    const page = await open();
    expect(page.text).toContain('3 ready on 1 pegs, 1 in the heap, 0 on the hook.');
    expect(page.text).not.toContain('more');
    const counts = { waiting: 1760, atBench: 1, ready: 5280, hold: 0, retired: 1 };
    TestBed.resetTestingModule();
    const large = await open(rack({ counts }));
    expect(large.text).toContain('5280 ready, 1760 in the heap, 0 on the hook.');
    expect(large.text).toContain('5277 more hang ready');
    expect(lane(large, 'Waiting').textContent).toContain('1759 more');
    expect(lane(large, 'Retired').textContent).not.toContain('more');
  });
  it('says where a set hangs that is elsewhere, and which of it is the odd one', async () => {
    const [size] = rack().sizes;
    const [peg] = size?.pegs ?? [];
    const loose = { name: 'A', specId: size?.specId ?? '', bladeIds: ids(blade(6, 'ready')) };
    const page = await open(
      rack({
        sizes: [{ ...size!, pegs: [{ ...peg!, bladeIds: ids(blade(5, 'ready')) }, loose] }],
        sets: [set({ over: ['massG'], oddCode: '47CCC' })],
      }),
    );
    expect(page.element.querySelector('.tied')).toBeNull();
    expect(page.text).toContain('from peg A. not alike');
    expect(page.text).toContain('47CCC is the odd one');
  });
  it('shows what a mower lacks as empty places on its peg, and leads to grinding for it', async () => {
    const [size] = rack().sizes;
    const [peg] = size?.pegs ?? [];
    const mower = fleetMower();
    const page = await open(
      rack({
        sizes: [{ ...size!, pegs: [{ ...peg!, bladeIds: [] }] }],
        ready: [],
        counts: { waiting: 1, atBench: 1, ready: 0, hold: 0, retired: 1 },
        mowers: [{ ...mower, deck: { ...mower.deck, readyBlades: 0 } }],
        sets: [set({ blades: [], refused: '2 short of a set' })],
      }),
    );
    expect(page.find('h1').textContent).toBe('Nothing whole hangs ready for Yew');
    expect(page.element.querySelectorAll('.blade.empty').length).toBe(2);
    expect(page.text).toContain('2 missing');
    expect(page.find('a.next-thing').getAttribute('href')).toBe('/batch');
  });
  it('goes from blade to blade by the arrows', async () => {
    const page = await open();
    const blades = [...page.element.querySelectorAll<HTMLElement>('button.blade')];
    blades[0]?.focus();
    blades[0]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
    expect(document.activeElement).toBe(blades[1] ?? null);
    blades[1]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft', bubbles: true }));
    expect(document.activeElement).toBe(blades[0] ?? null);
  });
  it('takes a ready blade let go over a deck to its set change, or says why it does not belong there', async () => {
    const path = `/api/v1/decks/${fleetMower().deck.deckId}/offer`;
    const longer = '44C8 is a Long 500: 12\u00a0mm too long';
    const page = await open(rack(), {
      [`${path}?with=44C7`]: set(),
      [`${path}?with=44C8`]: problem('/problems/invalid-input', longer, 'with'),
    });
    const to = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    const letGo = async (from: string, what: BladeRow): Promise<void> => {
      drop(page, from, `mower ${MOWER_ID}`, what);
      await page.settle();
    };
    await letGo('ready', blade(7, 'ready'));
    expect(to).toHaveBeenCalledOnceWith(['/mower', MOWER_ID, 'change'], {
      queryParams: { with: '44C7' },
    });
    await letGo('waiting', blade(1, 'waiting'));
    expect(page.find('[role=alert]').textContent).toContain('Only what is signed off');
    await letGo('ready', blade(8, 'ready'));
    expect(page.find('[role=alert]').textContent).toContain(
      'not for Yew: 44C8 is a Long 500: 12 mm too long',
    );
    expect(to).toHaveBeenCalledTimes(1);
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
    page.find<HTMLButtonElement>('section[aria-label="Waiting"] button.blade').click();
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
