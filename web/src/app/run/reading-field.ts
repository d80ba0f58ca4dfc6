import { PHOTO_MAT } from '@tally-stone/cycle';
import {
  BenchError,
  isPlainWhy,
  kindOf,
  parseQuantity,
  QUANTITIES,
  type Unit,
} from '@tally-stone/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import type { Entered, LeaveOutReason, ReadingSlot } from '@tally-stone/contract';
import { Named } from '../parts/named';
import { troubleFrom, type Trouble } from '../data/problem';
import { Drafts } from '../data/drafts';
import { KeyPace, TypingGauge } from '../data/typing-gauge';
import { Units } from '../data/units';
import { lastValueFrom, tap } from 'rxjs';
import { Instruments } from '../data/instruments';
import { placeOf, RunStore } from './run-store';

/** Stands between a draft and the unit it was typed in. */
const DRAFT_UNIT = '\t';
/** No gauge of a bench shows more decimals of its own unit. */
const READ_DIGITS = 3;

const REASONS: readonly { readonly value: LeaveOutReason; readonly words: string }[] = [
  { value: 'not-changed-since-last', words: $localize`Cannot have changed since last time` },
  { value: 'crew-waiting', words: $localize`A crew is waiting` },
  { value: 'instrument-missing', words: $localize`The instrument is missing` },
  { value: 'cannot-reach', words: $localize`Cannot be reached` },
];

/** What an edge looks like from the front, and the flat that it is taken for, mm. Common practice, no source. */
const LANDS = [
  { mm: '0.1', words: $localize`No line to be seen`, px: 1 },
  { mm: '0.3', words: $localize`A hair of light`, px: 4 },
  { mm: '0.5', words: $localize`A plain bright line`, px: 8 },
  { mm: '0.9', words: $localize`A flat one can feel`, px: 14 },
] as const;

