import { notNegative, positive } from '../errors.js';
import { COVERAGE_K, rss, type Measured } from '../reading/uncertainty.js';

/** What a tool costs in the shop's money: to buy, and for every blade. */
export interface ToolCost {
  readonly price: number;
  readonly minutesPerBlade: Measured;
  readonly abrasivePerBlade: Measured;
}

/** What an hour at the bench costs, and over how many years a tool is paid off. */
export interface PayOff {
  readonly benchHour: number;
  readonly years: number;
}

/**
 * What a tool costs in a year of so many blades, with its doubt.
 * Errors: `years` not above zero, by name.
 * @example rounded(yearlyCost({ price: 1000, minutesPerBlade: { value: 6, u: 0 }, abrasivePerBlade: { value: 0.5, u: 0 } }, { benchHour: 30, years: 5 }, 100).value) // 550
 */
export function yearlyCost(
  { price, minutesPerBlade, abrasivePerBlade }: ToolCost,
  { benchHour, years }: PayOff,
  bladesAYear: number,
): Measured {
  const each = (minutesPerBlade.value * benchHour) / 60 + abrasivePerBlade.value;
  const u = rss((minutesPerBlade.u * benchHour) / 60, abrasivePerBlade.u);
  return {
    value: notNegative('price', price) / positive('years', years) + bladesAYear * each,
    u: bladesAYear * u,
  };
}

export interface BreakEven {
  /** Blades a year from which the dearer tool costs less; nothing where it never does. */
  readonly bladesAYear?: number | undefined;
  /** Within the doubt (k = 2) of what each blade saves; no end where that may be nothing. */
  readonly from?: number | undefined;
  readonly to?: number | undefined;
}

/**
 * From how many blades a year on the tool that is dearer to buy is the cheaper one: what it costs more, spread over the
 * years, by what it saves a blade. The doubt is that of the saving: its range (k = 2) gives the range of blades.
 * Arithmetic, no source needed.
 * @example breakEven({ price: 150, minutesPerBlade: { value: 12, u: 0 }, abrasivePerBlade: { value: 0.6, u: 0 } }, { price: 2400, minutesPerBlade: { value: 5, u: 0 }, abrasivePerBlade: { value: 0.6, u: 0 } }, { benchHour: 30, years: 5 }).bladesAYear // 128.571429
 */
export function breakEven(cheap: ToolCost, dear: ToolCost, payOff: PayOff): BreakEven {
  const more = (dear.price - cheap.price) / positive('years', payOff.years);
  const a = yearlyCost({ ...cheap, price: 0 }, payOff, 1);
  const b = yearlyCost({ ...dear, price: 0 }, payOff, 1);
  const [saves, u] = [a.value - b.value, rss(a.u, b.u)];
  const blades = (saving: number): number | undefined => (saving > 0 ? more / saving : undefined);
  return {
    bladesAYear: blades(saves),
    from: blades(saves + COVERAGE_K * u),
    to: blades(saves - COVERAGE_K * u),
  };
}
