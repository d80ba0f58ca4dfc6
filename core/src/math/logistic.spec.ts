import { fitLogistic } from './logistic.js';

describe('a logistic curve', () => {
  it('is that of the beetles of Bliss (1935) as Dobson & Barnett print it', () => {
    // An Introduction to Generalized Linear Models, tables 7.2 and 7.4 (from memory): −60.72 (5.18), 34.27 (2.91).
    const of = [59, 60, 62, 56, 63, 59, 62, 60];
    const killed = [6, 13, 18, 28, 52, 53, 61, 60];
    const dose = [1.6907, 1.7242, 1.7552, 1.7842, 1.8113, 1.8369, 1.861, 1.8839];
    const fit = fitLogistic(dose.map((x, i) => ({ x, hits: killed[i]!, of: of[i]! })))!;
    expect(fit.a).toBeCloseTo(-60.72, 2);
    expect(fit.b).toBeCloseTo(34.27, 2);
    expect(Math.sqrt(fit.varA)).toBeCloseTo(5.18, 2);
    expect(Math.sqrt(fit.varB)).toBeCloseTo(2.91, 2);
  });

  it('says nothing where the points tell no slope', () => {
    expect(fitLogistic([{ x: 3, hits: 1, of: 4 }])).toBeUndefined();
    expect(fitLogistic([])).toBeUndefined();
  });

  it('refuses more hits than there were', () => {
    expect(() => fitLogistic([{ x: 0, hits: 5, of: 4 }])).toThrowError(/more than there were/);
    expect(() => fitLogistic([{ x: NaN, hits: 1, of: 4 }])).toThrowError(/x must be a number/);
  });
});
