import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { CorrectCrack, CorrectReading, type ShopAct } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import type { z } from 'zod';
import { Commands, newId } from '../data/commands';
import { Days } from '../data/days';
import { troubleFrom } from '../data/problem';
import { Units } from '../data/units';
import { Who } from '../data/who';
import { RunStore } from './run-store';

type Reason = z.infer<typeof CorrectReading.shape.reason>;

const REASON_WORDS: Readonly<Record<Reason, string>> = {
  misread: 'Misread',
  'wrong-place': 'Wrong end or station',
  'wrong-unit': 'Wrong unit',
  'wrong-blade': 'Another blade',
  'instrument-off': 'The instrument was off',
};

type CrackReason = z.infer<typeof CorrectCrack.shape.reason>;
const CRACK_WORDS: Readonly<Record<CrackReason, string>> = {
  scratch: 'A scratch, looked at with a glass',
  'paint-or-rust': 'A line in paint or rust, gone when cleaned',
  'wrong-blade': 'Another blade',
};
const FIELD_WORDS: Readonly<Record<string, string>> = {
  whole: 'That the blade is whole',
  secondPersonId: 'Who looked at it with you',
  secondPin: 'Their PIN',
  reading: 'A reading',
};

/** Corrections of a signed-off cycle: new records beside what was signed, both shown. */
@Component({
  selector: 'ts-corrections',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (each of corrections(); track each.correctionId) {
      <p>
        @switch (each.what) {
          @case ('crack') {
            <strong>Crack:</strong> signed as found, corrected to <strong>none</strong> by
            {{ each.by }}, {{ days.full(each.at) }}: {{ crackWords(each.reason).toLowerCase() }}.
          }
          @case ('taken-back') {
            <strong>Taken back</strong> from the retired ones by {{ each.by }} with
            {{ each.second }}, {{ days.full(each.at) }}. It is inspected anew from the start.
          }
          @default {
            <strong>{{ each.label }}:</strong> signed as
            {{ units.show(each.was ?? 0, each.unit ?? 'mm', 2) }}, corrected to
            <strong>{{ units.show(each.value ?? 0, each.unit ?? 'mm', 2) }}</strong> by
            {{ each.by }}, {{ days.full(each.at) }}: {{ reasonWords(each.reason).toLowerCase() }}.
          }
        }
      </p>
    }
    @if (takeBack(); as back) {
      @if (back.blocks.length > 0) {
        <p class="quiet">It stays retired: a reading {{ back.blocks.join('; ') }}.</p>
      } @else {
        <form class="back" (submit)="takeItBack($event)">
          <p>
            Nothing retires this blade any more. Two people may take it back, to be inspected anew
            from the start.
          </p>
          <label
            >Who looked at it with you
            <select #second (change)="secondId.set(second.value)">
              <option value="">pick who</option>
              @for (person of others(); track person.personId) {
                <option [value]="person.personId">{{ person.name }}</option>
              }
            </select>
          </label>
          <label
            >Their PIN
            <input
              #pin
              type="password"
              inputmode="numeric"
              autocomplete="off"
              maxlength="8"
              (input)="secondPin.set(pin.value)"
          /></label>
          <label class="tick"
            ><input
              #whole
              type="checkbox"
              [checked]="isWhole()"
              (change)="isWhole.set(whole.checked)"
            />
            The blade is in our hands, not cut, bent or scrapped</label
          >
          <button mat-stroked-button class="big" type="submit">Take it back</button>
        </form>
      }
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
            @if (crackFound()) {
              <option value="crack">The crack that was found</option>
            }
            @for (slot of readings(); track slot.key) {
              <option [value]="slot.taken?.readingId">
                {{ slot.label }}, {{ slot.phase }}:
                {{ units.show(slot.taken?.value ?? 0, slot.unit, 2) }}
              </option>
            }
          </select>
        </label>
        @if (readingId() === 'crack') {
          <label
            >It was no crack
            <select #what (change)="crackReason.set($any(what.value))">
              @for (each of crackReasons; track each) {
                <option [value]="each">{{ crackWords(each) }}</option>
              }
            </select>
          </label>
        } @else {
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
        }
        <button mat-stroked-button class="big" type="submit">Keep the correction</button>
      </form>
    }
    @if (error()) {
      <p class="bad" role="alert">{{ error() }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      margin: 12px 0;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 20px;
    }
    select,
    input {
      margin-left: 6px;
    }
    input {
      width: 96px;
      text-align: right;
    }
    .back p {
      flex-basis: 100%;
      margin: 0;
    }
    .tick {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 48px;
    }
    .tick input {
      width: 24px;
      height: 24px;
    }
  `,
})
export class Corrections {
  private readonly store = inject(RunStore);
  private readonly commands = inject(Commands);
  private readonly who = inject(Who);
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

  protected readonly crackReasons = CorrectCrack.shape.reason.options;
  protected readonly crackReason = signal<CrackReason>('scratch');
  protected crackWords(reason: string): string {
    return CRACK_WORDS[reason as CrackReason];
  }
  protected readonly crackFound = computed(() => {
    const view = this.store.view();
    return (
      (view?.crack?.found ?? false) || (view?.damage ?? []).some(({ kind }) => kind === 'crack')
    );
  });
  protected readonly takeBack = computed(() => this.store.view()?.takeBack);
  protected readonly others = computed(() =>
    (this.who.people() ?? []).filter(({ personId }) => personId !== this.who.personId()),
  );
  protected readonly secondId = signal('');
  protected readonly secondPin = signal('');
  protected readonly isWhole = signal(false);

  protected async keep(event: Event): Promise<void> {
    event.preventDefault();
    const base = { correctionId: newId(), cycleId: this.store.id() };
    if (this.readingId() === 'crack') {
      await this.send({ ...base, type: 'correct-crack', reason: this.crackReason() });
      return;
    }
    const slot = this.slot();
    if (!slot) {
      this.error.set('Pick the reading that is wrong.');
      return;
    }
    await this.send({
      ...base,
      type: 'correct-reading',
      readingId: this.readingId(),
      entered: { text: this.text(), unit: this.units.unitFor(slot.unit) },
      reason: this.reason(),
    });
  }

  protected async takeItBack(event: Event): Promise<void> {
    event.preventDefault();
    if (!this.secondId()) {
      this.error.set('Pick who has looked at the blade with you.');
      return;
    }
    await this.send({
      type: 'take-back',
      correctionId: newId(),
      cycleId: this.store.id(),
      secondPersonId: this.secondId(),
      secondPin: this.secondPin(),
      whole: this.isWhole(),
    });
  }

  private async send(act: ShopAct): Promise<void> {
    try {
      await firstValueFrom(this.commands.shop(act));
      this.error.set('');
      this.open.set(false);
      this.readingId.set('');
      await this.store.refresh();
    } catch (error) {
      const { words, fields } = troubleFrom(error);
      const [field] = Object.entries(fields);
      this.error.set(field ? `${FIELD_WORDS[field[0]] ?? ''} ${field[1]}`.trim() : words);
    }
  }
}
