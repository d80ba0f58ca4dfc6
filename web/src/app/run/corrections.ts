import { inForm, submit } from '../data/submit';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { TypedSecret } from '@tally-stone/contract';
import {
  correctedFor,
  CRACK_CORRECTED_FOR,
  READING_CORRECTED_FOR,
  type CrackCorrected,
  type ReadingCorrected,
} from '@tally-stone/core';
import * as z from 'zod';
import { newId } from '../data/commands';
import { Days } from '../data/days';
import { passes, text } from '../data/fields';
import { Units } from '../data/units';
import { Who } from '../data/who';
import { PickField, type Option } from '../parts/form/pick-field';
import { TextField } from '../parts/form/text-field';
import { RunStore } from './run-store';
import { Opened } from '../parts/form/opened';

const FIELD_WORDS: Readonly<Record<string, string>> = {
  whole: $localize`That the blade is whole`,
  reading: $localize`A reading`,
};

const PICKED = z.string().min(1, $localize`is empty: pick one`);
const TYPED = z
  .string()
  .trim()
  .min(1, $localize`is empty: type what it should read`);
const optionsFor = (reasons: readonly string[]): readonly Option[] =>
  reasons.map((value) => ({ value, words: correctedFor(value) }));

/** Corrections of a signed-off cycle: new records beside what was signed, both shown. */
@Component({
  selector: 'ts-corrections',
  imports: [MatButtonModule, MatCheckboxModule, PickField, ReactiveFormsModule, TextField, Opened],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './corrections.html',
  styleUrl: './corrections.scss',
})
export class Corrections {
  private readonly store = inject(RunStore);
  private readonly who = inject(Who);
  protected readonly units = inject(Units);
  protected readonly days = inject(Days);
  protected readonly reasons = optionsFor(READING_CORRECTED_FOR);
  protected readonly crackReasons = optionsFor(CRACK_CORRECTED_FOR);
  protected readonly open = signal(false);
  private readonly opener = viewChild<unknown, ElementRef<HTMLElement>>('opener', {
    read: ElementRef,
  });
  protected readonly correction = new FormGroup({
    reading: text('', PICKED),
    crackReason: text('scratch'),
    entered: text('', TYPED),
    reason: text('misread'),
  });
  protected readonly back = new FormGroup({
    secondPersonId: text('', PICKED),
    secondPin: text('', TypedSecret),
    whole: new FormControl(false, { nonNullable: true }),
  });
  private readonly readingId = toSignal(this.correction.controls.reading.valueChanges, {
    initialValue: '',
  });
  protected readonly isCrack = computed(() => this.readingId() === 'crack');
  private readonly write = submit({
    names: FIELD_WORDS,
    at: (field) =>
      inForm(() => this.correction)(field.replace(/^entered\..*/, 'entered')) ??
      (field === 'whole' ? undefined : inForm(() => this.back)(field)),
    kept: async () => {
      this.open.set(false);
      this.correction.reset();
      await this.store.refresh();
      this.opener()?.nativeElement.focus();
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

  protected readonly correctedFor = correctedFor;
  protected readonly crackFound = computed(() => {
    const view = this.store.view();
    return (
      (view?.crack?.found ?? false) || (view?.damage ?? []).some(({ kind }) => kind === 'crack')
    );
  });
  protected readonly takeBack = computed(() => this.store.view()?.takeBack);
  protected readonly others = computed((): readonly Option[] =>
    (this.who.people() ?? [])
      .filter(({ personId }) => personId !== this.who.personId())
      .map(({ personId, name }) => ({ value: personId, words: name })),
  );
  protected readonly offered = computed((): readonly Option[] => [
    ...(this.crackFound() ? [{ value: 'crack', words: $localize`The crack that was found` }] : []),
    ...this.readings().map(({ label, phase, taken, unit }) => ({
      value: taken?.readingId ?? '',
      words: `${label}, ${phase}: ${this.units.show(taken?.value ?? 0, unit, 2)}`,
    })),
  ]);

  protected async keep(): Promise<void> {
    const { reading, entered } = this.correction.controls;
    if (this.isCrack()) entered.disable();
    else entered.enable();
    if (!passes(this.correction)) {
      this.write.showFirstWrong();
      return;
    }
    const typed = this.correction.getRawValue();
    const base = { correctionId: newId(), cycleId: this.store.id() };
    const slot = this.slot();
    if (this.isCrack()) {
      const reason = typed.crackReason as CrackCorrected;
      await this.write.send({ ...base, type: 'correct-crack', reason });
    } else if (slot) {
      await this.write.send({
        ...base,
        type: 'correct-reading',
        readingId: reading.value,
        entered: { text: typed.entered, unit: this.units.unitFor(slot.unit) },
        reason: typed.reason as ReadingCorrected,
      });
    }
  }

  protected async takeItBack(): Promise<void> {
    if (!passes(this.back)) {
      this.write.showFirstWrong();
      return;
    }
    await this.write.send({
      type: 'take-back',
      correctionId: newId(),
      cycleId: this.store.id(),
      ...this.back.getRawValue(),
    });
  }
}
