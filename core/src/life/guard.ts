import type { FleetWear } from './fleet-wear.js';
import { learnWear } from './learn-wear.js';
import {
  LIFE_CLOCKS,
  pastForecasts,
  type BladeLife,
  type HistoryStratum,
  type LifeClock,
  type PastForecast,
} from './past-forecasts.js';

/** So many forecasts that came out just as foretold are counted beside the shop's own. */
const BELIEVED = 40;
/** The interval that is promised: with 80 %. */
export const LIFE_LEVELS = { low: 0.1, high: 0.9 };
/** With fewer decided forecasts than this nothing is said about how they came out. */
export const LEAST_JUDGED = 10;

/**
 * How a shop's past forecasts came out under the interval as it is read now. Of a young shop's blades those that ended
 * sooner have ended, and most still run: to count the ended ones alone would say too little good of it.
 */
export interface PastCount {
  readonly held: number;
  readonly sooner: number;
  readonly later: number;
  /** In use still, and not beyond the interval yet. */
  readonly running: number;
}

/** Where to read the ends of an 80 % interval, and how such intervals came out. */
export interface Guard {
  readonly low: number;
  readonly high: number;
  readonly past: PastCount;
}

export type LifeGuard = Readonly<Record<LifeClock, Readonly<Record<HistoryStratum, Guard>>>>;

const STRATA: readonly HistoryStratum[] = ['0-1', '2-4', '5+'];

/**
 * Share of past forecasts that came below each level, by Kaplan and Meier (1958, J. Am. Stat. Assoc. 53, from
 * memory): a blade still in use says only that it has outlived its level so far, and to leave it out
 * would make early ends too common. Returned as the levels at which that share is 10 and 90 %.
 */
export function levelsOf(past: readonly Pick<PastForecast, 'chance' | 'open'>[]): {
  low: number;
  high: number;
} {
  const all = [
    ...past.map(({ chance, open }) => ({ chance, open })),
    ...Array.from({ length: BELIEVED }, (_, i) => ({ chance: (i + 0.5) / BELIEVED, open: false })),
  ].sort((a, b) => a.chance - b.chance || Number(a.open) - Number(b.open));
  let left = 1;
  let low: number | undefined;
  let high: number | undefined;
  all.forEach(({ chance, open }, i) => {
    if (!open) left *= 1 - 1 / (all.length - i);
    if (low === undefined && 1 - left >= LIFE_LEVELS.low) low = chance;
    if (high === undefined && 1 - left >= LIFE_LEVELS.high) high = chance;
  });
  return { low: low ?? LIFE_LEVELS.low, high: high ?? 1 };
}

function guardOf(past: readonly PastForecast[]): Guard {
  const { low, high } = levelsOf(past);
  const count = (of: (each: PastForecast) => boolean): number => past.filter(of).length;
  const sooner = count(({ chance, open }) => !open && chance < low);
  const later = count(({ chance }) => chance > high);
  const running = count(({ chance, open }) => open && chance <= high);
  return {
    low,
    high,
    past: { held: past.length - sooner - later - running, sooner, later, running },
  };
}

/** A guard for every clock and length of history, from the forecasts of the shop's past. */
export const guardFrom = (past: readonly PastForecast[]): LifeGuard =>
  Object.fromEntries(
    LIFE_CLOCKS.map((clock) => [
      clock,
      Object.fromEntries(
        STRATA.map((stratum) => [
          stratum,
          guardOf(past.filter((each) => each.clock === clock && each.stratum === stratum)),
        ]),
      ),
    ]),
  ) as LifeGuard;

/** All that a shop's histories say: how its blades wear, and how far its forecasts may be believed. */
export interface LearnedLives {
  readonly fleet: FleetWear;
  readonly guard: LifeGuard;
}

/**
 * Learns both from the lives of a shop's blades; without any they are the usual ones.
 * @example learnLives([]).guard.hours['5+'].past.running // 0
 */
export const learnLives = (lives: readonly BladeLife[]): LearnedLives => ({
  fleet: learnWear(lives.filter(({ steps }) => steps.length > 0)),
  guard: guardFrom(pastForecasts(lives)),
});
