import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { QuantityControl } from '../../data/fields';
import { Units } from '../../data/units';
import { troubleOf } from './field';

/** A field for a quantity: typed in the unit behind it or in any other of its kind, fractions of an inch too. */
@Component({
  selector: 'ts-quantity',
  imports: [MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field
      appearance="outline"
      subscriptSizing="dynamic"
      hideRequiredMarker
      [floatLabel]="usual() ? 'always' : 'auto'"
    >
      <mat-label>{{ label() }}</mat-label>
      <input
        matInput
        inputmode="decimal"
        autocomplete="off"
        [formControl]="control()"
        [placeholder]="usual()"
      />
      <span matTextSuffix>{{ after() || mark() }}</span>
      @if (hint()) {
        <mat-hint>{{ hint() }}</mat-hint>
      }
      <mat-error>{{ trouble() }}</mat-error>
    </mat-form-field>
  `,
  styleUrl: './field.scss',
})
export class QuantityField {
  private readonly units = inject(Units);
  readonly control = input.required<QuantityControl>();
  readonly label = input.required<string>();
  readonly hint = input('');
  /** What counts where it is left empty. */
  readonly usual = input('');
  /** In the place of the unit. */
  readonly after = input('');
  protected readonly trouble = troubleOf(this.control);

  constructor() {
    effect(() => {
      this.units.system();
      this.control().turn();
    });
  }

  protected mark(): string {
    return this.control().mark();
  }
}
