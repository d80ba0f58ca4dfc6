import type { CycleFacts, CycleState, StepKey, StepView } from '@tally-stone/contract';
import { worstInWords } from '@tally-stone/core';
import { openSlots, plural, type Assessment, type Block } from './assess.js';
import { isHungAsItStands, passesIn } from './fold.js';
import { retiring } from './sign-off.js';
import { countedWords } from './tools-used.js';

/** Ground on one tool, to be finished on another, and not hung again since. */
const isToBeFinished = (state: CycleState): boolean =>
  state.finishOn !== undefined && !isHungAsItStands(state);

/** The steps of the run, whether each is done, and in words what it says. */
export function stepsOf(state: CycleState, assessment: Assessment, facts: CycleFacts): StepView[] {
  const { before, blocks, slots } = assessment;
  const blocked = (step: StepKey): Block | undefined => blocks.find((block) => block.step === step);
  const mustRetire = retiring(assessment).length > 0;
  const plain = (key: StepKey, done: boolean, words: string): StepView => {
    const block = blocked(key);
    return { key, state: done && !block ? 'done' : 'todo', words: block?.words ?? words };
  };
  const attention = (step: StepView, when: boolean): StepView =>
    when ? { ...step, state: 'attention' } : step;
  const measured = openSlots(slots, 'before').length === 0 && state.cleaned;
  const passes = passesIn(state);
  return [
    plain('clean', state.cleaned, $localize`Clean`),
    attention(
      plain('inspect', state.crack !== undefined, plural(state.damage.length, 'mark', 'marks')),
      before.findings.some(
        ({ severity, reason }) =>
          severity === 'retire' && (reason === 'crack' || reason === 'bend'),
      ),
    ),
    attention(
      plain('measure', measured, $localize`Measured`),
      slots.some(({ question, phase }) => question && phase === 'before'),
    ),
    attention(
      {
        key: 'verdict',
        state: measured && state.crack ? 'done' : 'todo',
        words: worstInWords(before),
      },
      mustRetire || before.verdict === 'hold',
    ),
    plain(
      'set-up',
      state.setUp !== undefined ||
        facts.grinders.length === 0 ||
        passes > 0 ||
        (measured && before.verdict !== 'grind'),
      facts.grinders.find(({ grinderId }) => grinderId === state.setUp?.grinderId)?.figures.name ??
        $localize`No grinder set up`,
    ),
    plain(
      'grind',
      (passes > 0 && !isToBeFinished(state)) || (measured && before.verdict !== 'grind'),
      countedWords(state.passes, facts.grinders),
    ),
    plain('balance', !blocked('balance'), $localize`Within its grade`),
    attention(
      plain('prove', !blocked('prove'), $localize`Proved`),
      slots.some(({ question, phase }) => question && phase === 'after'),
    ),
    {
      key: 'sign-off',
      state: state.signedOff ? 'done' : 'todo',
      words: state.signedOff?.outcome ?? '',
    },
  ];
}

/** The step to do next: straight to sign-off where the blade must be retired, and there for good once it is signed. */
export function nextStepOf(steps: readonly StepView[], assessment: Assessment): StepKey {
  if (steps.some(({ key, state }) => key === 'sign-off' && state === 'done')) return 'sign-off';
  if (retiring(assessment).length > 0) return 'sign-off';
  const next = steps.find(({ state }) => state !== 'done')?.key ?? 'sign-off';
  return assessment.hangFirst && (next === 'set-up' || next === 'grind') ? 'balance' : next;
}
