import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { ShopRules } from '@tally-stone/contract';

type Interval = ShopRules['interval'];
type Kind = Interval['kind'];

/** When blades are changed: the schools, each with its reason, in our words. */
const SCHOOLS: readonly { readonly kind: Kind; readonly words: string; readonly why: string }[] = [
  {
    kind: 'hours',
    words: 'By mowing hours',
    why: 'follows the work: 8 to 10 h for hard mowing, 25 h for light; needs the meter read',
  },
  {
    kind: 'days',
    words: 'Every so many days',
    why: 'easy to keep; grinds a set that hardly mowed, and leaves one on that mowed all week',
  },
  {
    kind: 'when-shown',
    words: 'When the cut shows it',
    why: 'least grinding; the grass has been torn by then',
  },
];
const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** The shop's rule for when a set is due, its bench days and what the bench does in one. */
@Component({
  selector: 'ts-due-rules',
  imports: [MatButtonModule, MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-button-toggle-group
      [value]="rules().interval.kind"
      (change)="pick($event.value)"
      aria-label="When a set is due"
      hideSingleSelectionIndicator
    >
      @for (school of schools; track school.kind) {
        <mat-button-toggle [value]="school.kind">{{ school.words }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    <p class="quiet">{{ why() }}. A strike or a complaint makes it due at once.</p>
    <form (submit)="keep($event, amount.value, blades.value)">
      <label [hidden]="rules().interval.kind === 'when-shown'"
        >{{ rules().interval.kind === 'days' ? 'Days on' : 'Hours on soft turf and loam' }}
        <input #amount inputmode="decimal" autocomplete="off" [value]="length()"
      /></label>
      <fieldset>
        <legend>Bench days</legend>
        @for (day of weekdays; track day; let i = $index) {
          <label class="day"
            ><input type="checkbox" [checked]="on(i + 1)" (change)="turn(i + 1)" />{{ day }}</label
          >
        }
      </fieldset>
      <label
        >Blades in one bench day
        <input #blades inputmode="numeric" autocomplete="off" [value]="rules().benchBlades"
      /></label>
      <button mat-stroked-button class="big" type="submit">Keep the bench days</button>
    </form>
    @if (error()) {
      <p class="bad" role="alert">{{ error() }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 8px;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 24px;
    }
    fieldset {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 16px;
      border: 0;
      padding: 0;
      margin: 0;
    }
    legend {
      float: left;
      margin-right: 16px;
      line-height: 48px;
    }
    .day {
      display: flex;
      align-items: center;
      gap: 6px;
      min-height: 48px;
    }
    .day input {
      width: 26px;
      height: 26px;
      accent-color: var(--ink);
    }
    input:not([type='checkbox']) {
      width: 84px;
      text-align: right;
    }
  `,
})
export class DueRules {
  readonly rules = input.required<ShopRules>();
  readonly chosen = output<ShopRules>();
  protected readonly schools = SCHOOLS;
  protected readonly weekdays = WEEKDAYS;
  protected readonly error = signal('');
  private readonly days = signal<readonly number[] | undefined>(undefined);

  protected readonly why = computed(
    () => SCHOOLS.find(({ kind }) => kind === this.rules().interval.kind)?.why ?? '',
  );
  protected readonly length = computed(() => {
    const { interval } = this.rules();
    return interval.kind === 'hours'
      ? interval.hours
      : interval.kind === 'days'
        ? interval.days
        : '';
  });
  private readonly weekdaysNow = computed(() => this.days() ?? this.rules().benchWeekdays);

  protected on(weekday: number): boolean {
    return this.weekdaysNow().includes(weekday);
  }

  protected turn(weekday: number): void {
    const now = this.weekdaysNow();
    this.days.set(
      this.on(weekday) ? now.filter((each) => each !== weekday) : [...now, weekday].sort(),
    );
  }

  protected pick(kind: Kind): void {
    const interval: Interval =
      kind === 'hours'
        ? { kind, hours: 10 }
        : kind === 'days'
          ? { kind, days: 7 }
          : { kind: 'when-shown' };
    this.chosen.emit({ ...this.rules(), interval });
  }

  protected keep(event: Event, amount: string, blades: string): void {
    event.preventDefault();
    const { interval } = this.rules();
    const typed = Number(amount.replace(',', '.'));
    const next = {
      ...this.rules(),
      interval:
        interval.kind === 'hours'
          ? { kind: 'hours', hours: typed }
          : interval.kind === 'days'
            ? { kind: 'days', days: typed }
            : interval,
      benchWeekdays: [...this.weekdaysNow()],
      benchBlades: Number(blades),
    };
    const parsed = ShopRules.safeParse(next);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      const name =
        issue?.path[0] === 'benchWeekdays'
          ? 'Bench days'
          : issue?.path[0] === 'benchBlades'
            ? 'Blades in one bench day'
            : 'The interval';
      this.error.set(`${name}: ${issue?.message ?? 'is not a number'}.`);
      return;
    }
    this.error.set('');
    this.chosen.emit(parsed.data);
  }
}
