import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { LABELS_PATH } from '@tally-stone/contract';
import { LABEL_SHEETS, type LabelSheetName } from '@tally-stone/core';
import * as z from 'zod';
import { QuantityControl } from '../data/fields';
import { Units } from '../data/units';
import { QuantityField } from './form/quantity-field';

const KEPT_AS = 'tally-stone.label-sheet';
const NAMES = Object.keys(LABEL_SHEETS) as LabelSheetName[];
const [FIRST = '3 × 8, 70 × 37 mm, A4' as const] = NAMES;
const kept = (): LabelSheetName =>
  NAMES.find((name) => name === localStorage.getItem(KEPT_AS)) ?? FIRST;

const Skipped = z
  .number()
  .int($localize`is not a whole number`)
  .min(0, $localize`must not be negative`)
  .max(64, $localize`is more than a sheet has`);

/** Labels on sheets as they are sold: of blades by their codes, else of every peg of the wall. */
@Component({
  selector: 'ts-label-sheet',
  imports: [MatButtonModule, MatFormFieldModule, MatSelectModule, QuantityField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <mat-label i18n>Label sheet</mat-label>
      <mat-select [value]="sheet()" (valueChange)="pick($event)" hideSingleSelectionIndicator>
        @for (name of names; track name) {
          <mat-option [value]="name">{{ name }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
    <ts-quantity [control]="skip" label="Labels gone already" i18n-label usual="none" />
    <a mat-stroked-button class="big" target="_blank" [href]="address()">{{ words() }}</a>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 12px;
      margin-top: 14px;
    }
    mat-form-field {
      width: min(18.75rem, 100%);
    }
  `,
})
export class LabelSheet {
  readonly words = input($localize`Labels (PDF)`);
  readonly codes = input<readonly string[]>();
  protected readonly names = NAMES;
  protected readonly sheet = signal(kept());
  protected readonly skip = new QuantityControl('', Skipped, inject(Units), { optional: true });
  private readonly skipped = toSignal(this.skip.valueChanges, { initialValue: '' });

  protected readonly address = computed(() => {
    this.skipped();
    const codes = this.codes();
    const query = new URLSearchParams({
      sheet: this.sheet(),
      skip: String(this.skip.valid ? (this.skip.quantity ?? 0) : 0),
      ...(codes && { codes: codes.join(',') }),
    });
    return `${LABELS_PATH}?${query.toString()}`;
  });

  protected pick(name: LabelSheetName): void {
    this.sheet.set(name);
    localStorage.setItem(KEPT_AS, name);
  }
}
