import { submit } from '../data/submit';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  BladeMassG,
  BladeWidthMm,
  TestWeightG,
  type CheckQuantity,
  type CheckView,
  type Entered,
  type InstrumentView,
} from '@tally-stone/contract';
import { lastValueFrom, tap } from 'rxjs';
import { newId } from '../data/commands';
import { passes, QuantityControl } from '../data/fields';
import { Instruments } from '../data/instruments';
import { troubleFrom } from '../data/problem';
import { Shop } from '../data/shop';
import { Units } from '../data/units';
import { Fold } from '../parts/fold';
import { QuantityField } from '../parts/form/quantity-field';

const WHAT: Readonly<Record<CheckQuantity, { readonly tool: string; readonly label: string }>> = {
  mass: { tool: $localize`scale`, label: $localize`Its mass` },
  width: { tool: $localize`caliper`, label: $localize`Its width at the mark` },
  level: { tool: $localize`balancer`, label: $localize`Weight that levels it` },
};

/** The morning's check blade: what it reads today, and whether scale, caliper or balancer has drifted. */
@Component({
  selector: 'ts-check-blade',
  imports: [Fold, Named, MatButtonModule, QuantityField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (checks(); as all) {
      <ts-fold [open]="wanting()">
        <ng-container foldHead>
          <strong i18n>Check blade</strong>
          <span [class.bad]="untrue().length > 0">{{ headline() }}</span>
        </ng-container>
        @for (check of all; track check.quantity) {
          <form (submit)="$event.preventDefault(); keep(check)">
            <ts-quantity
              [control]="fields[check.quantity]"
              [label]="what[check.quantity].label"
              (keydown)="pressed(check, $event)"
            />
            @if (toolFor(check.quantity); as tool) {
              <button
                i18n
                mat-stroked-button
                class="big"
                type="button"
                tsName="Take {{ what[check.quantity].label }} with the {{
                  tool.name.toLowerCase()
                }}"
                i18n-tsName
                (click)="take(check)"
              >
                @if (taking() === check.quantity) {
                  …
                } @else {
                  Take
                }
                <kbd>T</kbd>
              </button>
            }
            <button i18n mat-stroked-button class="big" type="submit">Keep</button>
            <span class="says" [class.bad]="check.trueness && check.trueness !== 'true'">{{
              words(check)
            }}</span>
          </form>
        }
        @if (error()) {
          <p class="bad" role="alert">{{ error() }}</p>
        }
      </ts-fold>
    }
  `,
  styles: `
    ts-fold {
      margin: 20px 0 0;
    }
    strong {
      margin-right: 12px;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: flex-start;
      gap: 6px 14px;
      padding: 8px 0 4px;
      --field-width: 14.375rem;
    }
    .says {
      flex-basis: 100%;
      color: var(--steel);
    }
    .says.bad {
      font-weight: 600;
    }
  `,
})
export class CheckBlade {
  private readonly shop = inject(Shop);
  private readonly instruments = inject(Instruments);
  protected readonly units = inject(Units);
  protected readonly what = WHAT;
  protected readonly fields: Readonly<Record<CheckQuantity, QuantityControl>> = {
    mass: new QuantityControl('g', BladeMassG, this.units),
    width: new QuantityControl('mm', BladeWidthMm, this.units),
    level: new QuantityControl('g', TestWeightG, this.units),
  };
  private readonly write = submit({
    // The server speaks of what was entered; which of the three, whoever sent it knows.
    at: (field) => (field in WHAT ? this.fields[field as CheckQuantity] : undefined),
    kept: () => this.shop.refresh(),
  });
  protected readonly error = this.write.words;
  protected readonly taking = signal<CheckQuantity | undefined>(undefined);
  protected readonly checks = computed(() => this.shop.view()?.checks);
  protected readonly untrue = computed(() =>
    (this.checks() ?? []).filter(({ trueness }) => trueness && trueness !== 'true'),
  );
  private readonly missing = computed(() => (this.checks() ?? []).filter(({ today }) => !today));
  protected readonly wanting = computed(() => this.untrue().length > 0);

  protected readonly headline = computed(() => {
    const [worst] = this.untrue();
    if (worst) {
      return worst.trueness === 'off'
        ? $localize`the ${WHAT[worst.quantity].tool} is off: do not trust it before it is put right`
        : $localize`the ${WHAT[worst.quantity].tool} is drifting: look to it`;
    }
    const missing = this.missing().map(({ quantity }) => WHAT[quantity].tool);
    return missing.length === 0
      ? $localize`read today, all true`
      : $localize`not read today: ${missing.join(', ')}`;
  });

  constructor() {
    void this.shop.refresh();
    void this.instruments.refresh().catch(() => undefined);
  }

  protected words({ reference, unit, deviation, expanded, readings, trueness }: CheckView): string {
    const is = $localize`is ${this.units.show(reference, unit, 2)}`;
    if (deviation === undefined || expanded === undefined) return $localize`${is}; never read yet`;
    const way = deviation >= 0 ? $localize`more` : $localize`less`;
    const reading = $localize`${is}, last read ${this.units.show(Math.abs(deviation), unit, 2)} ${way}, sure to ± ${this.units.show(expanded, unit, 2)}`;
    if (trueness === 'off')
      return $localize`${reading}:ph0:: off by more than its doubt. Zero it, clean it, read again.`;
    if (trueness === 'drifting')
      return $localize`${reading}:ph0:: over ${readings} mornings it creeps away.`;
    return $localize`${reading}:ph0:: true.`;
  }

  /** The instrument that weighs or measures the check blade; a coin on the balancer is typed. */
  protected toolFor(quantity: CheckQuantity): InstrumentView | undefined {
    return quantity === 'level' ? undefined : this.instruments.speaking(quantity);
  }

  protected pressed(check: CheckView, event: KeyboardEvent): void {
    if (event.key.toLowerCase() !== 't' || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    void this.take(check);
  }

  /** Takes the reading once it stands still, and keeps it. */
  protected async take({ quantity }: CheckView): Promise<void> {
    const field = this.fields[quantity];
    const tool = this.toolFor(quantity);
    if (!tool || this.taking()) return;
    this.write.say('');
    this.taking.set(quantity);
    try {
      const { figures } = await lastValueFrom(
        this.instruments.take(tool, { act: 'put-check', quantity }).pipe(
          tap(({ shown: now }) => {
            field.setValue(now);
          }),
        ),
      );
      const entered = { text: figures, unit: tool.unit };
      if (await this.send(quantity, entered, tool.key)) field.reset();
    } catch (error) {
      this.write.say(error instanceof Error ? error.message : troubleFrom(error).words);
    } finally {
      this.taking.set(undefined);
    }
  }

  protected async keep({ quantity }: CheckView): Promise<void> {
    const field = this.fields[quantity];
    if (!passes(field)) this.write.showFirstWrong();
    else if (await this.send(quantity, field.entered)) field.reset();
  }

  /** Sends a reading; the answer when it was kept. */
  private send(quantity: CheckQuantity, entered: Entered, instrument?: string) {
    return this.write.send(
      {
        type: 'read-check-blade',
        checkId: newId(),
        quantity,
        entered,
        ...(instrument ? { instrument } : {}),
      },
      () => quantity,
    );
  }
}
import { Named } from '../parts/named';
