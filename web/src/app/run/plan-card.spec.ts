import { provideHttpClient } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { PlanView } from '@tally-stone/contract';
import { innerZone, squareZone, usualZones } from '@tally-stone/core';
import { ASKED, GRIND } from '../../testing/plan';
import { cycleView } from '../../testing/views';
import { PlanCard } from './plan-card';
import { RunStore } from './run-store';

let element: HTMLElement;

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
  element = fixture.nativeElement as HTMLElement;
  return (element.textContent ?? '').replace(/\s+/g, ' ');
}

const PLAN = ASKED;

describe('PlanCard', () => {
  it('says how much and where, light end first, and what is left after', async () => {
    const text = await show(PLAN);
    expect(text).toContain('Take 7.9 g');
    expect(text.indexOf('End B')).toBeLessThan(text.indexOf('End A'));
    expect(text).toContain('outer half');
    expect(text).toContain('end A heavy by 36 g·mm ± 40, of 146 allowed');
    expect(text).toContain('5.2 mm left above the width limit at the worst place, end A, 88 mm');
    expect(text).toContain('By 0.52 ± 0.34 g a pass (Long belt, grit 60, 31 grinds)');
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
          { kind: 'allow-step', nickIds: [], stepMm: 0.412, metalG: 5, worstRecessionMm: 2 },
          { kind: 'nearest-balance', nickIds: [], metalG: 5, worstRecessionMm: 2 },
        ],
      },
    });
    expect(text).toContain('No plan fits');
    expect(text).toContain('a step of 0.41 mm more than it should have');
    const buttons = [...element.querySelectorAll('section button')].map((each) =>
      each.textContent?.trim(),
    );
    expect(buttons).toEqual([
      'Leave it: Nick, end A, 30 mm from the tip, 1.2 mm deep',
      'Grind it with a step in the edge',
      'Retire it',
    ]);
    // The first way is the next thing to do; a balance beyond every grade is told, not offered.
    expect(element.querySelector('.next-thing')?.textContent).toContain('Leave it');
    expect(text).toContain('balance as near as it goes');
    expect(text).toContain('the nick needs 0.50 mm more');
    expect(text).toContain('too coarse for this grade');
    expect(text).toContain('Leave it: Nick, end A');
    expect(text).toContain('takes 6.1 g, about 4.2 grinds left after');
    expect(text).toContain('Retire it');
  });

  it('offers a finer tool for the finish with what it brings, and says it is chosen', async () => {
    const finishOn = {
      kind: 'finish-on',
      nickIds: [],
      tool: 'file',
      metalG: 6.56,
      unbalanceAfterGmm: 12,
      worstRecessionMm: 0.5,
    } as const;
    const tools = {
      ...PLAN.tools,
      file: { grinderId: 'f', name: 'Mill file', counts: 'stroke' },
    } as const;
    const text = await show({ ...PLAN, tools, answer: { ...PLAN.answer, finishOn } });
    expect(text).toContain(
      'Finish it on the mill filetakes 1.3 g less; about 2 minutes to change over',
    );
    TestBed.resetTestingModule();
    const then = {
      tool: 'file',
      counts: 'stroke' as const,
      zones: PLAN.situation.zones.map((zone) => ({ ...zone, tool: 'file', gramsPerPass: 0.05 })),
    };
    const plan = { ...GRIND, passes: { A: [9, 3, 12, 0], B: [6, 0, 8, 2] } };
    const chosen = await show({
      ...PLAN,
      tools,
      situation: { ...PLAN.situation, then },
      answer: { ...PLAN.answer, plan },
    });
    expect(chosen).toContain('strokes, whole edge, on the mill file');
    expect(chosen).toContain('whole edge, on the long belt');
    expect(chosen).toContain('Finished on the mill file.');
    expect(chosen).toContain('Leave that out');
  });

  it('offers to dress a deep nick square with its price, and puts the upright passes first', async () => {
    const squareFirst = {
      kind: 'square-first',
      nickIds: [],
      metalG: 9.86,
      worstRecessionMm: 0.9,
      grindsAfter: 5.2,
    } as const;
    const text = await show({ ...PLAN, answer: { ...PLAN.answer, squareFirst } });
    expect(text).toContain('Dress both edges square first');
    expect(text).toContain(
      '2.0 g more, about 5.2 grinds left after; blunt until the bevel is back',
    );
    TestBed.resetTestingModule();
    const square = squareZone(100, 0.52);
    const plan = { ...GRIND, passes: { A: [6, 3, 3], B: [5, 0, 3] } };
    const dressed = await show({
      ...PLAN,
      situation: { ...PLAN.situation, square },
      schools: { ...PLAN.schools, squareFirst: true },
      answer: { ...PLAN.answer, plan },
    });
    expect(dressed).toContain('End A3square, held upright6whole edge');
    expect(dressed).not.toContain('made on the');
  });

  it('says which table each part of a curved edge is ground on', async () => {
    const byTable = [...usualZones(100, 0.52).slice(1), innerZone(100, 0.52)];
    const zones = byTable.length;
    const plan = { ...GRIND, passes: { A: [4, ...Array<number>(zones - 1).fill(0)], B: [0, 5] } };
    const text = await show({
      ...PLAN,
      situation: { ...PLAN.situation, byTable },
      schools: { ...PLAN.schools, secondTable: true },
      answer: { ...PLAN.answer, plan },
    });
    expect(text).toContain('outer half, flat table');
    expect(text).toContain('inner half, rounded table');
  });

  it('says what is still to be read before there can be a plan', async () => {
    expect(await show({ kind: 'not-yet', words: 'Read the land first.' })).toContain(
      'Read the land first.',
    );
  });
});
