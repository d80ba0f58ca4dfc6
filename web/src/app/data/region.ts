import { Injectable, signal } from '@angular/core';
import type { Region as Written } from '@tally-stone/contract';
import { moneyIn, numberIn } from '@tally-stone/core/basics';

/** How figures, money and days are written in this shop. */
@Injectable({ providedIn: 'root' })
export class Region {
  readonly written = signal<Written>({ dates: 'day-first', decimal: 'point', weekBegins: 1 });

  /** A number with its decimals, for example `51.2` or `51,2`. */
  number(value: number, digits = 0): string {
    return numberIn(this.written(), value, digits);
  }

  /** A number as it stands in a field: no decimals it does not need, and never grouped, since it is read again. */
  typed(value: number, mostDigits = 6): string {
    const text = String(Number(value.toFixed(mostDigits)));
    return this.written().decimal === 'comma' ? text.replace('.', ',') : text;
  }

  /** An amount in a currency by its ISO code, for example `£18.00`. */
  money(amount: number, currency: string, digits = 2): string {
    return moneyIn(this.written(), amount, currency, digits);
  }
}
