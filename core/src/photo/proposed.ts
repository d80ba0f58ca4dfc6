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

/**
 * Is a tip rounded enough to be noted?
 * @example isRounded({ roundedByMm: 1.2, u: 0.2 }) // false
 */
export const isRounded = ({ roundedByMm }: SeenTip): boolean => roundedByMm >= AS_GOOD_AS_SQUARE_MM;
