import { GROUND_OUT, type DamageKind } from '../vocabulary/damage.js';
import type { SeenTip } from './features.js';

/** A notch seen so near to one that is noted is the same one, mm. Common practice, no source. */
const SAME_NOTCH_MM = 4;
/** A tip rounded by less is as good as square, mm. Common practice, no source. */
const AS_GOOD_AS_SQUARE_MM = 1.5;

/**
 * Are two places along one edge, mm from the tip, one notch? People note its middle, a photo its deepest place.
 * @example isSameNotch(31, 33.5) // true
 */
export const isSameNotch = (oneMm: number, otherMm: number): boolean =>
  Math.abs(oneMm - otherMm) < SAME_NOTCH_MM;

interface Along {
  readonly fromTipMm: number;
}

/**
 * Which noted notch of an end each seen one is, in the order they were seen: the nearest first, and each noted one once,
 * so that of two notches beside one that was noted the other is new. What is no notch (a blued spot, rust, a crack)
 * is none of them, however near it lies.
 * @example notedNotches([{ fromTipMm: 28 }, { fromTipMm: 33 }], [{ fromTipMm: 30, kind: 'nick' }]) // [{ fromTipMm: 30, kind: 'nick' }, undefined]
 */
export function notedNotches<Mark extends Along & { readonly kind: DamageKind }>(
  seen: readonly Along[],
  marks: readonly Mark[],
): readonly (Mark | undefined)[] {
  const notches = marks.filter(({ kind }) => GROUND_OUT.includes(kind));
  const pairs = seen
    .flatMap((each) => notches.map((mark) => ({ each, mark })))
    .filter(({ each, mark }) => isSameNotch(each.fromTipMm, mark.fromTipMm))
    .map((pair) => ({ ...pair, apart: Math.abs(pair.each.fromTipMm - pair.mark.fromTipMm) }))
    .sort((a, b) => a.apart - b.apart);
  const found = new Map<Along, Mark>();
  for (const { each, mark } of pairs)
    if (!found.has(each) && ![...found.values()].includes(mark)) found.set(each, mark);
  return seen.map((each) => found.get(each));
}

/**
 * Is a tip rounded enough to be noted?
 * @example isRounded({ roundedByMm: 1.2, u: 0.2 }) // false
 */
export const isRounded = ({ roundedByMm }: SeenTip): boolean => roundedByMm >= AS_GOOD_AS_SQUARE_MM;
