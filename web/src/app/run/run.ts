import type { ElementRef } from '@angular/core';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  Injector,
  input,
  signal,
  viewChild,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { StepKey } from '@tally-stone/contract';
import { passesIn } from '@tally-stone/cycle';
import { edgePlaces, ENDS } from '@tally-stone/core';
import { auditTime, filter, concatMap } from 'rxjs';
import { PageState } from '../parts/state';
import { Batch, bladesOf, heapOf, nextInBatch, type Member } from '../data/batch';
import { batchWords } from './batch-words';
import { Changes } from '../data/changes';
import { Days } from '../data/days';
import { Frame } from '../data/frame';
import { Instruments } from '../data/instruments';
import { Keys } from '../data/keys';
import { Presses } from '../data/presses';
import { troubleFrom } from '../data/problem';
import { BladeDrawing } from '../parts/blade-drawing';
import { Findings } from '../parts/findings';
import { nextToDo } from '../parts/focus-order';
import { Tally } from '../parts/tally';
import { VerdictTag } from '../parts/verdict-tag';
import { isUnproved } from './is-unproved';
import { Lease } from './lease';
import { PlanCard } from './plan-card';
import { Marks } from './marks';
import { RunStore } from './run-store';
import { StepBalance } from './step-balance';
import { StepGrind } from './step-grind';
import { StepInspect } from './step-inspect';
import { StepMeasure } from './step-measure';
import { StepProve } from './step-prove';
import { StepSetUp } from './step-set-up';
import { StepSignOff } from './step-sign-off';
import { stateWords, STEP_NAMES } from './step-names';

/** One blade from scan to rack: the blade across the page, the working order under it, one big next thing. */
@Component({
  selector: 'ts-run',
  imports: [
    PageState,
    MatButtonModule,
    RouterLink,
    BladeDrawing,
    Findings,
    PlanCard,
    Tally,
    VerdictTag,
    StepBalance,
    StepGrind,
    StepInspect,
    StepMeasure,
    StepProve,
    StepSetUp,
    StepSignOff,
  ],
  providers: [RunStore, Marks, Lease],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run.html',
  styleUrl: './run.scss',
})
export class Run {
  protected readonly store = inject(RunStore);
  protected readonly marks = inject(Marks);
  private readonly lease = inject(Lease);
  protected readonly batch = inject(Batch);
  protected readonly days = inject(Days);
  private readonly injector = inject(Injector);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly router = inject(Router);
  private readonly frame = inject(Frame);
  private readonly panel = viewChild<ElementRef<HTMLElement>>('work');
  readonly cycleId = input.required<string>();

  protected readonly steps = StepKey.options;
  protected readonly names = STEP_NAMES;
  protected readonly view = this.store.view;
  /** Why the blade cannot be shown; nothing was typed yet that could be lost. */
  protected readonly notShown = computed(() => {
    const trouble = this.store.trouble();
    return trouble?.kind === 'offline' ? $localize`The server does not answer.` : trouble?.words;
  });
  /** Edges as a photo shows them: before the first pass, and again once they are photographed after it. */
  protected readonly edges = computed(() => {
    const { state, facts } = this.view()?.bench ?? {};
    const phase = (state?.passes.length ?? 0) > 0 ? 'after' : 'before';
    const tipMm = (facts?.spec.newLengthMm ?? 0) / 2;
    const shown = state?.edges.filter((edge) => edge.phase === phase) ?? [];
    return Object.fromEntries(shown.map(({ end, widthsMm }) => [end, edgePlaces(widthsMm, tipMm)]));
  });
  /** Who has the blade in hand while this screen watches. What is signed off is a record: anybody may look into it. */
  protected readonly watched = computed(() => (this.view()?.signedOff ? null : this.lease.other()));
  protected readonly step = this.store.step;
  /** The step that is drawn: a frame behind the one that was pressed, which shows at once. */
  protected readonly drawn = signal<StepKey>('clean');
  protected readonly heavy = computed(() => this.view()?.rounds.at(-1)?.heavyEnd);
  /** Where the plan takes the edge, drawn until the first pass of it is counted: then the edge itself moves. */
  protected readonly planned = computed(() => {
    const plan = this.store.plan();
    const view = this.view();
    const showing = this.step() === 'verdict' || this.step() === 'grind';
    if (!showing || !view || plan?.kind !== 'asked' || plan.answer.plan.kind !== 'plan') return [];
    const behind = ENDS.flatMap((end) => Object.values(plan.behind[end])).reduce(
      (sum, count) => sum + count,
      0,
    );
    return passesIn(view) > behind ? [] : plan.answer.plan.forward.stations;
  });
  /** What the plan shown is for: it is asked for anew when the cycle has moved on, not at each drawing of it. */
  private readonly planFor = computed(() => {
    const planning = this.step() === 'verdict' || this.step() === 'grind';
    const view = this.view();
    return planning && view ? `${view.cycleId} ${this.store.planTurn()} ${this.step()}` : undefined;
  });
  protected readonly judgement = computed(() => {
    const view = this.view();
    // Retired it stays so, whatever was corrected since, until two people take it back.
    if (view?.corrected && view.blade.state !== 'retired') return view.corrected.now;
    return view && view.passes.length > 0 ? view.now : view?.before;
  });

