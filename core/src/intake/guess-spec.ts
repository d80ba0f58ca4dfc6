import { notNegative, positive } from '../errors.js';
import { named } from '../vocabulary/named.js';

/** What can be measured on a blade nobody knows: a tape, a caliper, a look at the hole. */
export interface FoundBlade {
  readonly lengthMm: number;
  readonly widthMm?: number | undefined;
  readonly hole?: 'round' | 'star' | 'oval' | 'square' | undefined;
  readonly holeMm?: number | undefined;
}
/** A spec as far as a blade can be told by it. */
export interface KnownSpec {
  readonly id: string;
  readonly newLengthMm: number;
  readonly newWidthMm: number;
  readonly hole: 'round' | 'star' | 'oval' | 'square';
  readonly holeMm: number;
}
export interface Guess {
  readonly id: string;
  /** Nothing speaks against it. */
  readonly fits: boolean;
  /** What speaks against it, in words. */
  readonly against: readonly string[];
  /** How far off, without a unit: the least comes first. */
  readonly distance: number;
}

/** A tape on a worn blade, and a caliper on a worn hole. Common practice, no source. */
const TAPE_MM = 2;
const MOST_LENGTH_LOST_MM = 14;
const HOLE_MM = 0.8;
const MOST_WIDTH_LOST = 0.3;

/**
 * Which specs a blade of the heap may be of, likeliest first: a used blade is shorter and narrower than new, never
 * longer or wider, and its hole is of one shape. Errors: sizes that are not above zero.
 * @example guessSpec({ lengthMm: 530 }, [{ id: 'a', newLengthMm: 533, newWidthMm: 63, hole: 'round', holeMm: 16 }, { id: 'b', newLengthMm: 457, newWidthMm: 57, hole: 'star', holeMm: 20 }]).map(({ id, fits }) => [id, fits]) // [['a', true], ['b', false]]
 */
export function guessSpec(found: FoundBlade, specs: readonly KnownSpec[]): Guess[] {
  const lengthMm = positive('lengthMm', found.lengthMm);
  const widthMm = found.widthMm === undefined ? undefined : positive('widthMm', found.widthMm);
  const holeMm = found.holeMm === undefined ? undefined : positive('holeMm', found.holeMm);
  return specs
    .map((spec): Guess => {
      const against: string[] = [];
      const shorter = spec.newLengthMm - lengthMm;
      if (shorter < -TAPE_MM) against.push($localize`${(-shorter).toFixed(0)} mm longer than new`);
      else if (shorter > MOST_LENGTH_LOST_MM) {
        against.push($localize`${shorter.toFixed(0)} mm shorter than new`);
      }
      const narrower = widthMm === undefined ? 0 : spec.newWidthMm - widthMm;
      if (narrower < -TAPE_MM / 2)
        against.push($localize`${(-narrower).toFixed(1)} mm wider than new`);
      else if (narrower > MOST_WIDTH_LOST * spec.newWidthMm) {
        against.push($localize`${narrower.toFixed(0)} mm narrower than new`);
      }
      if (found.hole && found.hole !== spec.hole)
        against.push($localize`its hole is ${named(spec.hole)}`);
      const hole = holeMm === undefined ? 0 : holeMm - spec.holeMm;
      if (Math.abs(hole) > HOLE_MM) {
        against.push(
          $localize`its hole is ${Math.abs(hole).toFixed(1)} mm ${hole > 0 ? $localize`smaller` : $localize`larger`}`,
        );
      }
      return {
        id: spec.id,
        fits: against.length === 0,
        against,
        distance:
          Math.abs(shorter) + Math.abs(narrower) + 4 * Math.abs(hole) + 100 * against.length,
      };
    })
    .sort((a, b) => a.distance - b.distance);
}

/** Readings of some blades of a heap, standing for those nobody has measured. */
export interface Sampled {
  readonly value: number;
  /** Standard uncertainty of one further blade's value. */
  readonly u: number;
  readonly count: number;
}

/**
 * What a sample of a heap says of one blade not in it: its mean, with the spread of the sample and the doubt of its
 * mean, s·√(1 + 1/n) (prediction of one further value, any statistics handbook), and never less than a reading's own
 * doubt. One reading alone has no spread: `otherwiseU` stands for it. Errors: `values` empty.
 * @example sampleOf([60, 62, 61], 0.05, 1).u // 1.1547
 */
export function sampleOf(values: readonly number[], readingU: number, otherwiseU: number): Sampled {
  const count = positive('values', values.length);
  const mean = values.reduce((sum, each) => sum + each, 0) / count;
  const spread =
    count < 2
      ? notNegative('otherwiseU', otherwiseU)
      : Math.sqrt(values.reduce((sum, each) => sum + (each - mean) ** 2, 0) / (count - 1));
  return {
    value: mean,
    u: Math.max(notNegative('readingU', readingU), spread * Math.sqrt(1 + 1 / count)),
    count,
  };
}
