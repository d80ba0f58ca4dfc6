import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
import { bisect, integrate } from '../math/integrate.js';
import { rss } from '../reading/uncertainty.js';
import { toRad } from '../units/angles.js';
/**
 * Unbalance from the time a blade takes to drop, on a low-friction shaft.
 *
 * The blade is released at rest from level; θ is the heavy end's angle below level. Energy:
 * ½·I·θ'² = U·g·(sin θ − μ·θ), μ = M_f/(U·g) the friction moment against the driving one. So the time to a
 * mark φ is t = √(I/(U·g))·K(φ, μ), K(φ, μ) = ∫₀^φ dθ/√(2(sin θ − μθ)) (mechanics). Without friction
 * K(90°) is the complete elliptic integral K(m = ½) = 1.854 074 677.
 */
export const GRAVITY_MM_PER_S2 = 9806.65;
/**
 * Largest μ for which a mark φ is reached: sin φ/φ. μ ≥ 1 never starts; 2/π < μ < 1 stops before hanging.
 * @example frictionAtWhichStopsBefore(90) // 0.6366
 */
export const frictionAtWhichStopsBefore = (markDeg) => Math.sin(toRad(markDeg)) / toRad(markDeg);
/**
 * K(φ, μ), dimensionless. θ = s² takes the root singularity at the start out of the integral.
 *
 * Errors: `friction` when the mark is never reached with it.
 * Example: `dropIntegral(90)` is 1.854 074 677.
 * @example dropIntegral(90) // 1.854074677
 */
export function dropIntegral(markDeg, friction = 0) {
    strictlyBetween('markDeg', markDeg, 0, 180);
    notNegative('friction', friction);
    if (friction >= Math.min(1, frictionAtWhichStopsBefore(markDeg))) {
        throw new BenchError('friction', `is too large for the blade ever to reach ${markDeg}°`, friction);
    }
    const end = Math.sqrt(toRad(markDeg));
    return integrate((s) => {
        const angle = s * s;
        const drive = angle < 1e-9 ? 1 - friction : Math.sin(angle) / angle - friction;
        return Math.SQRT2 / Math.sqrt(drive);
    }, 0, end);
}
/**
 * Moment of inertia of a flat bar about its centre, M·(L² + W²)/12, g·mm². Real blades are 1.4 to 2 % lower;
 * u(I) ≈ 3 % (derived for a bar, spread common practice, no source). Add shaft and adapter.
 * @example barInertiaGmm2(1200, 500, 60) // 25360000
 */
export function barInertiaGmm2(massG, lengthMm, widthMm) {
    return ((positive('massG', massG) *
        (positive('lengthMm', lengthMm) ** 2 + positive('widthMm', widthMm) ** 2)) /
        12);
}
/** Relative standard uncertainty of {@link barInertiaGmm2} on real blades, common practice, no source. */
export const INERTIA_RELATIVE_U = 0.03;
/** The same once the balancer was calibrated with a check blade: blades differ in shape. Common practice, no source. */
export const CALIBRATED_INERTIA_RELATIVE_U = 0.015;
/**
 * Time to the mark, s. Errors: `unbalanceGmm` when friction keeps the blade from reaching it.
 * Example: 400 g·mm on 40 kg·mm² (4 × 10⁷ g·mm²) hangs after 5.9 s without friction.
 * @example dropTimeS(400, drop) // 5.92
 */
export function dropTimeS(unbalanceGmm, { inertiaGmm2, markDeg, frictionGmm }) {
    positive('unbalanceGmm', unbalanceGmm);
    positive('inertiaGmm2', inertiaGmm2);
    const constant = dropIntegral(markDeg, notNegative('frictionGmm', frictionGmm) / unbalanceGmm);
    return constant * Math.sqrt(inertiaGmm2 / (unbalanceGmm * GRAVITY_MM_PER_S2));
}
/**
 * Unbalance below which this balancer shows nothing at the mark, g·mm: friction over sin φ/φ (or over 1).
 * @example leastVisibleGmm({ ...drop, frictionGmm: 8 }) // 12.57
 */
export function leastVisibleGmm({ markDeg, frictionGmm, }) {
    return frictionGmm / Math.min(1, frictionAtWhichStopsBefore(markDeg));
}
/**
 * Unbalance from a drop time: U = I·K²/(g·t²), with friction solved for, since μ depends on U.
 * Ignoring μ = 0.1 reads 11 % low, μ = 0.3 33 % low.
 *
 * Errors: `timeS` when not above zero.
 * @example unbalanceFromDropGmm(5.92, drop) // 400.1
 */
