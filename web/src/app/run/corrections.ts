import { submit } from '../data/submit';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { CorrectCrack, CorrectReading } from '@tally-stone/contract';
import type { z } from 'zod';
import { newId } from '../data/commands';
import { Days } from '../data/days';
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
  templateUrl: './corrections.html',
  styleUrl: './corrections.scss',
})
export class Corrections {
  private readonly store = inject(RunStore);
  private readonly who = inject(Who);
  protected readonly units = inject(Units);
  protected readonly days = inject(Days);
  protected readonly words = REASON_WORDS;
  protected readonly reasons = CorrectReading.shape.reason.options;
  protected readonly open = signal(false);
  protected readonly readingId = signal('');
  protected readonly text = signal('');
  protected readonly reason = signal<Reason>('misread');
  private readonly write = submit({
    names: FIELD_WORDS,
    kept: async () => {
      this.open.set(false);
      this.readingId.set('');
      await this.store.refresh();
    },
  });
  protected readonly error = this.write.words;

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
      await this.write.send({ ...base, type: 'correct-crack', reason: this.crackReason() });
      return;
    }
    const slot = this.slot();
    if (!slot) {
      this.write.say('Pick the reading that is wrong.');
      return;
    }
    await this.write.send({
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
      this.write.say('Pick who has looked at the blade with you.');
      return;
    }
    await this.write.send({
      type: 'take-back',
      correctionId: newId(),
      cycleId: this.store.id(),
      secondPersonId: this.secondId(),
      secondPin: this.secondPin(),
      whole: this.isWhole(),
    });
  }
}
