import { booleanAttribute, ChangeDetectionStrategy, Component, input } from '@angular/core';
import { ReactiveFormsModule, type FormControl } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { troubleOf } from './field';

/** A field for words, with what is wrong under it. */
@Component({
  selector: 'ts-text',
  imports: [MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic" hideRequiredMarker>
      <mat-label>{{ label() }}</mat-label>
      <input
        matInput
        [type]="hidden() ? 'password' : 'text'"
        [attr.inputmode]="digits() ? 'numeric' : null"
        [attr.maxlength]="most()"
        [formControl]="control()"
        autocomplete="off"
      />
      @if (hint()) {
        <mat-hint>{{ hint() }}</mat-hint>
      }
      <mat-error>{{ trouble() }}</mat-error>
    </mat-form-field>
  `,
  styleUrl: './field.scss',
})
export class TextField {
  readonly control = input.required<FormControl<string>>();
  readonly label = input.required<string>();
  readonly hint = input('');
  /** Not to be read over a shoulder. */
  readonly hidden = input(false, { transform: booleanAttribute });
  readonly digits = input(false, { transform: booleanAttribute });
  readonly most = input<number>();
  protected readonly trouble = troubleOf(this.control);
}
