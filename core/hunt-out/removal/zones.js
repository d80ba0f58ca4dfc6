import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
export const USUAL_LEARNING = {
    toolSpread: 0.4,
    zoneSpread: 0.2,
    scatter: 0.2,
    forgetting: 0.97,
};
/**
 * Grams a pass, zone by zone, from whole grinds: removed = Σ passes·g_z + scatter. Recursive least squares
 * with forgetting from a prior in which all zones of one abrasive are fresh or worn together (a Kalman filter
 * with constant state; standard). A zone nobody has used yet moves with the others.
 *
 * Errors: `priors` when empty, a count or weight that is negative, by name.
 * Example: no grinds at all gives the priors back.
 * @example learnZones([], [full]).perZone.full.value // 0.6
 */
export function learnZones(grinds, priors, learning = USUAL_LEARNING) {
    if (priors.length === 0)
        throw new BenchError('priors', 'must hold at least one zone');
    strictlyBetween('forgetting', learning.forgetting, 0, 1 + 1e-12);
    const n = priors.length;
    const g = priors.map(({ gramsPerPass }, i) => positive(`priors[${i}].gramsPerPass`, gramsPerPass));
    const prior = (i, j) => (g[i] ?? 0) *
        (g[j] ?? 0) *
        (learning.toolSpread ** 2 + (i === j ? learning.zoneSpread ** 2 : 0));
    const mean = [...g];
    let spread = g.map((_, i) => g.map((_each, j) => prior(i, j)));
    const counts = (passes) => priors.map(({ key }) => notNegative(`passes.${key}`, passes[key] ?? 0));
    const dot = (a, b) => a.reduce((sum, each, i) => sum + each * (b[i] ?? 0), 0);
    const through = (x) => spread.map((row) => dot(row, x));
    const predict = (passes) => {
        const x = counts(passes);
        const value = dot(x, mean);
        const variance = Math.max(0, dot(x, through(x))) + (learning.scatter * value) ** 2;
        return { value, u: Math.sqrt(variance) };
    };
    const foretold = [];
    let used = 0;
    for (const { passes, removedG } of grinds) {
        const x = counts(passes);
        const teaches = dot(x, x) > 0 && removedG > 0;
        foretold.push(teaches ? predict(passes) : undefined);
        if (!teaches)
            continue;
        // Older grinds fade, but never below what the prior knew.
        spread = spread.map((row, i) => row.map((each, j) => (i === j ? Math.min(each / learning.forgetting, prior(i, j)) : each)));
        const px = through(x);
        const expected = dot(x, mean);
        const s = dot(x, px) + (learning.scatter * Math.max(expected, 1e-9)) ** 2;
        const surprise = removedG - expected;
        for (let i = 0; i < n; i++) {
            mean[i] = Math.max((g[i] ?? 0) * 0.05, (mean[i] ?? 0) + ((px[i] ?? 0) / s) * surprise);
        }
        spread = spread.map((row, i) => row.map((each, j) => each - ((px[i] ?? 0) * (px[j] ?? 0)) / s));
        used += 1;
    }
    return {
        perZone: Object.fromEntries(priors.map(({ key }, i) => [
            key,
            { value: mean[i] ?? 0, u: Math.sqrt(Math.max(0, spread[i]?.[i] ?? 0)) },
        ])),
        grinds: used,
        foretold,
        predict,
    };
}
//# sourceMappingURL=zones.js.map