import jstat from 'jstat';
import { bisect, integrate } from '../index.js';
describe('integrate', () => {
    it('is exact at once for polynomials', () => {
        expect(integrate((x) => 3 * x * x, 0, 1)).toBeCloseTo(1, 14);
        expect(integrate((x) => x ** 13, 0, 2)).toBeCloseTo(2 ** 14 / 14, 8);
        expect(integrate((x) => x, 2, 2)).toBe(0);
    });
    // The normal distribution function, by the statistics package jstat.
    it('agrees with a statistics package on the normal distribution function', () => {
        const density = (x) => Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI);
        for (const z of [-2.5, -1, 0, 0.7, 1.96, 3]) {
            expect(integrate(density, -12, z)).toBeCloseTo(jstat.normal.cdf(z, 0, 1), 9);
        }
    });
    it('holds on at a kink', () => {
        expect(integrate((x) => Math.abs(x - 0.3), 0, 1)).toBeCloseTo(0.045 + 0.245, 10);
    });
});
describe('bisect', () => {
    it('finds the root of a rising and of a falling function', () => {
        expect(bisect((x) => x * x - 2, 0, 2)).toBeCloseTo(Math.SQRT2, 13);
        expect(bisect((x) => 2 - x * x, 0, 2)).toBeCloseTo(Math.SQRT2, 13);
    });
    it('gives back the quantiles of a statistics package', () => {
        for (const p of [0.1, 0.5, 0.9, 0.975]) {
            const quantile = bisect((z) => jstat.normal.cdf(z, 0, 1) - p, -8, 8);
            expect(quantile).toBeCloseTo(jstat.normal.inv(p, 0, 1), 6);
        }
    });
});
//# sourceMappingURL=integrate.spec.js.map