  private readonly noPlan = computed(() => {
    const plan = this.store.plan();
    return plan?.kind === 'asked' && plan.answer.plan.kind === 'no-plan';
  });

  /** A reading of this step that is asked about: it stands for nothing until it is read again. */
  private readonly doubted = computed(() => {
    const phase = { measure: 'before', prove: 'after' }[this.step() as string];
    return this.view()?.slots.find((slot) => slot.question && slot.phase === phase);
  });

  /** What the big button says; it goes to the next step, or stays where something is missing. */
  protected readonly onward = computed(() => {
    const view = this.view();
    if (!view || this.step() === 'sign-off') return undefined;
    if (this.step() === 'clean' && !view.cleaned) return $localize`Cleaned on both faces`;

    if (view.signOff.proposed === 'retired' && this.step() !== 'clean')
      return $localize`To retiring`;
    const first = this.store.first();
    if (first) return first.words;
    if (this.step() === 'verdict' && view.before.verdict !== 'grind') {
      return $localize`Fit to run: to balance`;
    }
    const doubted = this.doubted();
    if (doubted) return $localize`Read again: ${doubted.label}`;
    // Where no plan fits, the ways on stand beside each other with their price: one of them is the next thing.
    if (this.step() === 'verdict' && this.noPlan()) return undefined;
    if (this.step() === 'balance' && this.grindsNext()) {
      const to = this.afterHanging();
      const step = STEP_NAMES[to].toLowerCase();
      return view.passes.length > 0 ? $localize`Back to: ${step}` : $localize`On to: ${step}`;
    }
    const next = this.following();
    if (next && this.heapDone(next)) {
      const member = this.nextBlade();
      if (member)
        return $localize`Next blade: ${member.blade.code}, ${STEP_NAMES[member.step ?? 'clean'].toLowerCase()}`;
    }
    return next ? $localize`On to: ${STEP_NAMES[next].toLowerCase()}` : undefined;
  });

  protected readonly unproved = computed(() => isUnproved(this.view()));

  /** The open batch, where this blade is one of it. */
  protected readonly inBatch = computed(() => {
    const open = this.batch.open();
    const bladeId = this.view()?.blade.bladeId;
    return open && bladesOf(open).some(({ blade }) => blade.bladeId === bladeId) ? open : undefined;
  });
  protected readonly batchWords = computed(() => {
    const open = this.inBatch();
    const bladeId = this.view()?.blade.bladeId ?? '';
    return open ? batchWords(open, this.batch.mode(), bladeId, this.step()) : '';
  });
  protected readonly nextBlade = computed(() => {
    const open = this.inBatch();
    const bladeId = this.view()?.blade.bladeId;
    return open && bladeId ? nextInBatch(open, bladeId, this.batch.mode(), this.step()) : undefined;
  });

  /** Step by step: this blade's heap is done when the step to follow is of another heap. */
  private heapDone(next: StepKey): boolean {
    return (
      this.batch.mode() === 'step' &&
      this.inBatch() !== undefined &&
      heapOf(next) > heapOf(this.step()) &&
      this.stateOf(this.step()) === 'done'
    );
  }

  constructor() {
    const keys = inject(Keys).use([
      { key: 'k', does: $localize`Inspect: no crack found`, run: () => void this.noCrack() },
      { key: ']', does: $localize`Next step`, run: () => this.move(1) },
      { key: '[', does: $localize`Step before`, run: () => this.move(-1) },
      { key: 'w', does: $localize`Verdict: hang it, for its heavy end`, run: () => this.hang() },
    ]);
    inject(DestroyRef).onDestroy(keys);
    void inject(Instruments)
      .refresh()
      .catch(() => undefined);
    this.batch.follow(() => this.cycleId(), inject(DestroyRef));
    effect(() => {
      const id = this.cycleId();
      untracked(() => {
        void this.lease.open(id);
        void this.batch.refresh();
        void this.store.open(id).then(() => {
          this.drawn.set(this.step());
          this.focusNext(true);
        });
      });
    });
    effect(() => {
      this.store.watching.set(this.watched()?.name ?? '');
    });
    effect(() => {
      if (this.planFor() !== undefined) void this.store.refreshPlan();
    });
    this.store.focusNext$.pipe(takeUntilDestroyed()).subscribe(() => {
      const panel = this.panel()?.nativeElement;
      if (!panel || !this.store.hasGoneOn(panel)) this.focusNext(false);
    });
    inject(Changes)
      .all$.pipe(
        filter((event) => event === 'resumed' || event.subjectId === this.cycleId()),
        auditTime(120),
        concatMap((event) => this.store.settled().then(() => event)),
        filter((event) => this.store.isNews(event)),
        takeUntilDestroyed(),
      )
      .subscribe(() => {
        void this.lease.ask();
        void this.store.refresh();
      });
  }

