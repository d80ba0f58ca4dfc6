import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  signal,
  viewChildren,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { ENDS, type End } from '@tally-stone/core';
import { Keys } from '../data/keys';
import { Tally } from '../parts/tally';
import { RunStore } from './run-store';

/** Count the passes, end by end: by the space bar, by a large target, or told afterwards. */
@Component({
  selector: 'ts-step-grind',
  imports: [MatButtonModule, MatIconModule, Tally],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-grind.html',
  styleUrl: './step-grind.scss',
})
export class StepGrind {
  protected readonly store = inject(RunStore);
  protected readonly ends = ENDS;
  protected readonly end = signal<End>('A');
  protected readonly told = signal<Readonly<Record<End, string>>>({ A: '', B: '' });
  protected readonly error = signal('');
  private readonly passButtons = viewChildren<unknown, ElementRef<HTMLElement>>('pass', {
    read: ElementRef,
  });

  /** With a balance reading before, the light end is cleaned up first. */
  protected readonly order = computed(() => {
    const heavy = this.store.view()?.rounds.findLast(({ phase }) => phase === 'before')?.heavyEnd;
    if (heavy === 'A' || heavy === 'B') {
      const light = heavy === 'A' ? 'B' : 'A';
      return `End ${heavy} hangs low: clean up end ${light} first, only as far as sharp needs, and spend the rest on end ${heavy}.`;
    }
    return 'No heavy end known yet: hang the blade for five seconds first, or grind both ends alike.';
  });

  constructor() {
    const stop = inject(Keys).use([
      { key: ' ', does: 'One pass at the end in hand', run: () => void this.count(this.end(), 1) },
      { key: 'a', does: 'End A in hand', run: () => this.take('A') },
      { key: 'b', does: 'End B in hand', run: () => this.take('B') },
      { key: 'u', does: 'Take the last pass back', run: () => void this.undo() },
    ]);
    inject(DestroyRef).onDestroy(stop);
  }

  /** The end to take up now: the light one first, the other once that has passes. */
  protected isNext(end: End): boolean {
    const heavy = this.store.view()?.rounds.findLast(({ phase }) => phase === 'before')?.heavyEnd;
    const first: End = heavy === 'A' ? 'B' : 'A';
    return this.store.passes(end) === 0 && (end === first || this.store.passes(first) > 0);
  }

  /** Passes the plan wants at an end, those before the last balance reading included. */
  protected target(end: End): number | undefined {
    const plan = this.store.plan();
    return plan?.kind === 'plan' ? plan.behind[end] + plan.passes[end] : undefined;
  }

  private take(end: End): void {
    this.end.set(end);
    this.passButtons()[this.ends.indexOf(end)]?.nativeElement.focus();
  }

  protected async count(end: End, count: number): Promise<void> {
    this.end.set(end);
    const trouble = await this.store.countPasses(end, count);
    this.error.set(trouble?.words ?? '');
  }

  protected undo(): Promise<void> {
    return this.store.undoPass(this.end());
  }

  protected typed(end: End, text: string): void {
    this.told.update((told) => ({ ...told, [end]: text }));
  }

  protected async tell(end: End): Promise<void> {
    const count = Number(this.told()[end].trim());
    if (!Number.isInteger(count) || count < 1) {
      this.error.set(`End ${end}: type the passes as a whole number, like 12.`);
      return;
    }
    await this.count(end, count);
    this.typed(end, '');
  }
}
