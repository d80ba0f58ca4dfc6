import ellipticK from '@stdlib/math-base-special-ellipk';
import {
  barInertiaGmm2,
  dragSlowing,
  dropIntegral,
  dropsSoFar,
  dropTimeS,
  integrate,
  leastVisibleGmm,
  simulatedDropS,
  simulatedFirstStopDeg,
  unbalanceFromDropGmm,
  unbalanceFromDrops,
  type SwingModel,
} from '../index.js';
import { normal, seeded } from '../testing/dice.js';

const inertiaGmm2 = barInertiaGmm2(1600, 533, 63.5);
const hanging = { inertiaGmm2, markDeg: 90, frictionGmm: 0 };
const model = (unbalanceGmm: number, frictionGmm = 0): SwingModel => ({
  inertiaGmm2,
  unbalanceGmm,
  massG: 1600,
  belowPivotMm: 0,
  frictionGmm,
  dampingPerS: 0,
});

describe('the drop integral', () => {
  // Abramowitz & Stegun, table 17.1: K(m = 0.5) = 1.85407 46773 01372.
  it('of a full drop is the complete elliptic integral K(m = ½)', () => {
    expect(dropIntegral(90)).toBeCloseTo(1.854074677301372, 10);
    // The same from a numerical package of the registry.
    expect(dropIntegral(90)).toBeCloseTo(ellipticK(0.5), 10);
  });

  it('agrees with Gauss’s arithmetic-geometric mean, K = π/(2·agm(1, √½))', () => {
    let [a, b] = [1, Math.SQRT1_2];
    for (let i = 0; i < 8; i++) [a, b] = [(a + b) / 2, Math.sqrt(a * b)];
    expect(dropIntegral(90)).toBeCloseTo(Math.PI / (2 * a), 10);
  });

  it('to a mark is the difference of elliptic integrals, K(30°) = 1.0281', () => {
    // F(π/2 | ½) − F(asin(√2·sin((90° − φ)/2)) | ½), the second argument m = k².
    const F = (amplitude: number): number =>
      integrate((x) => 1 / Math.sqrt(1 - 0.5 * Math.sin(x) ** 2), 0, amplitude);
    for (const mark of [10, 30, 45, 60, 80]) {
      const amplitude = Math.asin(Math.SQRT2 * Math.sin(((90 - mark) / 2) * (Math.PI / 180)));
      expect(dropIntegral(mark)).toBeCloseTo(F(Math.PI / 2) - F(amplitude), 8);
    }
    expect(dropIntegral(30)).toBeCloseTo(1.0281, 4);
  });

  it('refuses friction that never lets the mark be reached', () => {
    expect(() => dropIntegral(90, 0.65)).toThrowError(/friction is too large/);
    expect(() => dropIntegral(90, -0.1)).toThrowError(/friction/);
    expect(dropIntegral(90, 0.6)).toBeGreaterThan(dropIntegral(90, 0.3));
  });
});

