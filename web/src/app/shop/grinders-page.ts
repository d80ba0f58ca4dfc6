import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { GrinderFigures, type GrinderView } from '@tally-stone/contract';
import { COUNT_WORDS, COUNTED, GRINDER_KINDS, named, usuallyCounted } from '@tally-stone/core';
import { NamedPipe } from '../parts/named.pipe';
import { newId } from '../data/commands';
import { passes, QuantityControl, text } from '../data/fields';
import { Shop } from '../data/shop';
import { inForm, submit } from '../data/submit';
import { Units } from '../data/units';
import { PickField, type Option } from '../parts/form/pick-field';
import { QuantityField } from '../parts/form/quantity-field';
import { TextField } from '../parts/form/text-field';
import { Power } from './power';
import { keepRules } from './keep-rules';
import { ShopPart } from './shop-part';
import { Opened } from '../parts/form/opened';

type Kind = GrinderFigures['kind'];

/** What grinds: every tool learns its own grams a pass, so a shop may own any of them. */
const TOOL_WHY: Readonly<Record<Kind, string>> = {
  belt: $localize`Flat face, cool and quick; the belt wears, and its table corner needs checking.`,
  wheel: $localize`Holds its angle by its height; leaves a hollow face, and the height moves as the wheel wears.`,
  'flap-disc': $localize`Goes to the mower; the angle is the hand’s. 40 is coarse, 60 usual, 80 fine.`,
  'drill-stone': $localize`Small and slow, for a touch at the mower; it wears hollow and rounds an edge that is not watched.`,
  file: $localize`No power, no heat; some 50 strokes an end, 200 where it is badly rounded.`,
};
const KINDS = GRINDER_KINDS.map((value): Option => ({ value, words: named(value) }));
const COUNTS = COUNTED.map((value): Option => ({ value, words: COUNT_WORDS[value].many }));
const AIMS: readonly Option[] = [
  { value: 'mean', words: $localize`the mean of the face` },
  { value: 'edge', words: $localize`the edge` },
];
const TABLES = (['flat', 'rounded'] as const).map((value): Option => ({
  value,
  words: named(value),
}));
const FIGURES = GrinderFigures.shape;

/** The shop's grinders, with what is on each. */
@Component({
  selector: 'ts-grinders-page',
  imports: [
    NamedPipe,
    MatButtonModule,
    MatCheckboxModule,
    PickField,
    Power,
    QuantityField,
    ReactiveFormsModule,
    ShopPart,
    TextField,
    Opened,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './grinders-page.html',
  styleUrl: './part.scss',
})
export class GrindersPage {
  private readonly shop = inject(Shop);
  protected readonly units = inject(Units);
  protected readonly view = this.shop.view;
  protected readonly countWords = COUNT_WORDS;
  protected readonly kinds = KINDS;
  protected readonly counts = COUNTS;
  protected readonly aims = AIMS;
  protected readonly tables = TABLES;
  /** The grinder being changed; `new` for another one. */
  protected readonly editing = signal<string | undefined>(undefined);
  protected readonly form = new FormGroup({
    name: text('', FIGURES.name),
    kind: text('belt'),
    counts: text('pass'),
    abrasive: text('', FIGURES.abrasive),
    wheelDiameterMm: this.optional('mm', 'wheelDiameterMm'),
    ratedRpm: this.optional('rpm', 'ratedRpm'),
    spindleRpm: this.optional('rpm', 'spindleRpm'),
    runW: this.optional('W', 'runW'),
    startW: this.optional('W', 'startW'),
    aim: text('mean'),
    table: text('flat'),
    newAbrasive: new FormControl(false, { nonNullable: true }),
  });
  private readonly write = submit({
    at: inForm(() => this.form),
    kept: () => this.load(),
  });
  protected readonly rules = keepRules();
  protected readonly trouble = computed(() => this.write.words() || this.rules.trouble());
  private readonly kind = toSignal(this.form.controls.kind.valueChanges, {
    initialValue: 'belt',
  });

  constructor() {
    void this.load();
    // What such a tool's user counts, until it is said otherwise.
    this.form.controls.kind.valueChanges.pipe(takeUntilDestroyed()).subscribe((kind) => {
      if (this.editing() === 'new')
        this.form.controls.counts.setValue(usuallyCounted(kind as Kind));
    });
  }

  private optional(
    unit: 'mm' | 'rpm' | 'W',
    key: 'wheelDiameterMm' | 'ratedRpm' | 'spindleRpm' | 'runW' | 'startW',
  ): QuantityControl {
    return new QuantityControl(unit, FIGURES[key], this.units, { optional: true });
  }

  protected toolWhy(): string {
    return TOOL_WHY[this.kind() as Kind];
  }

  protected change({ figures, grinderId }: GrinderView): void {
    const { wheelDiameterMm, ratedRpm, spindleRpm, runW, startW, ...plain } = figures;
    this.editing.set(grinderId);
    this.form.reset({ ...plain, newAbrasive: false });
    this.form.controls.wheelDiameterMm.put(wheelDiameterMm);
    this.form.controls.ratedRpm.put(ratedRpm);
    this.form.controls.spindleRpm.put(spindleRpm);
    this.form.controls.runW.put(runW);
    this.form.controls.startW.put(startW);
    this.form.controls.kind.disable();
    this.form.controls.counts.disable();
  }

  protected another(): void {
    this.form.enable();
    this.form.reset();
    this.editing.set('new');
  }

  protected async keep(): Promise<void> {
    if (!passes(this.form)) {
      this.write.showFirstWrong();
      return;
    }
    const { newAbrasive, ...typed } = this.form.getRawValue();
    const { wheelDiameterMm, ratedRpm, spindleRpm, runW, startW } = this.form.controls;
    const figures = {
      ...typed,
      wheelDiameterMm: wheelDiameterMm.quantity,
      ratedRpm: ratedRpm.quantity,
      spindleRpm: spindleRpm.quantity,
      runW: runW.quantity,
      startW: startW.quantity,
    } as GrinderFigures;
    const id = this.editing();
    const machine = this.view()?.grinders.find(({ grinderId }) => grinderId === id);
    const abrasiveId = machine && !newAbrasive ? machine.abrasiveId : newId();
    const kept = await this.write.send(
      machine
        ? { type: 'change-grinder', grinderId: machine.grinderId, abrasiveId, figures }
        : { type: 'add-grinder', grinderId: newId(), abrasiveId, figures },
    );
    if (kept) this.editing.set(undefined);
  }

  private async load(): Promise<void> {
    await this.shop.refresh();
    this.write.say(this.shop.trouble());
  }
}
