import { learnZones, type ZoneGrind, predictRemoval } from '../index.js';
import { normal, seeded } from '../testing/dice.js';

const PRIORS = [
  { key: 'full', gramsPerPass: 0.6 },
  { key: 'outer-half', gramsPerPass: 0.3 },
];

describe('learnZones', () => {
  it('gives the priors back without grinds, and is as unsure as they are', () => {
    const learned = learnZones([], PRIORS);
    const { perZone, grinds } = learned;
    expect(perZone['full']?.value).toBe(0.6);
    expect(perZone['full']?.u).toBeCloseTo(0.6 * Math.hypot(0.4, 0.2), 12);
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

  it('beats always believing the prior on replayed grinds, and says how sure it is', () => {
    const dice = seeded(77);
    let learned = 0;
    let stubborn = 0;
    let inside = 0;
    let asked = 0;
    for (let tool = 0; tool < 60; tool++) {
      const sharp = 0.6 * Math.exp(0.35 * normal(dice));
      const half = sharp * (0.4 + 0.25 * dice());
      const grinds: ZoneGrind[] = [];
      for (let i = 0; i < 25; i++) {
        const wear = 0.995 ** i;
        const passes = { full: 6 + Math.floor(10 * dice()), 'outer-half': Math.floor(8 * dice()) };
        const truth =
          (passes.full * sharp + passes['outer-half'] * half) * wear * (1 + 0.15 * normal(dice));
        if (i > 4) {
          const { value, u } = predictRemoval(learnZones(grinds, PRIORS), passes);
          const flat = passes.full * 0.6 + passes['outer-half'] * 0.3;
          learned += Math.abs(value - truth);
          stubborn += Math.abs(flat - truth);
          inside += Math.abs(value - truth) <= 2 * u ? 1 : 0;
          asked += 1;
        }
        grinds.push({ passes, removedG: truth });
      }
    }
    expect(learned).toBeLessThan(0.6 * stubborn);
    expect(inside / asked).toBeGreaterThan(0.9);
    expect(inside / asked).toBeLessThan(0.999);
  });

  it('leaves out grinds without passes or metal, and refuses negative counts', () => {
    expect(learnZones([{ passes: {}, removedG: 4 }], PRIORS).grinds).toBe(0);
    expect(() => learnZones([{ passes: { full: -1 }, removedG: 4 }], PRIORS)).toThrowError(
      /passes.full/,
    );
    expect(() => learnZones([], [])).toThrowError(/priors/);
  });
});
