import { notNegative, positive } from '../errors.js';
/**
 * What to take from the heavy end next, g·mm, when the balancer shows only which end is heavy. Steps double
 * while the same end stays heavy (galloping); once the heavy end has flipped, the overshoot is bounded, and
 * the step is at most 2·U_tol/(1 + step error), which can flip at most once more before it is within.
 *
 * Returns 0 when the blade hangs level. Example: nothing taken yet, tolerance 150: start with 150 g·mm.
 * @example nextSearchStepGmm('A', [], { toleranceGmm: 150, stepRelativeError: 0.2 }) // 150
 */
export function nextSearchStepGmm(heavyEnd, earlier, options) {
    const tolerance = positive('toleranceGmm', options.toleranceGmm);
    const error = notNegative('stepRelativeError', options.stepRelativeError);
    if (heavyEnd === 'level')
        return 0;
    const careful = (2 * tolerance) / (1 + error);
    const ends = [...earlier.map((step) => step.heavyEnd), heavyEnd];
    const flipped = ends.some((end, i) => i > 0 && end !== ends[i - 1]);
    const last = earlier.at(-1);
    if (!last)
        return tolerance;
    if (!flipped)
        return 2 * last.takenGmm;
    return Math.min(careful, last.heavyEnd === heavyEnd ? careful : last.takenGmm / 2);
}
//# sourceMappingURL=search.js.map