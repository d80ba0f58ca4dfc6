import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { CorrectReading } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import type { z } from 'zod';
import { Commands, newId } from '../data/commands';
import { Days } from '../data/days';
import { troubleFrom } from '../data/problem';
import { Units } from '../data/units';
import { RunStore } from './run-store';

type Reason = z.infer<typeof CorrectReading.shape.reason>;

const REASON_WORDS: Readonly<Record<Reason, string>> = {
  misread: 'Misread',
  'wrong-place': 'Wrong end or station',
  'wrong-unit': 'Wrong unit',
  'wrong-blade': 'Another blade',
  'instrument-off': 'The instrument was off',
};

/** Corrections of a signed-off cycle: new records beside what was signed, both shown. */
@Component({
  selector: 'ts-corrections',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (each of corrections(); track each.correctionId) {
      <p>
        <strong>{{ each.label }}:</strong> signed as {{ units.show(each.was, each.unit, 2) }},
        corrected to <strong>{{ units.show(each.value, each.unit, 2) }}</strong> by {{ each.by }},
        {{ days.full(each.at) }}: {{ reasonWords(each.reason).toLowerCase() }}.
      </p>
    }
    <button mat-button class="big" [attr.aria-expanded]="open()" (click)="open.set(!open())">
      Correct a reading
    </button>
    @if (open()) {
      <form (submit)="keep($event)">
        <label
          >Reading
          <select #reading (change)="readingId.set(reading.value)">
            <option value="">pick the reading</option>
            @for (slot of readings(); track slot.key) {
              <option [value]="slot.taken?.readingId">
                {{ slot.label }}, {{ slot.phase }}:
                {{ units.show(slot.taken?.value ?? 0, slot.unit, 2) }}
              </option>
            }
          </select>
        </label>
        <label
          >Should read
          <input #value inputmode="decimal" autocomplete="off" (input)="text.set(value.value)" />
          {{ unit() }}</label
        >
        <label
          >Why
          <select #why (change)="reason.set($any(why.value))">
            @for (each of reasons; track each) {
              <option [value]="each">{{ words[each] }}</option>
            }
          </select>
        </label>
        <button mat-stroked-button class="big" type="submit">Keep the correction</button>
        @if (error()) {
          <p class="bad" role="alert">{{ error() }}</p>
        }
      </form>
    }
  `,
  styles: `
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 20px;
    }
    select,
    input {
      height: 48px;
      box-sizing: border-box;
      margin-left: 6px;
      padding: 0 8px;
      font: inherit;
      color: var(--ink);
      background: var(--chalk);
      border: 2px solid var(--steel);
      border-radius: 2px;
    }
    input {
      width: 96px;
      text-align: right;
    }
  `,
})
export class Corrections {
  private readonly store = inject(RunStore);
  private readonly commands = inject(Commands);
  protected readonly units = inject(Units);
  protected readonly days = inject(Days);
  protected readonly words = REASON_WORDS;
  protected readonly reasons = CorrectReading.shape.reason.options;
  protected readonly open = signal(false);
  protected readonly readingId = signal('');
  protected readonly text = signal('');
  protected readonly reason = signal<Reason>('misread');
  protected readonly error = signal('');

  protected readonly corrections = computed(() => this.store.view()?.corrections ?? []);
  protected readonly readings = computed(
    () => this.store.view()?.slots.filter(({ taken }) => taken) ?? [],
  );
  private readonly slot = computed(() =>
    this.readings().find(({ taken }) => taken?.readingId === this.readingId()),
  );
  protected readonly unit = computed(() => {
    const slot = this.slot();
    return slot ? this.units.mark(slot.unit) : '';
  });

  protected reasonWords(reason: string): string {
    return REASON_WORDS[reason as Reason];
  }

  protected async keep(event: Event): Promise<void> {
    event.preventDefault();
    const slot = this.slot();
    if (!slot) {
      this.error.set('Pick the reading that is wrong.');
      return;
    }
    try {
      await firstValueFrom(
        this.commands.shop({
          type: 'correct-reading',
          correctionId: newId(),
          cycleId: this.store.id(),
          readingId: this.readingId(),
          entered: { text: this.text(), unit: this.units.unitFor(slot.unit) },
          reason: this.reason(),
        }),
      );
      this.error.set('');
      this.open.set(false);
      await this.store.refresh();
    } catch (error) {
      const { words, fields } = troubleFrom(error);
      this.error.set(Object.values(fields)[0] ?? words);
    }
  }
}
