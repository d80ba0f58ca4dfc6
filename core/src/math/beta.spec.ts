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
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        fc.double({ min: 0.05, max: 80, noNaN: true }),
        fc.double({ min: 0.05, max: 80, noNaN: true }),
        (x, a, b) => {
          expect(regularizedBeta(x, a, b) + regularizedBeta(1 - x, b, a)).toBeCloseTo(1, 10);
        },
      ),
    );
  });
  it('agrees with a statistics package', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        fc.double({ min: 0.2, max: 60, noNaN: true }),
        fc.double({ min: 0.2, max: 60, noNaN: true }),
        (x, a, b) => {
          expect(regularizedBeta(x, a, b)).toBeCloseTo(jstat.beta.cdf(x, a, b), 7);
        },
      ),
    );
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
    // Binomial of 10 at 0.3 against an independent package.
    poissonBinomial(Array<number>(10).fill(0.3)).forEach((chance, k) => {
      expect(chance).toBeCloseTo(jstat.binomial.pdf(k, 10, 0.3), 14);
    });
  });
  it('has the mean and the variance of the chances, of thousands as of few, and what is sure', () => {
    // Mean sum p, variance sum p(1 − p): Le Cam, from memory.
    const chances = Array.from({ length: 5000 }, (_, i) => ((i * 7919) % 1000) / 1000);
    const mass = poissonBinomial(chances);
    const sum = (of: (k: number) => number): number =>
      mass.reduce((all, chance, k) => all + chance * of(k), 0);
    const mean = chances.reduce((all, p) => all + p, 0);
    expect(mass.length).toBe(5001);
    expect(sum(() => 1)).toBeCloseTo(1, 12);
    expect(sum((k) => k)).toBeCloseTo(mean, 8);
    expect(sum((k) => (k - mean) ** 2)).toBeCloseTo(
      chances.reduce((all, p) => all + p * (1 - p), 0),
      6,
    );
    expect(poissonBinomial([1, 0, 1])).toEqual([0, 0, 1, 0]);
    expect(() => poissonBinomial([1.1])).toThrowError(/chances\[0\]/);
  });
});
