import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import {
  BladeLengthMm,
  BladeMassG,
  BladeWidthMm,
  DropSeconds,
  TestRadiusMm,
  TestWeightG,
  type CalibrationDrops,
  type InstrumentActInput,
} from '@tally-stone/contract';
import {
  barInertiaGmm2,
  BenchError,
  calibrateShaft,
  USUAL_DRAG_PER_S,
  type ShaftCalibration,
  listed,
} from '@tally-stone/core';
import { DropTimes } from '../parts/drop-times';
import { newId } from '../data/commands';
import { Shop } from '../data/shop';
import { passes, QuantityControl } from '../data/fields';
import { inForm, submit } from '../data/submit';
import { QuantityField } from '../parts/form/quantity-field';
import { Units } from '../data/units';
import { DropTimer } from '../run/drop-timer';
import { ShaftSheet, type ShaftSize } from './shaft-sheet';

type Group = Omit<CalibrationDrops, 'timesS'> & { readonly key: string; readonly words: string };

/** In the order that moves the weight and the blade least. */
const GROUPS: readonly Group[] = [
  {
    key: 'light-A',
    weight: 'light',
    end: 'A',
    turned: false,
    words: $localize`Light weight at end A`,
  },
  {
    key: 'light-B',
    weight: 'light',
    end: 'B',
    turned: false,
    words: $localize`Light weight at end B`,
  },
  {
    key: 'heavy-B',
    weight: 'heavy',
    end: 'B',
    turned: false,
    words: $localize`Heavy weight at end B`,
  },
  {
    key: 'heavy-A',
    weight: 'heavy',
    end: 'A',
    turned: false,
    words: $localize`Heavy weight at end A`,
  },
  {
    key: 'turned-A',
    weight: 'light',
    end: 'A',
    turned: true,
    words: $localize`Blade turned half way round, light weight at end A`,
  },
  {
    key: 'turned-B',
    weight: 'light',
    end: 'B',
    turned: true,
    words: $localize`Blade turned half way round, light weight at end B`,
  },
];
const ENOUGH_DROPS = 2;

const SIZES = [
  {
    key: 'mass',
    words: $localize`The blade weighs`,
    name: $localize`its mass`,
    unit: 'g',
    schema: BladeMassG,
  },
  {
    key: 'length',
    words: $localize`Its length`,
    name: $localize`its length`,
    unit: 'mm',
    schema: BladeLengthMm,
  },
  {
    key: 'width',
    words: $localize`Its width`,
    name: $localize`its width`,
    unit: 'mm',
    schema: BladeWidthMm,
  },
  {
    key: 'light',
    words: $localize`Light weight`,
    name: $localize`the light weight`,
    unit: 'g',
    schema: TestWeightG,
  },
  {
    key: 'heavy',
    words: $localize`Heavy weight`,
    name: $localize`the heavy weight`,
    unit: 'g',
    schema: TestWeightG,
  },
  {
    key: 'radius',
    words: $localize`They hang at`,
    name: $localize`where the weights hang`,
    unit: 'mm',
    schema: TestRadiusMm,
  },
] as const;
/** What the weights usually are, g. */
const USUAL: Partial<Record<Size, number>> = { light: 1, heavy: 4 };
type Size = (typeof SIZES)[number]['key'];

