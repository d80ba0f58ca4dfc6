import fc from 'fast-check';
import { deckFaults, deckFit, deckPairs, type BladeSize, type SpindleCentre } from '../index.js';

const blade = (lengthMm: number): BladeSize => ({ lengthMm, widthMm: 0.001 });
const row = (...acrossMm: number[]): SpindleCentre[] =>
  acrossMm.map((across) => ({ acrossMm: across, aheadMm: 0 }));
const LIMITS = { leastClearanceMm: 6, leastOverlapMm: 12, timed: false };

describe('a deck by hand', () => {
  it('of three 533 mm blades 510 apart and 160 astern clears and overlaps as drawn on paper', () => {
    // d = √(510² + 160²) = 534.51; D = √(533² + 64²) = 536.83; they clear by −2.32 and overlap by 23.
    const fit = deckFit({
      spacingMm: 510,
      staggerMm: 160,
      lengthMm: [533, 533],
      widthMm: [64, 64],
    });
    expect(fit.spindleDistanceMm).toBeCloseTo(534.51, 2);
    expect(fit.clearanceMm).toBeCloseTo(-2.32, 2);
    expect(fit.overlapMm).toBeCloseTo(23, 9);
  });

  it('finds the trade’s own case: half an inch too long each, overlapping by a quarter inch', () => {
    // Common practice, no source: blades half an inch too long overlapped by a quarter inch.
    const right = 20.75 * 25.4;
    const spindles = row(0, right + 0.25 * 25.4);
    const fits = deckPairs(spindles, [blade(right), blade(right)]);
    expect(fits[0]?.clearanceMm).toBeCloseTo(0.25 * 25.4, 3);
    const long = deckPairs(spindles, [blade(right + 12.7), blade(right + 12.7)]);
    expect(long[0]?.clearanceMm).toBeCloseTo(-0.25 * 25.4, 3);
    const [fault] = deckFaults(long, { ...LIMITS, leastClearanceMm: 0, leastOverlapMm: -99 });
    expect(fault?.kind).toBe('clash');
    expect(fault?.shortMm).toBeCloseTo(6.35, 3);
  });

  it('asks overlap of neighbours only, clearance of all, and takes spindles in any order', () => {
    const spindles: SpindleCentre[] = [
      { acrossMm: 400, aheadMm: 0 },
      { acrossMm: 0, aheadMm: 300 },
      { acrossMm: -400, aheadMm: 0 },
    ];
    const pairs = deckPairs(spindles, [blade(430), blade(430), blade(430)]);
    expect(pairs.map(({ left, right, neighbours }) => [left, right, neighbours])).toEqual([
      [2, 1, true],
      [2, 0, false],
      [1, 0, true],
    ]);
    expect(deckFaults(pairs, LIMITS)).toEqual([]);
    const short = deckFaults(deckPairs(spindles, [blade(430), blade(380), blade(430)]), LIMITS);
    expect(short.map(({ kind, left, right }) => [kind, left, right])).toEqual([
      ['uncut-strip', 2, 1],
      ['uncut-strip', 1, 0],
    ]);
    // (430 + 380)/2 − 400 = 5 of the 12 asked for.
    expect(short[0]?.shortMm).toBeCloseTo(7, 9);
  });

  it('lets a timed deck reach into its neighbour’s circle', () => {
    const pairs = deckPairs(row(0, 400), [blade(450), blade(450)]);
    expect(deckFaults(pairs, LIMITS).map(({ kind }) => kind)).toEqual(['clash']);
    expect(deckFaults(pairs, { ...LIMITS, timed: true })).toEqual([]);
  });

  it('is the same seen in a mirror', () => {
    const mm = fc.double({ min: 300, max: 700, noNaN: true });
    fc.assert(
      fc.property(mm, mm, mm, fc.double({ min: -300, max: 300, noNaN: true }), (s, a, b, ahead) => {
        const spindles: SpindleCentre[] = [
          { acrossMm: 0, aheadMm: 0 },
          { acrossMm: s, aheadMm: ahead },
        ];
        const mirrored = spindles.map(({ acrossMm, aheadMm }) => ({
          acrossMm: -acrossMm,
          aheadMm,
        }));
        const [one] = deckPairs(spindles, [blade(a), blade(b)]);
        const [other] = deckPairs(mirrored, [blade(a), blade(b)]);
        expect(other?.clearanceMm).toBeCloseTo(one?.clearanceMm ?? NaN, 9);
        expect(other?.overlapMm).toBeCloseTo(one?.overlapMm ?? NaN, 9);
      }),
    );
  });

  it('refuses spindles in one line and a blade too few, by name', () => {
    expect(() => deckPairs(row(0, 0), [blade(400), blade(400)])).toThrowError(/spacingMm/);
    expect(() => deckPairs(row(0, 500), [blade(400)])).toThrowError(/blades/);
    expect(deckPairs(row(0), [blade(400)])).toEqual([]);
  });
});
