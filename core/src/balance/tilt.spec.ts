import {
  acrossAngleDeg,
  calibratedTilt,
  calibratedTiltGmm,
  halfTurnMean,
  nextSearchStepGmm,
  planeCorrection,
  planeSizeGmm,
  swingStep,
  tiltTangentFromHeights,
  tiltUnbalanceGmm,
  type HeavyEnd,
  type SearchStep,
  type SwingState,
} from '../index.js';
import { normal, seeded } from '../testing/dice.js';

describe('tilt on a cone', () => {
  it('is where the integrated blade comes to rest', () => {
    const model = {
      inertiaGmm2: 3.8e7,
      unbalanceGmm: 240,
      massG: 1200,
      belowPivotMm: 2,
      frictionGmm: 0.5,
      dampingPerS: 0.6,
    };
    let state: SwingState = { timeS: 0, angleRad: 0, rateRadPerS: 0 };
    while (state.timeS < 80) state = swingStep(model, state, 1e-3);
    expect(tiltUnbalanceGmm(1200, 2, Math.tan(state.angleRad))).toBeCloseTo(240, 0);
  });

  it('needs no height when calibrated on the same blade', () => {
    // Statics both ways round: τ₂ = (U + m·r)/(M·h + m·h_c).
    const [massG, heightMm, unbalance, m, r, hc] = [1200, 2, 240, 1, 200, 5];
    const tiltAlone = unbalance / (massG * heightMm);
    const tiltWithMass = (unbalance + m * r) / (massG * heightMm + m * hc);
    expect(
      calibratedTiltGmm({ tiltAlone, tiltWithMass, massG: m, radiusMm: r, belowPivotMm: hc }),
    ).toBeCloseTo(240, 9);
    expect(() =>
      calibratedTiltGmm({
        tiltAlone: 0.2,
        tiltWithMass: 0.1,
        massG: 1,
        radiusMm: 1,
        belowPivotMm: 0,
      }),
    ).toThrowError(/put the mass on the heavy end/);
  });

  it('has the doubt that propagating distributions finds (JCGM 101), and refuses where it would not', () => {
    const dice = seeded(7);
    const doubtOf = (times: number) => {
      const u = 0.01;
      const [alone, withMass] = [0.1, 0.1 + times * Math.hypot(u, u)];
      const rest = { massG: { value: 1, u: 0 }, radiusMm: { value: 200, u: 0 }, belowPivotMm: 0 };
      const linear = () =>
        calibratedTilt({
          tiltAlone: { value: alone, u },
          tiltWithMass: { value: withMass, u },
          ...rest,
        }).u;
      const values = Array.from({ length: 40_000 }, () => {
        const [first, second] = [alone + u * normal(dice), withMass + u * normal(dice)];
        return (200 * first) / (second - first);
      });
      const mean = values.reduce((sum, each) => sum + each, 0) / values.length;
      const square = values.reduce((sum, each) => sum + (each - mean) ** 2, 0);
      return { linear, drawn: Math.sqrt(square / values.length) };
    };
    for (const times of [8.1, 10, 15, 30]) {
      const { linear, drawn } = doubtOf(times);
      expect(Math.abs(linear() / drawn - 1))
        .withContext(`${times} times`)
        .toBeLessThan(0.1);
    }
    expect(() => doubtOf(2.1).linear()).toThrowError(/hang a heavier weight/);
  });

  it('is read from two heights', () => {
    expect(tiltTangentFromHeights(30, 50)).toBeCloseTo(0.75, 12);
    expect(() => tiltTangentFromHeights(50, 50)).toThrowError(/differenceMm/);
  });
});

describe('the half turn', () => {
  it('tells the blade from the balancer', () => {
    const { blade, balancerGmm } = halfTurnMean({ value: 260, u: 20 }, { value: 140, u: 20 });
    expect(blade.value).toBe(200);
    expect(blade.u).toBeCloseTo(20 / Math.SQRT2, 12);
    expect(balancerGmm).toBe(60);
  });
});

