import { Injectable, signal } from '@angular/core';
import type { Region as Written } from '@tally-stone/contract';

/** The form of a locale stands for the form a shop picked; the words stay English. */
const DATES: Readonly<Record<Written['dates'], string>> = {
  'day-first': 'en-GB',
  'month-first': 'en-US',
  'year-first': 'sv-SE',
};
const DECIMAL: Readonly<Record<Written['decimal'], string>> = { point: 'en-GB', comma: 'de-DE' };

/** The code for no currency. */
const NO_CURRENCY = 'XXX';

/** How figures, money and days are written in this shop. */
@Injectable({ providedIn: 'root' })
export class Region {
  readonly written = signal<Written>({ dates: 'day-first', decimal: 'point', weekBegins: 1 });

  /** A number with its decimals, for example `51.2` or `51,2`. Numbers from 10,000 on are grouped. */
  number(value: number, digits = 0): string {
    return new Intl.NumberFormat(DECIMAL[this.written().decimal], {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
      useGrouping: Math.abs(value) >= 10_000,
      // A sign before a rounded nothing says nothing.
      signDisplay: 'negative',
    }).format(value);
  }

  /** An amount in a currency by its ISO code, for example `£18.00`. */
  money(amount: number, currency: string, digits = 2): string {
    return new Intl.NumberFormat(DECIMAL[this.written().decimal], {
      style: 'currency',
      currency: /^[A-Z]{3}$/.test(currency) ? currency : NO_CURRENCY,
      currencyDisplay: 'narrowSymbol',
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
    }).format(amount);
  }

  /** The locale whose form the shop's dates have. */
  dates(): string {
    return DATES[this.written().dates];
  }
}
