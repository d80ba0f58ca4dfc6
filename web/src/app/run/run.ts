import type { ElementRef } from '@angular/core';
import {
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
import { edgesOf, passesIn } from '@tally-stone/cycle';
import { edgePlaces, ENDS } from '@tally-stone/core';
import { auditTime, filter, concatMap } from 'rxjs';
import { PageState } from '../parts/state';
import { Batch } from '../data/batch';
import { Changes } from '../data/changes';
import { Days } from '../data/days';
import { Frame } from '../data/frame';
import { GoesOn } from '../data/goes-on';
import { grindsWords } from '../data/grinds';
import { Instruments } from '../data/instruments';
import { Keys } from '../data/keys';
import { onceDrawn } from '../data/once-drawn';
import { BladeDrawing } from '../parts/blade-drawing';
import { Findings } from '../parts/findings';
import { nextToDo } from '../parts/focus-order';
import { Tally } from '../parts/tally';
import { VerdictTag } from '../parts/verdict-tag';
import { InBatch } from './in-batch';
import { isUnproved } from './is-unproved';
import { Lease } from './lease';
import { PlanCard } from './plan-card';
import { Marks } from './marks';
import { Onward } from './onward';
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
  providers: [RunStore, InBatch, Onward, Marks, Lease],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run.html',
  styleUrl: './run.scss',
})
export class Run {
  protected readonly grindsWords = grindsWords;
  protected readonly store = inject(RunStore);
  protected readonly marks = inject(Marks);
  private readonly lease = inject(Lease);
  private readonly batches = inject(Batch);
  protected readonly batch = inject(InBatch);
  protected readonly onward = inject(Onward);
  protected readonly days = inject(Days);
  private readonly injector = inject(Injector);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly router = inject(Router);
  private readonly frame = inject(Frame);
  private readonly goesOn = inject(GoesOn);
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
    const shown = state ? edgesOf(state).filter((edge) => edge.phase === phase) : [];
    return Object.fromEntries(shown.map(({ end, widthsMm }) => [end, edgePlaces(widthsMm, tipMm)]));
  });
  /** Who has the blade in hand while this screen watches. What is signed off is a record: anybody may look into it. */
  protected readonly watched = computed(() => (this.view()?.signedOff ? null : this.lease.other()));
  protected readonly step = this.store.step;
  /** The step that is drawn: a frame behind the one that was pressed, which shows at once. */
  protected readonly drawn = signal<StepKey>('clean');
  /** A step of a blade that is signed off is only looked at; what stands under sign-off can be undone there. */
  protected readonly isRecord = computed(() => this.store.closed() && this.drawn() !== 'sign-off');
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

  protected readonly unproved = computed(() => isUnproved(this.view()));

  constructor() {
    const keys = inject(Keys).use([
      { key: 'k', does: $localize`Inspect: no crack found`, run: () => void this.noCrack() },
      { key: ']', does: $localize`Next step`, run: () => this.move(1) },
      { key: '[', does: $localize`Step before`, run: () => this.move(-1) },
      { key: 'w', does: $localize`Verdict: hang it, for its heavy end`, run: () => this.hang() },
    ]);
    inject(DestroyRef).onDestroy(keys);
    const instruments = inject(Instruments);
    void instruments.refresh().catch(() => undefined);
    instruments.codes$
      .pipe(
        filter(() => this.store.closed()),
        takeUntilDestroyed(),
      )
      .subscribe((code) => void this.toCode(code));
    this.batches.follow(() => this.cycleId(), inject(DestroyRef));
    effect(() => {
      const id = this.cycleId();
      untracked(() => {
        void this.lease.open(id);
        void this.batches.refresh();
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
    this.onward.goes$.pipe(takeUntilDestroyed()).subscribe((step) => {
      this.go(step);
    });
    this.onward.stays$.pipe(takeUntilDestroyed()).subscribe(() => {
      this.focusNext(true);
    });
    this.store.focusNext$.pipe(takeUntilDestroyed()).subscribe(() => {
      const panel = this.panel()?.nativeElement;
      const kept = this.store.keptActs > this.seen;
      this.seen = this.store.keptActs;
      if (!panel || !this.store.hasGoneOn(panel)) this.focusNext(false, kept);
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

  /** Acts kept when the focus went on last: only what was kept since leads on, not what was picked. */
  private seen = 0;

  protected go(step: StepKey): void {
    this.step.set(step);
    this.seen = this.store.keptActs;
    this.store.here.set('');
    this.frame.afterPaint(() => {
      this.drawn.set(this.step());
      this.focusNext(true);
    });
  }

  /** From the plan to the balancer: which end is heavy decides which is ground first. */
  protected hang(): void {
    if (this.step() === 'verdict' && !this.store.closed()) this.go('balance');
  }

  protected move(by: number): void {
    const next = this.steps[this.steps.indexOf(this.step()) + by];
    if (next) this.go(next);
  }

  protected readonly stateWords = (step: StepKey): string => stateWords(this.store.stateOf(step));

  /** After sign-off: the next blade of the batch is one key away, else the bench. */
  private async toNextBlade(): Promise<void> {
    const member = this.batch.nextBlade();
    if (member) await this.batch.takeUp(member);
    else if (this.batch.open()) await this.router.navigateByUrl('/batch');
    else this.toBench();
  }

  protected readonly nextCode = signal('');
  /** A code that is scanned or typed where this blade is done with: the bench takes that blade up. */
  protected async toCode(code: string): Promise<void> {
    if (code.trim() === '') await this.toNextBlade();
    else await this.router.navigateByUrl('/', { state: { code } });
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

  private async noCrack(): Promise<void> {
    if (this.step() !== 'inspect') return;
    if (!(await this.store.act({ type: 'judge-crack', found: false })))
      this.store.focusNext$.next();
  }

  /** After the screen has drawn itself, the focus goes to the next thing to do. */
  private focusNext(fromStart: boolean, kept = false): void {
    const at = this.step();
    onceDrawn(this.injector, () => {
      const panel = this.panel()?.nativeElement;
      if (!panel) return;
      const from = fromStart ? null : document.activeElement;
      const next = nextToDo(panel, from && panel.contains(from) ? from : null);
      next?.focus();
      // Something was kept just now, and nothing else is to be done here. On entering a step it is only looked at.
      const isDone = kept && at === this.step() && next?.matches('.next-thing');
      if (isDone && this.goesOn.on() && this.onward.leadsOn()) void this.onward.now();
    });
    // A kept value may leave nothing to draw: the render is asked for.
    this.changes.markForCheck();
  }
}
