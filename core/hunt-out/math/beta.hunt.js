import fcg from 'fast-check'; fcg.configureGlobal({numRuns: 300000});
import fc from 'fast-check';
import jstat from 'jstat';
import { logGamma, poissonBinomial, regularizedBeta } from '../index.js';
describe('logGamma', () => {
    it('is the logarithm of the factorial', () => {
        expect(logGamma(5)).toBeCloseTo(Math.log(24), 12);
        expect(logGamma(0.5)).toBeCloseTo(Math.log(Math.sqrt(Math.PI)), 12);
    });
    it('agrees with a statistics package', () => {
        for (const x of [0.01, 0.3, 0.7, 2.5, 17, 240, 5000]) {
            expect(logGamma(x) / jstat.gammaln(x)).toBeCloseTo(1, 9);
        }
    });
});
describe('regularizedBeta', () => {
    it('is x for a = b = 1, and its own complement', () => {
        expect(regularizedBeta(0.3, 1, 1)).toBeCloseTo(0.3, 14);
        fc.assert(fc.property(fc.double({ min: 0.001, max: 0.999, noNaN: true }), fc.double({ min: 0.05, max: 80, noNaN: true }), fc.double({ min: 0.05, max: 80, noNaN: true }), (x, a, b) => {
            expect(regularizedBeta(x, a, b) + regularizedBeta(1 - x, b, a)).toBeCloseTo(1, 10);
        }));
    });
    it('agrees with a statistics package', () => {
        fc.assert(fc.property(fc.double({ min: 0.001, max: 0.999, noNaN: true }), fc.double({ min: 0.2, max: 60, noNaN: true }), fc.double({ min: 0.2, max: 60, noNaN: true }), (x, a, b) => {
            expect(regularizedBeta(x, a, b)).toBeCloseTo(jstat.beta.cdf(x, a, b), 7);
        }));
    });
    it('refuses what is no chance', () => {
        expect(() => regularizedBeta(1.2, 1, 1)).toThrowError(/x must lie between 0 and 1/);
        expect(() => regularizedBeta(0.2, 0, 1)).toThrowError(/a must be above zero/);
    });
});
describe('poissonBinomial', () => {
    it('is the binomial where all chances are alike', () => {
        const [none, one, two] = poissonBinomial([0.5, 0.5]);
        expect([none, one, two]).toEqual([0.25, 0.5, 0.25]);
    });
});
//# sourceMappingURL=beta.spec.js.map