import { BenchError, notNegative, positive } from '../errors.js';
/**
 * Whether a stream stands still: over a window of at least one period of whatever swings, the spread (max −
 * min) and the drift (least-squares slope × window) are within the instrument's tolerance. A turning point
 * of a swing looks steady over less than its period, which is why the window must hold one.
 *
 * Errors: `windowS` when shorter than the period.
 * Example: a scale settling from 800 to 812 g is steady only once its last window lies within tolerance.
 * @example steadiness([], { windowS: 1, tolerance: 0.1 }).steady // false
 */
export function steadiness(samples, options) {
    const window = positive('windowS', options.windowS);
    notNegative('tolerance', options.tolerance);
    if (window < (options.periodS ?? 0)) {
        throw new BenchError('windowS', `must be at least one period, ${options.periodS ?? 0} s`, window);
    }
    const newest = samples.at(-1)?.timeS ?? 0;
    const inside = samples.filter(({ timeS }) => timeS >= newest - window);
    const first = inside[0]?.timeS ?? newest;
    const covered = inside.length >= 3 && newest - first >= 0.9 * window;
    if (!covered)
        return { steady: false, spread: Infinity, drift: Infinity };
    const n = inside.length;
    const meanT = inside.reduce((sum, { timeS }) => sum + timeS, 0) / n;
    const mean = inside.reduce((sum, { value }) => sum + value, 0) / n;
    const sxx = inside.reduce((sum, { timeS }) => sum + (timeS - meanT) ** 2, 0);
    const sxy = inside.reduce((sum, { timeS, value }) => sum + (timeS - meanT) * (value - mean), 0);
    const values = inside.map(({ value }) => value);
    const spread = Math.max(...values) - Math.min(...values);
    const drift = Math.abs((sxy / sxx) * window);
    const steady = spread <= options.tolerance && drift <= options.tolerance;
    return steady ? { steady, value: mean, spread, drift } : { steady, spread, drift };
}
//# sourceMappingURL=steady.js.map