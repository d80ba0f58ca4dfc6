import { DAY_MS } from '../units/day.js';
import { BenchError, between, notNegative, positive } from '../errors.js';
import type { RainModel } from './rain.js';

/**
 * A season of mowing and grinding, day by day: every mower mows on its sharp set until that is dull, takes the next
 * ready one, and mows on dull where none is ready. The bench grinds on its days, as many blades as it can, whoever has
 * nothing ready first; a dull set still on its mower is ground overnight when the heap is done. Stones blunt an edge at
 * once, some of them end a blade, some stop the mower until its set is changed. Blades reach their last grind and are
 * bought anew. Mechanics by counting; the figures that drive it are the shop's own or common practice.
 */
export interface SeasonMower {
  readonly key: string;
  readonly name: string;
  /** Blades of one set. */
  readonly spindles: number;
  /** Sets it has, the one on it among them. */
  readonly sets: number;
  /** Mowing hours on a day it mows. */
  readonly hoursPerDay: number;
  /** Hours an edge stays sharp on its site: duty is in it. */
  readonly edgeLifeH: number;
  /** Hours after which its set is to be changed; when the edge is dull, where it is not said. */
  readonly changedAfterH?: number | undefined;
}

export interface Season {
  readonly mowers: readonly SeasonMower[];
  /** First calendar day, `2027-03-29`, and how many days. */
  readonly firstDay: string;
  readonly days: number;
  /** Weekdays, Monday 1: when mowers mow, and when the bench grinds. */
  readonly mowingWeekdays: readonly number[];
  readonly benchWeekdays: readonly number[];
  /** Blades the bench does in one of its days. */
  readonly benchBlades: number;
  /** Coefficient of variation of an edge's life: 0 exact, 1 as chance has it. */
  readonly edgeVariation: number;
  readonly strikesPer1000H: number;
  /** Share of the strikes that end one blade, and of those that stop the mower until its set is changed. */
  readonly damageShare: number;
  readonly stopShare: number;
  /** Grinds a blade lasts, and the coefficient of variation of that. */
  readonly grindsPerBlade: number;
  readonly grindsVariation: number;
  /** Blades are somewhere in their life when the season starts; otherwise they are new. */
  readonly startWorn: boolean;
  /** Days without mowing; none where it never rains. */
  readonly rain?: RainModel | undefined;
}

/** What a set on a mower was like for a while, for lanes over the season. Days from the first, with fractions. */
export interface SeasonSpan {
  readonly mowerKey: string;
  readonly set: number;
  readonly fromDay: number;
  readonly toDay: number;
  readonly state: 'sharp' | 'dull' | 'stopped';
  /** It ended where the blades struck something. */
  readonly struck: boolean;
}

export interface SeasonOutcome {
  readonly mownH: number;
  /** Of those, on a dull edge. */
  readonly dullH: number;
  /** Hours a mower stood after a strike because no set was ready. */
  readonly stoppedH: number;
  readonly rainDays: number;
  readonly strikes: number;
  /** Sets that went on in the place of a dull one. */
  readonly changes: number;
  /** Times a mower needed a ready set and there was none, and the days it waited in all. */
  readonly waits: number;
  readonly waitDays: number;
  /** Sets brought to the bench and ground there, the days they lay there in all, and the time integral of their number. */
  readonly setsIn: number;
  readonly setsGround: number;
  readonly setDays: number;
  readonly heapDays: number;
  readonly grinds: number;
  /** Blades the bench had room for on all its days. */
  readonly benchRoom: number;
  /** Blades at their last grind or ended by a strike: each is bought anew. */
  readonly wornOut: number;
  readonly damaged: number;
  /** Bought in each calendar month of the season, in its order. */
  readonly boughtByMonth: readonly number[];
  readonly dullByMower: Readonly<
    Record<string, { readonly mownH: number; readonly dullH: number }>
  >;
}

export function check(season: Season): void {
  if (!Number.isInteger(season.days) || season.days < 1) {
    throw new BenchError(
      'days',
      $localize`must be at least one: a season of no days shows nothing`,
      season.days,
    );
  }
  if (season.mowers.length === 0) throw new BenchError('mowers', $localize`must hold at least one`);
  if (!Number.isFinite(Date.parse(`${season.firstDay}T00:00:00Z`))) {
    throw new BenchError('firstDay', $localize`must be a day like 2027-03-29`, season.firstDay);
  }
  for (const { spindles, sets, hoursPerDay, edgeLifeH, changedAfterH } of season.mowers) {
    positive('spindles', spindles);
    positive('sets', sets);
    between('hoursPerDay', hoursPerDay, 0, 24);
    positive('edgeLifeH', edgeLifeH);
    if (changedAfterH !== undefined) positive('changedAfterH', changedAfterH);
  }
  notNegative('benchBlades', season.benchBlades);
  notNegative('edgeVariation', season.edgeVariation);
  notNegative('strikesPer1000H', season.strikesPer1000H);
  between('damageShare', season.damageShare, 0, 1);
  between('stopShare', season.stopShare, 0, 1);
  positive('grindsPerBlade', season.grindsPerBlade);
  notNegative('grindsVariation', season.grindsVariation);
}

/** Weekday (Monday 1) and month (January 0) of each day of a season, and its place among the season's months. */
export function calendarOf({ firstDay, days }: Season): {
  readonly weekdays: readonly number[];
  readonly months: readonly number[];
  readonly monthNames: readonly string[];
  readonly monthIndex: readonly number[];
} {
  const start = Date.parse(`${firstDay}T00:00:00Z`);
  const dates = Array.from({ length: days }, (_, i) => new Date(start + i * DAY_MS));
  const names = dates.map((date) => date.toISOString().slice(0, 7));
  const monthNames = [...new Set(names)];
  return {
    weekdays: dates.map((date) => date.getUTCDay() || 7),
    months: dates.map((date) => date.getUTCMonth()),
    monthNames,
    monthIndex: names.map((name) => monthNames.indexOf(name)),
  };
}

/**
 * The calendar months a season touches, `2027-03` first.
 * @example seasonMonths({ ...season, firstDay: '2027-03-29', days: 10 }) // ['2027-03', '2027-04']
 */
export const seasonMonths = (season: Season): readonly string[] => calendarOf(season).monthNames;
