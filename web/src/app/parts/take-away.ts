import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { SHEET_PATH } from '@tally-stone/contract';
import { Units } from '../data/units';

/** Takes a list away, for a spreadsheet or on paper. */
@Component({
  selector: 'ts-take-away',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button mat-stroked-button class="big" type="button" [matMenuTriggerFor]="forms">
      {{ words() }}
    </button>
    <mat-menu #forms>
      <a i18n mat-menu-item download [href]="sheet('xlsx')">As a workbook (XLSX)</a>
      <a i18n mat-menu-item download [href]="sheet('csv')">As plain text (CSV)</a>
      <a i18n mat-menu-item target="_blank" [href]="sheet('pdf')">On paper (PDF)</a>
    </mat-menu>
  `,
})
export class TakeAway {
  private readonly units = inject(Units);
  readonly words = input($localize`Export this list`);
  readonly list = input<'register' | 'due' | 'scrap' | 'costs' | 'purchases'>('register');
  /** What is looked for, so that the list is the one on the screen. */
  readonly asked = input<Readonly<Record<string, string | undefined>>>({});

  protected sheet(form: 'csv' | 'xlsx' | 'pdf'): string {
    const query = new URLSearchParams();
    for (const [key, value] of Object.entries(this.asked())) if (value) query.set(key, value);
    if (form === 'pdf') query.set('units', this.units.system());
    const asked = query.size > 0 ? `?${query.toString()}` : '';
    return `${SHEET_PATH.replace(':file', `${this.list()}.${form}`)}${asked}`;
  }
}
