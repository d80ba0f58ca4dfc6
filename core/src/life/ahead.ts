import { BenchError, notNegative, positive } from '../errors.js';
import { poissonBinomial } from '../math/beta.js';
import type { Futures } from './paths.js';

/** A blade as far as buying goes: its futures, and how much it mows in a month. */
export interface BladeInUse {
  readonly futures: Futures;
  /** Other ends (damage) per mowing hour. */
  readonly otherEndsPerHour: number;
  /** Mowing hours per coming month; as many months as are asked for. */
  readonly hoursPerMonth: readonly number[];
}

/** Blades that will be gone in a month. */
export interface MonthsNeed {
  readonly expected: number;
  /** Not more than so many with 80 %. */
  readonly enough: number;
}

/** How many of sorted numbers are no more than so much. */
function countUpTo(sorted: readonly number[], most: number): number {
  let [from, to] = [0, sorted.length];
  while (from < to) {
    const middle = (from + to) >> 1;
    if ((sorted[middle] ?? Infinity) > most) to = middle;
    else from = middle + 1;
  }
  return from;
}

/**
 * The chance that a blade is still in use after so many mowing hours: neither worn out nor ended otherwise.
 * Errors: `hours` or `otherEndsPerHour` negative.
 * @example stillInUse(futures, 0, 30) // 0.5
 */
export function stillInUse({ hours }: Futures, otherEndsPerHour: number, after: number): number {
  notNegative('hours', after);
  const left = hours.length === 0 ? 0 : 1 - countUpTo(hours, after) / hours.length;
  return left * Math.exp(-notNegative('otherEndsPerHour', otherEndsPerHour) * after);
}

/** The same at the end of each coming month. */
function byMonth(blade: BladeInUse, months: number): number[] {
  let hours = 0;
  return Array.from({ length: positive('months', months) }, (_, month) => {
    hours += notNegative(`hoursPerMonth[${month}]`, blade.hoursPerMonth[month] ?? 0);
    return stillInUse(blade.futures, blade.otherEndsPerHour, hours);
  });
}

/** How many of things that end by themselves with these chances end in a month. */
function countOf(chances: readonly number[]): MonthsNeed {
  let sum = 0;
  const enough = poissonBinomial(chances).findIndex((chance) => (sum += chance) >= 0.8);
  return {
    expected: chances.reduce((all, chance) => all + chance, 0),
    enough: enough < 0 ? chances.length : enough,
  };
}

/** Month by month, how many of these reach their end in it. */
function endsByMonth(left: readonly (readonly number[])[], months: number): MonthsNeed[] {
  return Array.from({ length: months }, (_, month) =>
    countOf(
      left.map((each) => Math.min(1, Math.max(0, (each[month - 1] ?? 1) - (each[month] ?? 0)))),
    ),
  );
}

/**
 * Blades to buy by month: how many of these reach their end in each, expected and with 80 % certainty.
 * Example: ten blades worn out already are ten in the first month.
 * @example bladesToBuy([{ futures, otherEndsPerHour: 0, hoursPerMonth: [50] }], 1) // [{ expected: 1, enough: 1 }]
 */
export const bladesToBuy = (blades: readonly BladeInUse[], months: number): MonthsNeed[] =>
  endsByMonth(
    blades.map((blade) => byMonth(blade, months)),
    months,
  );

/** A set's outlook: the chance that it is still whole at the end of each month. */
export interface SetOutlook {
  readonly whole: readonly number[];
  /** The first month, from 0, in which it is more likely broken than whole; nothing while it is not. */
  readonly breaksIn: number | undefined;
}

/**
 * Sets by month: a set is whole while all its blades are in use, which end independently of each other.
 * Example: three blades at 0.9 each are a whole set at 0.729.
 * @example setOutlook([{ futures, otherEndsPerHour: 0, hoursPerMonth: [30] }], 1).whole // [0.5]
 */
export function setOutlook(blades: readonly BladeInUse[], months: number): SetOutlook {
  if (blades.length === 0) throw new BenchError('blades', $localize`must hold at least one`);
  const left = blades.map((blade) => byMonth(blade, months));
  const whole = Array.from({ length: months }, (_, month) =>
    left.reduce((all, each) => all * (each[month] ?? 0), 1),
  );
  const breaksIn = whole.findIndex((chance) => chance < 0.5);
  return { whole, breaksIn: breaksIn < 0 ? undefined : breaksIn };
}

/**
 * Sets that break by month, expected and with 80 % certainty.
 * @example setsBreaking([{ whole: [0.5], breaksIn: undefined }], 1)[0].expected // 0.5
 */
export const setsBreaking = (sets: readonly SetOutlook[], months: number): MonthsNeed[] =>
  endsByMonth(
    sets.map(({ whole }) => whole),
    months,
  );

/** When the next blade of some is gone: the first of them, the second, and so on. Times in months from now. */
export interface NextToGo {
  /** The chance that so many are gone by the end of the months looked at. */
  readonly chance: number;
  /** With one chance in ten it is gone by then, as likely as not, with nine in ten; nothing beyond the months. */
  readonly tenthAt: number | undefined;
  readonly evenAt: number | undefined;
  readonly nineTenthsAt: number | undefined;
  /** Place, among the blades asked about, of the one that is likely the next. */
  readonly likely: number;
}

/** When a chance that only grows reaches a mark, straight between the ends of months; 0 where it is there now. */
function reaches(chances: readonly number[], mark: number): number | undefined {
  const month = chances.findIndex((chance) => chance >= mark);
  if (month <= 0) return month < 0 ? undefined : 0;
  const [before = 0, after = 0] = chances.slice(month - 1, month + 1);
  return month - (after - mark) / (after - before);
}

/**
 * One after the other, when so many of these blades are gone; as far as one is gone by the end of the months with at least
 * `leastChance`. They end independently of each other, so the number gone is Poisson binomial.
 * @example nextToGo([{ futures, otherEndsPerHour: 0, hoursPerMonth: [30] }], 1, 0.1)[0].evenAt // 1
 */
export function nextToGo(
  blades: readonly BladeInUse[],
  months: number,
  leastChance: number,
): NextToGo[] {
  const left = blades.map((blade) => [
    stillInUse(blade.futures, blade.otherEndsPerHour, 0),
    ...byMonth(blade, months),
  ]);
  /** By the end of each month, from now on: the chance that at least so many are gone. */
  const atLeast = Array.from({ length: months + 1 }, (_, month) => {
    let more = 0;
    return poissonBinomial(left.map((each) => Math.min(1, Math.max(0, 1 - (each[month] ?? 0)))))
      .reverse()
      .map((chance) => (more += chance))
      .reverse();
  });
  const soonest = left
    .map((each, i) => ({ i, stays: each.reduce((sum, chance) => sum + chance, 0) }))
    .sort((a, b) => a.stays - b.stays);
  return soonest.flatMap(({ i }, place) => {
    const chances = atLeast.map((each) => each[place + 1] ?? 0);
    const chance = chances.at(-1) ?? 0;
    if (chance < leastChance) return [];
    const [tenthAt, evenAt, nineTenthsAt] = [0.1, 0.5, 0.9].map((mark) => reaches(chances, mark));
    return [{ chance, tenthAt, evenAt, nineTenthsAt, likely: i }];
  });
}
