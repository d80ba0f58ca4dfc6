import { submit } from '../data/submit';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { RouterLink } from '@angular/router';
import { BenchError, guessSpec, parseQuantity, type Guess, type Unit } from '@tally-stone/core';
import Papa from 'papaparse';
import { forkJoin } from 'rxjs';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { shown } from '../data/shown';
import { Units } from '../data/units';
import { PegTags } from './peg-tags';

type Step = 'which' | 'where' | 'stamp' | 'read' | 'done';
const STEPS: readonly { readonly key: Step; readonly words: string }[] = [
  { key: 'which', words: 'Which blade is it' },
  { key: 'where', words: 'How many, and where' },
  { key: 'stamp', words: 'Stamp and tag' },
  { key: 'read', words: 'First readings' },
];
const HOLES = ['round', 'star', 'oval', 'square'] as const;
/** A sample of so many tells of a heap. Common practice, no source. */
const SAMPLE = 5;

interface Taken {
  readonly bladeId: string;
  readonly code: string;
}
type Field = 'tipA' | 'tipB' | 'wingA' | 'wingB' | 'mass';
const FIELDS: readonly { readonly key: Field; readonly words: string }[] = [
  { key: 'tipA', words: 'Width, tip A' },
  { key: 'tipB', words: 'Width, tip B' },
  { key: 'wingA', words: 'Wing A' },
  { key: 'wingB', words: 'Wing B' },
  { key: 'mass', words: 'Mass' },
];

const FIELD_WORDS: Readonly<Record<string, string>> = {
  count: 'How many',
  place: 'Where they lie',
  hoursH: 'The hour meter',
  personId: 'Who',
};

/** Day one: a heap of unmarked blades gets a spec, codes to stamp, tags, and first readings by sample or each. */
@Component({
  selector: 'ts-intake-page',
  imports: [MatButtonModule, MatButtonToggleModule, PegTags, RouterLink],
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
  private readonly write = submit({ names: FIELD_WORDS });
  protected readonly trouble = computed(() => this.write.words() || this.page.words());
  protected readonly notice = signal('');

  protected readonly length = signal('');
  protected readonly width = signal('');
  protected readonly hole = signal<(typeof HOLES)[number] | ''>('');
  protected readonly holeSize = signal('');
  protected readonly specId = signal('');
  protected readonly count = signal('');
  protected readonly place = signal('Heap in the yard');
  /** The mower they are on; empty where they lie in a heap. */
  protected readonly mowerId = signal('');
  protected readonly hours = signal('');
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
    const lengthMm = this.read(this.length());
    if (lengthMm === undefined) return [];
    const widthMm = this.read(this.width());
    const holeMm = this.read(this.holeSize());
    const hole = this.hole();
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

  private read(text: string): number | undefined {
    if (text.trim() === '') return undefined;
    try {
      return parseQuantity(text, this.units.length()).value;
    } catch {
      return undefined;
    }
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
    const count = mower ? free.length : Number(this.count());
    if (mower && free.length === 0) {
      this.write.say(`${mower.name} has a blade on every spindle already.`);
      return;
    }
    const place = mower ? `On ${mower.name}` : this.place();
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
        hoursH: Number(this.hours().replace(',', '.') || mower.hoursH),
        blades: free.map(({ spindleId }, i) => ({
          fitId: newId(),
          spindleId,
          bladeId: this.taken()[i]?.bladeId ?? '',
        })),
      });
      this.notice.set(
        found
          ? `They are on ${mower.name}: ${free.map(({ position }, i) => `${this.taken()[i]?.code ?? ''} ${position}`).join(', ')}.`
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
        `${lines.length.toLocaleString('en-GB')} lines were pasted for ${blades.length} blades: one line a blade, in the order of the codes. Nothing was taken over.`,
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
    this.length.set('');
    this.width.set('');
    this.holeSize.set('');
    this.count.set('');
    this.mowerId.set('');
    this.notice.set('');
    this.step.set('which');
    void this.page.again();
  }
}
