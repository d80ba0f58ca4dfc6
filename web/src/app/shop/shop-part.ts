import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { SHOP_PARTS, type ShopPartPath } from './parts';

/** The frame of one part of the shop: its name, what it decides, and the way back. */
@Component({
  selector: 'ts-shop-part',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="back"><a i18n routerLink="/shop">Shop</a></p>
    <h1>{{ part()?.name }}</h1>
    <p class="quiet">{{ part()?.decides }}</p>
    @if (trouble()) {
      <p class="bad" role="alert">{{ trouble() }}</p>
    }
    <ng-content />
  `,
  styles: `
    :host {
      display: block;
      padding: 16px 24px 40px;
    }
    p {
      margin: 4px 0;
    }
    .back a {
      display: inline-block;
      padding: 8px 0;
    }
  `,
})
export class ShopPart {
  readonly of = input.required<ShopPartPath>();
  readonly trouble = input('');
  protected readonly part = computed(() => SHOP_PARTS.find(({ path }) => path === this.of()));
}
