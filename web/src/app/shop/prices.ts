import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ShopRules, type SpecRevision } from '@tally-stone/contract';

type Price = Exclude<keyof ShopRules['prices'], 'currency' | 'bladeOf'>;
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
      @if (specs().length > 0) {
        <fieldset>
          <legend>Where one costs something else</legend>
          @for (spec of specs(); track spec.specId) {
            <label
              >{{ spec.figures.name }}
              <input
                [name]="spec.specId"
                inputmode="decimal"
                autocomplete="off"
                [placeholder]="rules().prices.blade"
                [value]="rules().prices.bladeOf?.[spec.specId] ?? ''"
            /></label>
          }
        </fieldset>
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
    fieldset {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 24px;
      width: 100%;
      margin: 4px 0;
      padding: 6px 12px 10px;
      border: 1px solid var(--rule);
    }
    legend {
      padding: 0 6px;
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
  /** Blades that may have a price of their own. */
  readonly specs = input<readonly SpecRevision[]>([]);
  readonly chosen = output<ShopRules>();
  protected readonly fields = FIELDS;
  protected readonly error = signal('');

  protected keep(event: Event, form: HTMLFormElement): void {
    event.preventDefault();
    const typed = new FormData(form);
    const text = (name: string): string => (typed.get(name) as string | null) ?? '';
    const number = (name: string): number => {
      const said = text(name).trim().replace(',', '.');
      return said === '' ? NaN : Number(said);
    };
    const own = this.specs().filter(({ specId }) => text(specId).trim() !== '');
    const prices = {
      currency: text('currency'),
      bladeOf: Object.fromEntries(own.map(({ specId }) => [specId, number(specId)])),
      ...Object.fromEntries(FIELDS.map(({ key }) => [key, number(key)])),
    };
    const parsed = ShopRules.safeParse({ ...this.rules(), prices });
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      const field = FIELDS.find(({ key }) => key === issue?.path[1]);
      const spec = this.specs().find(({ specId }) => specId === issue?.path[2]);
      this.error.set(
        `${field?.words ?? spec?.figures.name ?? 'Money'}: ${issue?.message ?? 'is not a number'}.`,
      );
      return;
    }
    this.error.set('');
    this.chosen.emit(parsed.data);
  }
}
