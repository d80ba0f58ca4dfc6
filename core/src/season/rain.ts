import { DAY_MS } from '../units/day.js';
import { BenchError, between, notNegative } from '../errors.js';
import type { Chance } from '../math/chance.js';

/**
 * Days the mowers stay in the shed. A day's rain depends on the day before: a two-state chain with its own chances
 * in each calendar month (Gabriel & Neumann 1962, Q. J. R. Meteorol. Soc. 88, from memory). Its chances are counted
 * from an open series of daily rain, or one share is given for every day.
 */
export interface MonthsRain {
  /** Chance of a wet day after a dry one, and after a wet one. */
  readonly afterDry: number;
  readonly afterWet: number;
}

/** A chain for each month, January first. */
export type RainModel = readonly MonthsRain[];

export interface DailyRain {
  /** Calendar day, `2012-01-31`. */
  readonly day: string;
  readonly rainMm: number;
}

const MONTHS = 12;

/**
 * No day is kept dry or wet by the day before: every day is wet with the same chance.
 * Errors: `share` outside 0 to 1.
 * @example steadyRain(0.2)[0] // { afterDry: 0.2, afterWet: 0.2 }
 */
export function steadyRain(share: number): RainModel {
  between('share', share, 0, 1);
  return Array.from({ length: MONTHS }, () => ({ afterDry: share, afterWet: share }));
}

/**
 * Counts the chain's chances from a daily series: a day is wet from `wetFromMm` on. Pairs of days that do not follow
 * each other are left out; a month nobody has a day of has the chances of the whole year.
 * Errors: `days` fewer than sixty, a day that is no day, rain below none.
 * @example rainFrom(year, 2).length // 12
 */
export function rainFrom(days: readonly DailyRain[], wetFromMm: number): RainModel {
  notNegative('wetFromMm', wetFromMm);
  if (days.length < 60) {
    throw new BenchError('days', $localize`must cover two months at least`, days.length);
  }
  const count = Array.from({ length: MONTHS + 1 }, () => ({
    dry: 0,
    dryThenWet: 0,
    wet: 0,
    wetThenWet: 0,
  }));
  let before: { at: number; wet: boolean } | undefined;
  for (const { day, rainMm } of days) {
    const at = Date.parse(`${day}T00:00:00Z`);
    if (!Number.isFinite(at)) throw new BenchError('day', $localize`must be like 2012-01-31`, day);
    const wet = notNegative('rainMm', rainMm) >= wetFromMm;
    if (before && at - before.at === DAY_MS) {
      for (const cell of [count[new Date(at).getUTCMonth()], count[MONTHS]]) {
        if (!cell) continue;
        cell[before.wet ? 'wet' : 'dry'] += 1;
        if (wet) cell[before.wet ? 'wetThenWet' : 'dryThenWet'] += 1;
      }
    }
    before = { at, wet };
  }
  const whole = count[MONTHS];
  return count.slice(0, MONTHS).map((month) => ({
    afterDry: shareOf(month.dryThenWet, month.dry, shareOf(whole?.dryThenWet, whole?.dry, 0)),
    afterWet: shareOf(month.wetThenWet, month.wet, shareOf(whole?.wetThenWet, whole?.wet, 0)),
  }));
}

const shareOf = (part = 0, all = 0, otherwise: number): number =>
  all === 0 ? otherwise : part / all;

/**
 * Share of wet days in the long run of one month's chain: afterDry / (1 + afterDry − afterWet).
 * @example wetShare({ afterDry: 0.2, afterWet: 0.6 }) // 0.333333
 */
export const wetShare = ({ afterDry, afterWet }: MonthsRain): number =>
  afterDry === 0 ? 0 : afterDry / (1 + afterDry - afterWet);

/**
 * Wet days of a season; `months` holds each day's calendar month, 0 to 11.
 * @example drawWetDays(steadyRain(1), [0, 0], chanceFrom(1)) // [true, true]
 */
export function drawWetDays(
  model: RainModel,
  months: readonly number[],
  chance: Chance,
): readonly boolean[] {
  let wet = false;
  return months.map((month, i) => {
    const here = model[month] ?? { afterDry: 0, afterWet: 0 };
    const share = i === 0 ? wetShare(here) : wet ? here.afterWet : here.afterDry;
    wet = share > 0 && chance.unit() < share;
    return wet;
  });
}
