import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { Light } from '../data/light';
import { Units } from '../data/units';
import { Named } from './named';

/** What is set by the person rather than the shop: units, and light or dark. */
@Component({
  selector: 'ts-own-choices',
  imports: [MatButtonModule, MatIconModule, Named],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      mat-button
      class="big"
      type="button"
      (click)="units.toggle()"
      tsName="Units: {{ units.named().words }}"
      i18n-tsName
    >
      <mat-icon svgIcon="units" />{{ units.named().short }}
    </button>
    <button
      mat-button
      class="big"
      type="button"
      (click)="light.toggle()"
      aria-label="Light or dark"
      i18n-aria-label
    >
      <mat-icon svgIcon="light" />
    </button>
  `,
  styles: `
    :host {
      display: flex;
      gap: 4px;
    }
  `,
})
export class OwnChoices {
  protected readonly units = inject(Units);
  protected readonly light = inject(Light);
}
