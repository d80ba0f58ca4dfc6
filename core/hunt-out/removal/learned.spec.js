import { mean as meanOfAll, sampleStandardDeviation } from 'simple-statistics';
import { learnRemoval, USUAL_REMOVAL } from '../index.js';
/** A small seeded stream, so that replays repeat. */
function noise(seed) {
    let state = seed;
    return () => {
        state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
        return state / 2_147_483_648 - 0.5;
    };
}
describe('learned removal', () => {
    it('starts at the prior and grows sure', () => {
        expect(learnRemoval([]).mean.value).toBe(0.6);
        const grinds = (n) => Array.from({ length: n }, () => ({ passes: 10, removedG: 9 }));
        expect(learnRemoval(grinds(30)).mean.value).toBeCloseTo(0.9, 1);
        expect(learnRemoval(grinds(30)).mean.u).toBeLessThan(learnRemoval(grinds(3)).mean.u);
        expect(learnRemoval([{ passes: 0, removedG: 5 }]).grinds).toBe(0);
    });
    it('with a prior worth next to nothing is the mean and scatter of a statistics package', () => {
        const rates = [0.52, 0.61, 0.47, 0.66, 0.58, 0.55, 0.49, 0.63, 0.57, 0.6];
        const many = Array.from({ length: 40 }, () => rates).flat();
        const { mean, nextU } = learnRemoval(many.map((rate) => ({ passes: 10, removedG: 10 * rate })), { ...USUAL_REMOVAL, worthGrinds: 1e-9, forgetting: 1 });
        expect(mean.value).toBeCloseTo(meanOfAll(many), 9);
        expect(nextU / sampleStandardDeviation(many)).toBeCloseTo(1, 1);
    });
    it('beats "always the prior" on replayed histories, wearing belts included, and says how sure it is', () => {
        let learned = 0;
        let always = 0;
        let covered = 0;
        let count = 0;
        for (let shop = 0; shop < 40; shop++) {
            const random = noise(shop + 7);
            const fresh = 0.35 + 0.6 * (random() + 0.5);
            const history = [];
            for (let i = 0; i < 60; i++) {
                const rate = fresh * (1 - 0.004 * i) * (1 + 0.4 * random());
                const { mean, nextU } = learnRemoval(history);
                learned += (rate - mean.value) ** 2;
                always += (rate - USUAL_REMOVAL.gramsPerPass) ** 2;
                if (i >= 10) {
                    count += 1;
                    if (Math.abs(rate - mean.value) <= 2 * nextU)
                        covered += 1;
                }
                history.push({ passes: 12, removedG: 12 * rate });
            }
        }
        expect(learned).toBeLessThan(0.6 * always);
        expect(covered / count).toBeGreaterThan(0.9);
    });
    it('refuses an impossible prior by name', () => {
        expect(() => learnRemoval([], { ...USUAL_REMOVAL, gramsPerPass: 0 })).toThrowError(/gramsPerPass/);
    });
});
//# sourceMappingURL=learned.spec.js.map