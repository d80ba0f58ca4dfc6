import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Shop } from '../data/shop';
import { Tour } from './tour';

/** Offers a look round, once, where instruments are simulated: whoever is there tries the app out. */
@Component({
  selector: 'ts-tour-offer',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (offered()) {
      <p>
        <ng-container i18n>First time here? Five stops, two minutes.</ng-container>&ngsp;
        <button i18n mat-stroked-button class="big" type="button" (click)="begin()">
          Look round
        </button>
        <button i18n mat-button class="big" type="button" (click)="tour.leave()">
          No, thank you
        </button>
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 12px;
      align-items: center;
      margin: 8px 24px 0;
    }
  `,
})
export class TourOffer {
  protected readonly tour = inject(Tour);
  private readonly shop = inject(Shop);
  protected readonly offered = computed(
    () => this.tour.fresh() && (this.shop.view()?.rules.standIns.length ?? 0) > 0,
  );

  constructor() {
    if (this.tour.fresh() && !this.shop.view()) void this.shop.refresh();
  }

  protected begin(): void {
    void this.tour.goTo(0);
  }
}
