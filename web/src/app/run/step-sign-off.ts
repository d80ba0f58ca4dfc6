import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { Disposal, type Outcome, type RetireReason, type StepKey } from '@tally-stone/contract';
import { BLADE_STATES, DAMAGE, RETIRE_REASONS, PLACES, placeSaid } from '@tally-stone/core';
import { PlacePipe } from '../parts/named.pipe';
import { Days } from '../data/days';
import { onceDrawn } from '../data/once-drawn';
import { Units } from '../data/units';
import { foretoldWords } from './agreement-words';
import { Corrections } from './corrections';
import { RetireAnyway } from './retire-anyway';
import { DISPOSAL_WORDS } from './disposal-words';
import { RunStore } from './run-store';

/** The end of the cycle: ready for the rack, on hold, or retired for a stated limit. */
@Component({
  selector: 'ts-step-sign-off',
  imports: [PlacePipe, MatButtonModule, MatIconModule, Corrections, RetireAnyway],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-sign-off.html',
  styleUrl: './step-sign-off.scss',
})
export class StepSignOff {
  protected readonly store = inject(RunStore);
  protected readonly units = inject(Units);
  protected readonly retireReasons = RETIRE_REASONS;
  protected readonly states = BLADE_STATES;
  readonly goTo = output<StepKey>();
  /** A blade that no reading retires is being retired: asked about first. */
  protected readonly retiring = signal(false);
  protected readonly refused = signal('');
  private readonly retireButton = viewChild<unknown, ElementRef<HTMLElement>>('retire', {
    read: ElementRef,
  });
  private readonly injector = inject(Injector);

  protected readonly reasons = computed(() => {
    const view = this.store.view();
    const all = [...(view?.before.findings ?? []), ...(view?.now.findings ?? [])];
    return all.filter(
      ({ severity, id }, i) =>
        severity === 'retire' && all.findIndex((each) => each.id === id) === i,
    );
  });

  protected readonly summary = computed(() => {
    const view = this.store.view();
    const closest = view?.now.findings.find(
      ({ id, margin }) => id.startsWith('width') && margin !== undefined,
    );
    return closest ? this.units.finding(closest) : '';
  });

  /** The last hanging where it is less sure than what is allowed: the balancer cannot prove it. */
  protected readonly unsureBalance = computed(() => {
    const round = this.store.view()?.rounds.at(-1);
    if (!round?.tooCoarse || round.endOnly) return '';
    const sure = this.units.show(round.expandedUncertaintyGmm, 'g·mm', 0);
    return $localize`Its balance is known to ± ${sure} only, more than the ${this.units.show(round.permissibleGmm, 'g·mm', 0)} allowed.`;
  });

  /** Signed off as ready, and held since: by what the corrected readings say, and where it has to be taken from. */
  protected readonly held = computed((): string[] => {
    const view = this.store.view();
    if (view?.signedOff?.outcome !== 'ready' || view.blade.state !== 'hold' || !view.corrected)
      return [];
    const decides = view.corrected.now.findings.filter(
      ({ severity }) => severity === view.corrected?.now.verdict,
    );
    const where =
      view.blade.place === PLACES.hook
        ? $localize`Take it from its peg and hang it on the hold hook, tagged.`
        : $localize`It is on ${placeSaid(view.blade.place)}:ph0:: nobody runs the mower before it is off.`;
    return [...decides.map((finding) => this.units.finding(finding)), where];
  });

  /** What grinding left of each mark, by a photo after it or by the count. */
  protected readonly marksLeft = computed(() =>
    (this.store.view()?.damage ?? []).flatMap(({ damageId, kind, end, fromTipMm, left }) =>
      left
        ? [
            {
              damageId,
              gone: left.value <= 0,
              words: $localize`${DAMAGE[kind].words}, end ${end}, ${this.units.show(fromTipMm, 'mm', 0)} from the tip: ${left.value <= 0 ? $localize`ground out` : $localize`${this.units.plusMinus(left, 'mm', left.by === 'photo' ? 2 : 1)} of it left`}, by the ${left.by ?? $localize`count`}`,
            },
          ]
        : [],
    ),
  );

  protected readonly foretold = computed(() => {
    const view = this.store.view();
    return view ? foretoldWords(view, this.units.show) : '';
  });

  protected readonly days = inject(Days);
  /** What the step shows now: what stands in the way, or that it is signed, here or by the server. */
  private readonly standing = computed(() => {
    const view = this.store.view();
    return `${view?.signOff.blocks.length ?? ''} ${view?.signedOff?.outcome ?? ''} ${this.store.waitingSignOff() ?? ''}`;
  });

  constructor() {
    // What stood in the way goes with the button that had the focus: on to what is there now.
    const { injector } = this;
    effect(() => {
      if (!this.standing()) return;
      onceDrawn(injector, () => {
        if (document.activeElement === document.body) this.store.focusNext$.next();
      });
    });
  }

  protected readonly disposals = Disposal.options;
  protected readonly disposalWords = DISPOSAL_WORDS;
  protected readonly tagUrl = (code: string): string => `/api/v1/codes/${code}/tag.svg`;

  protected print(): void {
    window.print();
  }

  protected async sign(
    outcome: Outcome,
    retireReason?: RetireReason,
    disposal?: Disposal,
  ): Promise<void> {
    const trouble = await this.store.act({
      type: 'sign-off',
      outcome,
      ...(retireReason ? { retireReason } : {}),
      ...(disposal ? { disposal } : {}),
    });
    if (trouble) return;
    this.retiring.set(false);
    this.store.focusNext$.next();
  }

  protected keepIt(): void {
    this.retiring.set(false);
    onceDrawn(this.injector, () => this.retireButton()?.nativeElement.focus());
  }

  protected async undo(): Promise<void> {
    const trouble = await this.store.act({ type: 'undo-retirement' });
    this.refused.set(trouble?.words ?? '');
    if (!trouble) this.store.focusNext$.next();
  }
}
