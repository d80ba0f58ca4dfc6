import { HttpErrorResponse } from '@angular/common/http';
import { ChangeDetectorRef } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { DEFAULT_RULES, type CycleView, type StepView } from '@tally-stone/contract';
import { Router } from '@angular/router';
import { of } from 'rxjs';
import { ASKED, GRIND } from '../../testing/plan';
import { Served, problem } from '../../testing/served';
import { balanceView, cycleView, slot } from '../../testing/views';
import { Batch } from '../data/batch';
import { GoesOn } from '../data/goes-on';
import { Keys } from '../data/keys';
import { Planner } from '../data/planner';
import { hangsFirst, rememberHanging } from './balance-ways';
import { Lease } from './lease';
import { Run } from './run';
import { RunStore } from './run-store';

const steps = (done: number, attention?: string): StepView[] =>
  (
    [
      'clean',
      'inspect',
      'measure',
      'verdict',
      'set-up',
      'grind',
      'balance',
      'prove',
      'sign-off',
    ] as const
  ).map((key, i) => ({
    key,
    state: key === attention ? 'attention' : i < done ? 'done' : 'todo',
    words: '',
  }));

const open = (view: CycleView, more: Record<string, unknown> = {}) =>
  Served.open(
    Run,
    {
      [`/api/v1/cycles/${view.cycleId}`]: view,
      [`/api/v1/cycles/${view.cycleId}/plan`]: { kind: 'not-yet', words: 'later' },
      ...more,
    },
    { cycleId: view.cycleId },
  );
const kept = { commandId: 'x', sequence: 1, revision: 4 };

