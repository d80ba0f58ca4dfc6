import type { End } from '../blade/shape.js';
import { BenchError, notNegative } from '../errors.js';

/** What wears: the edge goes grind by grind, the wing hour by hour. */
export type WearKind = 'edge' | 'wing';
export const WEAR_KINDS: readonly WearKind[] = ['edge', 'wing'];

/** A place that wears toward a limit. */
export interface WearPlace {
  readonly kind: WearKind;
  readonly end: End;
  /** Places of one family wear alike, whichever end they are on: `width:tip`, `wing`. */
  readonly family: string;
}

/** One finished grind in a blade's history. */
export interface WearStep {
  /** When it was signed off, ms since 1970. */
  readonly at: number;
  /** Hours mown since the grind before it. */
  readonly hours: number;
  /** Lost since new, mm, at each place that was read at this grind, by the place's key. */
  readonly lostMm: Readonly<Record<string, number>>;
}

/** A blade's whole history of wear, from new. */
export interface BladeWear {
  readonly bladeId: string;
  readonly specId: string;
  readonly steps: readonly WearStep[];
}

/**
 * The place behind a key, as findings name it: `width:A:tip` is the edge of end A at the tip, `wing:B` the
 * wing of end B. Errors: `place` when it is neither.
 * @example wearPlace('width:A:tip') // { kind: 'edge', end: 'A', family: 'width:tip' }
 */
export function wearPlace(key: string): WearPlace {
  const [quantity, end, station] = key.split(':');
  if ((quantity !== 'width' && quantity !== 'wing') || (end !== 'A' && end !== 'B'))
    throw new BenchError('place', $localize`must be a width or a wing of an end`, key);
  return {
    kind: quantity === 'wing' ? 'wing' : 'edge',
    end,
    family: [quantity, station].filter(Boolean).join(':'),
  };
}

/** Standard uncertainty of one reading of a place, and of how far a new blade is from its spec's figure, mm. */
export const WEAR_READING_U: Readonly<
  Record<WearKind, { readonly read: number; readonly fresh: number }>
> = {
  edge: { read: 0.1, fresh: 0.1 },
  wing: { read: 0.06, fresh: 0.06 },
};

/**
 * A blade's wear of one kind as a series in *grinds' worth*: 1 is what a blade of its spec loses on average
 * between two grinds, so places and ends can be averaged.
 */
export interface WearSeries {
  /** How much wearing each step held: 1 a grind for the edge, hours over the shop's mean interval for the wing. */
  readonly exposure: readonly number[];
  /** Lost since new, in grinds' worth; NaN where nothing was read. */
  readonly lost: readonly number[];
  /** Variance of each of these by the reading's uncertainty. */
  readonly noise: readonly number[];
}

/** Mean loss at a place over one exposure, mm: by the place's family where it was seen, and elsewhere. */
export interface WearRates {
  readonly seen: ReadonlyMap<string, number>;
  readonly elsewhere: number;
}
/** @example rateAt({ seen: new Map(), elsewhere: 0.6 }, 'wing') // 0.6 */
export const rateAt = ({ seen, elsewhere }: WearRates, family: string): number =>
  seen.get(family) ?? elsewhere;

const places = new Map<string, WearPlace>();
/** The same, remembered: a fit asks for the same few keys many thousand times. */
export function placeOf(key: string): WearPlace {
  const known = places.get(key) ?? wearPlace(key);
  places.set(key, known);
  return known;
}

/** The series of one kind; `end` leaves only the places of one end. */
export function wearSeries(
  { steps }: BladeWear,
  kind: WearKind,
  rates: WearRates,
  hoursPerGrind: number,
  end?: End,
): WearSeries {
  const u = WEAR_READING_U[kind].read;
  const exposure: number[] = [];
  const lost: number[] = [];
  const noise: number[] = [];
  for (const step of steps) {
    let count = 0;
    let sum = 0;
    let variance = 0;
    for (const key in step.lostMm) {
      const place = placeOf(key);
      if (place.kind !== kind || (end && place.end !== end)) continue;
      const rate = rateAt(rates, place.family);
      count += 1;
      sum += (step.lostMm[key] ?? 0) / rate;
      variance += (u / rate) ** 2;
    }
    exposure.push(kind === 'edge' ? 1 : notNegative('hours', step.hours) / hoursPerGrind);
    lost.push(count > 0 ? sum / count : NaN);
    noise.push(count > 0 ? variance / count ** 2 : 0);
  }
  return { exposure, lost, noise };
}
