import { DAY_MS } from './day.js';
import { language } from '../language.js';
import { shownIn, type Show, type UnitSystem } from './said.js';
import type { Unit } from './units.js';

/** How a shop writes its days and figures. */
export interface Written {
  readonly dates: 'day-first' | 'month-first' | 'year-first';
  readonly decimal: 'point' | 'comma';
}

/** What the engine made once for a form: making it takes eighteen times as long (measured) as finding it here and writing a figure. */
const made = new Map<string, Intl.NumberFormat | Intl.DateTimeFormat>();
function once<Format extends Intl.NumberFormat | Intl.DateTimeFormat>(
  kind: new (locale: string, options: object) => Format,
  locale: string,
  options: object,
): Format {
  const key = `${locale} ${JSON.stringify(options)}`;
  const format = made.get(key) ?? new kind(locale, options);
  made.set(key, format);
  return format as Format;
}

type Locales = Readonly<Record<Written['dates'], string>>;

/** The form of a locale stands for the form a shop picked, its words for the language. */
const ENGLISH: Locales = { 'day-first': 'en-GB', 'month-first': 'en-US', 'year-first': 'sv-SE' };
const DATES: Readonly<Record<string, Locales>> = {
  es: { 'day-first': 'es-ES', 'month-first': 'es-PR', 'year-first': 'sv-SE' },
};
/**
 * The locale whose form a shop's dates have.
 * @example dateLocale({ dates: 'month-first', decimal: 'point' }) // 'en-US'
 */
export const dateLocale = ({ dates }: Written): string => (DATES[language()] ?? ENGLISH)[dates];

const DECIMAL: Readonly<Record<Written['decimal'], string>> = { point: 'en-GB', comma: 'de-DE' };
/** ISO 4217's code for no currency. */
const NO_CURRENCY = 'XXX';

/**
 * A number with its decimals. Numbers from 10,000 on are grouped.
 * @example numberIn({ dates: 'day-first', decimal: 'comma' }, 51.24, 1) // '51,2'
 */
export const numberIn = ({ decimal }: Written, value: number, digits = 0): string =>
  once(Intl.NumberFormat, DECIMAL[decimal], {
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
    useGrouping: Math.abs(value) >= 10_000,
    // A sign before a rounded nothing says nothing.
    signDisplay: 'negative',
  }).format(value);

/**
 * An amount in a currency by its ISO 4217 code.
 * @example moneyIn({ dates: 'day-first', decimal: 'point' }, 18, 'GBP') // '£18.00'
 */
export const moneyIn = (
  { decimal }: Written,
  amount: number,
  currency: string,
  digits = 2,
): string =>
  once(Intl.NumberFormat, DECIMAL[decimal], {
    style: 'currency',
    currency: /^[A-Z]{3}$/.test(currency) ? currency : NO_CURRENCY,
    currencyDisplay: 'narrowSymbol',
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  }).format(amount);

/**
 * Several things in one sentence, as the reader's language joins them.
 * @example listed(['Monday', 'Friday', 'Sunday']) // 'Monday, Friday and Sunday'
 */
export const listed = (words: readonly string[], joined: 'and' | 'or' = 'and'): string =>
  new Intl.ListFormat(language() === 'en' ? 'en-GB' : language(), {
    type: joined === 'and' ? 'conjunction' : 'disjunction',
  }).format(words);

/** A Monday: days of the week are counted from it. */
const A_MONDAY = Date.UTC(2026, 5, 1);
/**
 * A day of the week within a sentence, 1 for Monday.
 * @example weekdayIn(4) // 'Thursday'
 */
export const weekdayIn = (day: number): string =>
  new Intl.DateTimeFormat(language(), { weekday: 'long', timeZone: 'UTC' }).format(
    A_MONDAY + (day - 1) * DAY_MS,
  );

/** What of a moment is written. */
export interface MomentParts {
  readonly day?: 'numeric';
  readonly month?: 'short';
  readonly year?: 'numeric';
  readonly hour?: '2-digit';
  readonly minute?: '2-digit';
}
export const DAY: MomentParts = { day: 'numeric', month: 'short' };
export const FULL_DAY: MomentParts = { ...DAY, year: 'numeric' };

/**
 * A stored UTC time as the shop's own clock and calendar have it.
 * @example momentIn({ dates: 'day-first', decimal: 'point' }, 'Europe/London', '2026-11-03T10:00:00Z', { day: 'numeric', month: 'short', year: 'numeric' }) // '3 Nov 2026'
 */
export function momentIn(
  written: Written,
  timeZone: string,
  instant: string,
  parts: MomentParts,
): string {
  const numeric = written.dates === 'year-first' && parts.month !== undefined;
  return once(Intl.DateTimeFormat, dateLocale(written), {
    ...parts,
    ...(numeric ? { year: 'numeric', month: '2-digit', day: '2-digit' } : {}),
    timeZone,
  }).format(new Date(instant));
}

const MARK: Partial<Record<Unit, string>> = { deg: '°' };

/**
 * How a unit is written after its number.
 * @example markOf('deg') // '°'
 */
export const markOf = (unit: Unit): string => MARK[unit] ?? unit;

/**
 * Quantities as a reader of one unit system finds them in a shop's form.
 * @example showIn('inch', { dates: 'day-first', decimal: 'comma' })(50.8, 'mm', 1) // '2,000 in'
 */
export const showIn =
  (system: UnitSystem, written: Written): Show =>
  (value, base, digits = 1) => {
    const shown = shownIn(system, value, base, digits);
    const mark = markOf(shown.unit);
    return `${numberIn(written, shown.value, shown.digits)}${mark === '°' ? '' : ' '}${mark}`;
  };
