import { inForm, submit } from '../data/submit';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormGroup } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import {
  BladeLengthMm,
  BladeWidthMm,
  MeterHours,
  RegisterBlades,
  SpecFigures,
} from '@tally-stone/contract';
import { BenchError, guessSpec, type Guess, type Unit } from '@tally-stone/core';
import Papa from 'papaparse';
import { forkJoin } from 'rxjs';
import type { z } from 'zod';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { passes, QuantityControl, text } from '../data/fields';
import { shown } from '../data/shown';
import { Units } from '../data/units';
import { optionsOf, PickField, type Option } from '../parts/form/pick-field';
import { QuantityField } from '../parts/form/quantity-field';
import { TextField } from '../parts/form/text-field';
import { PegTags } from './peg-tags';

type Step = 'which' | 'where' | 'stamp' | 'read' | 'done';
const STEPS: readonly { readonly key: Step; readonly words: string }[] = [
  { key: 'which', words: $localize`Which blade is it` },
  { key: 'where', words: $localize`How many, and where` },
  { key: 'stamp', words: $localize`Stamp and tag` },
  { key: 'read', words: $localize`First readings` },
];
const HOLES: readonly Option[] = [
  { value: '', words: $localize`any shape` },
  ...optionsOf(SpecFigures.shape.hole.options),
];
/** A sample of so many tells of a heap. Common practice, no source. */
const SAMPLE = 5;

interface Taken {
  readonly bladeId: string;
  readonly code: string;
}
type Field = 'tipA' | 'tipB' | 'wingA' | 'wingB' | 'mass';
const FIELDS: readonly { readonly key: Field; readonly words: string }[] = [
  { key: 'tipA', words: $localize`Width, tip A` },
  { key: 'tipB', words: $localize`Width, tip B` },
  { key: 'wingA', words: $localize`Wing A` },
  { key: 'wingB', words: $localize`Wing B` },
  { key: 'mass', words: $localize`Mass` },
];

/** Day one: a heap of unmarked blades gets a spec, codes to stamp, tags, and first readings by sample or each. */
@Component({
  selector: 'ts-intake-page',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatInputModule,
    PegTags,
    PickField,
    QuantityField,
    RouterLink,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './intake-page.html',
  styleUrl: './intake-page.scss',
})
export class IntakePage {
  private readonly api = inject(Api);
  protected readonly units = inject(Units);
  protected readonly steps = STEPS;
  protected readonly holes = HOLES;
  protected readonly fields = FIELDS;
  protected readonly sample = SAMPLE;
  protected readonly step = signal<Step>('which');
  private readonly page = shown(
    () => forkJoin({ specs: this.api.specs(), fleet: this.api.fleet() }),
    { about: 'nothing' },
  );
  protected readonly specs = computed(() => this.page.value()?.specs);
  protected readonly mowers = computed(() => this.page.value()?.fleet.mowers ?? []);
  private readonly write = submit({ at: inForm(() => this.heap) });
  protected readonly trouble = computed(() => this.write.words() || this.page.words());
  protected readonly notice = signal('');

  protected readonly size = new FormGroup({
    length: this.optional('mm', BladeLengthMm),
    width: this.optional('mm', BladeWidthMm),
    hole: text(),
    holeSize: this.optional('mm', SpecFigures.shape.holeMm),
  });
  protected readonly heap = new FormGroup({
    /** The mower they are on; empty where they lie in a heap. */
    mowerId: text(),
    hoursH: this.optional('h', MeterHours),
    count: new QuantityControl('', RegisterBlades.shape.count, this.units),
    place: text($localize`Heap in the yard`, RegisterBlades.shape.place),
  });
  private readonly sizeTyped = toSignal(this.size.valueChanges);
  private readonly mowerId = toSignal(this.heap.controls.mowerId.valueChanges, {
    initialValue: '',
  });
  protected readonly specId = signal('');
  protected readonly taken = signal<readonly Taken[]>([]);
  protected readonly by = signal<'sample' | 'each'>('sample');
  protected readonly typed = signal<Readonly<Record<string, Partial<Record<Field, string>>>>>({});
  protected readonly wrong = this.write.fields;

  protected readonly spec = computed(() =>
    this.specs()?.find(({ specId }) => specId === this.specId()),
  );
  protected readonly mower = computed(() =>
    this.mowers().find(({ mowerId }) => mowerId === this.mowerId()),
  );
  protected readonly freeSpindles = computed(
    () => this.mower()?.deck.spindles.filter(({ blade }) => !blade) ?? [],
  );

  /** Specs by how well they fit what was measured, likeliest first. */
  protected readonly guesses = computed<readonly (Guess & { name: string })[]>(() => {
    const specs = this.specs() ?? [];
    this.sizeTyped();
    const { length, width, hole: shape, holeSize } = this.size.controls;
    const lengthMm = length.quantity;
    if (lengthMm === undefined) return [];
    const widthMm = width.quantity;
    const holeMm = holeSize.quantity;
    const hole = shape.value as SpecFigures['hole'] | '';
    try {
      return guessSpec(
        { lengthMm, widthMm, holeMm, ...(hole ? { hole } : {}) },
        specs.map(({ specId, figures }) => ({ ...figures, id: specId })),
      ).map((guess) => ({
        ...guess,
        name: specs.find(({ specId }) => specId === guess.id)?.figures.name ?? '',
      }));
    } catch (error) {
      if (error instanceof BenchError) return [];
      throw error;
    }
  });