describe('drop time against integration in time', () => {
  for (const unbalance of [20, 60, 200, 700, 2000]) {
    it(`over two decades of unbalance: ${unbalance} g·mm, to hanging and to 30°`, () => {
      for (const markDeg of [30, 90]) {
        const simulated = simulatedDropS(model(unbalance), markDeg) ?? NaN;
        expect(dropTimeS(unbalance, { ...hanging, markDeg }) / simulated).toBeCloseTo(1, 4);
      }
    });
  }

  it('with friction of the bearing', () => {
    for (const share of [0.1, 0.3, 0.5]) {
      const frictionGmm = 300 * share;
      const simulated = simulatedDropS(model(300, frictionGmm), 90) ?? NaN;
      const setUp = { ...hanging, frictionGmm };
      expect(dropTimeS(300, setUp) / simulated).toBeCloseTo(1, 4);
      expect(unbalanceFromDropGmm(simulated, setUp) / 300).toBeCloseTo(1, 3);
    }
  });

  it('ignoring friction reads low: 11 % at μ = 0.1, 33 % at μ = 0.3', () => {
    const low = (share: number): number => {
      const time = dropTimeS(300, { ...hanging, frictionGmm: 300 * share });
      return 1 - unbalanceFromDropGmm(time, hanging) / 300;
    };
    expect(low(0.1)).toBeCloseTo(0.11, 2);
    expect(low(0.3)).toBeCloseTo(0.33, 2);
  });

  it('does not start where friction holds it, nor hang where μ is above 2/π', () => {
    expect(simulatedDropS(model(100, 120), 30)).toBeUndefined();
    expect(simulatedDropS(model(100, 70), 90)).toBeUndefined();
    expect(() => dropTimeS(100, { ...hanging, frictionGmm: 70 })).toThrowError(
      /never to reach|ever to reach/,
    );
    expect(leastVisibleGmm({ markDeg: 90, frictionGmm: 70 })).toBeCloseTo((70 * Math.PI) / 2, 9);
  });

  // Energy from level to the first stop: sin θ = μ·θ, so at a shortfall δ = π − θ friction is μ = sin δ/(π − δ).
  it('stops short of the far side by what friction takes (statics, closed form)', () => {
    for (const share of [0.05, 0.15, 0.3]) {
      const delta = ((180 - simulatedFirstStopDeg(model(400, 400 * share))) * Math.PI) / 180;
      expect(Math.sin(delta) / (Math.PI - delta)).toBeCloseTo(share, 3);
    }
  });
});

describe('drag of grease and air', () => {
  const dragged = (unbalance: number, dampingPerS: number): number =>
    simulatedDropS({ ...model(unbalance, 8), dampingPerS }, 90, 1e-3) ?? NaN;

  it('slows a drop as the integration in time has it, to the first order', () => {
    // Per d·t in the limit of little drag, from the integrator alone.
    const free = simulatedDropS(model(200), 90) ?? NaN;
    const little = simulatedDropS({ ...model(200), dampingPerS: 1e-3 }, 90) ?? NaN;
    expect(dragSlowing(90)).toBeCloseTo((little / free - 1) / (1e-3 * free), 2);
  });

  for (const [unbalance, dragPerS] of [
    [200, 0.03],
    [200, 0.05],
    [700, 0.1],
  ] as const) {
    it(`taken into account gives ${unbalance} g·mm back at ${dragPerS} a second`, () => {
      const setUp = { ...hanging, frictionGmm: 8, dragPerS };
      const timeS = dragged(unbalance, dragPerS);
      expect(dropTimeS(unbalance, setUp) / timeS).toBeCloseTo(1, 1);
      expect(Math.abs(unbalanceFromDropGmm(timeS, setUp) / unbalance - 1)).toBeLessThan(0.016);
      // Left out it reads low, by far more than reaction does.
      expect(unbalanceFromDropGmm(timeS, { ...setUp, dragPerS: 0 }) / unbalance).toBeLessThan(0.92);
    });
  }

  it('not known for sure widens the doubt', () => {
    const doubts = { bladeMassG: 1600, centringMm: 0.02 };
    const setUp = { ...hanging, frictionGmm: 8, dragPerS: 0.03 };
    const timeS = dragged(200, 0.05);
    const sure = unbalanceFromDrops([timeS, timeS], setUp, doubts).unbalance;
    const found = unbalanceFromDrops([timeS, timeS], setUp, { ...doubts, dragU: 0.02 }).unbalance;
    expect(found.u).toBeGreaterThan(sure.u);
    expect(Math.abs(found.value - 200)).toBeLessThan(2 * found.u);
  });

  it('is no less than none', () => {
    expect(() => dropTimeS(200, { ...hanging, dragPerS: -0.1 })).toThrowError(/dragPerS/);
  });
});

