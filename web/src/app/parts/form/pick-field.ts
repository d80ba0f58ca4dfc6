import { named } from '@tally-stone/core';
import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { ReactiveFormsModule, type FormControl } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { troubleOf } from './field';

/** One thing that can be picked, with its words. */
export interface Option {
  readonly value: string;
  readonly words: string;
}
/** Options by their codes. */
export const optionsOf = (values: readonly string[]): Option[] =>
  values.map((value) => ({ value, words: named(value) }));

/** A field that opens a list to pick one from. */
@Component({
  selector: 'ts-pick',
  imports: [MatFormFieldModule, MatSelectModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic" hideRequiredMarker>
      <mat-label>{{ label() }}</mat-label>
      <mat-select [formControl]="control()" hideSingleSelectionIndicator>
        @for (option of options(); track option.value) {
          <mat-option [value]="option.value">{{ option.words }}</mat-option>
        }
      </mat-select>
      @if (hint()) {
        <mat-hint>{{ hint() }}</mat-hint>
      }
      <mat-error>{{ trouble() }}</mat-error>
    </mat-form-field>
  `,
  styleUrl: './field.scss',
})
export class PickField {
  readonly control = input.required<FormControl<string>>();
  readonly label = input.required<string>();
  readonly options = input.required<readonly Option[]>();
  readonly hint = input('');
  protected readonly trouble = troubleOf(this.control);
}
