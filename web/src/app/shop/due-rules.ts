import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
} from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { ShopRules } from '@tally-stone/contract';
import { fits, passes, QuantityControl } from '../data/fields';
import { Days } from '../data/days';
import { Units } from '../data/units';
import { troubleOf } from '../parts/form/field';
import { QuantityField } from '../parts/form/quantity-field';
import { showsFirstWrong } from '../data/submit';

type Interval = ShopRules['interval'];
type Kind = Interval['kind'];

/** When blades are changed: the schools, each with its reason, in our words. */
const SCHOOLS: readonly { readonly kind: Kind; readonly words: string; readonly why: string }[] = [
  {
    kind: 'hours',
    words: $localize`By mowing hours`,
    why: $localize`follows the work: 8 to 10 h for hard mowing, 25 h for light; needs the meter read`,
  },
  {
    kind: 'days',
    words: $localize`Every so many days`,
    why: $localize`easy to keep; grinds a set that hardly mowed, and leaves one on that mowed all week`,
  },
  {
    kind: 'when-shown',
    words: $localize`When the cut shows it`,
    why: $localize`least grinding; the grass has been torn by then`,
  },
];
const [HOURS, DAYS] = ShopRules.shape.interval.options;

/** The shop's rule for when a set is due, its bench days and what the bench does in one. */
@Component({
  selector: 'ts-due-rules',
  imports: [MatButtonModule, MatButtonToggleModule, QuantityField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-button-toggle-group
      [value]="rules().interval.kind"
      (change)="pick($event.value)"
      aria-label="When a set is due"
      i18n-aria-label
      hideSingleSelectionIndicator
    >
      @for (school of schools; track school.kind) {
        <mat-button-toggle [value]="school.kind">{{ school.words }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    <p i18n class="quiet">{{ why() }}. A strike or a complaint makes it due at once.</p>
    <form [formGroup]="form" (ngSubmit)="keep()">
      @switch (rules().interval.kind) {
        @case ('hours') {
          <ts-quantity
            [control]="form.controls.hours"
            label="Hours on soft turf and loam"
            i18n-label
          />
        }
        @case ('days') {
          <ts-quantity [control]="form.controls.days" label="Days on the mower" i18n-label />
        }
      }
      <div class="days">
        <span i18n id="bench-days">Bench days</span>
        <mat-button-toggle-group
          multiple
          formControlName="weekdays"
          aria-labelledby="bench-days"
          aria-describedby="bench-days-wrong"
          hideMultipleSelectionIndicator
        >
          @for (each of days.weekdays(); track each.day) {
            <mat-button-toggle [value]="each.day">{{ each.name }}</mat-button-toggle>
          }
        </mat-button-toggle-group>
        <p class="bad" id="bench-days-wrong" role="status">{{ weekdaysTrouble() }}</p>
      </div>
      <ts-quantity
        [control]="form.controls.blades"
        label="Blades in one bench day"
        i18n-label
        after="blades"
      />
      <button i18n mat-stroked-button class="big" type="submit">Keep the bench days</button>
    </form>
  `,
  styles: `
    :host {
      display: block;
      margin-top: 8px;
      --field-width: 14.375rem;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: flex-start;
      gap: 14px 24px;
    }
    .days {
      display: grid;
      gap: 4px;
    }
    .days p {
      margin: 0;
      min-height: 1.35em;
      font-size: 1rem;
    }
  `,
})
export class DueRules {
  private readonly units = inject(Units);
  private readonly showFirstWrong = showsFirstWrong();
  readonly rules = input.required<ShopRules>();
  readonly chosen = output<ShopRules>();
  protected readonly schools = SCHOOLS;
  protected readonly days = inject(Days);
  protected readonly form = new FormGroup({
    hours: new QuantityControl('h', HOURS.shape.hours, this.units),
    days: new QuantityControl('days', DAYS.shape.days, this.units),
    weekdays: new FormControl<number[]>([], {
      nonNullable: true,
      validators: [fits(ShopRules.shape.benchWeekdays)],
    }),
    blades: new QuantityControl('', ShopRules.shape.benchBlades, this.units),
  });
  protected readonly weekdaysTrouble = troubleOf(computed(() => this.form.controls.weekdays));

  constructor() {
    effect(() => {
      const { interval, benchWeekdays, benchBlades } = this.rules();
      const { hours, days, weekdays, blades } = this.form.controls;
      hours.put(interval.kind === 'hours' ? interval.hours : undefined);
      days.put(interval.kind === 'days' ? interval.days : undefined);
      // What is not asked is not judged.
      for (const [kind, control] of [
        ['hours', hours],
        ['days', days],
      ] as const)
        if (interval.kind === kind) control.enable();
        else control.disable();
      weekdays.setValue([...benchWeekdays]);
      blades.put(benchBlades);
    });
  }

  protected readonly why = computed(
    () => SCHOOLS.find(({ kind }) => kind === this.rules().interval.kind)?.why ?? '',
  );

  protected pick(kind: Kind): void {
    const interval: Interval =
      kind === 'hours'
        ? { kind, hours: 10 }
        : kind === 'days'
          ? { kind, days: 7 }
          : { kind: 'when-shown' };
    this.chosen.emit({ ...this.rules(), interval });
  }

  protected keep(): void {
    if (!passes(this.form)) {
      this.showFirstWrong();
      return;
    }
    const { interval } = this.rules();
    const { hours, days, weekdays, blades } = this.form.controls;
    this.chosen.emit({
      ...this.rules(),
      interval:
        interval.kind === 'hours'
          ? { kind: 'hours', hours: hours.quantity ?? interval.hours }
          : interval.kind === 'days'
            ? { kind: 'days', days: days.quantity ?? interval.days }
            : interval,
      benchWeekdays: [...weekdays.value].sort(),
      benchBlades: blades.quantity ?? this.rules().benchBlades,
    });
  }
}
