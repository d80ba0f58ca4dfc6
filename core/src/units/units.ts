import { BenchError, finite } from '../errors.js';
import { named } from '../vocabulary/named.js';

/**
 * Units of the bench. Quantities are held in mm, g, degrees, N·m and rpm; other units exist for entry
 * and display only. Factors are exact by definition: 1 in = 25.4 mm, 1 lb = 453.592 37 g,
 * 1 lbf = 4.448 221 615 260 5 N, 1 kgf = 9.806 65 N (NIST SP 811, appendix B, exact definitions).
 */
export type QuantityKind = 'length' | 'mass' | 'angle' | 'torque' | 'unbalance';

export const UNIT_NAMES = [
  'mm',
  'in',
  'g',
  'kg',
  'oz',
  'lb',
  'deg',
  'N·m',
  'lbf·ft',
  'lbf·in',
  'kgf·m',
  'g·mm',
  'oz·in',
] as const;
export type Unit = (typeof UNIT_NAMES)[number];

const INCH_MM = 25.4;
const POUND_G = 453.59237;
const POUND_FORCE_N = 4.4482216152605;
const KILOGRAM_FORCE_N = 9.80665;

interface UnitDefinition {
  readonly kind: QuantityKind;
  /** Multiply by this to reach the base unit of the kind. */
  readonly toBase: number;
  readonly spellings: readonly string[];
}

const UNITS: Readonly<Record<Unit, UnitDefinition>> = {
  mm: { kind: 'length', toBase: 1, spellings: ['mm', 'millimetre', 'millimetres', 'millimeters'] },
  in: { kind: 'length', toBase: INCH_MM, spellings: ['in', 'inch', 'inches', '"', '″'] },
  g: { kind: 'mass', toBase: 1, spellings: ['g', 'gram', 'grams'] },
  kg: { kind: 'mass', toBase: 1000, spellings: ['kg'] },
  oz: { kind: 'mass', toBase: POUND_G / 16, spellings: ['oz', 'ounce', 'ounces'] },
  lb: { kind: 'mass', toBase: POUND_G, spellings: ['lb', 'lbs', 'pound', 'pounds'] },
  deg: { kind: 'angle', toBase: 1, spellings: ['deg', '°', 'degree', 'degrees'] },
  'N·m': { kind: 'torque', toBase: 1, spellings: ['n·m', 'nm', 'n.m', 'n m'] },
  'lbf·ft': {
    kind: 'torque',
    toBase: POUND_FORCE_N * 12 * INCH_MM * 1e-3,
    spellings: ['lbf·ft', 'lbf.ft', 'ft·lbf', 'ft-lb', 'ft lb', 'lb-ft', 'lbft', 'ftlb'],
  },
  'lbf·in': {
    kind: 'torque',
    toBase: POUND_FORCE_N * INCH_MM * 1e-3,
    spellings: ['lbf·in', 'lbf.in', 'in·lbf', 'in-lb', 'in lb', 'lb-in', 'inlb'],
  },
  'kgf·m': {
    kind: 'torque',
    toBase: KILOGRAM_FORCE_N,
    spellings: ['kgf·m', 'kgf.m', 'kgfm', 'kg·m', 'kgm'],
  },
  'g·mm': { kind: 'unbalance', toBase: 1, spellings: ['g·mm', 'g.mm', 'gmm'] },
  'oz·in': {
    kind: 'unbalance',
    toBase: (POUND_G / 16) * INCH_MM,
    spellings: ['oz·in', 'oz.in', 'oz-in', 'ozin'],
  },
};

const BY_SPELLING: ReadonlyMap<string, Unit> = new Map(
  (Object.keys(UNITS) as Unit[]).flatMap((unit) =>
    UNITS[unit].spellings.map((spelling) => [spelling, unit] as const),
  ),
);

/**
 * The unit behind a spelling of it, if it is one.
 * @example unitSpelt('inches') // 'in'
 */
export const unitSpelt = (text: string): Unit | undefined =>
  BY_SPELLING.get(text.trim().toLowerCase());

/**
 * The kind of quantity a unit measures. Example: `kindOf('in')` is `'length'`.
 * @example kindOf('in') // 'length'
 */
export function kindOf(unit: Unit): QuantityKind {
  return UNITS[unit].kind;
}

/**
 * Converts between two units of one kind. Errors: `unit` when the kinds differ, `value` when not finite.
 * Example: `convert(1, 'in', 'mm')` is 25.4; `convert(5, 'kgf·m', 'lbf·ft')` is 36.17.
 * @example convert(5, 'kgf·m', 'lbf·ft') // 36.17
 */
