import { learnZones, type ZoneGrind, predictRemoval, USUAL_LEARNING } from '../index.js';
import { replayRemoval, type RemovalCase } from '../testing/belts.js';

const PRIORS = [
  { key: 'full', gramsPerPass: 0.6 },
  { key: 'outer-half', gramsPerPass: 0.3 },
];

describe('learnZones', () => {
  it('gives the priors back without grinds, and is as unsure as they are', () => {
    const learned = learnZones([], PRIORS);
    const { perZone, grinds } = learned;
    expect(perZone['full']?.value).toBe(0.6);
    expect(perZone['full']?.u).toBeCloseTo(0.6 * Math.hypot(0.4, 0.2, 0.1), 12);
    expect(grinds).toBe(0);
    expect(predictRemoval(learned, { full: 10 }).value).toBeCloseTo(6, 12);
  });

  it('moves a zone nobody used along with the rest of the abrasive', () => {
    const worn: ZoneGrind[] = Array.from({ length: 12 }, () => ({
      passes: { full: 20 },
      removedG: 20 * 0.35,
    }));
    const { perZone } = learnZones(worn, PRIORS);
    expect(perZone['full']?.value).toBeCloseTo(0.35, 1);
    expect(perZone['outer-half']?.value).toBeLessThan(0.24);
    expect(perZone['outer-half']?.value).toBeGreaterThan(0.15);
  });

  it('is the mean of logarithms shrunk to the prior where nothing blunts (normal conjugate, textbook)', () => {
    const still = {
      ...USUAL_LEARNING,
      bluntingPer100G: 0,
      bluntingSpread: 0,
      wander: 0,
      scatterWorth: 1e9,
    };
    const rates = [0.52, 0.61, 0.47, 0.66, 0.58, 0.55];
    const { mean, covariance } = learnZones(
      rates.map((rate) => ({ passes: { full: 10 }, removedG: 10 * rate })),
      [{ key: 'full', gramsPerPass: 0.6 }],
      undefined,
      still,
    );
    const before = still.toolSpread ** 2 + still.zoneSpread ** 2 + still.abrasiveSpread ** 2;
    const weight = 1 / before + rates.length / still.scatter ** 2;
    const sum = rates.reduce((all, rate) => all + Math.log(rate) / still.scatter ** 2, 0);
    expect(mean[0]).toBeCloseTo((Math.log(0.6) / before + sum) / weight, 6);
    expect(covariance[0]?.[0]).toBeCloseTo(1 / weight, 6);
  });

  it('comes back at once with a new belt, and knows how fast the next will go', () => {
    const belt = (abrasive: string, grinds: number): ZoneGrind[] =>
      Array.from({ length: grinds }, (_, i) => ({
        passes: { full: 12 },
        removedG: 12 * 0.7 * Math.exp(-0.018 * i),
        abrasive,
      }));
    const worn = belt('first', 26);
    const full = (grinds: ZoneGrind[], now?: string): number =>
      learnZones(grinds, PRIORS, now).perZone['full']?.value ?? 0;
    expect(full(worn) / (0.7 * Math.exp(-0.018 * 26))).toBeCloseTo(1, 1);
    expect(full(worn, 'second') / 0.7).toBeGreaterThan(0.95);
    expect(full(worn, 'second') / 0.7).toBeLessThan(1.05);
    // Eleven grinds after it was renewed: not still on its way back.
    const later = [...worn, ...belt('second', 11)];
    expect(full(later) / (0.7 * Math.exp(-0.018 * 11))).toBeCloseTo(1, 1);
    // Back on the first belt it is as worn as it was left.
    expect(full(later, 'first')).toBeLessThan(0.5);
  });

  const WORN: Readonly<Record<string, RemovalCase>> = {
    steady: { fade: 0, renewedAfter: 0, scatter: 0.08 },
    noisy: { fade: 0, renewedAfter: 0, scatter: 0.25 },
    drifting: { fade: 0.012, renewedAfter: 0, scatter: 0.1 },
    renewed: { fade: 0.015, renewedAfter: 25, scatter: 0.1 },
    'renewed and noisy': { fade: 0.012, renewedAfter: 18, scatter: 0.25 },
    'fast going': { fade: 0.03, renewedAfter: 14, scatter: 0.12 },
  };
  for (const [name, wear] of Object.entries(WORN)) {
    it(`beats the prior, the last grind and the mean of five, and says how sure it is: ${name}`, () => {
      const { ours, prior, last, five, inside, bias } = replayRemoval(wear, 60);
      expect(ours).toBeLessThan(Math.min(prior, last, five));
      expect(inside).toBeGreaterThanOrEqual(0.9);
      expect(inside).toBeLessThanOrEqual(0.98);
      expect(Math.abs(bias)).toBeLessThan(0.04);
    });
  }

  it('leaves out grinds without passes or metal, and refuses negative counts', () => {
    expect(learnZones([{ passes: {}, removedG: 4 }], PRIORS).grinds).toBe(0);
    expect(() => learnZones([{ passes: { full: -1 }, removedG: 4 }], PRIORS)).toThrowError(
      /passes.full/,
    );
    expect(() => learnZones([], [])).toThrowError(/priors/);
  });
});
