import { ownWear, type OwnWear, type WearSpread } from './own-wear.js';
import {
  WEAR_READING_U,
  wearSeries,
  type BladeWear,
  type WearKind,
  type WearRates,
  type WearSeries,
} from './wear.js';
import type { End } from '../blade/shape.js';

/**
 * One grind as it was seen, relative to what the blade usually loses: how much each end lost, and how long
 * the blade had mown. Drawn whole, so that a nick brings the other end along, and a long interval its dull edge.
 */
export interface LibraryStep {
  readonly edge: Readonly<Record<End, number>>;
  readonly wing: Readonly<Record<End, number>>;
  readonly hours: number;
}

/** One spec's wear: the mean loss at each place over one exposure, mm, and how well its level is known. */
export interface SpecWear {
  readonly rates: WearRates;
  /** Variance of a new blade's level: from blade to blade, and the doubt about the spec's own mean. */
  readonly meanVariance: number;
  /** Blades with a history. */
  readonly blades: number;
}

/** What a shop's histories say about one kind of wear. */
export interface KindWear {
  readonly specs: ReadonlyMap<string, SpecWear>;
  /** For a spec without a history. */
  readonly unknown: SpecWear;
  readonly spreads: readonly WearSpread[];
}

export interface MeanInterval {
  readonly hours: number;
  readonly meanVariance: number;
}

/** How long blades mow from grind to grind: it varies from blade to blade and with the season, as wear does. */
export interface Intervals {
  /** Mean hours by spec, with the variance of that mean, relative. */
  readonly specs: ReadonlyMap<string, MeanInterval>;
  readonly unknown: MeanInterval;
  readonly spreads: readonly WearSpread[];
  /** How the edge's duty goes with that of the intervals, −1 to 1: dull months are often short ones. */
  readonly withEdge: number;
}

/** What a shop's histories say about wear, as figures. */
export interface WearFigures {
  readonly kinds: Readonly<Record<WearKind, KindWear>>;
  readonly hoursPerGrind: number;
  readonly intervals: Intervals;
  readonly blades: number;
}

/** What is the same for every blade's futures: the library's step and the news of each duty, by path and step. */
export interface FutureTables {
  readonly steps: Float64Array;
  readonly duty: readonly Float64Array[];
}

/** The same, ready to forecast with. */
export interface FleetWear extends WearFigures {
  readonly tables: FutureTables;
}

/**
 * The wear of a spec's blades; a spec without a history wears as the shop's do.
 * @example specWear(lives.fleet, 'edge', 's').blades // 0
 */
export const specWear = (fleet: WearFigures, kind: WearKind, specId: string): SpecWear =>
  fleet.kinds[kind].specs.get(specId) ?? fleet.kinds[kind].unknown;

/** Variance of a new blade's loss, in grinds' worth. */
export const freshVariance = (kind: WearKind, rates: WearRates): number =>
  (WEAR_READING_U[kind].fresh / rates.elsewhere) ** 2;

/** A blade's own wear of one kind under one of the fleet's spreads. */
export function ownWearIn(
  fleet: WearFigures,
  kind: WearKind,
  blade: BladeWear,
  spread: WearSpread,
): OwnWear {
  const { rates, meanVariance } = specWear(fleet, kind, blade.specId);
  return ownWear(
    wearSeries(blade, kind, rates, fleet.hoursPerGrind),
    spread,
    spread.levelSd ** 2 + meanVariance,
    freshVariance(kind, rates),
  );
}

/** A blade's intervals as a series of its own, in its spec's mean interval. Meters are taken as exact. */
export function intervalSeries({ steps }: BladeWear, meanHours: number): WearSeries {
  let run = 0;
  return {
    exposure: steps.map(() => 1),
    lost: steps.map(({ hours }) => (run += hours / meanHours)),
    noise: steps.map(() => 0),
  };
}

export const meanInterval = ({ intervals }: WearFigures, specId: string): MeanInterval =>
  intervals.specs.get(specId) ?? intervals.unknown;

/** A blade's own intervals under one of the fleet's spreads. */
export function ownIntervals(fleet: WearFigures, blade: BladeWear, spread: WearSpread): OwnWear {
  const { hours, meanVariance } = meanInterval(fleet, blade.specId);
  return ownWear(intervalSeries(blade, hours), spread, spread.levelSd ** 2 + meanVariance, 0);
}
