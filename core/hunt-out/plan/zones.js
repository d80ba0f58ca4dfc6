import { finite, positive } from '../errors.js';
import { zoneRadiusMm } from './problem.js';
/** The zones a pass can go to, as the shop names them. */
export const ZONES = ['full', 'outer-half', 'outer-50', 'back'];
const FEATHER_MM = 10;
const OUTER_MM = 50;
/**
 * The usual zones of an edge: all of it, its outer half, its outer 50 mm (left out where that is about the
 * half already). Shorter strokes take less: a zone nobody has counted on yet is given the full edge's grams
 * by its share of the length. `learnedG` gives a zone's own g/pass where it is known.
 * @example usualZones(100, 0.6).map(({ gramsPerPass }) => gramsPerPass) // [0.6, 0.3]
 */
export function usualZones(edgeLengthMm, fullG, learnedG = () => undefined) {
    positive('edgeLengthMm', edgeLengthMm);
    positive('fullG', fullG);
    const zone = (key, reachMm) => ({
        key,
        reachMm,
        featherMm: Math.min(FEATHER_MM, reachMm / 2),
        gramsPerPass: learnedG(key) ?? (fullG * reachMm) / edgeLengthMm,
    });
    const half = edgeLengthMm / 2;
    return [
        zone('full', edgeLengthMm),
        zone('outer-half', half),
        ...(half > OUTER_MM * 1.3 ? [zone('outer-50', OUTER_MM)] : []),
    ];
}
/**
 * The trailing edge near the tip, for balance alone. A few passes at most: the lift wing is there.
 * @example trailingZone(100, 0.6).edge // 'trailing'
 */
export function trailingZone(edgeLengthMm, fullG, learnedG) {
    const reachMm = Math.min(OUTER_MM, positive('edgeLengthMm', edgeLengthMm) / 2);
    return {
        key: 'back',
        edge: 'trailing',
        reachMm,
        featherMm: Math.min(FEATHER_MM, reachMm / 2),
        gramsPerPass: learnedG ?? (positive('fullG', fullG) * reachMm) / edgeLengthMm,
        mostPasses: 10,
    };
}
/**
 * Passes of one zone that take an unbalance off: |U|/(g·r), at least one where there is any. A first idea before
 * the plan is solved again. Example: 130 g·mm by passes of 0.3 g at 230 mm is two.
 * @example correctionPasses(130, { ...full, reachMm: 60, featherMm: 0, gramsPerPass: 0.3 }, 260) // 2
 */
export function correctionPasses(unbalanceGmm, zone, tipRadiusMm) {
    const size = Math.abs(finite('unbalanceGmm', unbalanceGmm));
    const step = zone.gramsPerPass * zoneRadiusMm(zone, positive('tipRadiusMm', tipRadiusMm));
    return size === 0 ? 0 : Math.max(1, Math.round(size / step));
}
//# sourceMappingURL=zones.js.map