import { named } from '@tally-stone/core';
import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { QuantityControl } from '../../data/fields';
import { Units } from '../../data/units';
import { troubleOf } from './field';

let next = 1;

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
        #field
        matInput
        inputmode="decimal"
        autocomplete="off"
        [id]="fieldId()"
        [attr.data-todo]="todo() ? true : null"
        (keydown.enter)="entered.emit($event)"
        [formControl]="control()"
        [placeholder]="usual()"
      />
      <span matTextSuffix>{{ behind() }}</span>
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
  /** Its own id, where the focus is sent to it by name. */
  readonly fieldId = input(`quantity-${next++}`);
  /** The focus goes to it as something still to do. */
  readonly todo = input(false, { transform: booleanAttribute });
  readonly entered = output<Event>();
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly trouble = troubleOf(this.control);

  constructor() {
    effect(() => {
      this.units.system();
      this.control().turn();
    });
  }

  focus(): void {
    this.field().nativeElement.focus();
  }

  /** The unit, or what stands in its place, in words. */
  protected behind(): string {
    return named(this.after() || this.control().mark());
  }
}