describe('the run', () => {
  it('opens at the next step, with the blade across the page and the working order under it', async () => {
    const run = await open(cycleView({ steps: steps(2), nextStep: 'measure' }));
    expect(run.find('.rail .here').textContent).toContain('Measure');
    expect(run.find('ts-blade-drawing svg').getAttribute('aria-label')).toContain('4447M');
    expect(run.find('.rail [data-state="done"]').textContent).toContain('Clean');
    expect(run.button('On to: verdict').classList).toContain('next-thing');
  });

  it('leads to the balancer after measuring where the last blade was hung before it was ground', async () => {
    const toGrind = { before: { verdict: 'grind' as const, findings: [] } };
    const left = async (rounds: CycleView['rounds']): Promise<boolean> => {
      const last = await open(
        cycleView({ ...toGrind, steps: steps(4), nextStep: 'verdict', rounds }),
      );
      await last.click('On to: set up');
      TestBed.resetTestingModule();
      return hangsFirst();
    };
    expect(await left([balanceView({ within: false })])).toBeTrue();
    expect(await left([])).toBeFalse();

    const next = await open(cycleView({ ...toGrind, steps: steps(1), nextStep: 'inspect' }));
    rememberHanging(true);
    await next.click('Measure');
    expect(next.find('.next-thing').textContent).toContain('On to: balance');
  });

  it('is watched while somebody else has the blade in hand, but not once it is signed off', async () => {
    const lease = { mine: false, name: 'Ash', personId: 'p2', since: '2026-05-01T08:00:00Z' };
    const seen = async (view: CycleView) => {
      const run = await open(view);
      run.fixture.debugElement.injector.get(Lease).other.set(lease);
      await run.settle();
      return [run.find<HTMLElement>('.work').inert, run.text.includes('has this blade in hand')];
    };
    expect(await seen(cycleView({ steps: steps(2) }))).toEqual([true, true]);
    TestBed.resetTestingModule();
    const signedOff = { outcome: 'ready', personId: 'p2', at: '2026-05-01T09:00:00Z' } as const;
    expect(await seen(cycleView({ steps: steps(9), signedOff }))).toEqual([false, false]);
  });

  it('is only leafed through once it is signed off: nothing to press, nothing sent, and on from step to step', async () => {
    const signedOff = { outcome: 'hold', personId: 'p2', at: '2026-05-01T09:00:00Z' } as const;
    const slots = [slot({ key: 'before:tip-height:A::', quantity: 'tip-height', end: 'A' })];
    const run = await open(cycleView({ steps: steps(9), nextStep: 'sign-off', signedOff, slots }));
    expect(run.text).not.toContain('how the step was left');
    expect(run.text).not.toContain('Park it');
    await run.click('Inspect');
    expect(run.find('[data-step="inspect"]').classList).toContain('record');
    expect(run.text).toContain('how the step was left');
    expect(run.button('On to: measure')).toBeTruthy();
    const fields = [...run.element.querySelectorAll<HTMLInputElement>('ts-reading-field input')];
    expect(fields.length).toBeGreaterThan(0);
    expect(fields.every(({ readOnly }) => readOnly)).toBeTrue();
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'k' }));
    await run.settle();
    expect(run.find('.trouble').textContent).toContain('is signed off');
    expect(run.commands).toEqual([]);
  });

  it('takes the next blade by its code where this one is signed off', async () => {
    const signedOff = { outcome: 'ready', personId: 'p2', at: '2026-05-01T09:00:00Z' } as const;
    const run = await open(cycleView({ steps: steps(9), nextStep: 'sign-off', signedOff }));
    const to = spyOn(TestBed.inject(Router), 'navigateByUrl').and.resolveTo(true);
    await run.type('[aria-label="Next blade, by its code"]', '47JKH');
    await run.click('Next blade');
    expect(to).toHaveBeenCalledOnceWith('/', { state: { code: '47JKH' } });
  });

  it('leads back to a reading that is asked about before it leads on', async () => {
    const question =
      '55.2 g is 1806.8 g less than the 1862.0 g after the last cycle. Read it again';
    const doubted = slot({ question });
    const run = await open(
      cycleView({ steps: steps(2), nextStep: 'measure', slots: [doubted, slot({ key: 'other' })] }),
    );
    await run.click('Read again: Mass');
    expect(document.activeElement?.id).toBe(doubted.key.replaceAll(':', '-'));
    expect(run.find('.rail .here').textContent).toContain('Measure');
  });

  it('cleans with the big button and goes on to inspect', async () => {
    const run = await open(cycleView({ cleaned: false, steps: steps(0), nextStep: 'clean' }), {
      'POST clean': kept,
    });
    await run.click('Cleaned on both faces');
    expect(run.commands[0]).toEqual(
      jasmine.objectContaining({ type: 'clean', done: true, expectedRevision: 3 }),
    );
    expect(run.find('.rail .here').textContent).toContain('Inspect');
  });

  it('goes on by itself where that is picked and something was kept, not when a step is only looked at', async () => {
    const looked = cycleView({ steps: steps(2), nextStep: 'measure', crack: { found: false } });
    const here = (run: Served<Run>): string => run.find('.rail .here').textContent ?? '';
    const noCrack = async (run: Served<Run>): Promise<void> => {
      TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'k' }));
      await run.settle();
    };
    const run = await open(looked, { 'POST judge-crack': kept });
    await run.click('Inspect');
    await noCrack(run);
    expect(here(run)).toContain('Inspect');
    expect(document.activeElement?.textContent).toContain('On to: measure');
    TestBed.inject(GoesOn).pick(true);
    await run.settle();
    expect(here(run)).toContain('Inspect');
    await noCrack(run);
    expect(here(run)).toContain('Measure');
    await run.click('Inspect');
    expect(here(run)).toContain('Inspect');
    expect(localStorage.getItem('tally-stone.goes-on')).toBe('yes');
    // What is only picked keeps nothing, and leads nowhere.
    run.fixture.debugElement.injector.get(RunStore).focusNext$.next();
    await run.settle();
    expect(here(run)).toContain('Inspect');
    TestBed.inject(GoesOn).pick(false);
    expect(localStorage.getItem('tally-stone.goes-on')).toBeNull();
  });

  it('says why the next blade of a batch is not taken up, and stays with this one', async () => {
    const member = (bladeId: string, code: string) => ({ blade: { bladeId, code }, step: 'clean' });
    const blades = [member(cycleView().blade.bladeId, '4447M'), member('other', '47JKH')];
    const run = await open(cycleView({ steps: steps(1), nextStep: 'clean' }), {
      '/api/v1/batch': { batch: { runs: [{ blades }] } },
    });
    const batch = TestBed.inject(Batch);
    batch.mode.set('step');
    spyOn(batch, 'takeUp').and.rejectWith(new HttpErrorResponse({ status: 0 }));
    await run.settle();
    await run.click('Next blade: 47JKH, clean');
    expect(run.find('.trouble').textContent).toContain('once the server is back');
    expect(run.find('.code').textContent).toContain('4447M');
  });

  it('keeps the set-up with the big button and goes on to grind once, however often it is pressed', async () => {
    const grinder = {
      grinderId: '018f0000-0000-7000-8000-0000000000b1',
      abrasiveId: '018f0000-0000-7000-8000-0000000000b2',
      figures: {
        name: 'Long belt',
        kind: 'belt',
        counts: 'pass',
        abrasive: 'Grit 60',
        aim: 'mean',
        table: 'flat',
      },
      checkedToday: true,
    };
    const run = await open(cycleView({ steps: steps(4), nextStep: 'set-up' }), {
      '/api/v1/shop': { grinders: [grinder], rules: DEFAULT_RULES },
      'POST set-up': kept,
    });
    const big = run.button('Set up as on the card');
    expect(big.classList).toContain('next-thing');
    big.click();
    big.click();
    await run.settle();
    expect(run.commands.filter(({ type }) => type === 'set-up').length).toBe(1);
    expect(run.find('.rail .here').textContent).toContain('Grind');
  });

  it('hangs the blade from a plan that does not know its heavy end, by a key or the plan’s own button', async () => {
    const { balance, ...unhung } = ASKED.situation;
    expect(balance).toBeDefined();
    const { unbalanceGmm, ...forward } = GRIND.forward;
    expect(unbalanceGmm).toBeDefined();
    const plan = { ...GRIND, forward };
    const answers = (view: CycleView) => ({
      [`/api/v1/cycles/${view.cycleId}/plan`]: {
        ...ASKED,
        situation: unhung,
        answer: { ...ASKED.answer, plan },
      },
    });
    const view = cycleView({ steps: steps(3), nextStep: 'verdict' });
    const byButton = await open(view, answers(view));
    await byButton.click('Hang it');
    expect(byButton.find('.rail .here').textContent).toContain('Balance');
    TestBed.resetTestingModule();
    const byKey = await open(view, answers(view));
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'w' }));
    await byKey.settle();
    expect(byKey.find('.rail .here').textContent).toContain('Balance');
    // Anywhere else the key does nothing.
    await byKey.click('Inspect');
    TestBed.inject(Keys).press(new KeyboardEvent('keydown', { key: 'w' }));
    await byKey.settle();
    expect(byKey.find('.rail .here').textContent).toContain('Inspect');
  });

  it('calls no blade fine that was ground and not read since', async () => {
    const ground = cycleView({
      steps: steps(6),
      nextStep: 'balance',
      passes: [{ passId: 'p', end: 'A', zone: 'full', count: 5 }],
      now: { verdict: 'fine', findings: [] },
    });
    const run = await open(ground);
    expect(run.find('.strip').textContent).toContain('Ground, not proved yet');
    expect(run.element.querySelector('.strip ts-verdict-tag')).toBeNull();
    // What retires it is said all the same.
    TestBed.resetTestingModule();
    const cracked = await open({ ...ground, now: { verdict: 'retire', findings: [] } });
    expect(cracked.find('.strip ts-verdict-tag').textContent).toContain('Retire');
  });

  it('leads a blade that must be retired straight to sign-off, with the reason', async () => {
    const words = 'End B, tip: 50.1 mm wide, limit 51.0';
    const run = await open(
      cycleView({
        steps: steps(3, 'verdict'),
        nextStep: 'sign-off',
        before: { verdict: 'retire', findings: [{ id: 'width:B:tip', severity: 'retire', words }] },
        signOff: {
          proposed: 'retired',
          allowed: ['retired'],
          blocks: [],
          retireReasons: ['width-limit'],
        },
      }),
      { 'POST sign-off': kept },
    );
    expect(run.text).toContain('This blade must be retired');
    expect(run.text).toContain(words);
    await run.click('Retire: Below its least width');
    expect(run.commands[0]).toEqual(
      jasmine.objectContaining({ outcome: 'retired', retireReason: 'width-limit' }),
    );
  });

  it('lists what stands in the way of ready, and goes to the step that mends it', async () => {
    const run = await open(
      cycleView({
        steps: steps(4),
        nextStep: 'sign-off',
        signOff: {
          proposed: 'ready',
          allowed: ['hold', 'retired'],
          blocks: [{ step: 'balance', words: 'The blade is not balanced' }],
          retireReasons: ['shop-decision'],
        },
      }),
    );
    await run.click('The blade is not balanced');
    expect(run.find('.rail .here').textContent).toContain('Balance');
  });

  it('says when somebody else changed the cycle, and shows what stands', async () => {
    const run = await open(cycleView({ steps: steps(1), nextStep: 'inspect' }), {
      'POST judge-crack': problem('/problems/changed-meanwhile', 'Somebody changed this cycle'),
    });
    await run.click('No crack');
    expect(run.find('[role="alert"]').textContent).toContain('Somebody changed this cycle');
  });

  it('counts passes at once and takes them back', async () => {
    const view = cycleView({
      steps: steps(4),
      nextStep: 'grind',
      passes: [{ passId: 'p1', end: 'A', zone: 'full', count: 3 }],
    });
    const run = await open(view, { 'POST count-passes': kept, 'POST undo-passes': kept });
    expect(run.find('[aria-label="End A"] [data-count]').textContent).toBe('3');
    await run.click('One pass');
    expect(run.commands[0]).toEqual(
      jasmine.objectContaining({ type: 'count-passes', end: 'A', count: 1 }),
    );
    await run.click('Take back at end A');
    expect(run.commands[1]).toEqual(
      jasmine.objectContaining({ type: 'undo-passes', passId: 'p1' }),
    );
  });

  it('takes up the light end first when the heavy one is known', async () => {
    const heavyA = balanceView({ unbalanceGmm: 300, within: false });
    const run = await open(cycleView({ steps: steps(4), nextStep: 'grind', rounds: [heavyA] }));
    const todo = [...run.element.querySelectorAll('[data-todo="true"]')];
    expect(todo.map((each) => each.closest('section')?.getAttribute('aria-label'))).toEqual([
      'End B',
    ]);
  });

  it('takes passes told afterwards, as a whole number', async () => {
    const run = await open(cycleView({ steps: steps(4), nextStep: 'grind' }), {
      'POST count-passes': kept,
    });
    await run.type('[aria-label="End B"] input', 'many');
    run.find('[aria-label="End B"] .told button').click();
    await run.settle();
    expect(run.find('[aria-label="End B"] mat-error').textContent).toContain('is not a number');
    await run.type('[aria-label="End B"] input', '12');
    run.find('[aria-label="End B"] .told button').click();
    await run.settle();
    expect(run.commands[0]).toEqual(jasmine.objectContaining({ end: 'B', count: 12 }));
  });

  it('shows the blade heavy end, amount, grams, newtons and the way back to the grinder', async () => {
    const run = await open(
      cycleView({
        steps: steps(5),
        nextStep: 'balance',
        passes: [{ passId: 'p', end: 'A', zone: 'full', count: 5 }],
        rounds: [
          balanceView({
            phase: 'after',
            heavyEnd: 'B',
            unbalanceGmm: -240,
            correctionG: 1.07,
            forceN: 24,
            within: false,
            passesBefore: 5,
          }),
        ],
      }),
    );
    expect(run.text).toContain('End B is heavy by 240 g·mm');
    expect(run.text).toContain('1.07 ± 0.20 g');
    expect(run.text).toContain('24 N');
    expect(run.text).toContain("Take 1.1 g from end B's cutting edge");
    await run.click('Back to: grind');
    expect(run.find('.rail .here').textContent).toContain('Grind');
  });

  it('leads to the deburring and the hanging that are due, not past them', async () => {
    const ground = (burr: boolean, more: Partial<CycleView> = {}) =>
      cycleView({
        steps: steps(6),
        nextStep: 'balance',
        passes: [{ passId: 'p', end: 'A', zone: 'full', count: 5 }],
        burr,
        ...more,
      });
    const run = await open(ground(true));
    await run.click('Deburr it first');
    expect(document.activeElement?.textContent).toContain('Deburred');
    // Nor is anything read over a burr.
    run.find('.rail button:nth-of-type(8)').click();
    await run.settle();
    expect(run.find('.rail .here').textContent).toContain('Prove');
    expect(document.activeElement?.textContent).toContain('Deburred');

    // Hung over the burr it follows neither that it is in balance nor what to take.
    for (const within of [true, false]) {
      TestBed.resetTestingModule();
      const rounds = [balanceView({ phase: 'after', within, passesBefore: 5, burr: 'on' })];
      await (await open(ground(true, { overBurr: true, rounds }))).click('Deburr it first');
    }

    TestBed.resetTestingModule();
    const clean = await open(ground(false));
    await clean.click('Hang it: which end is low?');
    expect(document.activeElement?.textContent).toContain('End A low');
    expect(clean.find('.rail .here').textContent).toContain('Balance');
  });

  it('only leafs through a record: nothing of it is due', async () => {
    const signedOff = { outcome: 'ready', personId: 'p2', at: '2026-05-01T09:00:00Z' } as const;
    const run = await open(cycleView({ steps: steps(6), nextStep: 'balance', signedOff }));
    await run.click('On to: prove');
    expect(run.find('.rail .here').textContent).toContain('Prove');
  });

  it('shows the witnesses, names the odd one of three, and says what to read again', async () => {
    const run = await open(
      cycleView({
        steps: steps(6),
        nextStep: 'prove',
        passes: [{ passId: 'p', end: 'A', zone: 'full', count: 5 }],
        slots: [slot({ key: 'after:mass:-:-', phase: 'after' })],
        witnesses: {
          said: {
            scale: { value: 8, u: 0.2 },
            caliper: { value: 12, u: 0.6 },
            passes: { value: 12.4, u: 1 },
          },
          pairs: [{ a: 'scale', b: 'caliper', en: 3.2, agree: false }],
          agree: false,
          repeat: { witness: 'scale', sure: true, cause: 'weighed dirty after' },
        },
      }),
    );
    expect(run.text).toContain('8.0 ± 0.4 g');
    expect(run.text).toContain('12.0 ± 1.2 g');
    expect(run.text).toContain(
      'The scale stands apart by 3.2 times what their ± allows: weigh it again',
    );
    expect(run.text).toContain('weighed dirty after');
  });

  it('says so when there is no such cycle', async () => {
    const view = cycleView();
    const run = await open(view, {
      [`/api/v1/cycles/${view.cycleId}`]: problem('/problems/not-found', 'There is no such cycle.'),
    });
    expect(run.text).toContain('This blade cannot be shown');
    expect(run.text).toContain('There is no such cycle.');
  });

  describe('the plan', () => {
    const atVerdict = cycleView({ steps: steps(3), nextStep: 'verdict' });
    const planAt = (view: CycleView) => `/api/v1/cycles/${view.cycleId}/plan`;
    const asked = (run: Served<Run>): number =>
      run.read.filter((address) => address === planAt(atVerdict)).length;
    /** A worker that finds, whatever is asked, that less is to be taken. */
    const trying = (): void => {
      const plan = { ...GRIND, forward: { ...GRIND.forward, metalG: 3.3 } };
      TestBed.overrideProvider(Planner, {
        useValue: { plan: () => of({ ...ASKED.answer, plan }), warm: () => undefined },
      });
    };
    const razor = async (run: Served<Run>): Promise<void> => {
      await run.click('Grind this blade another way');
      await run.settle();
      await run.click('Razor');
    };

    it('is asked for once, not at each drawing of the screen', async () => {
      const run = await open(atVerdict, { [planAt(atVerdict)]: ASKED });
      expect(run.text).toContain('Take 7.9 g');
      run.fixture.debugElement.injector.get(ChangeDetectorRef).markForCheck();
      await run.settle();
      expect(asked(run)).toBe(1);
    });

    it('shows what another school would take at once, and goes back where it is refused', async () => {
      trying();
      const run = await open(atVerdict, {
        [planAt(atVerdict)]: ASKED,
        'POST choose-schools': problem('/problems/changed-meanwhile', 'Somebody was quicker'),
      });
      await razor(run);
      expect(run.commands.at(-1)).toEqual(
        jasmine.objectContaining({ type: 'choose-schools', schools: { finish: 'razor' } }),
      );
      expect(run.text).toContain('Take 7.9 g');
      expect(run.find('[role="alert"]').textContent).toContain('Somebody was quicker');
    });

    it('stands as it was tried where the server has kept the school', async () => {
      trying();
      const run = await open(atVerdict, {
        [planAt(atVerdict)]: ASKED,
        'POST choose-schools': kept,
      });
      await razor(run);
      expect(run.text).toContain('Take 3.3 g');
    });
  });
});
