import { BenchError, positive } from '../errors.js';
import { fitValues } from '../math/least-squares.js';
import { rss } from '../reading/uncertainty.js';
import { dropIntegral, dropTimeS, GRAVITY_MM_PER_S2, REACTION_U_S } from './drop.js';
/** A light weight must leave enough of the swing to time, and the heavy one must differ from it. */
const LEAST_RATIO = 1.8;
/** A known weight is known so well, relative: a coin or a letter scale's weight. Common practice, no source. */
const WEIGHT_RELATIVE_U = 0.005;
/** Friction of an ordinary good bearing to start from, g·mm. Common practice, no source. */
const START_FRICTION_GMM = 8;
const mean = (values) => values.reduce((sum, value) => sum + value, 0) / values.length;
function checkWeights(drops) {
    drops.forEach(({ weightG, radiusMm, timesS }, i) => {
        positive(`drops[${i}].weightG`, weightG);
        positive(`drops[${i}].radiusMm`, radiusMm);
        if (timesS.length === 0)
            throw new BenchError(`drops[${i}].timesS`, 'must hold at least one drop');
        timesS.forEach((time, j) => positive(`drops[${i}].timesS[${j}]`, time));
    });
    const straight = drops.filter(({ turned }) => !turned);
    const moments = straight.map(({ weightG, radiusMm }) => weightG * radiusMm);
    if (!straight.some(({ end }) => end === 'A') || !straight.some(({ end }) => end === 'B')) {
        throw new BenchError('drops', 'must be made with the weight at end A and at end B');
    }
    if (Math.max(...moments) < LEAST_RATIO * Math.min(...moments)) {
        throw new BenchError('drops', 'must be made with a light weight and with one about twice as heavy');
    }
}
/**
 * Friction, inertia and centring of a shaft balancer from timed drops with known weights, by least squares.
 * Timing counts by the reaction at start and stop over √n, a weight by half of its relative doubt.
 *
 * Errors: `drops` when they do not hold both ends and two weights; `drops[i].timesS[j]` when not above zero.
 * Example: a check blade timed with 2 g and 5 g at 200 mm on a shaft that holds 8 g·mm gives those 8 back.
 * @example calibrateShaft({ bladeMassG: 1700, inertiaGmm2: 4e7, drops: dropsOn(8) }).frictionGmm.value // 8.0
 */
export function calibrateShaft(input) {
    const { drops } = input;
    const bladeMassG = positive('bladeMassG', input.bladeMassG);
    const inertiaGmm2 = positive('inertiaGmm2', input.inertiaGmm2);
    checkWeights(drops);
    const turned = drops.some((each) => each.turned);
    const seen = drops.map(({ timesS }) => {
        const value = mean(timesS);
        return {
            value,
            u: rss(REACTION_U_S / Math.sqrt(timesS.length), (value * WEIGHT_RELATIVE_U) / 2),
        };
    });
    const told = ([friction = 0, factor = 1, own = 0, offset = 0]) => drops.map(({ weightG, radiusMm, end, turned: round }) => {
        const blade = own + (turned ? (round ? -offset : offset) : 0);
        const unbalance = weightG * radiusMm + (end === 'A' ? blade : -blade);
        return timeOf(unbalance, factor * inertiaGmm2 + weightG * radiusMm ** 2, friction);
    });
    const light = Math.min(...drops.map(({ weightG, radiusMm }) => weightG * radiusMm));
    const { values, us, chiSquared } = fitValues(told, seen, {
        start: [Math.min(START_FRICTION_GMM, light / 10), 1, 0, ...(turned ? [0] : [])],
        sizes: [light / 10, 0.1, light / 10, ...(turned ? [light / 10] : [])],
        atLeast: [0, 0.2, -light, ...(turned ? [-light] : [])],
    });
    const at = (i) => ({ value: values[i] ?? 0, u: us[i] ?? 0 });
    return {
        frictionGmm: at(0),
        inertiaFactor: at(1),
        bladeGmm: at(2),
        ...(turned
            ? { centringMm: { value: Math.abs(at(3).value) / bladeMassG, u: at(3).u / bladeMassG } }
            : {}),
        misfit: Math.sqrt(chiSquared / drops.length),
    };
}
/** Time to hanging; where friction would hold the blade short of it, a time far longer than any seen. */
function timeOf(unbalanceGmm, inertiaGmm2, frictionGmm) {
    const most = 0.6;
    if (unbalanceGmm <= 0 || frictionGmm / unbalanceGmm >= most) {
        const stuck = Math.max(1, frictionGmm / most);
        return 4 * dropIntegral(90, most) * Math.sqrt(inertiaGmm2 / (stuck * GRAVITY_MM_PER_S2));
    }
    return dropTimeS(unbalanceGmm, { inertiaGmm2, markDeg: 90, frictionGmm });
}
//# sourceMappingURL=calibration.js.map