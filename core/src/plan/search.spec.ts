import { ENDS } from '../blade/shape.js';
import { blade, isAllowed, leastOfAll } from '../testing/grind-problems.js';
import { simulatePasses } from './forward.js';
import { planRows, type PlanInput } from './problem.js';
import { searchPasses } from './search.js';
import { usualZones } from './zones.js';

describe('the exact search', () => {
  it('finds what trying every choice finds, on 90 blades of all kinds', () => {
    let without = 0;
    for (let seed = 0; seed < 90; seed++) {
      const input = blade(seed, { trailing: seed % 5 === 4, across: seed % 10 === 9 });
      const rows = planRows(input);
      const { passes, objectiveG, proven } = searchPasses(input, rows);
      const least = leastOfAll(input, rows);
      expect(proven).withContext(`blade ${seed}`).toBeTrue();
      if (least === Infinity) without += 1;
      expect(objectiveG ?? Infinity)
        .withContext(`blade ${seed}`)
        .toBeCloseTo(least, 5);
      for (const end of passes ? ENDS : [])
        expect(isAllowed(input, rows, end, passes![end])).toBeTrue();
    }
    expect(without).toBeGreaterThan(0);
  });

  /** Two blades for which tangents of recession gave more metal than needed, and no plan at all. */
  const plain = (unbalanceGmm: number, permissibleGmm: number): PlanInput => {
    const along = Array.from({ length: 11 }, (_, i) => ({
      radiusMm: 264.7 - 9.6 * i,
      bevelDeg: 26,
      landMm: 0.3,
      wornMm: 1,
      roomMm: 6,
    }));
    return {
      ...blade(1),
      thicknessMm: 6.35,
      tipRadiusMm: 266.7,
      edgeLengthMm: 110,
      stations: { A: along, B: along },
      nicks: [],
      zones: usualZones(110, 0.6),
      rules: { ...blade(1).rules, newBevelDeg: 30 },
      balance: { unbalanceGmm, uGmm: 20, permissibleGmm },
    };
  };

  it('takes 1.5 g where tangents took 1.8 g, and finds the plan they missed', () => {
    const less = plain(150, 130);
    expect(searchPasses(less, planRows(less)).passes).toEqual({ A: [1, 1], B: [1, 0] });
    const missed = plain(450, 60);
    const { passes } = searchPasses(missed, planRows(missed));
    expect(passes).toEqual({ A: [3, 2], B: [1, 0] });
    expect(simulatePasses(missed, planRows(missed), passes!).unbalanceGmm).toBeCloseTo(48, 0);
  });

  it('says how far off it may be when it is cut off, and that it is not proven', () => {
    const input = { ...plain(300, 130), zones: usualZones(110, 0.06) };
    const rows = planRows({ ...input, rules: { ...input.rules, mostPassesPerZone: 600 } });
    const whole = searchPasses(input, rows);
    expect(whole.proven).toBeTrue();
    const cut = searchPasses(input, rows, Math.ceil(whole.nodes * 0.98));
    expect(cut.proven).toBeFalse();
    if (cut.objectiveG !== undefined)
      expect(cut.objectiveG - cut.gapG).toBeLessThanOrEqual(whole.objectiveG! + 1e-6);
  });
});
