import { BenchError, notNegative, positive } from '../errors.js';
import { regularizedBeta } from '../math/beta.js';
/**
 * A loss below zero is a reading's noise: it counts as none. Errors name the field.
 * @example expectedRate(ownWear(limit.prior, { lost: 0, over: 0 })) // 0.50
 */
export function ownWear(prior, record) {
    const shape = positive('prior.shape', prior.shape);
    const delta = 2 + 1 / positive('prior.bladeSpread', prior.bladeSpread) ** 2;
    const over = notNegative('record.over', record.over);
    return {
        shape,
        delta: delta + shape * over,
        gamma: (positive('prior.rate', prior.rate) * delta) / shape + Math.max(0, record.lost),
    };
}
/**
 * Loss per unit of the clock at the mean of z, α·γ/δ.
 * Example: with no history it is the prior's rate; with a long one it is lost/over.
 * @example expectedRate(ownWear(limit.prior, { lost: 500, over: 1000 })) // 0.50
 */
export const expectedRate = ({ shape, delta, gamma }) => (shape * gamma) / delta;
/**
 * Chance that the limit is not yet met after `after` more of the clock, given the room left.
 * Errors: `after` when negative. A room of zero or less is used up.
 * @example chanceInside(ownWear(limit.prior, limit.record), 6, 0) // 1
 */
export function chanceInside(own, room, after) {
    notNegative('after', after);
    if (room <= 0)
        return 0;
    if (after === 0)
        return 1;
    return regularizedBeta(room / (room + own.gamma), own.shape * after, own.delta);
}
/**
 * Loss over `after` more of the clock that is not exceeded with chance p: for the fan of a chart.
 * @example lossNotExceeded(ownWear(limit.prior, limit.record), 0, 0.5) // 0
 */
export function lossNotExceeded(own, after, p) {
    if (after === 0)
        return 0;
    let low = 0;
    let high = expectedRate(own) * after + 1e-9;
    while (chanceInside(own, high, after) < p)
        high *= 2;
    for (let i = 0; i < 60; i++) {
        const middle = (low + high) / 2;
        if (chanceInside(own, middle, after) < p)
            low = middle;
        else
            high = middle;
    }
    return (low + high) / 2;
}
const total = (records, of) => records.reduce((sum, record) => sum + record[of], 0);
/** α from how uneven the steps of each blade are: Var(step) = rate²·t/α + 2u². Pooled over blades. */
function learnedShape(records, toward, readingU) {
    let expectedSum = 0;
    let seenSum = 0;
    let steps = 0;
    for (const { steps: each = [] } of records) {
        const over = each.reduce((sum, step) => sum + step.over, 0);
        const rate = each.reduce((sum, step) => sum + step.lost, 0) / (over || 1);
        if (each.length < 3 || rate <= 0)
            continue;
        for (const { lost, over: t } of each) {
            expectedSum += rate ** 2 * t * (1 - t / over);
            seenSum += (lost - rate * t) ** 2 - 2 * readingU ** 2;
            steps += 1;
        }
    }
    if (steps === 0)
        return toward;
    // The unevenness it is shrunk toward counts as ten steps.
    const perStep = expectedSum / steps;
    const variance = (Math.max(0, seenSum) + (10 * perStep) / toward) / (steps + 10);
    return perStep / Math.max(variance, perStep / (20 * toward));
}
/** Spread of the blades' own rates beyond what uneven wear explains, relative. */
function learnedSpread(groups, shapes, usual) {
    let squares = 0;
    let count = 0;
    for (const [key, group] of Object.entries(groups)) {
        const shape = shapes[key] ?? usual.shape;
        const rate = total(group, 'lost') / (total(group, 'over') || 1);
        if (group.length < 2 || rate <= 0)
            continue;
        for (const { lost, over } of group) {
            if (over <= 0)
                continue;
            squares += ((lost / over - rate) / rate) ** 2 - 1 / (shape * over);
            count += 1;
        }
        // The group's own mean was taken from the same blades.
        count -= 1;
    }
    const variance = (Math.max(0, squares) + 6 * usual.bladeSpread ** 2) / (count + 6);
    return Math.min(1, Math.max(0.05, Math.sqrt(variance)));
}
/**
 * The prior for the blades of each group (a spec on a mower, say): the group's rate and unevenness shrunk
 * toward the fleet's and the fleet's toward the usual ones (a rate counts `worth` of the clock, an unevenness
 * ten steps: wear comes grind by grind, so a mower ground seldom is less even by the hour); the spread
 * between blades is pooled over the whole fleet. All by moments.
 *
 * Records of blades retired for damage belong in: what they lost was seen, only their end was not wear's.
 * Errors: `worth` not above zero.
 * @example poolWear({ s: [] }, { usual: limit.prior, worth: 4, readingU: 0.1 }).fleet.rate // 0.5
 */
export function poolWear(groups, pooling) {
    const worth = positive('worth', pooling.worth);
    notNegative('readingU', pooling.readingU);
    const { usual } = pooling;
    const all = Object.values(groups).flat();
    for (const { over } of all) {
        if (!(over >= 0))
            throw new BenchError('over', 'must not be negative', over);
    }
    const shrunk = (records, toward) => Math.max(usual.rate * 1e-3, (toward * worth + total(records, 'lost')) / (worth + total(records, 'over')));
    const shape = learnedShape(all, usual.shape, pooling.readingU);
    const shapes = Object.fromEntries(Object.entries(groups).map(([key, records]) => [
        key,
        learnedShape(records, shape, pooling.readingU),
    ]));
    const rate = shrunk(all, usual.rate);
    const bladeSpread = learnedSpread(groups, shapes, usual);
    return {
        fleet: { rate, shape, bladeSpread },
        groups: Object.fromEntries(Object.entries(groups).map(([key, records]) => [
            key,
            {
                rate: shrunk(records, rate),
                shape: shapes[key] ?? shape,
                // A new blade of the group differs from its mean, and the mean is not known exactly.
                bladeSpread: bladeSpread * Math.sqrt(1 + 1 / (1 + records.length)),
            },
        ])),
    };
}
/** How much the two ends are taken to wear together before anything is known, and what that counts, in steps. */
const USUAL_TOGETHER = 0.5;
const USUAL_TOGETHER_STEPS = 20;
/**
 * How much the two ends wear together, 0 (each by itself) to 1 (alike): the correlation of their steps about
 * the group's rate, freed of the readings' noise, shrunk toward one half. Pooled over blades.
 * @example endsTogether([], 0.1) // 0.5
 */
export function endsTogether(blades, readingU) {
    let both = 0;
    let spread = 0;
    let count = 0;
    for (const { rate, A, B } of blades) {
        A.steps?.forEach((a, i) => {
            const b = B.steps?.[i];
            if (!b)
                return;
            const x = a.lost - rate * a.over;
            const y = b.lost - rate * b.over;
            both += x * y;
            spread += (x * x + y * y) / 2 - 2 * readingU ** 2;
            count += 1;
        });
    }
    const seen = spread > 0 ? Math.min(1, Math.max(0, both / spread)) : USUAL_TOGETHER;
    return (seen * count + USUAL_TOGETHER * USUAL_TOGETHER_STEPS) / (count + USUAL_TOGETHER_STEPS);
}
//# sourceMappingURL=wear.js.map