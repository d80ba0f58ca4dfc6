import { BenchError, positive } from '../errors.js';
import { STEEL_G_PER_MM3 } from '../metal/edge.js';
import { toRad } from '../units/angles.js';
import type { BladeState } from '../vocabulary/blade-states.js';
import type { Limit } from '../verdict/finding.js';
import type { Station } from './shape.js';

/** What trimming changes of a blade spec. Lengths mm, mass g. */
export interface TrimmedSpec {
  readonly newLengthMm: number;
  readonly newWidthMm: number;
  readonly thicknessMm: number;
  readonly newMassG: number;
  readonly bevelDeg: number;
  readonly edgeLengthMm: number;
  readonly stations: readonly Station[];
  readonly limits: readonly Limit[];
  /** How short its maker lets it be trimmed; not at all where it is not said. */
  readonly trimming?: { readonly leastLengthMm: number } | undefined;
}

/** The two halves of a trimmed blade differ by no more than this, mm. Common practice, no source. */
export const HALVES_ALIKE_MM = 0.5;
/** Trimmed to a length means to within this, mm. Common practice, no source. */
export const TRIMMED_WITHIN_MM = 1;
/** Less is left to the grinder: a file takes it in a few strokes. Common practice, no source. */
const LEAST_TRIM_MM = 0.5;

/** A blade is trimmed in these states only: off its mower and not at the bench. */
const TRIMMED_WHILE: readonly BladeState[] = ['new', 'ready', 'waiting', 'hold'];
/**
 * May a blade in this state be trimmed?
 * @example isTrimmedWhile('at-bench') // false
 */
export const isTrimmedWhile = (state: BladeState): boolean => TRIMMED_WHILE.includes(state);

/**
 * Does its maker leave room for another trim?
 * @example leavesRoomToTrim({ newLengthMm: 530, trimming: { leastLengthMm: 520 } }) // true
 */
export const leavesRoomToTrim = ({
  newLengthMm,
  trimming,
}: Pick<TrimmedSpec, 'newLengthMm' | 'trimming'>): boolean =>
  trimming !== undefined && trimming.leastLengthMm <= newLengthMm - LEAST_TRIM_MM;

/** Area across a blade with a sharp bevel, mm²: the bar without the wedge that the bevel takes. Plane geometry. */
const sectionMm2 = ({
  newWidthMm,
  thicknessMm,
  bevelDeg,
}: Pick<TrimmedSpec, 'newWidthMm' | 'thicknessMm' | 'bevelDeg'>): number =>
  newWidthMm * thicknessMm - thicknessMm ** 2 / (2 * Math.tan(toRad(bevelDeg)));

/**
 * Steel that a cut of `eachMm` takes off one end of a new blade, g. The lift wing seldom reaches the last
 * millimetres and is left out.
 *
 * Errors: `eachMm` when not above zero.
 * Example: 4 mm of a 60 × 6 mm blade with a 45° bevel: 4 · (360 − 18) · 0.00785 = 10.7 g.
 * @example cutOffG({ newWidthMm: 60, thicknessMm: 6, bevelDeg: 45 }, 4) // 10.7
 */
export const cutOffG = (
  spec: Pick<TrimmedSpec, 'newWidthMm' | 'thicknessMm' | 'bevelDeg'>,
  eachMm: number,
): number => positive('eachMm', eachMm) * sectionMm2(spec) * STEEL_G_PER_MM3;

/** A least length that is counted from the length of the blade. */
const countedFromLength = ({ kind, source }: Limit): boolean =>
  kind === 'length' && source === 'shop';

/**
 * A spec as it is for blades trimmed alike at both ends to `lengthMm`. Stations and width limits keep their distance
 * from the tip, the cutting edge is shorter by the cut, the new mass lighter. A shop's own least length is counted from
 * the new length, a maker's stands as the maker wrote it: it speaks of the blade.
 *
 * Errors: `lengthMm` when nothing would be cut, when it is below what the maker allows, when the cut reaches a station,
 * or when it would leave no room above a least length.
 * @example trimmedTo({ newLengthMm: 530, newWidthMm: 60, thicknessMm: 6, newMassG: 1500, bevelDeg: 45, edgeLengthMm: 110, stations: [{ key: 'tip', name: 'tip', radiusMm: 255 }], limits: [] }, 522).stations[0].radiusMm // 251
 */
export function trimmedTo<Spec extends TrimmedSpec>(spec: Spec, lengthMm: number): Spec {
  const eachMm = (spec.newLengthMm - lengthMm) / 2;
  if (!(eachMm >= LEAST_TRIM_MM / 2))
    throw new BenchError(
      'lengthMm',
      $localize`must be at least ${LEAST_TRIM_MM} mm below the ${spec.newLengthMm} mm of the spec`,
      lengthMm,
    );
  if (spec.trimming && lengthMm < spec.trimming.leastLengthMm)
    throw new BenchError(
      'lengthMm',
      $localize`must be at least the ${spec.trimming.leastLengthMm} mm the maker allows`,
      lengthMm,
    );
  if (eachMm >= spec.edgeLengthMm || spec.stations.some(({ radiusMm }) => radiusMm <= eachMm))
    throw new BenchError('lengthMm', $localize`would cut away what is measured`, lengthMm);
  const limits = spec.limits.map((limit) =>
    countedFromLength(limit) ? { ...limit, value: limit.value - 2 * eachMm } : limit,
  );
  const least = limits.find(({ kind }) => kind === 'length');
  if (least && least.value >= lengthMm)
    throw new BenchError(
      'lengthMm',
      $localize`must be above the least length of ${least.value} mm`,
      lengthMm,
    );
  return {
    ...spec,
    newLengthMm: lengthMm,
    newMassG: spec.newMassG - 2 * cutOffG(spec, eachMm),
    edgeLengthMm: spec.edgeLengthMm - eachMm,
    stations: spec.stations.map((station) => ({
      ...station,
      radiusMm: station.radiusMm - eachMm,
    })),
    limits,
  };
}

/**
 * Unbalance that one half longer than the other makes, g·mm: the extra steel at the tip's radius.
 * Example: 1 mm of a 60 × 6 mm blade with a 45° bevel is 2.68 g; at 250 mm, 671 g·mm.
 * @example unlikeHalvesGmm({ newWidthMm: 60, thicknessMm: 6, bevelDeg: 45 }, 250, 249) // 671
 */
export const unlikeHalvesGmm = (
  spec: Pick<TrimmedSpec, 'newWidthMm' | 'thicknessMm' | 'bevelDeg'>,
  halfAMm: number,
  halfBMm: number,
): number => {
  const apartMm = Math.abs(positive('halfAMm', halfAMm) - positive('halfBMm', halfBMm));
  return apartMm === 0 ? 0 : cutOffG(spec, apartMm) * Math.max(halfAMm, halfBMm);
};
