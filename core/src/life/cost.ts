import { notNegative } from '../errors.js';

/** What a blade has cost so far, and what an hour mown with it comes to. */
export interface BladeCost {
  readonly blade: number;
  readonly bench: number;
  readonly abrasive: number;
  readonly total: number;
  /** Absent while it has mowed nothing. */
  readonly perHour?: number;
}

/** Prices of blades: the usual one, and those of specs that cost something else. */
export interface BladePrices {
  readonly blade: number;
  readonly bladeOf?: Readonly<Record<string, number>> | undefined;
}

/**
 * What a blade of a spec costs. Shop figures, no source.
 * @example bladePrice({ blade: 18, bladeOf: { wide: 26 } }, 'wide') // 26
 */
export const bladePrice = ({ blade, bladeOf }: BladePrices, specId: string): number =>
  bladeOf?.[specId] ?? blade;

/**
 * A blade's cost so far, in the shop's own money: its price, the minutes of its grinds at the bench, their abrasive.
 * Shop figures, no source. Errors: `grinds`, `hours` or a price negative.
 * @example bladeCost({ blade: 18, minutesPerBlade: 12, benchHour: 30, abrasivePerGrind: 0.5 }, 4, 100).total // 44
 */
export function bladeCost(
  prices: {
    readonly blade: number;
    readonly minutesPerBlade: number;
    readonly benchHour: number;
    readonly abrasivePerGrind: number;
  },
  grinds: number,
  hours: number,
): BladeCost {
  const blade = notNegative('blade', prices.blade);
  const minutes = notNegative('minutesPerBlade', prices.minutesPerBlade);
  const bench =
    (notNegative('grinds', grinds) * minutes * notNegative('benchHour', prices.benchHour)) / 60;
  const abrasive = grinds * notNegative('abrasivePerGrind', prices.abrasivePerGrind);
  const total = blade + bench + abrasive;
  return {
    blade,
    bench,
    abrasive,
    total,
    ...(notNegative('hours', hours) > 0 ? { perHour: total / hours } : {}),
  };
}