export function unbalanceFromDropGmm(timeS, setUp) {
    positive('timeS', timeS);
    const free = (setUp.inertiaGmm2 * dropIntegral(setUp.markDeg) ** 2) / (GRAVITY_MM_PER_S2 * timeS ** 2);
    if (setUp.frictionGmm === 0)
        return free;
    const least = leastVisibleGmm(setUp) * (1 + 1e-9);
    const most = free + 4 * setUp.frictionGmm + least;
    return bisect((unbalance) => timeS - dropTimeS(unbalance, setUp), least, most);
}
/**
 * Friction of the bearing from the shortfall δ at the first stop on the far side: the blade comes to rest
 * where sin θ = μθ, θ = 180° − δ, so μ = sin δ/(π − δ). Times the unbalance it is M_f/g, g·mm.
 *
 * Example: a shortfall of 27° is μ = 0.17.
 * @example frictionFromShortfall(27) // 0.17
 */
export function frictionFromShortfall(shortfallDeg) {
    const delta = toRad(strictlyBetween('shortfallDeg', shortfallDeg, 0, 90));
    return Math.sin(delta) / (Math.PI - delta);
}
/** Standard uncertainty of one hand-timed start and stop, s. Common practice, no source. */
export const REACTION_U_S = 0.07;
/** Below this a drop is too quick to time by hand, s: more drops or another device. */
export const TOO_QUICK_S = 0.8;
/** Times further than this many scaled median deviations from the median are outliers. */
const OUTLIER_DEVIATIONS = 3.5;
const MAD_TO_SIGMA = 1.4826;
const median = (values) => {
    const sorted = [...values].sort((a, b) => a - b);
    const half = sorted.length / 2;
    return sorted.length % 2 === 0
        ? ((sorted[half - 1] ?? 0) + (sorted[half] ?? 0)) / 2
        : (sorted[Math.floor(half)] ?? 0);
};
/**
 * Several drops of one blade into one unbalance. Reaction time enters twice: u(U)/U = 2·u(t)/t; inertia
 * enters once; centring adds M·ε. Outliers by the median absolute deviation, never fewer than half kept.
 *
 * Errors: `timesS` when empty or not above zero.
 * @example unbalanceFromDrops([5.9, 5.95, 5.92], drop, { bladeMassG: 1700, centringMm: 0.02 }).outliersS // []
 */
export function unbalanceFromDrops(timesS, setUp, doubts) {
    if (timesS.length === 0)
        throw new BenchError('timesS', 'must hold at least one drop');
    timesS.forEach((time, i) => positive(`timesS[${i}]`, time));
    const middle = median(timesS);
    const spread = Math.max(REACTION_U_S, MAD_TO_SIGMA * median(timesS.map((time) => Math.abs(time - middle))));
    const far = (time) => Math.abs(time - middle) > OUTLIER_DEVIATIONS * spread;
    const kept = timesS.length < 3 ? timesS : timesS.filter((time) => !far(time));
    const mean = kept.reduce((sum, time) => sum + time, 0) / kept.length;
    const value = unbalanceFromDropGmm(mean, setUp);
    const timing = (drops) => (value * 2 * spread) / (mean * Math.sqrt(drops));
    const centring = positive('bladeMassG', doubts.bladeMassG) * notNegative('centringMm', doubts.centringMm);
    const frictionU = notNegative('frictionU', doubts.frictionU ?? 0);
    const more = { ...setUp, frictionGmm: setUp.frictionGmm + frictionU };
    const friction = frictionU === 0 ? 0 : unbalanceFromDropGmm(mean, more) - value;
    const other = rss(value * (doubts.inertiaRelativeU ?? INERTIA_RELATIVE_U), centring, Math.abs(friction));
    const worth = Math.ceil((timing(1) / Math.max(other / 2, 1e-9)) ** 2);
    return {
        unbalance: { value, u: rss(timing(kept.length), other) },
        outliersS: timesS.length < 3 ? [] : timesS.filter(far),
        tooQuick: mean < TOO_QUICK_S,
        dropsWorthMaking: Math.max(0, Math.min(9, worth) - kept.length),
    };
}
//# sourceMappingURL=drop.js.map