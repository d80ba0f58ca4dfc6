import { COVERAGE_K, risesBeyondDoubt, rss } from './uncertainty.js';
/** Quantities that use and grinding can only make smaller. */
export const SHRINKING = ['mass', 'length', 'thickness', 'width', 'wing'];
const CAUSES = {
    mass: 'weighed dirty, scale not zeroed, or another blade',
    width: 'caliper at the wrong station or end, or over a burr',
    length: 'tape not on the axis, or another blade',
    thickness: 'caliper over a burr or dirt',
    wing: 'caliper beside the thinnest place',
};
const shown = (value, unit) => `${value.toFixed(1)} ${unit}`;
/**
 * Why a reading cannot be believed as it stands, or `undefined`. It is kept either way; a questioned one
 * blocks sign-off until it is read again. Compared within the combined uncertainty, k = 2:
 * an after-reading above its before-reading, a before-reading above the last cycle's, anything above new.
 * @example questionReading({ quantity: 'mass', unit: 'g', reading: { value: 812.1, u: 0.3 }, before: { value: 812, u: 0.3 }, newTolerance: 10 }) // undefined
 */
export function questionReading(input) {
    const { quantity, unit, reading, before, last, asNew, newTolerance } = input;
    if (!SHRINKING.includes(quantity))
        return undefined;
    const cause = CAUSES[quantity] ?? 'misread';
    const against = (what, other) => `${shown(reading.value, unit)} is ${shown(reading.value - other.value, unit)} above ${what}, ${shown(other.value, unit)} (allowed ${(COVERAGE_K * rss(reading.u, other.u)).toFixed(1)}): ${cause}? Read it again`;
    if (before && risesBeyondDoubt(before, reading))
        return against('before the grind', before);
    if (!before && last && risesBeyondDoubt(last, reading))
        return against('after the last cycle', last);
    if (asNew !== undefined && reading.value - newTolerance - asNew > COVERAGE_K * reading.u) {
        return against('a new blade', { value: asNew, u: 0 });
    }
    return undefined;
}
//# sourceMappingURL=question.js.map