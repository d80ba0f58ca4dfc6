/**
 * The middle of values in their order, the mean of the two middle ones where they are even in number; NaN of none.
 * Wrong values among the right ones hardly move it.
 * @example median([3, 90, 1]) // 3
 */
export function median(values: readonly number[]): number {
  const sorted = Float64Array.from(values).sort();
  const half = sorted.length / 2;
  const above = sorted[Math.floor(half)] ?? NaN;
  return Number.isInteger(half) ? ((sorted[half - 1] ?? NaN) + above) / 2 : above;
}

/** Of a normal deviation the median size is 0.6745 [M]. */
const NORMAL = 1.4826;

/**
 * Standard deviation of values about zero, as their median size tells it.
 * @example robustDeviation([1, -1, 1, -50]) // 1.4826
 */
export const robustDeviation = (values: readonly number[]): number =>
  NORMAL * median(values.map(Math.abs));