describe('several drops', () => {
  const doubts = { bladeMassG: 1600, centringMm: 0.02 };
  const time = dropTimeS(400, hanging);
  it('make one unbalance, with reaction entering twice', () => {
    const { unbalance, outliersS, tooQuick } = unbalanceFromDrops(
      [time + 0.05, time - 0.04, time + 0.02],
      hanging,
      doubts,
    );
    expect(Math.abs(unbalance.value - 400)).toBeLessThan(2 * unbalance.u);
    expect(unbalance.u).toBeGreaterThan(1600 * 0.02);
    expect(outliersS).toEqual([]);
    expect(tooQuick).toBeFalse();
  });

  it('cover 95 % however few they are and however unlike (JCGM 101 Monte Carlo)', () => {
    const dice = seeded(17);
    for (const [drops, spreadS] of [
      [2, 0.07],
      [3, 0.07],
      [3, 0.14],
      [3, 0.3],
      [5, 0.07],
      [5, 0.3],
    ] as const) {
      let held = 0;
      const TRIALS = 4000;
      for (let trial = 0; trial < TRIALS; trial++) {
        const times = Array.from({ length: drops }, () => time + spreadS * normal(dice));
        // Timing alone: nothing else is in doubt.
        const { unbalance } = unbalanceFromDrops(times, hanging, {
          bladeMassG: 1e-9,
          centringMm: 0,
          inertiaRelativeU: 0,
        });
        if (Math.abs(unbalance.value - 400) <= 2 * unbalance.u) held += 1;
      }
      expect(held / TRIALS)
        .withContext(`${drops} drops that differ by ${spreadS} s`)
        .toBeGreaterThan(0.92);
    }
  });

  it('leave out one that was started late', () => {
    const { outliersS, unbalance } = unbalanceFromDrops(
      [time, time + 0.03, time - 0.03, time + 2],
      hanging,
      doubts,
    );
    expect(outliersS).toEqual([time + 2]);
    expect(unbalance.value / 400).toBeCloseTo(1, 1);
  });

  it('are refused where they tell nothing, and not where they only differ', () => {
    for (const apart of [
      [0.33, 6.04],
      [0.295, 2.519],
      [9, 14],
    ])
      expect(() => unbalanceFromDrops(apart, hanging, doubts))
        .withContext(apart.join())
        .toThrowError(/too far apart.*strike the wrong one out/);
    for (const alike of [
      [6, 6.5],
      [2, 2.2],
      [9, 14, 9.1, 9.05],
    ])
      expect(() => unbalanceFromDrops(alike, hanging, doubts))
        .withContext(alike.join())
        .not.toThrow();
  });

  it('say as they are made how sure timing is, and whether another one pays', () => {
    // Reaction of 0.07 s enters twice: 2 · 0.07 / 2 = 7 % of a drop of 2 s, against half of the 3 % of the inertia.
    const once = dropsSoFar([2]);
    expect(once.relativeU).toBeCloseTo(0.07, 12);
    expect(once.worthMaking).toBe(8);
    expect(dropsSoFar([2, 2.02, 1.98, 2]).relativeU).toBeCloseTo(0.035, 12);
    expect(dropsSoFar([9, 9.05]).worthMaking).toBe(0);
    expect(dropsSoFar([9, 14]).worthMaking).toBe(7);
    expect(dropsSoFar([0.6]).tooQuick).toBeTrue();
    expect(() => dropsSoFar([])).toThrowError(/timesS/);
  });
  it('say when a drop is too quick to time, and how many more are worth making', () => {
    const quick = unbalanceFromDrops([dropTimeS(40_000, hanging)], hanging, doubts);
    expect(quick.tooQuick).toBeTrue();
    expect(quick.dropsWorthMaking).toBeGreaterThan(0);
    expect(() => unbalanceFromDrops([0.3], hanging, doubts)).toThrowError(/too quick to be timed/);
    expect(() => unbalanceFromDrops([], hanging, doubts)).toThrowError(/at least one drop/);
    expect(() => unbalanceFromDrops([0], hanging, doubts)).toThrowError(/timesS\[0\]/);
  });
});