  protected go(step: StepKey): void {
    this.step.set(step);
    this.store.here.set('');
    this.frame.afterPaint(() => {
      this.drawn.set(this.step());
      this.focusNext(true);
    });
  }

  /** From the plan to the balancer: which end is heavy decides which is ground first. */
  protected hang(): void {
    if (this.step() === 'verdict' && !this.view()?.signedOff) this.go('balance');
  }

  protected move(by: number): void {
    const next = this.steps[this.steps.indexOf(this.step()) + by];
    if (next) this.go(next);
  }

  protected stateOf(step: StepKey): string {
    return this.view()?.steps.find(({ key }) => key === step)?.state ?? 'todo';
  }

  protected readonly stateWords = (step: StepKey): string => stateWords(this.stateOf(step));

  private readonly presses = new Presses();

  protected onwardNow(): Promise<void> {
    return this.presses.once({}, () => this.goOn());
  }

  private async goOn(): Promise<void> {
    const view = this.view();
    if (!view) return;
    const doubted = this.doubted();
    if (doubted) {
      document.getElementById(doubted.key.replaceAll(':', '-'))?.focus();
      return;
    }
    if (this.step() === 'clean' && !view.cleaned) {
      if (await this.store.act({ type: 'clean', done: true })) return;
      const member = this.heapDone('inspect') ? this.nextBlade() : undefined;
      if (member) await this.takeUp(member);
      else if (this.step() === 'clean') this.go('inspect');
      return;
    }
    if (view.signOff.proposed === 'retired' && this.step() !== 'clean') {
      this.go('sign-off');
      return;
    }
    const first = this.store.first();
    if (first) {
      const at = this.step();
      // Whoever has gone elsewhere meanwhile is left there.
      if (!(await first.act()) || this.step() !== at) return;
    }
    if (this.step() === 'verdict' && view.before.verdict !== 'grind') {
      this.go('balance');
      return;
    }
    if (this.step() === 'balance' && this.grindsNext()) {
      this.go(this.afterHanging());
      return;
    }
    const next = this.following();
    const member = next && this.heapDone(next) ? this.nextBlade() : undefined;
    if (member) await this.takeUp(member);
    else if (next) this.go(next);
  }

  /** The next blade of the batch; one that cannot be fetched just now is said, and this one stays in hand. */
  private async takeUp(member: Member): Promise<void> {
    try {
      await this.batch.takeUp(member);
    } catch (error) {
      const { kind, words } = troubleFrom(error);
      void this.store.refused(
        kind === 'offline'
          ? $localize`The next blade is taken up once the server is back. This one can be worked on meanwhile.`
          : words,
      );
    }
  }

  /** After sign-off: the next blade of the batch is one key away, else the bench. */
  protected async toNextBlade(): Promise<void> {
    const member = this.nextBlade();
    if (member) await this.takeUp(member);
    else if (this.inBatch()) await this.router.navigateByUrl('/batch');
    else this.toBench();
  }

  /** Somebody else goes on with the blade; the other screen watches from now on. */
  protected async takeOver(): Promise<void> {
    await this.lease.takeOver();
    await this.store.refresh();
    this.focusNext(true);
  }

  protected toBench(): void {
    void this.router.navigateByUrl('/');
  }

  /** After hanging the blade: still to be ground, or out of its grade and to be ground again. */
  private grindsNext(): boolean {
    const view = this.view();
    if (!view) return false;
    const untouched = view.before.verdict === 'grind' && view.passes.length === 0;
    const newest = view.rounds.at(-1);
    const asItStands = newest?.passesBefore === passesIn(view);
    return untouched || (asItStands && !newest.within);
  }

  /** Hung before the grinder is set up: the plan has changed by it, and is looked at first. */
  private afterHanging(): StepKey {
    const view = this.view();
    return view && !view.setUp && view.passes.length === 0 ? 'verdict' : 'grind';
  }

  private following(): StepKey | undefined {
    return this.steps[this.steps.indexOf(this.step()) + 1];
  }

  private async noCrack(): Promise<void> {
    if (this.step() !== 'inspect') return;
    if (!(await this.store.act({ type: 'judge-crack', found: false })))
      this.store.focusNext$.next();
  }

  /** After the screen has drawn itself, the focus goes to the next thing to do. */
  private focusNext(fromStart: boolean): void {
    afterNextRender(
      () => {
        const panel = this.panel()?.nativeElement;
        if (!panel) return;
        const from = fromStart ? null : document.activeElement;
        nextToDo(panel, from && panel.contains(from) ? from : null)?.focus();
      },
      { injector: this.injector },
    );
    // A kept value may leave nothing to draw: the render is asked for.
    this.changes.markForCheck();
  }
}
