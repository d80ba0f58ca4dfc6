import fc from 'fast-check';
import { flatSection, recessionCurve, removedAreaMm2, wheelSection } from '../index.js';

const section = (bevelDeg: number, landMm: number) =>
  flatSection(6, { bevelDeg, landMm, recessionMm: 0 });

describe('recessionCurve', () => {
  it('is the removed area itself, and its inverse, for planes, compound bevels and arcs', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 45, noNaN: true }),
        fc.double({ min: 20, max: 45, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 4, noNaN: true }),
        fc.boolean(),
        (old, fresh, oldLand, land, recession, wheel) => {
          const before = section(old, oldLand);
          const ground = wheel
            ? wheelSection(6, { radiusMm: 100, centreHeightMm: 50 + fresh }, 0, 8)
            : section(fresh, land);
          const curve = recessionCurve(before, ground);
          const moved = ground.map(({ yMm, sMm }) => ({ yMm, sMm: sMm + recession }));
          const area = removedAreaMm2(before, moved);
          expect(curve.areaMm2(recession)).toBeCloseTo(area, 9);
          if (area > curve.sharpenMm2 + 1e-9)
            expect(curve.recessionMm(area)).toBeCloseTo(recession, 5);
        },
      ),
      { numRuns: 300 },
    );
  });
  it('stays finite where two sections differ by next to nothing', () => {
    for (const least of [5e-324, 1e-310, 1e-300, 1e-16]) {
      for (const [before, ground] of [
        [section(30, least), section(30, 0)],
        [section(30, 0), section(30, least)],
      ] as const) {
        const curve = recessionCurve(before, ground);
        for (const recession of [0, 1e-310, 0.5])
          expect(curve.areaMm2(recession)).toBeCloseTo(6 * recession, 9);
      }
    }
  });
  it('knows how much height the new face has reached', () => {
    const same = recessionCurve(section(30, 0), section(30, 0));
    expect(same.reachMm(1)).toBe(6);
    expect(same.areaMm2(1)).toBeCloseTo(6, 12);
    const steeper = recessionCurve(section(30, 0), section(40, 0));
    expect(steeper.reachMm(0.1)).toBeLessThan(1);
    expect(() => same.areaMm2(-1)).toThrowError(/recessionMm/);
  });
  it('averages over a stretch along which the recession runs evenly, as many thin slices do', () => {
    const curves = [
      recessionCurve(section(30, 0.5), section(38, 0.1)),
      recessionCurve(
        section(28, 0.2),
        wheelSection(6, { radiusMm: 100, centreHeightMm: 85 }, 0, 8),
      ),
    ];
    for (const { areaMm2, meanAreaMm2 } of curves) {
      for (const [from, to] of [
        [0, 0.4],
        [2, 0.1],
        [0.7, 0.7],
        [1, 1.00005],
      ] as const) {
        const slices = 4000;
        let sum = 0;
        for (let i = 0; i < slices; i++) sum += areaMm2(from + ((to - from) * (i + 0.5)) / slices);
        expect(meanAreaMm2(from, to)).toBeCloseTo(sum / slices, 6);
      }
      expect(() => meanAreaMm2(-1, 1)).toThrowError(/fromMm/);
    }
  });
});
