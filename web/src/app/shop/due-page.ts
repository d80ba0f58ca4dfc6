import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { CalendarAddressPart } from './calendar-address';
import { Shop } from '../data/shop';
import { DueRules } from './due-rules';
import { keepRules } from './keep-rules';
import { ShopPart } from './shop-part';

/** When a set is due, and on which days the bench grinds. */
@Component({
  selector: 'ts-due-page',
  imports: [CalendarAddressPart, DueRules, ShopPart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ts-shop-part of="due" [trouble]="rules.trouble()">
      @if (view(); as shop) {
        <section aria-label="Due and bench days">
          <ts-due-rules [rules]="shop.rules" (chosen)="rules.keep($event)" />
        </section>
        <ts-calendar-address />
      }
    </ts-shop-part>
  `,
  styleUrl: './part.scss',
})
export class DuePage {
  protected readonly view = inject(Shop).view;
  protected readonly rules = keepRules();
}
