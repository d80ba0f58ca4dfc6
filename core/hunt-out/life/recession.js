import { notNegative, positive } from '../errors.js';
/**
 * Recession per grind, mm, of one blade: its own history shrunk toward the usual figure, which counts as
 * much as `priorGrinds` grinds (a weighted mean of prior and data).
 *
 * Example: 2 mm lost in 4 grinds against a usual 0.6 mm counting twice gives (1.2 + 2)/6 = 0.53 mm.
 * @example recessionPerGrindMm(2, 4, 0.6) // 0.53
 */
export function recessionPerGrindMm(lostMm, grinds, usualMm, priorGrinds = 2) {
    notNegative('grinds', grinds);
    positive('priorGrinds', priorGrinds);
    return ((positive('usualMm', usualMm) * priorGrinds + Math.max(0, lostMm)) / (priorGrinds + grinds));
}
//# sourceMappingURL=recession.js.map