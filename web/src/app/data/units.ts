import { computed, Injectable, signal } from '@angular/core';
import { convert, type Unit } from '@tally-stone/core';

export type UnitSystem = 'metric' | 'inch';
export type Base = 'mm' | 'g' | 'deg' | 'N·m';

const SHOWN: Readonly<Record<UnitSystem, Readonly<Record<Base, Unit>>>> = {
  metric: { mm: 'mm', g: 'g', deg: 'deg', 'N·m': 'N·m' },
  inch: { mm: 'in', g: 'g', deg: 'deg', 'N·m': 'lbf·ft' },
};
const MARK: Partial<Record<Unit, string>> = { deg: '°', in: ' in' };
const KEPT_AS = 'tally-stone.units';

/** How quantities are shown and typed: millimetres or inches, at a switch. Stored values stay SI. */
@Injectable({ providedIn: 'root' })
export class Units {
  readonly system = signal<UnitSystem>(
    localStorage.getItem(KEPT_AS) === 'inch' ? 'inch' : 'metric',
  );
  readonly length = computed(() => this.unitFor('mm'));

  toggle(): void {
    this.system.update((system) => (system === 'metric' ? 'inch' : 'metric'));
    localStorage.setItem(KEPT_AS, this.system());
  }

  /** The unit a base unit is shown and typed in. */
  unitFor(base: Base): Unit {
    return SHOWN[this.system()][base];
  }

  /** A value with its unit, for example `51.2 mm` or `2.016 in`. */
  show(value: number, base: Base, digits = 1): string {
    const unit = this.unitFor(base);
    const shown = convert(value, base, unit);
    const places = unit === 'in' ? digits + 2 : digits;
    return `${shown.toFixed(places)}${MARK[unit] ?? ` ${unit}`}`;
  }

  mark(base: Base): string {
    const unit = this.unitFor(base);
    return (MARK[unit] ?? unit).trim();
  }
}
