import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Api } from '../data/api';
import { Shop } from '../data/shop';
import { shown } from '../data/shown';
import { TakeAway } from '../parts/take-away';
import { keepRules } from './keep-rules';
import { Prices } from './prices';
import { SchoolCosts } from './school-costs';
import { ShopPart } from './shop-part';

/** What things cost in this shop, and what each school costs with them. */
@Component({
  selector: 'ts-costs-page',
  imports: [Prices, SchoolCosts, ShopPart, TakeAway],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ts-shop-part of="costs" [trouble]="rules.trouble()">
      @if (known(); as shop) {
        <section aria-label="Prices" i18n-aria-label>
          <ts-prices [rules]="shop.rules" [specs]="specs()" (chosen)="rules.keep($event)" />
          <ts-take-away list="costs" words="Spent by mower and site" i18n-words />
        </section>
        <section aria-label="What a school costs" i18n-aria-label>
          <ts-school-costs [rules]="shop.rules" />
        </section>
      }
    </ts-shop-part>
  `,
  styleUrl: './part.scss',
})
export class CostsPage {
  private readonly api = inject(Api);
  protected readonly view = inject(Shop).view;
  protected readonly rules = keepRules();
  private readonly asked = shown(() => this.api.specs(), { about: 'nothing' });
  protected readonly specs = computed(() => this.asked.value() ?? []);
  /** The shop, once its specs are there too or cannot be had: then nothing moves any more. */
  protected readonly known = computed(() =>
    this.asked.value() || this.asked.words() ? this.view() : undefined,
  );
}
