import { limitFault, LIMITS, named } from '@tally-stone/core';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { SpecFigures, type SpecRevision } from '@tally-stone/contract';
import { map } from 'rxjs';
import { Api } from '../data/api';
import { newId } from '../data/commands';
import { passes, QuantityControl, text } from '../data/fields';
import { shown } from '../data/shown';
import { inForm, submit } from '../data/submit';
import { Units } from '../data/units';
import { BladeDrawing } from '../parts/blade-drawing';
import { optionsOf, PickField } from '../parts/form/pick-field';
import { QuantityField } from '../parts/form/quantity-field';
import { TextField } from '../parts/form/text-field';
import { SpecSheet, type Dimension } from '../parts/spec-sheet';
import { ShopPart } from './shop-part';
import {
  figuresFrom,
  fitting,
  SIZE_FIELDS,
  SourceText,
  USUAL,
  type SizeKey,
  type TypedSpec,
} from './spec-figures';
import { Opened } from '../parts/form/opened';

const SHAPE = SpecFigures.shape;
/** The fields of the width limits, in the order of the stations. */
const LEAST = ['leastTipMm', 'leastMiddleMm', 'leastRootMm'] as const;

/** What the shop's blades are when new, with the limits at which they end. */
@Component({
  selector: 'ts-specs-page',
  imports: [
    BladeDrawing,
    MatButtonModule,
    PickField,
    QuantityField,
    ReactiveFormsModule,
    RouterLink,
    ShopPart,
    SpecSheet,
    TextField,
    Opened,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './specs-page.html',
  styleUrls: ['./part.scss', './specs-page.scss'],
})
export class SpecsPage {
  private readonly api = inject(Api);
  protected readonly units = inject(Units);
  private readonly page = shown(() => this.api.specs(), { about: 'nothing' });
  protected readonly specs = computed(() => this.page.value() ?? []);
  protected readonly adding = signal(false);
  protected readonly dimensions = SIZE_FIELDS.map(({ key }) => key);
  /** Drawn until enough is typed. */
  protected readonly usual = figuresFrom(USUAL);
  protected readonly of = (key: Dimension): SizeKey => key as SizeKey;
  protected readonly words = (key: Dimension): string =>
    SIZE_FIELDS.find((field) => field.key === key)?.words ?? '';
  protected readonly kinds = optionsOf(SHAPE.kind.options);
  protected readonly hands = optionsOf(SHAPE.hand.options);
  protected readonly holes = optionsOf(SHAPE.hole.options);
  protected readonly sources = [
    { value: 'shop', words: $localize`a shop rule` },
    { value: 'maker', words: $localize`the maker` },
  ];
  protected readonly none = { A: [], B: [] };
  protected readonly form = new FormGroup({
    name: text('', SHAPE.name),
    kind: text('high-lift'),
    hand: text('right'),
    hole: text('round'),
    sizes: new FormGroup(
      Object.fromEntries(
        SIZE_FIELDS.map((field) => [
          field.key,
          new QuantityControl(field.unit, field.schema, this.units, {
            start: 'start' in field ? field.start : undefined,
          }),
        ]),
      ) as Record<SizeKey, QuantityControl>,
    ),
    source: text('shop'),
    sourceText: text('', SourceText),
  });
  private readonly write = submit({
    at: (field) => {
      const [, index, what] = /limits\.(\d+)\.(\w+)/.exec(field) ?? [];
      const least = LEAST[Number(index)];
      return what === 'value' && least
        ? this.form.controls.sizes.controls[least]
        : inForm(() => this.form)(field);
    },
    kept: () => this.page.again(),
  });
  protected readonly trouble = computed(() => this.write.words() || this.page.words());

  /** The spec as typed so far, for its drawing: what is missing or wrong is drawn as usual. */
  protected readonly draft = toSignal(this.form.valueChanges.pipe(map(() => this.drawn())));
  /** Dimensions that are typed wrong. */
  protected readonly wrong = toSignal(
    this.form.events.pipe(
      map(() => {
        const { controls } = this.form.controls.sizes;
        const wrong = SIZE_FIELDS.filter(({ key }) => {
          const { invalid, touched, value } = controls[key];
          return invalid && (touched || String(value ?? '') !== '');
        });
        const newWidthMm = controls.newWidthMm.valid ? controls.newWidthMm.quantity : undefined;
        const sizes = { newWidthMm: newWidthMm ?? 0, newLengthMm: 0, wingMm: 0 };
        const past = LEAST.filter((key) => {
          const { quantity } = controls[key];
          return newWidthMm && quantity !== undefined && limitFault('width', quantity, sizes);
        });
        return new Set<string>([...wrong.map(({ key }) => key), ...past]);
      }),
    ),
    { initialValue: new Set<string>() },
  );

  private drawn(): SpecFigures {
    const { controls } = this.form.controls.sizes;
    const read = Object.fromEntries(
      SIZE_FIELDS.map(({ key }) => [
        key,
        controls[key].valid ? (controls[key].quantity ?? USUAL.sizes[key]) : USUAL.sizes[key],
      ]),
    ) as Record<SizeKey, number>;
    const { kind, hand, hole } = this.form.getRawValue();
    return figuresFrom({
      ...USUAL,
      kind: kind as SpecFigures['kind'],
      hand: hand as SpecFigures['hand'],
      hole: hole as SpecFigures['hole'],
      sizes: fitting(read),
    });
  }

  private figures(): SpecFigures {
    const { sizes, ...typed } = this.form.controls;
    const read = Object.fromEntries(
      SIZE_FIELDS.map(({ key }) => [key, sizes.controls[key].quantity ?? NaN]),
    ) as Record<SizeKey, number>;
    const picked = Object.fromEntries(
      Object.entries(typed).map(([key, control]) => [key, control.value]),
    ) as unknown as Omit<TypedSpec, 'sizes'>;
    return figuresFrom({ ...picked, sizes: read });
  }

  protected async keep(): Promise<void> {
    if (!passes(this.form)) {
      this.write.showFirstWrong();
      return;
    }
    const kept = await this.write.send({
      type: 'add-spec',
      specId: newId(),
      specRevisionId: newId(),
      figures: this.figures(),
    });
    if (!kept) return;
    this.adding.set(false);
    this.form.reset();
  }

  protected sizeWords({ figures }: SpecRevision): string {
    const { units } = this;
    return [
      $localize`${named(figures.kind)}, ${named(figures.hand)}-hand`,
      $localize`${named(figures.hole)} hole ${units.show(figures.holeMm, 'mm', 0)}`,
      [
        units.show(figures.newLengthMm, 'mm', 0),
        units.show(figures.newWidthMm, 'mm'),
        units.show(figures.thicknessMm, 'mm', 2),
      ].join(' × '),
      units.show(figures.newMassG, 'g', 0),
      $localize`bevel ${figures.bevelDeg}°`,
      $localize`${figures.bladeSpeedRpm} rpm`,
      `G ${figures.gradeMmPerS}`,
    ].join(', ');
  }

  protected limitName({ kind, stationKey }: SpecFigures['limits'][number]): string {
    const { words } = LIMITS[kind];
    return stationKey ? `${words}, ${named(stationKey)}` : words;
  }

  protected limitWords({ value, unit }: SpecFigures['limits'][number]): string {
    return unit === 'mm' ? this.units.show(value, 'mm') : `${value} ${named(unit)}`;
  }
}
