import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Outcome, RetireReason, StepKey } from '@tally-stone/contract';
import { RETIRE_WORDS } from './retire-words';
import { RunStore } from './run-store';

/** The end of the cycle: ready for the rack, on hold, or retired for a stated limit. */
@Component({
  selector: 'ts-step-sign-off',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.view(); as view) {
      @if (view.signedOff; as signed) {
        <h2>
          {{
            signed.outcome === 'ready'
              ? 'Ready, in the rack'
              : signed.outcome === 'hold'
                ? 'On hold'
                : 'Retired: ' + (signed.retireReason ? words[signed.retireReason] : '')
          }}
        </h2>
        <p>A signed-off cycle is never edited. What stands here stays.</p>
      } @else if (view.signOff.proposed === 'retired') {
        <h2>This blade must be retired</h2>
        @for (finding of reasons(); track finding.id) {
          <p class="reason">{{ finding.words }}</p>
        }
        <p class="quiet">Mark it, bend or cut it so that nobody can fit it again.</p>
        <button
          mat-flat-button
          class="next-thing"
          (click)="sign('retired', view.signOff.retireReasons[0])"
        >
          Retire: {{ words[view.signOff.retireReasons[0] ?? 'shop-decision'] }}
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
          @for (block of view.signOff.blocks; track block.words) {
            <li>
              <button mat-stroked-button class="big" (click)="goTo.emit(block.step)">
                {{ block.words }}
              </button>
            </li>
          }
        </ul>
      }
      @if (!view.signedOff && view.signOff.proposed !== 'retired') {
        <div class="others">
          <button mat-button class="big" (click)="sign('hold')">Put it on hold</button>
          <button mat-button class="big" (click)="sign('retired', 'shop-decision')">
            Retire it, the shop decides so
          </button>
        </div>
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
    .others {
      margin-top: 18px;
      padding-top: 10px;
      border-top: 1px solid var(--rule);
    }
  `,
})
export class StepSignOff {
  protected readonly store = inject(RunStore);
  protected readonly words = RETIRE_WORDS;
  readonly goTo = output<StepKey>();

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

  protected async sign(outcome: Outcome, retireReason?: RetireReason): Promise<void> {
    const trouble = await this.store.act({
      type: 'sign-off',
      outcome,
      ...(retireReason ? { retireReason } : {}),
    });
    if (!trouble) this.store.kept$.next();
  }
}
