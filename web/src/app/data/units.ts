import { computed, inject, Injectable, signal } from '@angular/core';
import type { FindingView } from '@tally-stone/contract';
import {
  convert,
  inWords,
  markOf,
  resaid,
  showIn,
  shownIn,
  speedIn,
  unitIn,
  type Base,
  type Show,
  type Unit,
  type UnitSystem,
} from '@tally-stone/core/basics';
import { Region } from './region';

export type { Base, UnitSystem } from '@tally-stone/core/basics';

/** What may be picked, and what the switch says. */
export const UNIT_SYSTEMS: Readonly<
  Record<UnitSystem, { readonly words: string; readonly short: string }>
> = {
  metric: { words: $localize`Millimetres and grams`, short: 'mm' },
  inch: { words: $localize`Inches and grams`, short: 'inch' },
  'inch-ounce': { words: $localize`Inches and ounces`, short: $localize`inch, oz` },
};
const KEPT_AS = 'tally-stone.units';

const keptSystem = (): UnitSystem => {
  const kept = localStorage.getItem(KEPT_AS) ?? '';
  return kept in UNIT_SYSTEMS ? (kept as UnitSystem) : 'metric';
};

/** How quantities are shown and typed on this screen. Stored values stay metric. */
@Injectable({ providedIn: 'root' })
export class Units {
  private readonly region = inject(Region);
  readonly system = signal(keptSystem());
  readonly length = computed(() => this.unitFor('mm'));

  readonly named = computed(() => UNIT_SYSTEMS[this.system()]);

  /** On to the next of them. */
  toggle(): void {
    const all = Object.keys(UNIT_SYSTEMS) as UnitSystem[];
    const next = all[(all.indexOf(this.system()) + 1) % all.length] ?? 'metric';
    this.system.set(next);
    localStorage.setItem(KEPT_AS, next);
  }

  /** The unit a base unit is shown and typed in. */
  unitFor(base: Base): Unit {
    return unitIn(this.system(), base);
  }

  /** A value with its unit, for example `51.2 mm` or `2.016 in`. */
  readonly show: Show = (value, base, digits) =>
    showIn(this.system(), this.region.written())(value, base, digits);

  /** The same as it stands in a field, to be typed over and read again. */
  typed(value: number, base: Base, mostDigits = 6): string {
    const unit = this.unitFor(base);
    const digits = unit === 'in' || unit === 'oz' ? 4 : unit === base ? mostDigits : 2;
    return this.region.typed(convert(value, base, unit), digits);
  }

  /** The same without its unit, where that stands beside it. */
  figure(value: number, base: Base, digits = 1): string {
    const shown = shownIn(this.system(), value, base, digits);
    return this.region.number(shown.value, shown.digits);
  }

  /** A value with its doubt, k = 2: `8.5 ± 0.4 g`. */
  plusMinus({ value, u }: { readonly value: number; readonly u: number }, base: Base, digits = 1) {
    return `${this.figure(value, base, digits)} ± ${this.show(2 * u, base, digits)}`;
  }

  /** A speed of a tip or a wheel: `87.1 m/s` or `17,146 ft/min`. */
  speed(speedMPerS: number, digits = 0): string {
    const { value, unit } = speedIn(this.system(), speedMPerS);
    return `${this.number(value, unit === 'm/s' ? digits : 0)} ${unit}`;
  }

  /** A number that has no unit of ours: a count, hours, a share. */
  number(value: number, digits = 0): string {
    return this.region.number(value, digits);
  }

  /** Such a number as it stands in a field. */
  typedNumber(value: number): string {
    return this.region.typed(value);
  }

  mark(base: Base): string {
    return markOf(this.unitFor(base));
  }

  /** A sentence that came in metric, for whoever reads it here. */
  resay(words: string): string {
    return resaid(words, this.show);
  }

  /** A finding as it is said here; one that an older version signed keeps the words it was signed with. */
  finding({ reason, rule, words, ...rest }: FindingView): string {
    return reason === undefined
      ? this.resay(words)
      : inWords(
          { ...rest, reason, source: rule as Parameters<typeof inWords>[0]['source'] },
          this.show,
        ).words;
  }
}
