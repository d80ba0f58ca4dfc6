import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  inject,
  input,
  output,
} from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Units } from '../data/units';

/** One school: what it says, and what speaks for and against it in one line. */
export interface SchoolOption {
  readonly id: string;
  readonly words: string;
  readonly why: string;
}

/** A question with its schools, each with the value it stands for; of whichever rules it is. */
export type SchoolQuestion<Rules> = {
  [Key in keyof Rules & string]-?: {
    readonly key: Key;
    readonly name: string;
    /** What stands where nobody has chosen. */
    readonly usual?: Rules[Key];
    readonly options: readonly (SchoolOption & { readonly value: Rules[Key] })[];
  };
}[keyof Rules & string];

/** One question of the trade on which practitioners disagree, its schools side by side with their reasons. */
@Component({
  selector: 'ts-school-row',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="name">{{ name() }}</span>
    <div>
      <mat-button-toggle-group
        [value]="chosen()"
        [attr.aria-label]="name()"
        hideSingleSelectionIndicator
        (change)="pick.emit($event.value)"
      >
        @for (option of options(); track option.id) {
          <mat-button-toggle [value]="option.id">{{ units.resay(option.words) }}</mat-button-toggle>
        }
      </mat-button-toggle-group>
      @if (everyReason()) {
        @for (option of options(); track option.id) {
          <p class="quiet">
            <strong>{{ units.resay(option.words) }}:</strong> {{ units.resay(option.why) }}
          </p>
        }
      } @else {
        <p class="quiet">{{ units.resay(whyNow()) }}</p>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 10.625rem 1fr;
      align-items: center;
      gap: 0 16px;
      margin: 6px 0;
    }
    .name {
      font-weight: 600;
    }
    p {
      margin: 0;
      font-size: 0.9375rem;
    }
    @media (max-width: 56.25em) {
      :host {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class SchoolRow {
  protected readonly units = inject(Units);
  readonly name = input.required<string>();
  readonly options = input.required<readonly SchoolOption[]>();
  readonly chosen = input('');
  /** Where none of the options is chosen: what stands instead. */
  readonly otherwise = input($localize`as the shop has set it`);
  readonly everyReason = input(false, { transform: booleanAttribute });
  readonly pick = output<string>();

  protected whyNow(): string {
    return this.options().find(({ id }) => id === this.chosen())?.why ?? this.otherwise();
  }
}
