import { notNegative, positive } from '../errors.js';
/** Prior for a tool nobody has counted on yet. Common practice, no source. */
export const USUAL_REMOVAL = {
    gramsPerPass: 0.6,
    worthGrinds: 2,
    relativeScatter: 0.3,
    forgetting: 0.97,
};
/**
 * Learns from grinds, oldest first. Grinds without passes or without metal are left out.
 * Errors: the prior's field that is not above zero.
 * Example: no grinds at all gives the prior, 0.6 g a pass.
 * @example learnRemoval([]).mean.value // 0.6
 */
export function learnRemoval(grinds, prior = USUAL_REMOVAL) {
    const m0 = positive('gramsPerPass', prior.gramsPerPass);
    const k0 = positive('worthGrinds', prior.worthGrinds);
    positive('relativeScatter', prior.relativeScatter);
    positive('forgetting', prior.forgetting);
    const rates = grinds.flatMap(({ passes, removedG }) => notNegative('passes', passes) > 0 && removedG > 0 ? [removedG / passes] : []);
    const weight = (i) => prior.forgetting ** (rates.length - 1 - i);
    const n = rates.reduce((sum, _, i) => sum + weight(i), 0);
    const average = n === 0 ? m0 : rates.reduce((sum, rate, i) => sum + weight(i) * rate, 0) / n;
    const kappa = k0 + n;
    const mean = (k0 * m0 + n * average) / kappa;
    const scatter = rates.reduce((sum, rate, i) => sum + weight(i) * (rate - average) ** 2, 0);
    // Inverse-gamma on the variance: a₀ = 2 degrees of freedom's worth at the prior scatter.
    const a = 2 + n / 2;
    const b = (m0 * prior.relativeScatter) ** 2 + scatter / 2 + (k0 * n * (average - m0) ** 2) / (2 * kappa);
    const variance = b / (a - 1);
    return {
        mean: { value: mean, u: Math.sqrt(variance / kappa) },
        nextU: Math.sqrt(variance * (1 + 1 / kappa)),
        grinds: n,
    };
}
//# sourceMappingURL=learned.js.map