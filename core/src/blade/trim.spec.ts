import { deckFaults, deckPairs, lengthsThatFit, lengthsToCut } from '../deck/fit.js';
import type { Limit } from '../verdict/finding.js';
import { cutOffG, leavesRoomToTrim, trimmedTo, unlikeHalvesGmm, type TrimmedSpec } from './trim.js';

const limit = (kind: Limit['kind'], value: number, source: Limit['source']): Limit => ({
  kind,
  value,
  unit: 'mm',
  source,
  sourceText: 'its sheet',
});
const SPEC: TrimmedSpec = {
  newLengthMm: 530,
  newWidthMm: 60,
  thicknessMm: 6,
  newMassG: 1500,
  bevelDeg: 45,
  edgeLengthMm: 110,
  stations: [
    { key: 'tip', name: 'tip', radiusMm: 255 },
    { key: 'root', name: 'root', radiusMm: 165 },
  ],
  limits: [limit('length', 510, 'shop'), { ...limit('width', 48, 'maker'), stationKey: 'tip' }],
};

describe('trimming to length', () => {
  it('weighs what is cut off as a bar less its bevel, by hand', () => {
    // 60·6 = 360 mm²; a 45° bevel takes a triangle of 6·6/2 = 18. 4 mm · 342 mm² · 7.85 mg/mm³ = 10.74 g.
    expect(cutOffG(SPEC, 4)).toBeCloseTo(10.74, 2);
    // A 30° bevel climbs 6 mm over 10.39 mm: 31.2 mm² gone.
    expect(cutOffG({ ...SPEC, bevelDeg: 30 }, 1)).toBeCloseTo((360 - 31.18) * 0.00785, 3);
  });

  it('keeps stations and width limits at their distance from the tip, and the mass of what is left', () => {
    const short = trimmedTo(SPEC, 522);
    expect(short.stations.map(({ radiusMm }) => 522 / 2 - radiusMm)).toEqual([10, 100]);
    expect(short.edgeLengthMm).toBe(106);
    expect(short.newMassG).toBeCloseTo(1500 - 2 * 10.74, 1);
    expect(short.limits.find(({ kind }) => kind === 'width')?.value).toBe(48);
  });

  it('counts a shop’s least length from the new one; a maker’s stands as written', () => {
    expect(trimmedTo(SPEC, 522).limits[0]?.value).toBe(502);
    const byMaker = { ...SPEC, limits: [limit('length', 510, 'maker')] };
    expect(trimmedTo(byMaker, 522).limits[0]?.value).toBe(510);
    expect(() => trimmedTo(byMaker, 508)).toThrowError(/above the least length of 510/);
  });

  it('refuses to cut nothing, or to cut a station away', () => {
    expect(() => trimmedTo(SPEC, 530)).toThrowError(/at least 0.5 mm below/);
    expect(() => trimmedTo(SPEC, 300)).toThrowError(/cut away what is measured/);
    expect(() => trimmedTo(SPEC, Number.NaN)).toThrowError(/below/);
  });

  it('goes no shorter than the maker allows, and offers no trim where that leaves none', () => {
    const allowed = { ...SPEC, trimming: { leastLengthMm: 515 } };
    expect(trimmedTo(allowed, 515).newLengthMm).toBe(515);
    expect(() => trimmedTo(allowed, 514.9)).toThrowError(/at least the 515 mm the maker allows/);
    expect(leavesRoomToTrim(allowed)).toBeTrue();
    expect(leavesRoomToTrim(trimmedTo(allowed, 515))).toBeFalse();
    expect(leavesRoomToTrim(SPEC)).toBeFalse();
  });

  it('says what unlike halves put out of balance', () => {
    // 1 mm more at 250 mm: 342 mm² · 7.85 mg/mm³ = 2.685 g, times 250.
    expect(unlikeHalvesGmm(SPEC, 250, 249)).toBeCloseTo(671.2, 1);
    expect(unlikeHalvesGmm(SPEC, 249, 250)).toBeCloseTo(671.2, 1);
    expect(unlikeHalvesGmm(SPEC, 250, 250)).toBe(0);
  });
});

describe('the lengths a deck takes', () => {
  const deck = [
    { acrossMm: -510, aheadMm: 0 },
    { acrossMm: 0, aheadMm: 160 },
    { acrossMm: 510, aheadMm: 0 },
  ];
  const limits = { leastClearanceMm: 6, leastOverlapMm: 12, timed: false };
  const faultsAt = (lengthMm: number) =>
    deckFaults(
      deckPairs(
        deck,
        deck.map(() => ({ lengthMm, widthMm: 64 })),
      ),
      limits,
    ).map(({ kind }) => kind);

  it('are those at which the fit itself finds no fault, to a hundredth of a millimetre', () => {
    const { leastMm, mostMm } = lengthsThatFit(deck, 64, limits);
    expect(leastMm).toBe(522);
    expect(mostMm).toBeCloseTo(Math.sqrt((Math.hypot(510, 160) - 6) ** 2 - 64 ** 2), 9);
    expect(faultsAt(leastMm! - 0.01)).toContain('uncut-strip');
    expect(faultsAt(leastMm! + 0.01)).toEqual([]);
    expect(faultsAt(mostMm! - 0.01)).toEqual([]);
    expect(faultsAt(mostMm! + 0.01)).toContain('clash');
  });

  it('are cut to a tenth on the safe side, where a whole tenth stays as it is', () => {
    const { mostMm } = lengthsThatFit(deck, 64, limits);
    const cut = lengthsToCut(deck, 64, limits);
    expect(cut.leastMm).toBe(522);
    expect(cut.mostMm! <= mostMm! && cut.mostMm! > mostMm! - 0.1).toBeTrue();
    expect(faultsAt(cut.mostMm!)).toEqual([]);
  });

  it('have no upper end on a timed deck, and none at all with one spindle', () => {
    expect(lengthsThatFit(deck, 64, { ...limits, timed: true }).mostMm).toBeUndefined();
    expect(lengthsThatFit(deck.slice(0, 1), 64, limits)).toEqual({});
  });
});
