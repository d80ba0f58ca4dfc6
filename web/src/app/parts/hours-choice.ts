import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { HoursAssumption } from '@tally-stone/contract';
import { HoursAssumed } from '../data/hours-assumed';

/** How long sets are taken to stay on: one choice for the months ahead and the season. */
@Component({
  selector: 'ts-hours-choice',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-button-toggle-group
      [value]="assumed()"
      (change)="choose($event.value)"
      aria-label="Sets are changed"
      i18n-aria-label
      hideSingleSelectionIndicator
    >
      <mat-button-toggle i18n value="last-year">Sets changed as last year</mat-button-toggle>
      <mat-button-toggle i18n value="rule">by our rule</mat-button-toggle>
    </mat-button-toggle-group>
  `,
})
export class HoursChoice {
  protected readonly assumed = inject(HoursAssumed).now;
  readonly chosen = output();

  protected choose(assumed: HoursAssumption): void {
    this.assumed.set(assumed);
    this.chosen.emit();
  }
}
