import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ShopRules } from '@tally-stone/contract';

type Price = Exclude<keyof ShopRules['prices'], 'currency'>;
const FIELDS: readonly { readonly key: Price; readonly words: string }[] = [
  { key: 'blade', words: 'A blade' },
  { key: 'minutesPerBlade', words: 'Minutes at the bench for one' },
  { key: 'benchHour', words: 'An hour at the bench' },
  { key: 'abrasivePerGrind', words: 'Abrasive for one grind' },
  { key: 'dullHour', words: 'An hour mown dull' },
  { key: 'stoppedHour', words: 'An hour a mower stands' },
];

/** What things cost in this shop, for a blade's cost so far and for the season. */
@Component({
  selector: 'ts-prices',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form #form (submit)="keep($event, form)">
      <label
        >Money is in
        <input name="currency" class="short" autocomplete="off" [value]="rules().prices.currency"
      /></label>
      @for (field of fields; track field.key) {
        <label
          >{{ field.words }}
          <input
            [name]="field.key"
            inputmode="decimal"
            autocomplete="off"
            [value]="rules().prices[field.key]"
        /></label>
      }
      <button mat-stroked-button class="big" type="submit">Keep these prices</button>
    </form>
    @if (error()) {
      <p class="bad" role="alert">{{ error() }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 8px;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 24px;
    }
    input {
      width: 84px;
      margin-left: 6px;
      text-align: right;
    }
    input.short {
      width: 60px;
    }
  `,
})
export class Prices {
  readonly rules = input.required<ShopRules>();
  readonly chosen = output<ShopRules>();
  protected readonly fields = FIELDS;
  protected readonly error = signal('');

  protected keep(event: Event, form: HTMLFormElement): void {
    event.preventDefault();
    const typed = new FormData(form);
    const text = (name: string): string => (typed.get(name) as string | null) ?? '';
    const prices = {
      currency: text('currency'),
      ...Object.fromEntries(
        FIELDS.map(({ key }) => {
          const said = text(key).trim().replace(',', '.');
          return [key, said === '' ? NaN : Number(said)];
        }),
      ),
    };
    const parsed = ShopRules.safeParse({ ...this.rules(), prices });
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      const field = FIELDS.find(({ key }) => key === issue?.path[1]);
      this.error.set(`${field?.words ?? 'Money'}: ${issue?.message ?? 'is not a number'}.`);
      return;
    }
    this.error.set('');
    this.chosen.emit(parsed.data);
  }
}