/** A shaft's friction, inertia and centring by timed drops of the check blade with two known weights. */
@Component({
  selector: 'ts-calibrate',
  imports: [
    DropTimer,
    DropTimes,
    MatButtonModule,
    QuantityField,
    ReactiveFormsModule,
    RouterLink,
    ShaftSheet,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './calibrate.html',
  styleUrls: ['./part.scss', './calibrate.scss'],
})
export class Calibrate {
  private readonly shop = inject(Shop);
  private readonly router = inject(Router);
  protected readonly units = inject(Units);
  readonly balancerId = input.required<string>();

  protected readonly of = (key: ShaftSize): Size => key;
  protected readonly words = (key: ShaftSize): string =>
    SIZES.find((size) => size.key === key)?.words ?? '';
  protected readonly groups = GROUPS;
  private readonly write = submit({ at: inForm(() => this.form) });
  protected readonly trouble = computed(() => this.write.words() || this.shop.trouble());
  protected readonly times = signal<Readonly<Record<string, readonly number[]>>>({});
  protected readonly picked = signal<string | undefined>(undefined);
  protected readonly form = new FormGroup(
    Object.fromEntries(
      SIZES.map(({ key, unit, schema }) => [
        key,
        new QuantityControl(unit, schema, this.units, { start: USUAL[key] }),
      ]),
    ) as Record<Size, QuantityControl>,
  );
  protected readonly watch = new QuantityControl('s', DropSeconds, this.units);
  private readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.value });

  protected readonly balancer = computed(() =>
    this.shop.view()?.balancers.find(({ balancerId }) => balancerId === this.balancerId()),
  );

  /** Sizes that are typed and cannot be: what is still empty is not wrong yet. */
  protected readonly wrong = computed((): ReadonlySet<string> => {
    this.typed();
    const wrong = SIZES.filter(({ key }) => {
      const { invalid, value } = this.form.controls[key];
      return invalid && String(value ?? '') !== '';
    });
    return new Set(wrong.map(({ key }) => key));
  });

  /** Sizes that can be read so far, for the drawing. */
  protected readonly drawn = computed(() => {
    this.typed();
    const { length, radius } = this.form.controls;
    const read = (control: QuantityControl): number | undefined =>
      control.valid ? control.quantity : undefined;
    return { length: read(length), radius: read(radius) };
  });
  /** The sizes in g and mm; a word where one cannot be read. */
  private readonly read = computed<Readonly<Record<Size, number>> | string>(() => {
    this.typed();
    const { controls } = this.form;
    const missing = SIZES.filter(({ key }) => controls[key].invalid).map(({ name }) => name);
    if (missing.length > 0) {
      return $localize`First type ${listed(missing)}.`;
    }
    return Object.fromEntries(
      SIZES.map(({ key }) => [key, controls[key].quantity ?? NaN]),
    ) as Record<Size, number>;
  });
  protected readonly missing = computed(() => {
    const read = this.read();
    return typeof read === 'string' ? read : '';
  });

  /** The group in hand: the one picked, else the first that has too few drops. */
  protected readonly group = computed(
    () =>
      GROUPS.find(({ key }) => key === this.picked()) ??
      GROUPS.find(({ key }) => (this.times()[key]?.length ?? 0) < ENOUGH_DROPS),
  );

  protected readonly hung = computed<InstrumentActInput | undefined>(() => {
    const sizes = this.read();
    const group = this.group();
    if (typeof sizes === 'string' || !group) return undefined;
    return {
      act: 'hang-check',
      massG: sizes.mass,
      lengthMm: sizes.length,
      widthMm: sizes.width,
      weightG: sizes[group.weight],
      radiusMm: sizes.radius,
      end: group.end,
      turned: group.turned,
    };
  });

  private readonly drops = computed<CalibrationDrops[]>(() =>
    GROUPS.flatMap(({ key, weight, end, turned }) => {
      const timesS = this.times()[key] ?? [];
      return timesS.length > 0 ? [{ weight, end, turned, timesS: [...timesS] }] : [];
    }),
  );

  /** What the drops tell so far; a word where that is too little. */
  protected readonly found = computed<ShaftCalibration | string>(() => {
    const sizes = this.read();
    if (typeof sizes === 'string') return sizes;
    try {
      return calibrateShaft({
        bladeMassG: sizes.mass,
        inertiaGmm2: barInertiaGmm2(sizes.mass, sizes.length, sizes.width),
        dragPerS: USUAL_DRAG_PER_S.value,
        drops: this.drops().map(({ weight, ...drop }) => ({
          ...drop,
          weightG: sizes[weight],
          radiusMm: sizes.radius,
        })),
      });
    } catch (error) {
      if (error instanceof BenchError) return $localize`The ${error.field} ${error.rule}.`;
      throw error;
    }
  });
  protected readonly result = computed(() => {
    const found = this.found();
    return typeof found === 'string' ? undefined : found;
  });

  constructor() {
    void this.shop.refresh();
  }

  protected timed(group: Group, seconds: number): void {
    const rounded = Math.round(seconds * 100) / 100;
    this.times.update((all) => ({ ...all, [group.key]: [...(all[group.key] ?? []), rounded] }));
    if ((this.times()[group.key]?.length ?? 0) >= ENOUGH_DROPS) this.picked.set(undefined);
  }

  /** A time from a stop watch, typed. */
  protected typeTime(group: Group): void {
    if (!passes(this.watch) || this.watch.quantity === undefined) return;
    this.timed(group, this.watch.quantity);
    this.watch.reset();
  }

  protected strike(group: Group, index: number): void {
    this.times.update((all) => ({
      ...all,
      [group.key]: (all[group.key] ?? []).filter((_, i) => i !== index),
    }));
    this.picked.set(group.key);
  }

  protected timesOf({ key }: Group): readonly number[] {
    return this.times()[key] ?? [];
  }

  protected async keep(): Promise<void> {
    if (!passes(this.form)) {
      this.write.showFirstWrong();
      return;
    }
    const { mass, length, width, light, heavy, radius } = this.form.controls;
    const kept = await this.write.send({
      type: 'calibrate-balancer',
      calibrationId: newId(),
      balancerId: this.balancerId(),
      blade: { mass: mass.entered, length: length.entered, width: width.entered },
      light: light.entered,
      heavy: heavy.entered,
      radius: radius.entered,
      drops: this.drops(),
    });
    if (kept) await this.router.navigateByUrl('/shop/balancers');
  }
}
