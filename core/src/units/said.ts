import { convert, type Unit } from './units.js';

/** A unit quantities are held in; the reader's own stands for it on the screen. */
export type Base = 'mm' | 'g' | 'deg' | 'N·m' | 'g·mm';

/** How a quantity is written for a reader. `digits` are those of the base unit. */
export type Show = (value: number, base: Base, digits?: number) => string;

/** What a shop may read its quantities in. */
export const UNIT_SYSTEMS = ['metric', 'inch', 'inch-ounce'] as const;
export type UnitSystem = (typeof UNIT_SYSTEMS)[number];

const SHOWN: Readonly<Record<UnitSystem, Readonly<Record<Base, Unit>>>> = {
  metric: { mm: 'mm', g: 'g', deg: 'deg', 'N·m': 'N·m', 'g·mm': 'g·mm' },
  inch: { mm: 'in', g: 'g', deg: 'deg', 'N·m': 'lbf·ft', 'g·mm': 'g·mm' },
  'inch-ounce': { mm: 'in', g: 'oz', deg: 'deg', 'N·m': 'lbf·ft', 'g·mm': 'oz·in' },
};

/** Decimals a unit has more than the base unit it stands for, so that it says as much. */
const MORE_DIGITS: Partial<Record<Unit, number>> = { in: 2, oz: 2, 'oz·in': 3 };

/**
 * The unit in which a system shows a base unit.
 * @example unitIn('inch', 'mm') // 'in'
 */
export const unitIn = (system: UnitSystem, base: Base): Unit => SHOWN[system][base];

/**
 * A value of a base unit in the unit a system shows it in, with the decimals that say as much.
 * @example shownIn('inch', 50.8, 'mm', 1) // { value: 2, unit: 'in', digits: 3 }
 */
export function shownIn(
  system: UnitSystem,
  value: number,
  base: Base,
  digits: number,
): { value: number; unit: Unit; digits: number } {
  const unit = unitIn(system, base);
  return { value: convert(value, base, unit), unit, digits: digits + (MORE_DIGITS[unit] ?? 0) };
}

/** Feet a minute in a metre a second: 1 ft is 0.3048 m exactly (NIST SP 811, appendix B). */
const FT_PER_MIN = 60 / 0.3048;

/**
 * A speed of a tip or a wheel in the unit the trade reads it in.
 * @example speedIn('metric', 87.1) // { value: 87.1, unit: 'm/s' }
 */
export const speedIn = (
  system: UnitSystem,
  speedMPerS: number,
): { value: number; unit: 'm/s' | 'ft/min' } =>
  system === 'metric'
    ? { value: speedMPerS, unit: 'm/s' }
    : { value: speedMPerS * FT_PER_MIN, unit: 'ft/min' };

/** Between a number and its unit: the two stay on one line. */
const JOINED = '\u00a0';

/**
 * A quantity as the core writes it into a sentence: metric, its unit joined by a no-break space. That space marks it:
 * {@link resaid} finds it again, and leaves alone what a person typed.
 * @example said(51.2, 'mm') // '51.2\u00a0mm'
 */
export const said: Show = (value, base, digits = 1) =>
  base === 'deg' ? `${value.toFixed(digits)}°` : `${value.toFixed(digits)}${JOINED}${base}`;

const SAID = /(\d+)(?:\.(\d+))?\u00a0(g·mm|N·m|mm|g)(?![\p{L}·/])/gu;

/**
 * A sentence of the core with its quantities written for another reader.
 * @example resaid(`Take ${said(8.5, 'g')} off`, (value, base) => `${value * 2} ${base}`) // 'Take 17 g off'
 */
export const resaid = (words: string, show: Show): string =>
  words.replace(SAID, (_, whole: string, decimals: string | undefined, base: Base) =>
    show(Number(`${whole}.${decimals ?? 0}`), base, decimals?.length ?? 0),
  );
