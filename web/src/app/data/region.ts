import { Injectable, signal } from '@angular/core';
import { Region as Written } from '@tally-stone/contract';
import { moneyIn, numberIn } from '@tally-stone/core/basics';

const KEPT_AS = 'tally-stone.region';
const USUAL: Written = { dates: 'day-first', decimal: 'point', weekBegins: 1 };

/** As it was here last: a page is drawn before the shop has answered. */
function keptRegion(): Written {
  try {
    return Written.safeParse(JSON.parse(localStorage.getItem(KEPT_AS) ?? '')).data ?? USUAL;
  } catch {
    return USUAL;
  }
}

/** How figures, money and days are written in this shop. */
@Injectable({ providedIn: 'root' })
export class Region {
  readonly written = signal(keptRegion());

  /** The shop has said how it writes. */
  tell(region: Written): void {
    this.written.set(region);
    localStorage.setItem(KEPT_AS, JSON.stringify(region));
  }

  /** A number with its decimals, for example `51.2` or `51,2`. */
  number(value: number, digits = 0): string {
    return numberIn(this.written(), value, digits);
  }

  /** A number as it stands in a field: no decimals it does not need, and never grouped, since it is read again. */
  typed(value: number, mostDigits = 6): string {
    return this.signed(String(Number(value.toFixed(mostDigits))));
  }

  /** Figures that keep all their decimals, as an instrument has them: the shop's decimal sign in place of the point. */
  signed(figures: string): string {
    return this.written().decimal === 'comma' ? figures.replace('.', ',') : figures;
  }

  /** An amount in a currency by its ISO code, for example `£18.00`. */
  money(amount: number, currency: string, digits = 2): string {
    return moneyIn(this.written(), amount, currency, digits);
  }
}
