import { BenchError, positive } from '../errors.js';
export const ENDS = ['A', 'B'];
/**
 * Half the overall length: the radius of the tip, mm.
 * @example tipRadiusMm(530) // 265
 */
export const tipRadiusMm = (lengthMm) => positive('lengthMm', lengthMm) / 2;
/**
 * Distance from the tip, mm. Example: a station 220 mm from the hole of a 530 mm blade is 45 mm in.
 * @example fromTipMm(530, 220) // 45
 */
export const fromTipMm = (lengthMm, radiusMm) => tipRadiusMm(lengthMm) - radiusMm;
/**
 * Swept diameter, tip corner to tip corner: D = √(L² + W²), mm (geometry).
 * @example sweptDiameterMm(400, 300) // 500
 */
export function sweptDiameterMm(lengthMm, widthMm) {
    return Math.hypot(positive('lengthMm', lengthMm), positive('widthMm', widthMm));
}
/**
 * Value at a radius by straight lines between the known places, carried flat beyond the first and last.
 *
 * Errors: `known` when empty.
 * Example: 60 at 100 mm and 50 at 200 mm is 55 at 150 mm.
 * @example interpolateMm([{ radiusMm: 100, valueMm: 60 }, { radiusMm: 200, valueMm: 50 }], 150) // 55
 */
export function interpolateMm(known, radiusMm) {
    const sorted = [...known].sort((a, b) => a.radiusMm - b.radiusMm);
    const first = sorted[0];
    const last = sorted.at(-1);
    if (!first || !last)
        throw new BenchError('known', 'must hold at least one place');
    if (radiusMm <= first.radiusMm)
        return first.valueMm;
    const outer = sorted.findIndex((place) => place.radiusMm >= radiusMm);
    const above = sorted[outer];
    const below = sorted[outer - 1];
    if (!above || !below)
        return last.valueMm;
    const share = (radiusMm - below.radiusMm) / (above.radiusMm - below.radiusMm);
    return below.valueMm + share * (above.valueMm - below.valueMm);
}
//# sourceMappingURL=shape.js.map