import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MeterHours, type MeterReason } from '@tally-stone/contract';
import { QuantityControl } from '../data/fields';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { METER_WORDS } from './fleet-words';

/** What an hour meter shows, and why where that is less than it was. Made where a component is made. */
export class MeterReading {
  readonly hours = new QuantityControl('h', MeterHours, inject(Units));
  readonly because = signal<MeterReason | undefined>(undefined);
  private readonly typed = toSignal(this.hours.valueChanges);
  readonly backward = computed(() => {
    this.typed();
    const { quantity } = this.hours;
    return quantity !== undefined && quantity < (this.lastH() ?? 0);
  });

  constructor(private readonly lastH: () => number | undefined) {}

  reset(): void {
    this.hours.reset();
    this.because.set(undefined);
  }
}

/** The field for a meter; a reading that runs back is asked for its reason at once. */
@Component({
  selector: 'ts-meter-reading',
  imports: [MatButtonModule, QuantityField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ts-quantity
      [control]="reading().hours"
      label="The meter shows"
      i18n-label
      hint="Last read {{ units.number(lastH(), 1) }} h"
      i18n-hint
    />
    @if (reading().backward()) {
      <h2 i18n>That is less than last time. Why?</h2>
      <div class="choices">
        @for (each of reasons; track each) {
          <button
            mat-stroked-button
            class="big"
            type="button"
            [class.chosen]="reading().because() === each"
            [attr.aria-pressed]="reading().because() === each"
            (click)="reading().because.set(each)"
          >
            {{ words[each] }}
          </button>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    h2 {
      margin: 14px 0 6px;
      font-size: 1.25rem;
    }
    .choices {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .chosen.mat-mdc-button-base {
      background: var(--ink);
      color: var(--chalk);
    }
  `,
})
export class MeterReadingField {
  protected readonly units = inject(Units);
  readonly reading = input.required<MeterReading>();
  readonly lastH = input.required<number>();
  protected readonly words = METER_WORDS;
  protected readonly reasons = Object.keys(METER_WORDS) as MeterReason[];
}
