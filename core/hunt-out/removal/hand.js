import { notNegative, positive } from '../errors.js';
import { learnZones, USUAL_LEARNING, } from './zones.js';
/** How hands differ, and how many grinds tell one. Common practice, no source. */
export const USUAL_HANDS = { spread: 0.15, enough: 8 };
/**
 * A technician's hand on a tool: the mean of ln(removed/foretold) over this hand's grinds, each foretold from
 * the grinds before it, drawn toward no difference by the usual spread of hands (normal prior and normal
 * scatter in the logarithm, standard). Too few grinds, or nobody else on the tool to differ from: factor 1.
 *
 * Shapes: `grinds` of one tool, oldest first; `by` the technician asked about. Errors: as {@link learnZones}.
 * Example: without grinds the factor is 1, as unsure as hands differ.
 * @example learnHand('ash', [], [{ key: 'full', gramsPerPass: 0.6 }]) // { factor: { value: 1, u: 0.15 }, grinds: 0, known: false }
 */
export function learnHand(by, grinds, priors, hands = USUAL_HANDS) {
    const spread = positive('spread', hands.spread);
    notNegative('enough', hands.enough);
    const { foretold } = learnZones(grinds, priors);
    let weight = 1 / spread ** 2;
    let sum = 0;
    let own = 0;
    let others = 0;
    grinds.forEach((grind, i) => {
        const said = foretold[i];
        if (!said || !(said.value > 0) || grind.by === undefined)
            return;
        if (grind.by !== by) {
            others += 1;
            return;
        }
        own += 1;
        const precision = 1 / Math.max(USUAL_LEARNING.scatter, said.u / said.value) ** 2;
        weight += precision;
        sum += precision * Math.log(grind.removedG / said.value);
    });
    const known = own >= hands.enough && others >= hands.enough;
    if (!known)
        return { factor: { value: 1, u: spread }, grinds: own, known };
    const value = Math.exp(sum / weight);
    return { factor: { value, u: value / Math.sqrt(weight) }, grinds: own, known };
}
/**
 * What the tool takes in this hand. An unknown hand changes nothing.
 * @example inHand(learnZones([], [full]), { factor: { value: 1.2, u: 0 }, grinds: 9, known: true }).perZone.full.value // 0.72
 */
export function inHand(learned, { factor, known }) {
    if (!known)
        return learned;
    const scaled = ({ value, u }) => ({
        value: value * factor.value,
        u: Math.hypot(u * factor.value, value * factor.u),
    });
    return {
        ...learned,
        perZone: Object.fromEntries(Object.entries(learned.perZone).map(([key, each]) => [key, scaled(each)])),
        predict: (passes) => scaled(learned.predict(passes)),
    };
}
//# sourceMappingURL=hand.js.map