import { BenchError, positive } from '../errors.js';
import { ENDS } from './shape.js';
const STATION_FROM_TIP_MM = { tip: 10, middle: 45, root: 85 };
/**
 * Three stations where wear shows: at the tip, where most nicks fall, and at the root of the cutting edge.
 * Common practice, no source. Errors: `lengthMm` when the blade is too short to hold them.
 * @example usualStations(520).map(({ radiusMm }) => radiusMm) // [250, 215, 175]
 */
export function usualStations(lengthMm) {
    if (positive('lengthMm', lengthMm) <= 2 * STATION_FROM_TIP_MM.root) {
        throw new BenchError('lengthMm', 'is too short for stations 10, 45 and 85 mm from the tip', lengthMm);
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
export function usualReadings(stations) {
    const each = (quantity, when) => ENDS.map((end) => ({ quantity, end, when }));
    return [
        { quantity: 'mass', when: 'routine' },
        ...each('tip-height', 'routine'),
        ...ENDS.flatMap((end) => stations.map(({ key }) => ({
            quantity: 'width',
            end,
            stationKey: key,
            when: 'routine',
        }))),
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
 * Shop limits to start from where the maker gives none. Common practice, no source.
 * @example usualLimits({ newLengthMm: 520, wingMm: 3 }).every(({ source }) => source === 'shop') // true
 */
export function usualLimits(size) {
    const rule = (kind, value, sourceText) => ({
        kind,
        value,
        unit: 'mm',
        source: 'shop',
        sourceText,
    });
    return [
        rule('wing', Math.round(positive('wingMm', size.wingMm) * 5) / 10, 'half the new thickness'),
        rule('length', positive('newLengthMm', size.newLengthMm) - 12, '12 mm shorter than new at most'),
        rule('tip-rounding', 6, 'tip corner no rounder than 6 mm'),
        rule('bend', 3, 'tips level within 3 mm'),
        rule('hole-wear', 0.8, 'hole no wider than 0.8 mm over new'),
    ];
}
//# sourceMappingURL=usual-spec.js.map