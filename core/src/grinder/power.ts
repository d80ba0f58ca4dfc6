import { positive } from '../errors.js';

/** Something that is plugged in. What it asks for at its start is its plate's or measured; nothing where nobody knows. */
export interface Load {
  readonly name: string;
  readonly runW: number;
  readonly startW?: number | undefined;
}

/** A generator's or a circuit's plate: what it gives on and on, and for a moment. */
export interface Supply {
  readonly ratedW: number;
  readonly surgeW: number;
}

/** A motor asks for two to three times its running power as it starts. Common practice, no source. */
const START_TIMES = [2, 3] as const;

export type Holds = 'holds' | 'may-trip' | 'trips';

export interface Start {
  readonly holds: Holds;
  /** Asked for at the moment of the start, with what runs already: at least and at most, W. */
  readonly fromW: number;
  readonly toW: number;
  /** And from then on, W. */
  readonly runW: number;
}

/**
 * Whether a supply holds while a load is started beside others that run: it trips where what it has to give on and on, or
 * the least that the start may ask for, is more than its plate; it may trip where only the most is.
 * Errors: a power that is not above zero, by name.
 * @example startOf({ name: 'Belt', runW: 1100 }, [], { ratedW: 2000, surgeW: 2500 }).holds // 'may-trip'
 */
export function startOf(load: Load, running: readonly Load[], supply: Supply): Start {
  const runW = positive('runW', load.runW);
  const beside = running.reduce((sum, each) => sum + positive('runW', each.runW), 0);
  const [least, most] = START_TIMES.map((times) => load.startW ?? times * runW) as [number, number];
  const [fromW, toW] = [beside + least, beside + most];
  const { ratedW, surgeW } = supply;
  const holds =
    beside + runW > ratedW || fromW > surgeW ? 'trips' : toW > surgeW ? 'may-trip' : 'holds';
  return { holds, fromW, toW, runW: beside + runW };
}

const WORST: readonly Holds[] = ['holds', 'may-trip', 'trips'];

/** The best order of switching a grinder and what runs beside it, and how it stands in it. */
export interface Switching {
  /** Names, first switched first. */
  readonly order: readonly string[];
  readonly holds: Holds;
  /** The start that is worst in it. */
  readonly worst: string;
}

/**
 * In which order a grinder and what runs beside it are switched on so that the supply is asked for least: the largest
 * start first, while nothing else runs. No order is better: whatever starts last has everything else beside it, and
 * exchanging two neighbours for the larger start first never raises the higher of the two peaks.
 * @example switching({ name: 'Belt', runW: 700 }, [{ name: 'Lamp', runW: 60, startW: 60 }], { ratedW: 2000, surgeW: 2300 }).order // ['Belt', 'Lamp']
 */
export function switching(grinder: Load, beside: readonly Load[], supply: Supply): Switching {
  const over = ({ runW, startW = START_TIMES[1] * runW }: Load): number => startW - runW;
  const order = [grinder, ...beside].sort((a, b) => over(b) - over(a));
  const starts = order.map((load, i) => ({
    load,
    start: startOf(load, order.slice(0, i), supply),
  }));
  const worst = starts.reduce((a, b) =>
    WORST.indexOf(b.start.holds) > WORST.indexOf(a.start.holds) ? b : a,
  );
  return {
    order: order.map(({ name }) => name),
    holds: worst.start.holds,
    worst: worst.load.name,
  };
}