describe('a straightedge under the centre line', () => {
  /** The blade lies on the edge: its centre of mass is half its thickness above the line it tips about. */
  const settles = (unbalanceGmm: number): number => {
    const model = {
      inertiaGmm2: 4e7,
      unbalanceGmm,
      massG: 1600,
      belowPivotMm: -3.2,
      frictionGmm: 60,
      dampingPerS: 0.05,
    };
    let state = { timeS: 0, angleRad: 0, rateRadPerS: 0 };
    while (state.timeS < 4 && Math.abs(state.angleRad) < 0.2) state = swingStep(model, state, 1e-3);
    return state.angleRad;
  };
  it('stays where the edge holds it, and falls to the heavy end beyond: it tells the end, not how much', () => {
    expect(settles(40)).toBe(0);
    expect(settles(200)).toBeGreaterThan(0.19);
    expect(settles(-200)).toBeCloseTo(-settles(200), 9);
    // Nothing brings it back: once it goes, the amount changes only how soon.
    expect(settles(900)).toBeGreaterThan(0.19);
  });
});

describe('two directions', () => {
  const places = { radiusMm: 200, acrossMm: 25, trailingEdgeAllowed: true };
  it('are met whole where the trailing edge may be ground', () => {
    const { cuttingAG, trailingAG, left } = planeCorrection(
      { alongGmm: 300, acrossGmm: 0 },
      places,
    );
    expect([cuttingAG, trailingAG]).toEqual([0.75, 0.75]);
    expect(planeSizeGmm(left)).toBe(0);
    const skew = planeCorrection({ alongGmm: -100, acrossGmm: 60 }, places);
    const along = 200 * (skew.cuttingAG + skew.trailingAG - skew.cuttingBG - skew.trailingBG);
    const across = 25 * (skew.cuttingAG - skew.trailingAG - skew.cuttingBG + skew.trailingBG);
    expect(along).toBeCloseTo(-100, 9);
    expect(across).toBeCloseTo(60, 9);
  });

  it('leave something over where only cutting edges may be ground, and say what', () => {
    const { cuttingAG, left } = planeCorrection(
      { alongGmm: 300, acrossGmm: 0 },
      { ...places, trailingEdgeAllowed: false },
    );
    expect(cuttingAG).toBeCloseTo((300 * 200) / (200 ** 2 + 25 ** 2), 9);
    expect(left.alongGmm * 200 + left.acrossGmm * 25).toBeCloseTo(0, 9);
    expect(acrossAngleDeg({ alongGmm: 10, acrossGmm: 10 })).toBeCloseTo(45, 9);
  });
});

describe('the search when only the heavy end is known', () => {
  const options = { toleranceGmm: 150, stepRelativeError: 0.3 };
  it('brings every blade within tolerance, and flips at most once after the first flip', () => {
    for (const start of [170, 400, 900, 1700, -640]) {
      for (const error of [-0.3, 0, 0.3]) {
        let left = start;
        let flips = 0;
        const earlier: SearchStep[] = [];
        for (let round = 0; round < 30 && Math.abs(left) > options.toleranceGmm; round++) {
          const heavyEnd: HeavyEnd = left > 0 ? 'A' : 'B';
          const takenGmm = nextSearchStepGmm(heavyEnd, earlier, options);
          expect(takenGmm).toBeGreaterThan(0);
          earlier.push({ heavyEnd, takenGmm });
          const before = Math.sign(left);
          left -= before * takenGmm * (1 + error);
          if (Math.sign(left) !== before && Math.abs(left) > options.toleranceGmm) flips += 1;
        }
        expect(Math.abs(left))
          .withContext(`${start}, ${error}`)
          .toBeLessThanOrEqual(options.toleranceGmm);
        expect(flips).toBeLessThanOrEqual(2);
      }
    }
  });

  it('stops when it hangs level', () => {
    expect(nextSearchStepGmm('level', [], options)).toBe(0);
    expect(nextSearchStepGmm('A', [], options)).toBe(150);
  });
});
