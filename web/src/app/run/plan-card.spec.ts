import { provideHttpClient } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { PlanView } from '@tally-stone/contract';
import { cycleView } from '../../testing/views';
import { PlanCard } from './plan-card';
import { RunStore } from './run-store';

async function show(plan: PlanView): Promise<string> {
  TestBed.configureTestingModule({
    providers: [provideZonelessChangeDetection(), provideHttpClient(), RunStore],
  });
  const store = TestBed.inject(RunStore);
  store.view.set(cycleView());
  store.plan.set(plan);
  const fixture = TestBed.createComponent(PlanCard);
  await fixture.whenStable();
  return ((fixture.nativeElement as HTMLElement).textContent ?? '').replace(/\s+/g, ' ');
}

const PLAN: PlanView = {
  kind: 'plan',
  passes: { A: 9, B: 6 },
  behind: { A: 0, B: 0 },
  order: ['B', 'A'],
  metalG: 7.86,
  gramsPerPass: { value: 0.52, u: 0.17, grinds: 31 },
  unbalanceAfterGmm: 36,
  permissibleGmm: 111,
  uncertaintyExceedsAllowance: false,
  narrowest: { end: 'A', fromTipMm: 88, roomLeftMm: 5.2 },
  recession: [],
  nicks: [],
};

describe('PlanCard', () => {
  it('says how much, light end first, and what is left after', async () => {
    const text = await show(PLAN);
    expect(text).toContain('Take 7.9 g');
    expect(text.indexOf('End B')).toBeLessThan(text.indexOf('End A'));
    expect(text).toContain('end A heavy by 36 g·mm of 111 allowed');
    expect(text).toContain('5.2 mm left above the width limit at the worst place, end A, 88 mm');
    expect(text).toContain('By 0.52 g a pass ± 0.34, learned from 31 grinds');
  });

  it('says that a blade needs nothing', async () => {
    expect(await show({ ...PLAN, passes: { A: 0, B: 0 }, metalG: 0 })).toContain('Nothing to take');
  });

  it('explains why there is no plan', async () => {
    const text = await show({
      kind: 'no-plan',
      obstacles: ['End B, 20 mm from the tip: the nick needs 0.50 mm more'],
      toolTooCoarse: true,
    });
    expect(text).toContain('No plan fits inside the limits');
    expect(text).toContain('the nick needs 0.50 mm more');
    expect(text).toContain('too coarse for this grade');
  });
});
