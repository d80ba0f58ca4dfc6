import { finite, notNegative, positive } from '../errors.js';
import { sweptDiameterMm } from '../blade/shape.js';
import { propagate } from '../reading/uncertainty.js';
import { omegaRadPerS } from '../units/angles.js';
/**
 * Spindle distance d = √(S² + s²); clearance d − (D₁ + D₂)/2 on swept diameters D = √(L² + W²); overlap of
 * the cut (L₁ + L₂)/2 − S. Plane geometry.
 *
 * Errors: `spacingMm` when not above zero.
 * Example: two 400 × 300 mm blades (swept 500) at 600 apart clear by 100 mm.
 * @example deckFit({ spacingMm: 600, staggerMm: 0, lengthMm: [400, 400], widthMm: [300, 300] }).clearanceMm // 100
 */
export function deckFit({ spacingMm, staggerMm, lengthMm, widthMm }) {
    positive('spacingMm', spacingMm);
    const distance = Math.hypot(spacingMm, finite('staggerMm', staggerMm));
    const swept = [0, 1].map((i) => sweptDiameterMm(lengthMm[i], widthMm[i]));
    return {
        spindleDistanceMm: distance,
        clearanceMm: distance - (swept[0] + swept[1]) / 2,
        overlapMm: (lengthMm[0] + lengthMm[1]) / 2 - spacingMm,
    };
}
/**
 * {@link deckFit} with the doubt of the sizes carried into clearance and overlap (JCGM 100:2008, 5.1.2), mm.
 * Errors: `spacingMm` when not above zero.
 * Example: spacing to ± 0.5 mm and lengths to ± 0.5 mm (k = 1) make a clearance sure to ± 0.6 mm.
 * @example rounded(measuredDeckFit({ spacingMm: { value: 600, u: 0.5 }, staggerMm: { value: 0, u: 0 }, lengthMm: [{ value: 400, u: 0.5 }, { value: 400, u: 0.5 }], widthMm: [{ value: 300, u: 0 }, { value: 300, u: 0 }] }).clearanceMm) // { value: 100, u: 0.574 }
 */
export function measuredDeckFit({ spacingMm, staggerMm, lengthMm, widthMm }) {
    const said = (of) => propagate(([spacing, stagger, l0, l1, w0, w1]) => deckFit({
        spacingMm: spacing,
        staggerMm: stagger,
        lengthMm: [l0, l1],
        widthMm: [w0, w1],
    })[of], [spacingMm, staggerMm, lengthMm[0], lengthMm[1], widthMm[0], widthMm[1]]);
    return { clearanceMm: said('clearanceMm'), overlapMm: said('overlapMm') };
}
/** Highest tip speed of a rotary mower blade, m/s: 19 000 ft/min (ANSI/OPEI B71.1, from memory). */
export const TIP_SPEED_LIMIT_M_PER_S = 96.5;
/**
 * Tip speed π·D·n, m/s. Example: 533 mm at 3000 rpm is 83.7 m/s.
 * @example tipSpeedMPerS(533, 3000) // 83.7
 */
export function tipSpeedMPerS(sweptMm, speedRpm) {
    return (positive('sweptMm', sweptMm) / 2000) * omegaRadPerS(positive('speedRpm', speedRpm));
}
/**
 * What a fit says: clash, uncut strip, too fast, or fine; timed decks may overlap.
 * @example judgeDeckFit({ spindleDistanceMm: 600, clearanceMm: 2, overlapMm: 20 }, { leastClearanceMm: 6, leastOverlapMm: 10, timed: false }) // [{ kind: 'clash', shortMm: 4 }]
 */
export function judgeDeckFit(fit, limits) {
    notNegative('leastClearanceMm', limits.leastClearanceMm);
    const clash = limits.leastClearanceMm - fit.clearanceMm;
    const strip = limits.leastOverlapMm - fit.overlapMm;
    return [
        ...(clash > 0 && !limits.timed ? [{ kind: 'clash', shortMm: clash }] : []),
        ...(strip > 0 ? [{ kind: 'uncut-strip', shortMm: strip }] : []),
    ];
}
//# sourceMappingURL=fit.js.map