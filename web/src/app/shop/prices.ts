import { ChangeDetectionStrategy, Component, effect, inject, input, output } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { CURRENCIES, ShopRules, type SpecRevision } from '@tally-stone/contract';
import { spokenHere } from '../data/language';
import { passes, QuantityControl, text } from '../data/fields';
import { showsFirstWrong } from '../data/submit';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { PickField } from '../parts/form/pick-field';

const PRICES = ShopRules.shape.prices.shape;
const FIELDS = [
  { key: 'blade', words: $localize`A blade` },
  { key: 'minutesPerBlade', words: $localize`Bench time for a blade` },
  { key: 'benchHour', words: $localize`An hour at the bench` },
  { key: 'abrasivePerGrind', words: $localize`Abrasive for one grind` },
  { key: 'dullHour', words: $localize`An hour mown dull` },
  { key: 'stoppedHour', words: $localize`An hour a mower stands` },
] as const;
const NAMES = new Intl.DisplayNames(spokenHere(), { type: 'currency' });
const CURRENCY_OPTIONS = CURRENCIES.map((code) => ({
  value: code,
  words: `${code}, ${NAMES.of(code) ?? ''}`,
}));
type Price = (typeof FIELDS)[number]['key'];

/** What things cost in this shop, for a blade's cost so far and for the season. */
@Component({
  selector: 'ts-prices',
  imports: [MatButtonModule, PickField, QuantityField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="form" (ngSubmit)="keep()">
      <ts-pick
        [control]="form.controls.currency"
        label="Money is in"
        i18n-label
        [options]="currencies"
      />
      @for (field of fields; track field.key) {
        <ts-quantity
          [control]="form.controls.usual.controls[field.key]"
          [label]="field.words"
          [after]="field.key === 'minutesPerBlade' ? 'min' : rules().prices.currency"
        />
      }
      @if (specs().length > 0) {
        <fieldset>
          <legend i18n>Where one costs something else</legend>
          @for (spec of specs(); track spec.specId) {
            @if (form.controls.own.controls[spec.specId]; as own) {
              <ts-quantity
                class="wide"
                [control]="own"
                [label]="spec.figures.name"
                [usual]="'' + rules().prices.blade"
                [after]="rules().prices.currency"
              />
            }
          }
        </fieldset>
      }
      <button i18n mat-stroked-button class="big" type="submit">Keep these prices</button>
    </form>
  `,
  styleUrl: './part.scss',
})
export class Prices {
  private readonly units = inject(Units);
  private readonly showFirstWrong = showsFirstWrong();
  readonly rules = input.required<ShopRules>();
  /** Blades that may have a price of their own. */
  readonly specs = input<readonly SpecRevision[]>([]);
  readonly chosen = output<ShopRules>();
  protected readonly fields = FIELDS;
  protected readonly currencies = CURRENCY_OPTIONS;
  protected readonly form = new FormGroup({
    currency: text('', PRICES.currency),
    usual: new FormGroup(
      Object.fromEntries(
        FIELDS.map(({ key }) => [key, new QuantityControl('', PRICES[key], this.units)]),
      ) as Record<Price, QuantityControl>,
    ),
    own: new FormGroup<Record<string, QuantityControl>>({}),
  });

  constructor() {
    effect(() => {
      const { prices } = this.rules();
      const { currency, usual, own } = this.form.controls;
      currency.setValue(prices.currency);
      for (const { key } of FIELDS) usual.controls[key].put(prices[key]);
      for (const { specId } of this.specs()) {
        const start = prices.bladeOf?.[specId];
        if (own.controls[specId]) own.controls[specId].put(start);
        else
          own.addControl(
            specId,
            new QuantityControl('', PRICES.blade, this.units, { start, optional: true }),
          );
      }
    });
  }

  protected keep(): void {
    if (!passes(this.form)) {
      this.showFirstWrong();
      return;
    }
    const { currency, usual, own } = this.form.controls;
    const bladeOf: Record<string, number> = {};
    for (const [specId, { quantity }] of Object.entries(own.controls))
      if (quantity !== undefined) bladeOf[specId] = quantity;
    const prices = { ...this.rules().prices, currency: currency.value, bladeOf };
    for (const { key } of FIELDS) prices[key] = usual.controls[key].quantity ?? prices[key];
    this.chosen.emit({ ...this.rules(), prices });
  }
}
