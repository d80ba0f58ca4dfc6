import { provideHttpClient } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { AskedPlan, PlanView } from '@tally-stone/contract';
import { trailingZone, usualZones, type End, type GrindPlan } from '@tally-stone/core';
import { cycleView } from '../../testing/views';
import { PlanCard } from './plan-card';
import { RunStore } from './run-store';

async function show(plan: PlanView): Promise<string> {
  TestBed.configureTestingModule({
    providers: [provideZonelessChangeDetection(), provideHttpClient(), RunStore],
  });
  const store = TestBed.inject(RunStore);
  store.show(
    cycleView({
      damage: [
        { damageId: 'n', kind: 'nick', end: 'A', fromTipMm: 30, radiusMm: 220, depthMm: 1.2 },
      ],
    }),
  );
  store.plan.set(plan);
  const fixture = TestBed.createComponent(PlanCard);
  await fixture.whenStable();
  return ((fixture.nativeElement as HTMLElement).textContent ?? '').replace(/\s+/g, ' ');
}

const station = (end: End, radiusMm: number, roomLeftMm: number) => ({
  end,
  radiusMm,
  areaMm2: 3,
  recessionMm: 0.5,
  roomLeftMm,
});
const GRIND: GrindPlan = {
  kind: 'plan',
  passes: { A: [9, 3], B: [6, 0] },
  order: ['B', 'A'],
  uncertaintyExceedsAllowance: false,
  forward: {
    metalG: 7.86,
    momentGmm: { A: 900, B: 600 },
    unbalanceGmm: 36,
    share: 0.2,
    stations: [station('A', 162, 5.2), station('B', 220, 7)],
  },
};
const PLAN: AskedPlan = {
  kind: 'asked',
  situation: {
    thicknessMm: 5,
    tipRadiusMm: 250,
    edgeLengthMm: 100,
    stations: { A: [], B: [] },
    nicks: [{ id: 'n', end: 'A', radiusMm: 220, lengthMm: 6, depthMm: 1.2 }],
    zones: usualZones(100, 0.52),
    trailing: trailingZone(100, 0.52),
    specBevelDeg: 30,
    measuredBevelsDeg: [30, 30],
    massG: 1150,
    speedRpm: 3000,
    specGradeMmPerS: 40,
    balance: { unbalanceGmm: 300, uGmm: 20 },
    shape: { straightness: 0.02, wearWeightG: 6, mostPassesPerZone: 80 },
  },
  answer: {
    plan: GRIND,
    nicks: [{ id: 'n', metalG: 2.5, recessionMm: 0.8, grinds: 1.3, impossible: false }],
    choices: [],
  },
  schools: {
    finish: 'working',
    bevel: 'spec',
    fixedBevelDeg: 30,
    nicks: { kind: 'leave-to', depthMm: 0.8 },
    balancePlace: 'cutting',
  },
  nickChoices: {},
  behind: { A: {}, B: {} },
  gramsPerPass: { value: 0.52, u: 0.17, grinds: 31 },
  tool: 'Long belt, grit 60',
};

describe('PlanCard', () => {
  it('says how much and where, light end first, and what is left after', async () => {
    const text = await show(PLAN);
    expect(text).toContain('Take 7.9 g');
    expect(text.indexOf('End B')).toBeLessThan(text.indexOf('End A'));
    expect(text).toContain('outer half');
    expect(text).toContain('end A heavy by 36 g·mm ± 40, of 146 allowed');
    expect(text).toContain('5.2 mm left above the width limit at the worst place, end A, 88 mm');
    expect(text).toContain('By 0.52 g a pass ± 0.34 (Long belt, grit 60, 31 grinds)');
  });

  it('prices each nick in grams and grinds of life', async () => {
    const text = await show(PLAN);
    expect(text).toContain('Nick, end A, 30 mm from the tip, 1.2 mm deep');
    expect(text).toContain('Clearing it whole costs 2.5 g, 1.3 grinds of life');
  });

  it('says that a blade needs nothing', async () => {
    const none = { ...GRIND, passes: { A: [0, 0], B: [0, 0] } };
    expect(await show({ ...PLAN, answer: { ...PLAN.answer, plan: none } })).toContain(
      'Nothing to take',
    );
  });

  it('explains why there is no plan and offers the nearest choices with their price', async () => {
    const text = await show({
      ...PLAN,
      answer: {
        plan: {
          kind: 'no-plan',
          obstacles: [
            {
              about: 'floor',
              short: 3,
              words: 'End B, 20 mm from the tip: the nick needs 0.50 mm more',
            },
          ],
          toolTooCoarse: true,
        },
        nicks: [],
        choices: [
          {
            kind: 'leave-nick',
            nickIds: ['n'],
            metalG: 6.1,
            worstRecessionMm: 0.6,
            grindsAfter: 4.24,
          },
        ],
      },
    });
    expect(text).toContain('No plan fits');
    expect(text).toContain('the nick needs 0.50 mm more');
    expect(text).toContain('too coarse for this grade');
    expect(text).toContain('Leave it: Nick, end A');
    expect(text).toContain('takes 6.1 g, about 4.2 grinds left after');
    expect(text).toContain('Retire it');
  });

  it('says what is still to be read before there can be a plan', async () => {
    expect(await show({ kind: 'not-yet', words: 'Read the land first.' })).toContain(
      'Read the land first.',
    );
  });
});
