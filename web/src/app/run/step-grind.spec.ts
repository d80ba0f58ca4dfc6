import type { PlanView } from '@tally-stone/contract';
import { cycleView } from '../../testing/views';
import { ASKED } from '../../testing/plan';
import { TestBed } from '@angular/core/testing';
import { Keys } from '../data/keys';
import { Served } from '../../testing/served';
import { deepest, liveForward } from './live';
import { Run } from './run';

const kept = { commandId: 'x', sequence: 1, revision: 4 };

function grinding(
  passes: number,
  more: Parameters<typeof cycleView>[0] = {},
  plan: PlanView = ASKED,
) {
  const view = cycleView({
    nextStep: 'grind',
    passes: passes ? [{ passId: 'p', end: 'B', zone: 'full', count: passes }] : [],
    ...more,
  });
  return Served.open(
    Run,
    {
      [`/api/v1/cycles/${view.cycleId}`]: view,
      [`/api/v1/cycles/${view.cycleId}/plan`]: plan,
      'POST count-passes': kept,
      'POST mark-damage': kept,
      'POST deburr': kept,
    },
    { cycleId: view.cycleId },
  );
}

describe('liveForward', () => {
  it('takes what was counted since the balance reading, no more', () => {
    const counted = (end: string): number => (end === 'B' ? 5 : 2);
    const fresh = liveForward(ASKED, (end, zone) => (zone === 'full' ? counted(end) : 0));
    const again = liveForward(
      { ...ASKED, behind: { A: { 'none full': 2 }, B: { 'none full': 5 } } },
      (end, zone) => (zone === 'full' ? counted(end) : 0),
    );
    expect(fresh.metalG).toBeCloseTo(7 * 0.52, 9);
    expect(again.metalG).toBe(0);
    expect(deepest(fresh, 'B')).toBeGreaterThan(deepest(fresh, 'A'));
    expect((fresh.unbalanceGmm ?? 0) - 300).toBeGreaterThan(0);
  });
});

