import { BenchError, strictlyBetween } from '../errors.js';
import { specWear, type FleetWear } from './fleet-wear.js';
import type { PastCount, Guard, LifeGuard } from './guard.js';
import { stratumOf } from './past-forecasts.js';
import { bladeFutures, quantile, type Futures, type LifeQuestion } from './paths.js';

/** Grinds or hours until the first limit: the middle, and the ends of the 80 % interval, both of them in it. */
export interface LifeSpan {
  readonly median: number;
  readonly low: number;
  readonly high: number;
  /** The chance the model itself gives to the whole interval; of whole grinds it is seldom just 80 %. */
  readonly chance: number;
  /** How the shop's past forecasts of such blades came out. */
  readonly past: PastCount;
}

export interface LifeLeft {
  readonly grinds: LifeSpan;
  readonly hours: LifeSpan;
  /** The key of the limit that is likely to come first. */
  readonly first: string;
  /** No blade of this spec has a history: the figures are what shops usually see, and promise nothing. */
  readonly guess: boolean;
}

function spanOf(sorted: readonly number[], guard: Guard): LifeSpan {
  const [low, high] = [quantile(sorted, guard.low), quantile(sorted, guard.high)];
  return {
    median: quantile(sorted, 0.5),
    low,
    high,
    chance: sorted.filter((each) => each >= low && each <= high).length / sorted.length,
    past: guard.past,
  };
}

/**
 * Futures of a blade as a forecast, read at the levels that the shop's past has shown to hold.
 * @example lifeSpans(futures, 3, lives.guard).grinds.median // 2
 */
export function lifeSpans(
  futures: Futures,
  grindsKnown: number,
  guard: LifeGuard,
): Omit<LifeLeft, 'guess'> {
  const stratum = stratumOf(grindsKnown);
  return {
    grinds: spanOf(futures.grinds, guard.grinds[stratum]),
    hours: spanOf(futures.hours, guard.hours[stratum]),
    first: futures.first,
  };
}

/**
 * Life left until the first limit is met. A grind counts while it leaves the blade inside every limit; hours
 * run until the grind that does not.
 *
 * Errors: `rooms` when there is nothing that could end the blade, otherwise the field that is wrong.
 * @example lifeLeft(lives.fleet, { wear, rooms: [{ key: 'wing:A', roomMm: 2, u: 0 }] }, lives.guard).guess // true
 */
export function lifeLeft(fleet: FleetWear, question: LifeQuestion, guard: LifeGuard): LifeLeft {
  if (question.rooms.length === 0 && question.grindsAllowed === undefined)
    throw new BenchError('rooms', $localize`must hold at least one limit`);
  const { specId, steps } = question.wear;
  return {
    ...lifeSpans(bladeFutures(fleet, question), steps.length, guard),
    guess: specWear(fleet, 'edge', specId).blades === 0,
  };
}

/**
 * Interval score of a central interval at level 1 − α: its width plus 2/α for every unit by which the truth
 * lies outside. Small is good (Gneiting & Raftery 2007, J. Am. Stat. Assoc. 102, eq. 43, from memory).
 * Example: 80 % interval 10 to 20, truth 22: 10 + 10·2 = 30.
 * @example intervalScore(10, 20, 22) // 30
 */
export function intervalScore(low: number, high: number, truth: number, alpha = 0.2): number {
  strictlyBetween('alpha', alpha, 0, 1);
  const outside = Math.max(0, low - truth, truth - high);
  return high - low + (2 / alpha) * outside;
}