/** One reading: typed, kept with Enter, questioned at once, or left out with a reason. */
@Component({
  selector: 'ts-reading-field',
  imports: [Named, MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reading-field.html',
  styleUrl: './reading-field.scss',
})
export class ReadingField {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly store = inject(RunStore);
  private readonly drafts = inject(Drafts);
  private readonly instruments = inject(Instruments);
  private readonly typingGauge = inject(TypingGauge);
  private readonly pace = new KeyPace();
  protected readonly units = inject(Units);
  protected readonly reasons = REASONS;

  readonly slot = input.required<ReadingSlot>();
  /** The name over the field; the slot's own label where the place is not plain from the page. */
  readonly name = input<string>();
  /** The verdict on this reading is too close to call: the next one is a repeat, the mean counts. */
  readonly again = input(false);

  protected readonly text = signal('');
  protected readonly byFace = signal(false);
  protected readonly error = signal('');
  protected readonly taking = signal(false);
  protected readonly instrument = computed(() =>
    this.instruments.forQuantity(this.slot().quantity),
  );
  /** The same where it tells what it shows. */
  protected readonly speaking = computed(() => this.instruments.speaking(this.slot().quantity));
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  private shownFor = '';
  /** Typed anew since it was kept. */
  private retyped = false;

  protected readonly unit = computed(() =>
    this.byFace() ? this.units.unitFor('mm') : this.units.unitFor(this.slot().unit),
  );
  protected readonly done = computed(() => {
    const { taken, carried, standsIn, question } = this.slot();
    const there = taken ?? carried ?? standsIn;
    return there !== undefined && !question && !this.again();
  });
  protected readonly id = computed(() => this.slot().key.replaceAll(':', '-'));
  protected readonly beside = computed(() => this.besideWords());

  constructor() {
    let typedIn: Unit | undefined;
    effect(() => {
      const { key, taken } = this.slot();
      const stamp = `${key}|${taken?.readingId ?? ''}`;
      const unit = this.unit();
      if (stamp === this.shownFor) {
        if (typedIn && unit !== typedIn) this.turn(typedIn);
        typedIn = unit;
        return;
      }
      typedIn = unit;
      const first = this.shownFor === '';
      this.shownFor = stamp;
      const draft = first ? this.drafts.get(this.draftKey()) : '';
      this.text.set(this.fromDraft(draft) || (taken ? this.asTyped(taken.entered) : ''));
      this.byFace.set(taken?.quantity === 'face');
      this.error.set('');
      this.retyped = draft !== '';
    });
  }

  /** A kept text in the unit of the field: an instrument speaks millimetres whatever is shown. */
  private asTyped({ text, unit }: Entered): string {
    return unit === this.unit() || kindOf(unit) !== kindOf(this.unit())
      ? text
      : this.shownAs(text, unit);
  }

  private shownAs(text: string, unit: Unit): string {
    const base = this.byFace() ? 'mm' : this.slot().unit;
    return this.units.typed(parseQuantity(text, unit).value, base, READ_DIGITS);
  }

  /** The units were turned while something stood here: it says the same in the others. */
  private turn(from: Unit): void {
    const { taken } = this.slot();
    if (taken && !this.retyped) {
      this.text.set(this.asTyped(taken.entered));
      return;
    }
    const text = untracked(this.text);
    if (text === '' || kindOf(from) !== kindOf(this.unit())) return;
    try {
      this.typed(this.shownAs(text, from));
    } catch (error) {
      // What is no figure stays as it was typed.
      if (!(error instanceof BenchError)) throw error;
    }
  }

  protected typed(value: string): void {
    this.retyped = true;
    this.text.set(value);
    this.drafts.set(this.draftKey(), value && `${value}${DRAFT_UNIT}${this.unit()}`);
  }

  /** What was being typed, in the unit it was typed in where another is shown now. */
  private fromDraft(draft: string): string {
    const [text = '', unit] = draft.split(DRAFT_UNIT);
    const bare = /\d\s*$/.test(text);
    return unit && bare && unit !== this.unit() ? `${text} ${unit}` : text;
  }

  protected async keep(): Promise<void> {
    const slot = this.slot();
    // A gauge that typed its figure is the instrument, in the unit its own switch says.
    const gauge = this.pace.isGauge() && !this.byFace() ? this.instrument() : undefined;
    const unit = gauge?.unit === 'mm' ? this.typingGauge.length() : (gauge?.unit ?? this.unit());
    const entered = { text: this.text(), unit };
    this.pace.clear();
    const unchanged = slot.taken !== undefined && !this.retyped;
    // The same number pressed in again is no second look: what is doubted wants to be read anew.
    if (unchanged && slot.question) {
      this.field().nativeElement.select();
      return;
    }
    if (unchanged && !this.again()) {
      this.store.focusNext$.next();
      return;
    }
    const trouble = this.byFace()
      ? await this.store.takeFace(slot, entered)
      : await this.store.take(slot, entered, this.again() && slot.taken !== undefined, gauge?.key);
    this.settle(trouble);
  }

  /** Takes the reading from its instrument once it stands still, and keeps it. */
  protected async takeIt(): Promise<void> {
    const instrument = this.speaking();
    const slot = this.slot();
    if (!instrument || this.taking()) return;
    this.error.set('');
    this.taking.set(true);
    this.byFace.set(false);
    try {
      // A stand-in measures the blade as the server has it: what was counted just now arrives first.
      await this.store.settled();
      const last = await lastValueFrom(
        this.instruments
          .take(instrument, { act: 'put', cycleId: this.store.id(), place: placeOf(slot) })
          .pipe(tap(({ shown }) => this.text.set(shown))),
      );
      const entered = { text: last.figures, unit: instrument.unit };
      const repeat = this.again() && slot.taken !== undefined;
      this.settle(await this.store.take(slot, entered, repeat, instrument.key));
    } catch (error) {
      this.error.set(error instanceof Error ? error.message : troubleFrom(error).words);
      this.text.set('');
      this.field().nativeElement.focus();
    } finally {
      this.taking.set(false);
    }
  }

  protected pressed(event: KeyboardEvent): void {
    this.pace.note(event);
    if (event.key.toLowerCase() !== 't' || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    void this.takeIt();
  }

  protected async leave(reason: LeaveOutReason): Promise<void> {
    this.settle(await this.store.leaveOut(this.slot(), reason));
  }

  /** The flat as it looks, where nobody measures it: a picture stands for a figure with its doubt. */
  protected readonly lands = LANDS;
  protected async pickLand(mm: string): Promise<void> {
    this.text.set(mm);
    this.settle(await this.store.take(this.slot(), { text: mm, unit: 'mm' }));
  }

  protected useFace(face: boolean): void {
    this.byFace.set(face);
    this.text.set('');
    this.retyped = true;
    this.field().nativeElement.focus();
  }

  protected focused(): void {
    const { quantity, end, stationKey } = this.slot();
    this.store.here.set(quantity === 'width' ? `${end ?? ''}:${stationKey ?? ''}` : '');
    this.pace.clear();
    this.field().nativeElement.select();
  }

  /** Takes what was probably meant in the place of what was typed. */
  protected async takeMeant(meant: number): Promise<void> {
    const { unit } = this.slot();
    this.text.set(this.units.typed(meant, unit, READ_DIGITS));
    this.retyped = true;
    await this.keep();
  }

  private settle(trouble: Trouble | undefined): void {
    if (trouble) {
      this.error.set(Object.values(trouble.fields)[0] ?? trouble.words);
      this.field().nativeElement.focus();
      return;
    }
    this.error.set('');
    this.drafts.drop(this.draftKey());
    if (this.stillHere()) this.store.focusNext$.next();
  }

  /** Whoever has gone on to another field meanwhile is left there. */
  private stillHere(): boolean {
    const at = document.activeElement;
    return at === document.body || this.host.nativeElement.contains(at);
  }

  private instrumentName(key: string | undefined): string {
    if (key === PHOTO_MAT) return 'photo';
    return (
      this.instruments
        .all()
        .find((each) => each.key === key)
        ?.name.toLowerCase() ?? 'instrument'
    );
  }

  private draftKey(): string {
    return `${this.store.view()?.cycleId ?? ''}.${this.slot().key}`;
  }

  private besideWords(): string {
    const { taken, carried, standsIn, last, limit, limitSource, newValue, unit, quantity, why } =
      this.slot();
    const digits = QUANTITIES[quantity].digits;
    const parts: string[] = [];
    if (taken?.source === 'instrument')
      parts.push($localize`by ${this.instrumentName(taken.instrument)}`);
    if (taken?.quantity === 'face') parts.push(`= ${this.units.show(taken.value, 'deg')}`);
    if (carried) {
      parts.push($localize`carried ${this.units.plusMinus(carried, unit, digits)}`);
    } else if (standsIn) {
      parts.push(
        `${standsIn.value === newValue && !last ? $localize`new, from its spec:` : $localize`stands as`} ${this.units.plusMinus(standsIn, unit, digits)}`,
      );
    } else if (last) parts.push($localize`last ${this.units.show(last.value, unit, digits)}`);
    else if (newValue !== undefined)
      parts.push($localize`new ${this.units.show(newValue, unit, digits)}`);
    if (limit !== undefined)
      parts.push(
        $localize`limit ${this.units.show(limit, unit)}, ${limitSource?.split(':')[0] ?? ''}`,
      );
    if (!taken && why && !isPlainWhy(why)) parts.push(this.units.resay(why));
    return parts.join(' · ');
  }
}
