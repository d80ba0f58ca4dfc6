import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Tour } from './tour';

/** Where the tour stands, under the screen it tells of: on, back, or away. */
@Component({
  selector: 'ts-tour-bar',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (tour.stop(); as stop) {
      <aside aria-label="A look round" i18n-aria-label>
        <p role="status">
          <strong i18n>{{ (tour.at() ?? 0) + 1 }} of {{ tour.stops }}: {{ stop.name }}.</strong>
          {{ stop.words }}
        </p>
        <span>
          <button
            i18n="of the look round|"
            mat-button
            class="big"
            type="button"
            (click)="tour.leave()"
          >
            Leave
          </button>
          @if ((tour.at() ?? 0) > 0) {
            <button i18n mat-button class="big" type="button" (click)="go(-1)">Back</button>
          }
          <button i18n mat-stroked-button class="big" type="button" (click)="go(1)">
            @if (tour.next()) {
              On to: {{ tour.next()?.name?.toLowerCase() }}
            } @else {
              Done
            }
          </button>
        </span>
      </aside>
    }
  `,
  styles: `
    aside {
      position: sticky;
      bottom: 0;
      z-index: 2;
      display: flex;
      flex-wrap: wrap;
      gap: 4px 24px;
      align-items: center;
      padding: 8px 24px;
      border-top: 3px solid var(--focus);
      background: var(--slab);
    }
    p {
      flex: 1 1 420px;
      margin: 0;
    }
    @media print {
      aside {
        display: none;
      }
    }
  `,
})
export class TourBar {
  protected readonly tour = inject(Tour);

  protected go(by: number): void {
    void this.tour.goTo((this.tour.at() ?? 0) + by);
  }
}
