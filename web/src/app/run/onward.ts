import { computed, inject, Injectable } from '@angular/core';
import type { CycleView, StepKey } from '@tally-stone/contract';
import { isHungAsItStands } from '@tally-stone/cycle';
import { Subject } from 'rxjs';
import { Presses } from '../data/presses';
import { hangsFirst, rememberHanging } from './balance-ways';
import { InBatch } from './in-batch';
import { RunStore } from './run-store';
import { STEP_NAMES } from './step-names';

/** The next thing to do, in words, and what doing it is. */
interface NextThing {
  readonly words: string;
  readonly act: () => unknown;
  /** It only leads to the next step: whoever goes on by themselves needs no press for it. */
  readonly leadsOn?: true;
}

/** Steps that only read: with the last reading they are done. */
const READ_AND_DONE: readonly StepKey[] = ['inspect', 'measure', 'balance', 'prove'];

const nameOf = (step: StepKey): string => STEP_NAMES[step].toLowerCase();

/** After hanging the blade: still to be ground, or out of its grade and to be ground again. */
function grindsNext(view: CycleView): boolean {
  const untouched = view.before.verdict === 'grind' && view.passes.length === 0;
  return untouched || (isHungAsItStands(view) && view.rounds.at(-1)?.within === false);
}

/** Still to be hung as it stands, or hung so that the reading cannot be believed. */
const isHangingDue = (view: CycleView): boolean =>
  view.steps.find(({ key }) => key === 'balance')?.state !== 'done' &&
  (!isHungAsItStands(view) || view.rounds.at(-1)?.expected !== undefined);

/** The big button of a run: it goes to the next step, or stays where something is missing. */
@Injectable()
export class Onward {
  private readonly store = inject(RunStore);
  private readonly batch = inject(InBatch);
  private readonly presses = new Presses();

  /** Fires with the step to go to. */
  readonly goes$ = new Subject<StepKey>();
  /** Fires when the next thing stands on this step: the focus goes there. */
  readonly stays$ = new Subject<void>();

  private readonly noPlan = computed(() => {
    const plan = this.store.plan();
    return plan?.kind === 'asked' && plan.answer.plan.kind === 'no-plan';
  });
  /** A reading of this step that is asked about: it stands for nothing until it is read again. */
  private readonly doubted = computed(() => {
    const phase = { measure: 'before', prove: 'after' }[this.store.step() as string];
    return this.store.view()?.slots.find((slot) => slot.question && slot.phase === phase);
  });

  private readonly next = computed(() => this.thing());
  /** Nothing is left here but to go to the next step. What the plan says, and how far to grind, is for somebody to say. */
  readonly leadsOn = computed(
    () =>
      this.next()?.leadsOn === true &&
      !this.store.closed() &&
      READ_AND_DONE.includes(this.store.step()),
  );
  /** What the big button says; nothing where there is none. */
  readonly words = computed(() => this.next()?.words);

  now(): Promise<void> {
    return this.presses.once({}, async () => {
      await this.next()?.act();
    });
  }

  /** The first of what is to be done here before the next step, else the next step or the next blade. */
  private thing(): NextThing | undefined {
    const view = this.store.view();
    const at = this.store.step();
    if (!view || at === 'sign-off') return undefined;
    // What is signed off is a record: it is only leafed through.
    if (this.store.closed()) return this.following();
    if (at === 'clean' && !view.cleaned) {
      return { words: $localize`Cleaned on both faces`, act: () => this.clean() };
    }
    if (view.signOff.proposed === 'retired' && at !== 'clean') {
      return this.to('sign-off', $localize`To retiring`);
    }
    const first = this.store.first();
    if (first) return { words: first.words, act: () => this.keepFirst(first.act) };
    return this.after(view);
  }

  /** Where nothing of this step is to be kept first. */
  private after(view: CycleView): NextThing | undefined {
    const at = this.store.step();
    if (at === 'verdict' && view.before.verdict !== 'grind') {
      return this.to('balance', $localize`Fit to run: to balance`);
    }
    const doubted = this.doubted();
    if (doubted) {
      return {
        words: $localize`Read again: ${doubted.label}`,
        act: () => document.getElementById(doubted.key.replaceAll(':', '-'))?.focus(),
      };
    }
    // Where no plan fits, the ways on stand beside each other with their price: one of them is the next thing.
    if (at === 'verdict' && this.noPlan()) return undefined;
    const deburrs = { words: $localize`Deburr it first`, act: () => this.stays$.next() };
    // Nothing follows from a hanging over the burr.
    if (at === 'balance' && view.burr && view.overBurr) return deburrs;
    if (at === 'balance' && grindsNext(view)) {
      // Hung before the grinder is set up: the plan has changed by it, and is looked at first.
      const to = !view.setUp && view.passes.length === 0 ? 'verdict' : 'grind';
      const back = view.passes.length > 0;
      const words = back ? $localize`Back to: ${nameOf(to)}` : $localize`On to: ${nameOf(to)}`;
      return { ...this.to(to, words), leadsOn: true };
    }
    if (at === 'balance' && isHangingDue(view))
      return view.burr ? deburrs : { ...deburrs, words: $localize`Hang it: which end is low?` };
    const member = this.batch.nextInHeap();
    if (member) {
      const step = nameOf(member.step ?? 'clean');
      return {
        words: $localize`Next blade: ${member.blade.code}, ${step}`,
        act: () => this.batch.takeUp(member),
      };
    }
    const untouched =
      view.before.verdict === 'grind' && view.rounds.length + view.passes.length === 0;
    if (at === 'measure' && untouched && hangsFirst()) return this.onTo('balance');
    const following = this.following();
    if (at !== 'verdict' || !following) return following;
    return {
      ...following,
      act: () => {
        rememberHanging(view.rounds.length > 0);
        following.act();
      },
    };
  }

  private following(): NextThing | undefined {
    const next = this.store.following();
    return next && this.onTo(next);
  }

  private onTo(step: StepKey): NextThing {
    return { ...this.to(step, $localize`On to: ${nameOf(step)}`), leadsOn: true };
  }

  private to(step: StepKey, words: string): NextThing {
    return { words, act: () => this.goes$.next(step) };
  }

  /** Keeps what the step holds and goes on; whoever has gone elsewhere meanwhile is left there. */
  private async keepFirst(keep: () => Promise<boolean>): Promise<void> {
    const at = this.store.step();
    if (!(await keep()) || this.store.step() !== at) return;
    const view = this.store.view();
    if (view) await this.after(view)?.act();
  }

  private async clean(): Promise<void> {
    if (await this.store.act({ type: 'clean', done: true })) return;
    if (this.store.step() !== 'clean') return;
    const member = this.batch.nextInHeap();
    if (member) await this.batch.takeUp(member);
    else this.goes$.next('inspect');
  }
}
