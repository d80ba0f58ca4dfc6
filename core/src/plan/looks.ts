import { notNegative } from '../errors.js';

/** The first strokes show whether the face cleans up and the edge comes: look after so many, or this share. */
const FIRST_LOOK = 3;
const FIRST_SHARE = 1 / 6;

/**
 * Counts at which to stop and look, of the passes planned at one end and zone: after the first few (eight, where a
 * file takes fifty); where a tool
 * that takes as much as it might (k = 2) would already have taken it all; and at the planned count. Metal cannot
 * be put back. Common practice ("look after each few"), no source.
 *
 * `relativeU` is the relative standard uncertainty of a pass. Errors: by name when negative.
 * Example: 12 passes known to 15 % are looked at after 3, 9 and 12.
 * @example lookPoints(12, 0.15) // [3, 9, 12]
 */
export function lookPoints(passes: number, relativeU: number): number[] {
  notNegative('passes', passes);
  const sureTo = Math.floor(passes / (1 + 2 * notNegative('relativeU', relativeU)));
  const first = Math.max(FIRST_LOOK, Math.round(passes * FIRST_SHARE));
  const points = [Math.min(first, passes), sureTo, passes];
  return [...new Set(points)].filter((at) => at > 0).sort((a, b) => a - b);
}