  /** The blades to be measured: a few of the heap, or all of them. */
  protected readonly asked = computed(() =>
    this.by() === 'each' ? this.taken() : this.taken().slice(0, SAMPLE),
  );

  protected readonly places = computed((): readonly Option[] => [
    { value: '', words: $localize`in a heap or on a rack` },
    ...this.mowers().map(({ mowerId, name }) => ({ value: mowerId, words: $localize`on ${name}` })),
  ]);

  private optional(unit: 'mm' | 'h', schema: z.ZodType): QuantityControl {
    return new QuantityControl(unit, schema, this.units, { optional: true });
  }

  protected pick(specId: string): void {
    this.specId.set(specId);
    this.write.say('');
    this.step.set('where');
  }

  protected readonly stepDone = (key: Step): boolean =>
    STEPS.findIndex((each) => each.key === key) < this.stepIndex();
  private readonly stepIndex = computed(() => {
    const found = STEPS.findIndex(({ key }) => key === this.step());
    return found < 0 ? STEPS.length : found;
  });

  protected async takeIn(): Promise<void> {
    const mower = this.mower();
    const free = this.freeSpindles();
    const { hoursH, count: typed, place: lies } = this.heap.controls;
    const asked = mower ? [hoursH] : [typed, lies];
    if (!asked.map(passes).every(Boolean)) {
      this.write.showFirstWrong();
      return;
    }
    const count = mower ? free.length : (typed.quantity ?? 0);
    if (mower && free.length === 0) {
      this.write.say($localize`${mower.name} has a blade on every spindle already.`);
      return;
    }
    const place = mower?.name ?? lies.value;
    const answer = await this.write.send({
      type: 'register-blades',
      specId: this.specId(),
      count,
      place,
      knownFrom: 'used',
    });
    if (!answer) return;
    this.taken.set(answer.blades ?? []);
    if (mower) {
      const found = await this.write.send({
        type: 'found-on-mower',
        deckId: mower.deck.deckId,
        hoursH: hoursH.quantity ?? mower.hoursH,
        blades: free.map(({ spindleId }, i) => ({
          fitId: newId(),
          spindleId,
          bladeId: this.taken()[i]?.bladeId ?? '',
        })),
      });
      this.notice.set(
        found
          ? $localize`They are on ${mower.name}:ph0:: ${free.map(({ position }, i) => `${this.taken()[i]?.code ?? ''} ${position}`).join(', ')}.`
          : '',
      );
    }
    this.step.set('stamp');
  }

  protected type(bladeId: string, field: Field, text: string): void {
    this.typed.update((all) => ({ ...all, [bladeId]: { ...all[bladeId], [field]: text } }));
  }

  protected readonly textAt = (bladeId: string, field: Field): string =>
    this.typed()[bladeId]?.[field] ?? '';

  /** Lines out of a spreadsheet, one a blade, in the order of the codes. */
  protected paste(event: ClipboardEvent): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    const lines = Papa.parse<string[]>(text.trim(), { skipEmptyLines: true }).data;
    if (lines.length < 2 && (lines[0]?.length ?? 0) < 2) return;
    event.preventDefault();
    const blades = this.asked();
    if (lines.length > blades.length) {
      this.write.say(
        $localize`${this.units.number(lines.length)} lines were pasted for ${blades.length} blades: one line a blade, in the order of the codes. Nothing was filled in.`,
      );
      return;
    }
    this.write.say('');
    this.typed.update((all) => ({
      ...all,
      ...Object.fromEntries(
        lines.map((line, i) => [
          blades[i]?.bladeId ?? '',
          Object.fromEntries(FIELDS.map(({ key }, f) => [key, (line[f] ?? '').trim()])),
        ]),
      ),
    }));
  }

  protected async keepReadings(): Promise<void> {
    const tip = this.spec()?.figures.stations[0]?.key ?? '';
    const unit = this.units.length();
    const places: Readonly<Record<Field, object>> = {
      tipA: { quantity: 'width', end: 'A', stationKey: tip },
      tipB: { quantity: 'width', end: 'B', stationKey: tip },
      wingA: { quantity: 'wing', end: 'A' },
      wingB: { quantity: 'wing', end: 'B' },
      mass: { quantity: 'mass' },
    };
    const cells = this.asked().flatMap(({ bladeId }) =>
      FIELDS.flatMap(({ key }) => {
        const text = this.textAt(bladeId, key).trim();
        return text === '' ? [] : [{ bladeId, key, text }];
      }),
    );
    if (cells.length === 0) {
      this.step.set('done');
      return;
    }
    const answer = await this.write.send(
      {
        type: 'first-readings',
        readings: cells.map(({ bladeId, key, text }) => ({
          readingId: newId(),
          bladeId,
          place: places[key] as never,
          entered: { text, unit: (key === 'mass' ? 'g' : unit) as Unit },
        })),
      },
      (field) => {
        const cell = cells[Number(/^readings\.(\d+)\./.exec(field)?.[1] ?? NaN)];
        return cell ? `${cell.bladeId}:${cell.key}` : field;
      },
    );
    if (answer) this.step.set('done');
  }

  protected print(): void {
    window.print();
  }

  /** Another heap: what is known of the shop stays. */
  protected again(): void {
    this.taken.set([]);
    this.typed.set({});
    this.size.reset();
    this.heap.reset();
    this.notice.set('');
    this.step.set('which');
    void this.page.again();
  }
}
