import { cycleView } from '../../testing/views';
import { ASKED } from '../../testing/plan';
import { TestBed } from '@angular/core/testing';
import { Keys } from '../data/keys';
import { Served } from '../../testing/served';
import { deepest, liveForward } from './live';
import { Run } from './run';

const kept = { commandId: 'x', sequence: 1, revision: 4 };

function grinding(passes: number, more: Parameters<typeof cycleView>[0] = {}) {
  const view = cycleView({
    nextStep: 'grind',
    passes: passes ? [{ passId: 'p', end: 'B', zone: 'full', count: passes }] : [],
    ...more,
  });
  return Served.open(
    Run,
    {
      [`/api/cycles/${view.cycleId}`]: view,
      [`/api/cycles/${view.cycleId}/plan`]: ASKED,
      'POST count-passes': kept,
      'POST mark-damage': kept,
    },
    { cycleId: view.cycleId },
  );
}

describe('liveForward', () => {
  it('takes what was counted since the balance reading, no more', () => {
    const counted = (end: string): number => (end === 'B' ? 5 : 2);
    const fresh = liveForward(ASKED, (end, zone) => (zone === 'full' ? counted(end) : 0));
    const again = liveForward(
      { ...ASKED, behind: { A: { full: 2 }, B: { full: 5 } } },
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

  it('is silent between the points to look at', async () => {
    const page = await grinding(4);
    expect(page.element.querySelector('.look')).toBeNull();
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
