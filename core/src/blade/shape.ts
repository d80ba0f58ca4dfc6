import { BenchError, positive } from '../errors.js';

/** A blade's end: A is the one nearer the stamped code. */
export type End = 'A' | 'B';
export const ENDS: readonly End[] = ['A', 'B'];
/**
 * The end across the hole from one.
 * @example otherEnd('A') // 'B'
 */
export const otherEnd = (end: End): End => (end === 'A' ? 'B' : 'A');

/** A named place along the edge, mm from the hole centre (the tip wears, the hole does not). */
export interface Station {
  readonly key: string;
  readonly name: string;
  readonly radiusMm: number;
}

/** Width at a place of one end. */
export interface WidthAt {
  readonly radiusMm: number;
  readonly widthMm: number;
}

/**
 * Half the overall length: the radius of the tip, mm.
 * @example tipRadiusMm(530) // 265
 */
export const tipRadiusMm = (lengthMm: number): number => positive('lengthMm', lengthMm) / 2;

/**
 * Distance from the tip, mm. Example: a station 220 mm from the hole of a 530 mm blade is 45 mm in.
 * @example fromTipMm(530, 220) // 45
 */
export const fromTipMm = (lengthMm: number, radiusMm: number): number =>
  tipRadiusMm(lengthMm) - radiusMm;

/**
 * Swept diameter, tip corner to tip corner: D = √(L² + W²), mm (geometry).
 * @example sweptDiameterMm(400, 300) // 500
 */
export function sweptDiameterMm(lengthMm: number, widthMm: number): number {
  return Math.hypot(positive('lengthMm', lengthMm), positive('widthMm', widthMm));
}

/**
 * Value at a radius by straight lines between the known places, carried flat beyond the first and last.
 *
 * Errors: `known` when empty.
 * Example: 60 at 100 mm and 50 at 200 mm is 55 at 150 mm.
 * @example interpolateMm([{ radiusMm: 100, valueMm: 60 }, { radiusMm: 200, valueMm: 50 }], 150) // 55
 */
export function interpolateMm(
  known: readonly { readonly radiusMm: number; readonly valueMm: number }[],
  radiusMm: number,
): number {
  const sorted = [...known].sort((a, b) => a.radiusMm - b.radiusMm);
  const first = sorted[0];
  const last = sorted.at(-1);
  if (!first || !last) throw new BenchError('known', $localize`must hold at least one place`);
  if (radiusMm <= first.radiusMm) return first.valueMm;
  const outer = sorted.findIndex((place) => place.radiusMm >= radiusMm);
  const above = sorted[outer];
  const below = sorted[outer - 1];
  if (!above || !below) return last.valueMm;
  const share = (radiusMm - below.radiusMm) / (above.radiusMm - below.radiusMm);
  return below.valueMm + share * (above.valueMm - below.valueMm);
}
