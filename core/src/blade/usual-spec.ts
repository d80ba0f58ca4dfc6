import { DEFAULT_GRADE_MM_PER_S } from '../balance/unbalance.js';
import type { Limit } from '../verdict/finding.js';
import { QUANTITIES, type BenchQuantity } from '../vocabulary/quantities.js';
import { BenchError, positive } from '../errors.js';
import { ENDS, type End, type Station } from './shape.js';

/** A reading a spec plans: routine in every cycle, or only for a full look. */
export interface UsualReading {
  readonly quantity: BenchQuantity;
  readonly end?: End | undefined;
  readonly stationKey?: string | undefined;
  readonly when: 'routine' | 'full-look';
}

const STATION_FROM_TIP_MM = { tip: 10, middle: 45, root: 85 } as const;

/**
 * Three stations where wear shows: at the tip, where most nicks fall, and at the root of the cutting edge.
 * Common practice, no source. Errors: `lengthMm` when the blade is too short to hold them.
 * @example usualStations(520).map(({ radiusMm }) => radiusMm) // [250, 215, 175]
 */
export function usualStations(lengthMm: number): Station[] {
  if (positive('lengthMm', lengthMm) <= 2 * STATION_FROM_TIP_MM.root) {
    throw new BenchError(
      'lengthMm',
      $localize`is too short for stations 10, 45 and 85 mm from the tip`,
      lengthMm,
    );
  }
  return Object.entries(STATION_FROM_TIP_MM).map(([name, fromTipMm]) => ({
    key: name,
    name,
    radiusMm: lengthMm / 2 - fromTipMm,
  }));
}

/**
 * Routine: mass, tips, widths, bevel, land. Full look: thickness, length, wings, hole, straightedge.
 * @example usualReadings([]).filter(({ quantity }) => quantity === 'mass').length // 1
 */
export function usualReadings(stations: readonly Station[]): UsualReading[] {
  const each = (quantity: BenchQuantity, when: UsualReading['when']): UsualReading[] =>
    ENDS.map((end) => ({ quantity, end, when }));
  return [
    { quantity: 'mass', when: 'routine' },
    ...each('tip-height', 'routine'),
    ...ENDS.flatMap((end) =>
      stations.map(({ key }): UsualReading => ({
        quantity: 'width',
        end,
        stationKey: key,
        when: 'routine',
      })),
    ),
    ...each('bevel', 'routine'),
    ...each('land', 'routine'),
    { quantity: 'thickness', when: 'full-look' },
    { quantity: 'length', when: 'full-look' },
    ...each('wing', 'full-look'),
    { quantity: 'hole-wear', when: 'full-look' },
    { quantity: 'straightedge-gap', when: 'full-look' },
  ];
}

/**
 * The readings a spec plans, with those that its limits ask for: a quantity with a limit that the plan leaves out is
 * read in a full look.
 * @example plannedReadings({ readings: [], limits: [{ kind: 'wing-height', value: 15, unit: 'mm', source: 'shop', sourceText: '' }] }).map(({ end }) => end) // ['A', 'B']
 */
export function plannedReadings(spec: {
  readonly readings: readonly UsualReading[];
  readonly limits: readonly Limit[];
}): UsualReading[] {
  const asked = Object.entries(QUANTITIES).flatMap(([key, { limit, per }]): UsualReading[] => {
    const quantity = key as BenchQuantity;
    const limited = limit && per === 'end' && spec.limits.some(({ kind }) => kind === limit);
    const planned = spec.readings.some((reading) => reading.quantity === quantity);
    return limited && !planned ? ENDS.map((end) => ({ quantity, end, when: 'full-look' })) : [];
  });
  return [...spec.readings, ...asked];
}

/**
 * Shop limits to start from where the maker gives none. Common practice, no source.
 * @example usualLimits({ newLengthMm: 520, wingMm: 3 }).every(({ source }) => source === 'shop') // true
 */
export function usualLimits(size: {
  readonly newLengthMm: number;
  readonly wingMm: number;
}): Limit[] {
  const rule = (kind: Limit['kind'], value: number, sourceText: string): Limit => ({
    kind,
    value,
    unit: 'mm',
    source: 'shop',
    sourceText,
  });
  return [
    rule(
      'wing',
      Math.round(positive('wingMm', size.wingMm) * 5) / 10,
      $localize`half the new thickness`,
    ),
    rule(
      'length',
      positive('newLengthMm', size.newLengthMm) - 12,
      $localize`12 mm shorter than new at most`,
    ),
    rule('tip-rounding', 6, $localize`tip corner no rounder than 6 mm`),
    rule('bend', 3, $localize`tips level within 3 mm`),
    rule('hole-wear', 0.8, $localize`hole no wider than 0.8 mm over new`),
  ];
}

/** The least width at the stations of {@link usualStations}, from the tip inward, and who says so. */
export interface LeastWidths extends Pick<Limit, 'source' | 'sourceText'> {
  readonly widthsMm: readonly [tip: number, middle: number, root: number];
}

/** Of the new width, until the manual's own limit is looked up: on the safe side of what shops allow. */
const LEAST_WIDTH_SHARE = 0.8;

/**
 * Least widths to start from where nobody has looked the maker's up. Common practice, no source.
 * @example usualLeastWidths(63.5).widthsMm // [51, 51, 51]
 */
export function usualLeastWidths(newWidthMm: number): LeastWidths {
  const least = Math.round(LEAST_WIDTH_SHARE * positive('newWidthMm', newWidthMm));
  return {
    widthsMm: [least, least, least],
    source: 'shop',
    sourceText: $localize`four fifths of the new width, until the manual is looked up`,
  };
}

/**
 * A spec from its sizes: stations, readings and limits of usual practice around them; every one can be changed after.
 * Errors: `lengthMm` when the blade is too short for the stations.
 * @example usualSpec({ newLengthMm: 533, thicknessMm: 6 }, usualLeastWidths(63.5)).limits.length // 8
 */
export function usualSpec<
  Sizes extends { readonly newLengthMm: number; readonly thicknessMm: number },
>(sizes: Sizes, { widthsMm, ...from }: LeastWidths) {
  const { newLengthMm, thicknessMm: wingMm } = sizes;
  const stations = usualStations(newLengthMm);
  return {
    ...sizes,
    wingMm,
    bevelToleranceDeg: 3,
    gradeMmPerS: DEFAULT_GRADE_MM_PER_S,
    stations,
    readings: usualReadings(stations),
    limits: [
      ...stations.map(({ key }, i): Limit => ({
        kind: 'width',
        value: widthsMm[i] ?? widthsMm[0],
        unit: 'mm',
        stationKey: key,
        ...from,
      })),
      ...usualLimits({ newLengthMm, wingMm }),
    ],
  };
}
