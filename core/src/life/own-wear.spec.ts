import { wearPlace } from '../index.js';
import { ownWear, type WearSpread } from './own-wear.js';
import type { WearSeries } from './wear.js';

const series = (lost: readonly number[], noise = 0): WearSeries => ({
  exposure: lost.map(() => 1),
  lost,
  noise: lost.map(() => noise),
});
const SPREAD: WearSpread = { levelSd: 0.3, scatterSd: 0.4, dutySd: 0, memory: 0 };

/** Logarithm of a normal density of several values, from their covariance, by Cholesky. */
function lnDensity(miss: readonly number[], covariance: (i: number, j: number) => number): number {
  const n = miss.length;
  const l = Array.from({ length: n }, () => new Float64Array(n));
  let [ln, squares] = [0, 0];
  const z = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = covariance(i, j);
      for (let k = 0; k < j; k++) sum -= (l[i]?.[k] ?? 0) * (l[j]?.[k] ?? 0);
      const row = l[i];
      if (row) row[j] = i === j ? Math.sqrt(sum) : sum / (l[j]?.[j] ?? 1);
    }
    let rest = miss[i] ?? 0;
    for (let k = 0; k < i; k++) rest -= (l[i]?.[k] ?? 0) * (z[k] ?? 0);
    const pivot = l[i]?.[i] ?? 1;
    z[i] = rest / pivot;
    ln += Math.log(pivot * pivot);
    squares += (z[i] ?? 0) ** 2;
  }
  return -0.5 * (ln + squares);
}

describe('ownWear', () => {
  it('is the spec’s without a history', () => {
    const own = ownWear(series([]), SPREAD, 0.09, 0);
    expect([own.level, own.levelVariance, own.duty]).toEqual([1, 0.09, 0]);
  });

  it('is the regression of the level on one reading after n grinds (normal conjugate, textbook)', () => {
    const [v, n, y, r] = [0.09, 4, 6, 0.05];
    const own = ownWear(series([NaN, NaN, NaN, y], r), SPREAD, v, 0.02);
    const seen = v * n * n + n * SPREAD.scatterSd ** 2 + r + 0.02;
    expect(own.level).toBeCloseTo(1 + (v * n * (y - n)) / seen, 12);
    expect(own.levelVariance).toBeCloseTo(v - (v * n) ** 2 / seen, 12);
  });

  it('gives a whole history the likelihood that its covariance gives it', () => {
    const spread = { levelSd: 0.3, scatterSd: 0.4, dutySd: 0.35, memory: 0.7 };
    const lost = [1.3, 1.9, 3.6, 4.2, 6.1];
    const [v, r, fresh] = [0.09, 0.04, 0.02];
    const { logLikelihood } = ownWear(series(lost, r), spread, v, fresh);
    const covariance = (i: number, j: number): number => {
      let sum = fresh + v * (i + 1) * (j + 1) + (i === j ? r : 0);
      for (let a = 0; a <= i; a++) {
        for (let b = 0; b <= j; b++) {
          sum += spread.dutySd ** 2 * spread.memory ** Math.abs(a - b);
          if (a === b) sum += spread.scatterSd ** 2;
        }
      }
      return sum;
    };
    const expected = lnDensity(
      lost.map((each, i) => each - (i + 1)),
      covariance,
    );
    expect(logLikelihood).toBeCloseTo(expected, 9);
  });

  it('does not make a heavy wearer of a blade read twice within an hour', () => {
    // 0.14 mm seen where 0.06 is usual, each reading good to 0.06 mm; a tenth of a grind's worth of mowing.
    const short: WearSeries = { exposure: [0.1], lost: [0.14 / 0.6], noise: [0.01] };
    const { level } = ownWear(short, SPREAD, 0.09, 0.01);
    expect(level).toBeGreaterThan(1);
    expect(level).toBeLessThan(1.1);
  });

  it('follows the duty of late more closely than that of long ago', () => {
    const spread = { levelSd: 0.1, scatterSd: 0.2, dutySd: 0.4, memory: 0.8 };
    const hardLately = ownWear(series([1, 2, 3, 4, 6, 8, 10]), spread, 0.01, 0);
    const hardOnce = ownWear(series([2, 4, 6, 7, 8, 9, 10]), spread, 0.01, 0);
    expect(hardLately.duty).toBeGreaterThan(0.4);
    expect(hardOnce.duty).toBeLessThan(0.2);
  });
});

describe('wearPlace', () => {
  it('reads widths and wings, and refuses what is neither', () => {
    expect(wearPlace('wing:B')).toEqual({ kind: 'wing', end: 'B', family: 'wing' });
    expect(wearPlace('width:A:tip').family).toBe('width:tip');
    expect(() => wearPlace('mass:A')).toThrowError(/place must be/);
    expect(() => wearPlace('width:C:tip')).toThrowError(/place must be/);
  });
});