export function convert(value: number, from: Unit, to: Unit): number {
  const source = UNITS[from];
  const target = UNITS[to];
  if (source.kind !== target.kind) {
    throw new BenchError(
      'unit',
      $localize`${from} measures ${named(source.kind)}, not ${named(target.kind)}`,
    );
  }
  if (from === to) return finite('value', value);
  return (finite('value', value) * source.toBase) / target.toBase;
}

/** A value as somebody typed it, read into the base unit of its kind. */
export interface ParsedQuantity {
  /** In the base unit of the kind: mm, g, degrees, N·m or g·mm. */
  readonly value: number;
  readonly unit: Unit;
}

const NUMBER = String.raw`(?:\d+(?:[.,]\d+)?|[.,]\d+)`;
const FRACTION = String.raw`(\d+)\s*\/\s*(\d+)`;
const ENTRY = new RegExp(
  String.raw`^([+-]?)\s*(?:${FRACTION}|(${NUMBER})(?:(?:\s+|-)${FRACTION})?)\s*(.*)$`,
);

/** A calculator's way to write a figure; nobody at a bench does, and its `e9` is no unit. */
const EXPONENT = /\de[+-]?\d/;

/**
 * Reads what a person types into a reading field: decimals with point or comma, fractions of an inch
 * (`1/8`, `2 1/2`, `2-1/2 in`), with or without a unit. A bare number takes `assumed`.
 *
 * Errors: `field` when nothing was typed, when it is not a number, when a fraction divides by zero, and when
 * the unit typed measures something else.
 * Example: `parseQuantity('2 1/2 in', 'mm', 'width')` is `{ value: 63.5, unit: 'in' }`.
 * @example parseQuantity('2 1/2 in', 'mm', 'width').value // 63.5
 */
export function parseQuantity(text: string, assumed: Unit, field = 'value'): ParsedQuantity {
  const kind = kindOf(assumed);
  const trimmed = text.trim().toLowerCase();
  if (trimmed === '')
    throw new BenchError(field, $localize`is empty: type a number, or leave the reading out`);
  const match = EXPONENT.test(trimmed) ? null : ENTRY.exec(trimmed);
  if (!match) {
    throw new BenchError(
      field,
      $localize`is not a number: type it like 51.2 or 2 1/2, unit after it`,
      text,
    );
  }
  const [, sign, aloneUpper, aloneLower, whole, upper, lower, rest] = match;
  const divisor = Number(lower ?? aloneLower ?? 1);
  if (divisor === 0) throw new BenchError(field, $localize`has a fraction over zero`, text);
  const fraction = Number(upper ?? aloneUpper ?? 0) / divisor;
  const magnitude = Number((whole ?? '0').replace(',', '.')) + fraction;
  const spelling = (rest ?? '').trim();
  const unit = spelling === '' ? assumed : BY_SPELLING.get(spelling);
  if (!unit) {
    throw new BenchError(
      field,
      $localize`has a unit that is not known here: use ${unitsOf(kind).join(', ')}`,
      text,
    );
  }
  if (kindOf(unit) !== kind) {
    throw new BenchError(
      field,
      $localize`is in ${unit}, which measures ${named(kindOf(unit))}:ph1:: use ${unitsOf(kind).join(', ')}`,
      text,
    );
  }
  return { value: (sign === '-' ? -1 : 1) * magnitude * UNITS[unit].toBase, unit };
}

/**
 * Every unit in which a kind can be typed, base unit first.
 * @example unitsOf('mass').includes('g') // true
 */
export function unitsOf(kind: QuantityKind): Unit[] {
  return (Object.keys(UNITS) as Unit[]).filter((unit) => UNITS[unit].kind === kind);
}

/**
 * Torque from one stored figure in all units the trade uses. Example: 5 kgf·m is 36.2 lbf·ft.
 * @example torqueIn(49.03325)['lbf·ft'] // 36.2
 */
export function torqueIn(
  torqueNm: number,
): Readonly<Record<'N·m' | 'lbf·ft' | 'lbf·in' | 'kgf·m', number>> {
  return {
    'N·m': finite('torqueNm', torqueNm),
    'lbf·ft': convert(torqueNm, 'N·m', 'lbf·ft'),
    'lbf·in': convert(torqueNm, 'N·m', 'lbf·in'),
    'kgf·m': convert(torqueNm, 'N·m', 'kgf·m'),
  };
}
