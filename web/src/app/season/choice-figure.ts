import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
} from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { between, wholeBetween } from '@tally-stone/contract';
import { passes, QuantityControl } from '../data/fields';
import { Units } from '../data/units';
import { troubleOf } from '../parts/form/field';
import { Named } from '../parts/named';
import type { Choice } from './choice';

/** What can be typed of a choice, and how far it may go: nobody asks for a tenth of an edge's life, or for more than ten times it. */
const FIGURES = {
  moreSets: { words: $localize`More sets`, unit: '', range: wholeBetween(-20, 20) },
  benchBlades: { words: $localize`Blades a bench day`, unit: '', range: wholeBetween(0, 500) },
  edgeLifePercent: {
    words: $localize`Edge life in per cent of now`,
    unit: '%',
    range: between(10, 1000, '%'),
  },
  strikesPercent: {
    words: $localize`Strikes in per cent of now`,
    unit: '%',
    range: between(0, 1000, '%'),
  },
} as const;
export type Figure = keyof typeof FIGURES;

/** A figure of a choice in its column; one that cannot be stays where it was typed, and says why. */
@Component({
  selector: 'ts-choice-figure',
  imports: [MatFormFieldModule, MatInputModule, Named, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <input
        matInput
        autocomplete="off"
        inputmode="decimal"
        tsName="{{ words() }}, choice {{ of() }}"
        i18n-tsName
        [formControl]="control()"
        (change)="typed()"
      />
      <mat-error>{{ trouble() }}</mat-error>
    </mat-form-field>
  `,
  styles: `
    :host {
      display: inline-block;
    }
    mat-form-field {
      width: 5.5rem;
    }
    mat-form-field.ng-invalid.ng-touched {
      width: 9.375rem;
    }
  `,
})
export class ChoiceFigure {
  private readonly units = inject(Units);
  readonly choice = input.required<Choice>();
  readonly key = input.required<Figure>();
  /** Which column it stands in. */
  readonly of = input.required<number>();
  readonly changed = output<number>();
  protected readonly words = computed(() => FIGURES[this.key()].words);
  protected readonly control = computed(() => {
    const { unit, range } = FIGURES[this.key()];
    return new QuantityControl(unit, range, this.units);
  });
  protected readonly trouble = troubleOf(this.control);

  constructor() {
    const value = computed(() => this.choice()[this.key()]);
    effect(() => {
      this.control().put(value());
    });
  }

  protected typed(): void {
    if (!passes(this.control())) return;
    const { quantity } = this.control();
    if (quantity !== undefined) this.changed.emit(quantity);
  }
}