describe('grinding', () => {
  beforeEach(() => {
    localStorage.clear();
  });

  it('says what the passes should have done, and calls out where to look', async () => {
    const page = await grinding(3);
    expect(page.text).toContain('edge back about 0.17 mm at most');
    expect(page.text).toContain('By now end A should be about');
    expect(page.find('.look').textContent).toContain('Look now');
  });

  it('says nothing of what went where all of it went before the last hanging', async () => {
    const behind = { ...ASKED, behind: { A: {}, B: { 'none full': 3 } } };
    const page = await grinding(3, {}, behind);
    expect(page.text).not.toContain('the edge itself has not moved');
    expect(page.text).not.toContain('edge back about');
    expect(page.text).not.toContain('By now end');
    TestBed.resetTestingModule();
    const more = await grinding(5, {}, behind);
    expect(more.text).toContain('at most since it was hung');
    expect(more.text).toContain('off since it was hung: an estimate');
  });

  it('sends to the ways on where no plan fits, and does not call the heavy end unknown', async () => {
    const noPlan = { kind: 'no-plan', proven: true, obstacles: [], toolTooCoarse: false };
    const answer = { plan: noPlan, nicks: [], choices: [] };
    const page = await grinding(3, {}, { ...ASKED, answer } as unknown as PlanView);
    expect(page.find('.order').textContent).toContain('No plan fits the blade as it stands');
    expect(page.text).not.toContain('No heavy end known');
  });

  it('is silent between the points to look at', async () => {
    const page = await grinding(4);
    expect(page.element.querySelector('.look')).toBeNull();
  });

  it('says how far past the plan an end is', async () => {
    const planned = Number(
      /of (\d+)/.exec((await grinding(3)).find('[aria-label="End B"] .of').textContent ?? '')?.[1],
    );
    TestBed.resetTestingModule();
    const page = await grinding(planned + 2);
    expect(page.find('[aria-label="End B"] .look').textContent).toContain(
      '2 more than planned here',
    );
    expect(page.element.querySelector('[aria-label="End A"] .look')).toBeNull();
  });

  it('counts strokes where the tool counts strokes', async () => {
    const page = await grinding(0, { counts: 'stroke' });
    expect(page.text).toContain('One stroke');
    await page.type('[aria-label="End A"] .told input', 'many');
    await page.click('Add');
    expect(page.find('mat-error').textContent).toContain('is not a number');
    expect(page.find<HTMLInputElement>('.told input').value).toBe('many');
  });

  it('goes to the finishing tool when the first has its passes, and says what it is for', async () => {
    const zones = ASKED.situation.zones.map((zone) => ({ ...zone, tool: 'file' }));
    const { plan } = ASKED.answer;
    if (plan.kind !== 'plan') throw new Error('no plan');
    const asked: PlanView = {
      ...ASKED,
      tools: { ...ASKED.tools, file: { grinderId: 'f', name: 'Mill file', counts: 'stroke' } },
      situation: { ...ASKED.situation, then: { tool: 'file', counts: 'stroke', zones } },
      answer: { ...ASKED.answer, plan: { ...plan, passes: { A: [0, 0, 12, 0], B: [6, 0, 8, 2] } } },
    };
    const finishOn = { grinderId: 'f', abrasiveId: 'g' };
    const halfWay = await grinding(5, { finishOn }, asked);
    expect(halfWay.text).toContain('end A 12 strokes on the whole edge; end B 8 strokes');
    expect(halfWay.find('.onward').textContent).toContain('On to: balance');
    TestBed.resetTestingModule();
    const page = await grinding(6, { finishOn }, asked);
    expect(page.find('.look').textContent).toContain('then the other end or the mill file');
    expect(page.find('.onward').textContent).toContain('Change to the mill file');
    await page.click('Change to the mill file');
    expect(page.find('[data-step]').getAttribute('data-step')).toBe('set-up');
    expect(page.commands.filter(({ type }) => type === 'set-up')).toEqual([]);
  });

  it('asks for the burr once the plan is ground, and goes on to the balancer with it', async () => {
    const counted = (outer: number) => ({
      burr: true,
      passes: [
        { passId: 'p', end: 'B' as const, zone: 'full' as const, count: 6 },
        { passId: 'q', end: 'A' as const, zone: 'full' as const, count: 9 },
        { passId: 'r', end: 'A' as const, zone: 'outer-half' as const, count: outer },
      ],
    });
    const halfWay = await grinding(0, counted(2));
    expect(halfWay.text).not.toContain('Deburred');
    TestBed.resetTestingModule();
    const page = await grinding(0, counted(3));
    await page.click('Deburred: flat passes');
    expect(page.commands.at(-1)).toEqual(jasmine.objectContaining({ type: 'deburr', done: true }));
    expect(page.find('[data-step]').getAttribute('data-step')).toBe('balance');
  });

  it('shows what was made with a tool that is laid down, and counts only what is in hand', async () => {
    const on = (grinderId: string) => ({ grinderId, abrasiveId: 'g' });
    const [belt] = ASKED.situation.zones;
    if (!belt) throw new Error('no zone');
    const { plan } = ASKED.answer;
    if (plan.kind !== 'plan') throw new Error('no plan');
    const asked: PlanView = {
      ...ASKED,
      tools: {
        'b g': { name: 'Long belt', counts: 'pass' },
        'f g': { name: 'File', counts: 'stroke' },
      },
      situation: {
        ...ASKED.situation,
        made: [{ ...belt, tool: 'b g', made: { A: 4, B: 3 } }],
        zones: ASKED.situation.zones.map((zone) => ({ ...zone, tool: 'f g' })),
      },
      answer: { ...ASKED.answer, plan: { ...plan, passes: { A: [4, 9, 0], B: [3, 20, 0] } } },
    };
    const page = await grinding(
      0,
      {
        counts: 'stroke',
        setUp: on('f'),
        passes: [
          { passId: 'p', end: 'A', zone: 'full', count: 4, ...on('b') },
          { passId: 'q', end: 'B', zone: 'full', count: 3, ...on('b') },
          { passId: 'r', end: 'B', zone: 'full', count: 7, ...on('f') },
        ],
      },
      asked,
    );
    expect(page.text).toContain(
      'On the long belt before: end A 4 passes on the whole edge; end B 3 passes on the whole edge.',
    );
    expect(page.find('[aria-label="End B"] .count').textContent).toBe('7');
    expect(page.find('[aria-label="End B"] .of').textContent).toContain('of 20');
  });

  it('finds no fault with a count that nobody typed, until it is to be added', async () => {
    const page = await grinding(0);
    page.find('[aria-label="End A"] .told input').dispatchEvent(new Event('blur'));
    await page.settle();
    expect(page.element.querySelector('mat-error')).toBeNull();
    await page.click('Add');
    expect(page.find('[aria-label="End A"] mat-error').textContent).toContain('is empty');
    expect(page.commands.filter(({ type }) => type === 'count-passes')).toEqual([]);
  });

  for (const text of ['1e9', '5000', '501']) {
    it(`refuses ${text} told afterwards at its field, and sends and draws nothing of it`, async () => {
      const page = await grinding(0);
      await page.type('[aria-label="End A"] .told input', text);
      await page.click('Add');
      expect(page.find('[aria-label="End A"] mat-error').textContent).toContain(
        'is more than 500 at once',
      );
      expect(page.find<HTMLInputElement>('[aria-label="End A"] .told input').value).toBe(text);
      expect(page.find('.count').textContent).toBe('0');
      expect(page.commands.filter(({ type }) => type === 'count-passes')).toEqual([]);
    });
  }

  it('counts seconds by a clock that one press starts and the next one stops', async () => {
    let now = 1000;
    spyOn(performance, 'now').and.callFake(() => now);
    const page = await grinding(0, { counts: 'second' });
    await page.click('Start the clock');
    expect(page.commands.filter(({ type }) => type === 'count-passes')).toEqual([]);
    expect(page.text).toContain('0 s at the edge: stop');
    now += 12_400;
    await page.click('at the edge: stop');
    const counted = page.commands.filter(({ type }) => type === 'count-passes');
    expect(counted).toEqual([jasmine.objectContaining({ count: 12 })]);
    expect(page.text).toContain('Start the clock');
    // A press that was none counts nothing; the other end stops the clock of this one.
    await page.click('Start the clock');
    now += 300;
    await page.click('at the edge: stop');
    await page.click('Start the clock');
    now += 5000;
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'b' }));
    await page.settle();
    const ends = page.commands.filter(({ type }) => type === 'count-passes');
    expect(ends.map(({ count }) => count)).toEqual([12, 5]);
  });

  it('marks an end that turned blue near its tip, to be moved on the drawing', async () => {
    const page = await grinding(2);
    await page.click('End B turned blue');
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'mark-damage', kind: 'burnt', end: 'B' }),
    );
  });

  it('learns any key as a foot switch, but none that does something here', async () => {
    const page = await grinding(0);
    const set = async (key: string): Promise<void> => {
      await page.click(
        page.text.includes('Set a foot switch') ? 'Set a foot switch' : 'Foot switch',
      );
      const button = page.button('Press the switch once');
      button.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      await page.settle();
    };
    await set('a');
    expect(page.text).toContain('does something else here');
    await set('F9');
    expect(localStorage.getItem('tally-stone.foot-switch')).toBe('f9');
    expect(page.text).toContain('Foot switch: F9');
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'F9' }));
    await page.settle();
    expect(page.commands.at(-1)).toEqual(
      jasmine.objectContaining({ type: 'count-passes', count: 1 }),
    );
  });
});
