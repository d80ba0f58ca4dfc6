import {
  afterNextRender,
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
import { RETIRE_REASONS } from '@tally-stone/core';
import { Days } from '../data/days';
import { foretoldWords } from './agreement-words';
import { Corrections } from './corrections';
import { RetireAnyway } from './retire-anyway';
import { DISPOSAL_WORDS } from './disposal-words';
import { RunStore } from './run-store';

/** The end of the cycle: ready for the rack, on hold, or retired for a stated limit. */
@Component({
  selector: 'ts-step-sign-off',
  imports: [MatButtonModule, MatIconModule, Corrections, RetireAnyway],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.view(); as view) {
      @if (store.waitingSignOff(); as outcome) {
        <h2>Signed off as {{ outcomeWords[outcome] }}, waiting for the server</h2>
        <p>
          It is kept in this browser after everything else you entered, and sent when the server is
          back. If something still stands in its way, that is said here and at the top of every
          page, and the blade stays at the bench. Tag it and lay it aside.
        </p>
      } @else if (view.signedOff; as signed) {
        <h2>
          {{
            signed.outcome === 'ready'
              ? 'Ready, in the rack'
              : signed.outcome === 'hold'
                ? 'On hold'
                : 'Retired: ' +
                  (signed.retireReason ? retireReasons[signed.retireReason].words : '')
          }}
        </h2>
        @if (foretold(); as words) {
          <p>{{ words }}</p>
        }
        @if (signed.undoable) {
          <p>Nothing is lost yet: as long as it lies here, it can be taken up again as it was.</p>
          <button mat-stroked-button class="big" (click)="undo()">
            <mat-icon svgIcon="undo" />Undo: keep the blade
          </button>
        } @else {
          <p>A signed-off cycle is never edited. What stands here stays.</p>
        }
        @if (refused(); as words) {
          <p class="bad" role="alert">{{ words }}</p>
        }
        @if (signed.outcome === 'retired') {
          <div class="tag" aria-label="Scrap tag">
            <img [src]="tagUrl(view.blade.code)" [alt]="'Code ' + view.blade.code" />
            <div>
              <strong>{{ view.blade.code }}</strong>
              <p class="never">Never fit again</p>
              <p>{{ signed.retireReason ? retireReasons[signed.retireReason].words : '' }}</p>
              <p>
                {{ signed.disposal ? disposalWords[signed.disposal] : '' }},
                {{ days.full(signed.at) }}
              </p>
            </div>
          </div>
          <button mat-stroked-button class="big" (click)="print()">Print the scrap tag</button>
        }
        <ts-corrections />
      } @else if (view.signOff.proposed === 'retired') {
        <h2>This blade must be retired</h2>
        @for (finding of reasons(); track finding.id) {
          <p class="reason">{{ finding.words }}</p>
        }
        <p>Make it unusable first, so that nobody can fit it again. How was it done?</p>
        <div class="row">
          @for (disposal of disposals; track disposal; let first = $first) {
            @if (first) {
              <button
                mat-flat-button
                class="next-thing"
                (click)="sign('retired', view.signOff.retireReasons[0], disposal)"
              >
                Retire: {{ retireReasons[view.signOff.retireReasons[0] ?? 'shop-decision'].words }},
                {{ disposalWords[disposal].toLowerCase() }}
              </button>
            } @else {
              <button
                mat-stroked-button
                class="big"
                (click)="sign('retired', view.signOff.retireReasons[0], disposal)"
              >
                {{ disposalWords[disposal] }}
              </button>
            }
          }
        </div>
      } @else if (store.away()) {
        <h2>The server is away</h2>
        <p>
          It knows nothing yet of what you entered since, so it cannot judge the blade. Sign it off
          now and it judges it when it is back, in the order you worked.
        </p>
        <button mat-flat-button class="next-thing" (click)="sign('ready')">
          Sign off as ready, to be judged
        </button>
      } @else if (view.signOff.blocks.length === 0) {
        <h2>Everything is proved</h2>
        <p>{{ summary() }}</p>
        <button mat-flat-button class="next-thing" (click)="sign('ready')">
          Ready for the rack
        </button>
      } @else {
        <h2>Not ready yet</h2>
        <ul>
          @for (block of view.signOff.blocks; track block.words; let first = $first) {
            <li>
              <button
                mat-stroked-button
                class="big"
                [attr.data-todo]="first"
                (click)="goTo.emit(block.step)"
              >
                {{ block.words }}
              </button>
            </li>
          }
        </ul>
      }
      @if (!view.signedOff && !store.waitingSignOff() && view.signOff.proposed !== 'retired') {
        @if (retiring()) {
          <ts-retire-anyway
            [view]="view"
            (retire)="sign('retired', $event.reason, $event.disposal)"
            (keepIt)="keepIt()"
          />
        } @else {
          <div class="others">
            <button mat-button class="big" (click)="sign('hold')">Put it on hold</button>
            <button mat-button class="big" #retire (click)="retiring.set(true)">
              Retire it all the same…
            </button>
          </div>
        }
      }
    }
  `,
  styles: `
    .reason {
      font-size: 22px;
      font-weight: 600;
      color: var(--bad);
      margin: 8px 0;
    }
    ul {
      list-style: none;
      padding: 0;
      margin: 12px 0;
    }
    li {
      margin: 6px 0;
    }
    li button.mat-mdc-outlined-button {
      white-space: normal;
      height: auto;
      padding: 10px 16px;
      text-align: left;
      line-height: 1.25;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      padding-right: 260px;
    }
    .tag {
      display: flex;
      gap: 20px;
      align-items: center;
      width: max-content;
      margin: 10px 0;
      padding: 12px 20px;
      border: 3px solid var(--bad);
      background: var(--slab);
    }
    .tag img {
      width: 96px;
      height: 96px;
      padding: 6px;
      background: #fff;
    }
    .tag strong {
      font-size: 34px;
      letter-spacing: 2px;
    }
    .tag p {
      margin: 0;
    }
    .never {
      font-size: 22px;
      font-weight: 700;
      color: var(--bad);
    }
    .others {
      margin-top: 18px;
      padding-top: 10px;
      border-top: 1px solid var(--rule);
    }
  `,
})
export class StepSignOff {
  protected readonly store = inject(RunStore);
  protected readonly retireReasons = RETIRE_REASONS;
  protected readonly outcomeWords: Readonly<Record<Outcome, string>> = {
    ready: 'ready',
    hold: 'on hold',
    retired: 'retired',
  };
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
    return closest?.words ?? '';
  });

  protected readonly foretold = computed(() => {
    const view = this.store.view();
    return view ? foretoldWords(view) : '';
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
      afterNextRender(
        () => {
          if (document.activeElement === document.body) this.store.kept$.next();
        },
        { injector },
      );
    });
  }

  protected readonly disposals = Disposal.options;
  protected readonly disposalWords = DISPOSAL_WORDS;
  protected readonly tagUrl = (code: string): string => `/api/codes/${code}/tag.svg`;

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
    this.store.kept$.next();
  }

  protected keepIt(): void {
    this.retiring.set(false);
    afterNextRender(() => this.retireButton()?.nativeElement.focus(), { injector: this.injector });
  }

  protected async undo(): Promise<void> {
    const trouble = await this.store.act({ type: 'undo-retirement' });
    this.refused.set(trouble?.words ?? '');
    if (!trouble) this.store.kept$.next();
  }
}
