import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { ShopRules, type Schools } from '@tally-stone/contract';
import { passes, QuantityControl, type FieldUnit } from '../data/fields';
import { Shop } from '../data/shop';
import { inForm } from '../data/submit';
import { Units } from '../data/units';
import { QuantityField } from '../parts/form/quantity-field';
import { SchoolsForm } from '../run/schools-form';
import { keepRules } from './keep-rules';
import { ShopPart } from './shop-part';
import { ShopSchools } from './shop-schools';

/** Figures a shop may set for itself, with what each is. All are common practice, no source. */
const FIGURES = [
  { key: 'dullLandMm', words: $localize`Dull above a flat of`, unit: 'mm' },
  { key: 'usualRecessionMm', words: $localize`A grind usually takes`, unit: 'mm' },
  {
    key: 'straightness',
    words: $localize`Edge straight within`,
    unit: '',
    after: $localize`mm per mm`,
  },
  { key: 'tipReachMm', words: $localize`Tip square over its outer`, unit: 'mm' },
  { key: 'tipMostMm', words: $localize`Tip falls back at most`, unit: 'mm' },
  {
    key: 'wearWeightG',
    words: $localize`Sparing the worst place`,
    unit: 'g',
    hint: $localize`what it is worth`,
  },
  { key: 'fullLookCycles', words: $localize`Full look after`, unit: '', after: $localize`cycles` },
  { key: 'fullLookDays', words: $localize`Full look after`, unit: 'days' },
  { key: 'checkMassG', words: $localize`Check blade weighs`, unit: 'g' },
  {
    key: 'checkWidthMm',
    words: $localize`Check blade is wide`,
    unit: 'mm',
    hint: $localize`at its mark`,
  },
  {
    key: 'checkLevelG',
    words: $localize`Check blade hangs level`,
    unit: 'g',
    hint: $localize`with this weight`,
  },
] as const satisfies readonly {
  readonly key: keyof ShopRules;
  readonly words: string;
  readonly unit: FieldUnit;
  readonly after?: string;
  readonly hint?: string;
}[];
type Figure = (typeof FIGURES)[number]['key'];

/** The schools the shop grinds by, and the figures it has set for itself. */
@Component({
  selector: 'ts-grinding-page',
  imports: [
    MatButtonModule,
    QuantityField,
    ReactiveFormsModule,
    SchoolsForm,
    ShopPart,
    ShopSchools,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './grinding-page.html',
  styleUrl: './part.scss',
})
export class GrindingPage {
  private readonly units = inject(Units);
  protected readonly view = inject(Shop).view;
  protected readonly figures: readonly {
    readonly key: Figure;
    readonly words: string;
    readonly after?: string;
    readonly hint?: string;
  }[] = FIGURES;
  protected readonly schools = computed(() => this.view()?.rules.schools);
  protected readonly values = new FormGroup(
    Object.fromEntries(
      FIGURES.map(({ key, unit }) => [
        key,
        new QuantityControl(unit, ShopRules.shape[key], this.units),
      ]),
    ) as Record<Figure, QuantityControl>,
  );
  protected readonly kept = signal(false);
  protected readonly rules = keepRules({
    at: inForm(() => this.values),
    then: (rules) => {
      for (const { key } of FIGURES) this.values.controls[key].put(rules[key]);
    },
  });

  protected async chooseSchools(change: Partial<Schools>): Promise<void> {
    await this.rules.change((rules) => ({ ...rules, schools: { ...rules.schools, ...change } }));
  }

  protected async keepFigures(): Promise<void> {
    this.kept.set(false);
    if (!passes(this.values)) return;
    const typed = Object.fromEntries(
      FIGURES.map(({ key }) => [key, this.values.controls[key].quantity]),
    );
    this.kept.set(await this.rules.change((rules) => ({ ...rules, ...typed })));
  }
}
