import { BenchError } from '../errors.js';
import { seasonMonths, type Season, type SeasonOutcome } from './shape.js';
import { simulateSeason } from './season.js';

/** A mean over seasons, and the ends of the interval that holds four of five. */
export interface Spread {
  readonly mean: number;
  readonly low: number;
  readonly high: number;
}

/** What seasons of one choice come to. Shares 0 to 1, times in hours and days. */
export interface SeasonSummary {
  readonly seasons: number;
  readonly dullShare: Spread;
  readonly mownH: Spread;
  readonly dullH: Spread;
  readonly stoppedH: Spread;
  readonly rainDays: Spread;
  readonly strikes: Spread;
  readonly waits: Spread;
  readonly waitDays: Spread;
  readonly grinds: Spread;
  /** Of the bench's room, what was ground. */
  readonly benchShare: Spread;
  readonly bought: Spread;
  readonly boughtByMonth: readonly { readonly month: string; readonly blades: Spread }[];
  readonly dullShareByMower: Readonly<Record<string, number>>;
}

/** What things cost, in the shop's own money. */
export interface SeasonPrices {
  readonly blade: number;
  /** Minutes at the bench for one blade, and what an hour of it costs. */
  readonly minutesPerBlade: number;
  readonly benchHour: number;
  readonly abrasivePerGrind: number;
  /** What an hour mown dull costs in fuel and second passes, and an hour a mower stands. */
  readonly dullHour: number;
  readonly stoppedHour: number;
}

export interface SeasonCost {
  readonly blades: number;
  readonly bench: number;
  readonly abrasive: number;
  readonly dull: number;
  readonly stopped: number;
  readonly total: number;
}

const sum = (values: readonly number[]): number => values.reduce((all, each) => all + each, 0);

function spreadOf(values: readonly number[]): Spread {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.round(share * (sorted.length - 1))] ?? 0;
  return { mean: sum(values) / Math.max(1, values.length), low: at(0.1), high: at(0.9) };
}

/**
 * Seasons taken together: means, and the interval that holds four of five.
 * Errors: `outcomes` empty.
 * @example summariseSeasons(season, [simulateSeason(season, 1)]).seasons // 1
 */
export function summariseSeasons(
  season: Season,
  outcomes: readonly SeasonOutcome[],
): SeasonSummary {
  if (outcomes.length === 0)
    throw new BenchError('outcomes', $localize`must hold at least one season`);
  const spread = (of: (outcome: SeasonOutcome) => number): Spread => spreadOf(outcomes.map(of));
  return {
    seasons: outcomes.length,
    dullShare: spread(({ dullH, mownH }) => (mownH === 0 ? 0 : dullH / mownH)),
    mownH: spread(({ mownH }) => mownH),
    dullH: spread(({ dullH }) => dullH),
    stoppedH: spread(({ stoppedH }) => stoppedH),
    rainDays: spread(({ rainDays }) => rainDays),
    strikes: spread(({ strikes }) => strikes),
    waits: spread(({ waits }) => waits),
    waitDays: spread(({ waitDays }) => waitDays),
    grinds: spread(({ grinds }) => grinds),
    benchShare: spread(({ grinds, benchRoom }) => (benchRoom === 0 ? 0 : grinds / benchRoom)),
    bought: spread(({ wornOut, damaged }) => wornOut + damaged),
    boughtByMonth: seasonMonths(season).map((month, i) => ({
      month,
      blades: spread(({ boughtByMonth }) => boughtByMonth[i] ?? 0),
    })),
    dullShareByMower: Object.fromEntries(
      season.mowers.map(({ key }) => {
        const of = (what: 'mownH' | 'dullH'): number =>
          sum(outcomes.map(({ dullByMower }) => dullByMower[key]?.[what] ?? 0));
        return [key, of('mownH') === 0 ? 0 : of('dullH') / of('mownH')];
      }),
    ),
  };
}

/**
 * Many seasons of one choice, seed after seed. Every choice of one comparison starts from the same seed, so all meet
 * the same weather and the same stones. Errors: `seasons` below one, and those of {@link simulateSeason}.
 * @example simulateSeasons({ ...season, days: 28 }, 3, 1).dullH.mean // 72
 */
export function simulateSeasons(season: Season, seasons: number, seed: number): SeasonSummary {
  if (!(seasons >= 1)) throw new BenchError('seasons', $localize`must be at least one`, seasons);
  const outcomes = Array.from({ length: seasons }, (_, i) => simulateSeason(season, seed + i));
  return summariseSeasons(season, outcomes);
}

/** What drives the cost of a season. */
interface Costed {
  readonly bought: number;
  readonly grinds: number;
  readonly dullH: number;
  readonly stoppedH: number;
}

function costOf({ bought, grinds, dullH, stoppedH }: Costed, prices: SeasonPrices): SeasonCost {
  const blades = bought * prices.blade;
  const bench = grinds * (prices.minutesPerBlade / 60) * prices.benchHour;
  const abrasive = grinds * prices.abrasivePerGrind;
  const dull = dullH * prices.dullHour;
  const stopped = stoppedH * prices.stoppedHour;
  return {
    blades,
    bench,
    abrasive,
    dull,
    stopped,
    total: blades + bench + abrasive + dull + stopped,
  };
}

/**
 * What a mean season costs. Errors: none; a price of nothing costs nothing.
 * @example seasonCost({ ...simulateSeasons({ ...season, days: 28 }, 1, 1) }, { blade: 0, minutesPerBlade: 0, benchHour: 0, abrasivePerGrind: 0, dullHour: 2, stoppedHour: 0 }).total // 144
 */
export const seasonCost = (
  { bought, grinds, dullH, stoppedH }: SeasonSummary,
  prices: SeasonPrices,
): SeasonCost =>
  costOf(
    { bought: bought.mean, grinds: grinds.mean, dullH: dullH.mean, stoppedH: stoppedH.mean },
    prices,
  );

/** By how much one choice differs from another, season by season. */
export interface SeasonDifference {
  readonly dullShare: Spread;
  readonly cost: Spread;
}

/**
 * One choice against another: the same seed is the same season for both, so each difference is the choice's own.
 * Errors: `outcomes` when not as many for both.
 * @example seasonDifference([], [], { blade: 0, minutesPerBlade: 0, benchHour: 0, abrasivePerGrind: 0, dullHour: 2, stoppedHour: 0 }).cost.mean // 0
 */
export function seasonDifference(
  from: readonly SeasonOutcome[],
  outcomes: readonly SeasonOutcome[],
  prices: SeasonPrices,
): SeasonDifference {
  if (from.length !== outcomes.length)
    throw new BenchError(
      'outcomes',
      $localize`must be as many as they are held against`,
      outcomes.length,
    );
  const apart = (of: (outcome: SeasonOutcome) => number): Spread =>
    spreadOf(outcomes.map((outcome, i) => of(outcome) - of(from[i] ?? outcome)));
  return {
    dullShare: apart(({ dullH, mownH }) => (mownH === 0 ? 0 : dullH / mownH)),
    cost: apart(
      (outcome) => costOf({ ...outcome, bought: outcome.wornOut + outcome.damaged }, prices).total,
    ),
  };
}
