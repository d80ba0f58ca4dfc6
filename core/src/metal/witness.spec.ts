import {
  hearWitnesses,
  hollowFace,
  mayTeach,
  removedByCaliper,
  removedByPasses,
  removedByPhoto,
  type CaliperEnd,
  type Measured,
} from '../index.js';
import { normal, seeded } from '../testing/dice.js';

const said = (value: number, u: number): Measured => ({ value, u });

describe('removedByPasses', () => {
  it('is the count times g/pass, as unsure as the next grind is', () => {
    expect(removedByPasses(12, { value: 0.5, nextU: 0.1 })).toEqual({
      value: 6,
      u: jasmine.any(Number) as unknown as number,
    });
    expect(removedByPasses(12, { value: 0.5, nextU: 0.1 }).u).toBeCloseTo(1.2, 12);
    expect(() => removedByPasses(-1, { value: 0.5, nextU: 0.1 })).toThrowError(/passes/);
  });
});

describe('removedByCaliper where next to nothing was taken', () => {
  it('is right on the mean, and as unsure as it says (JCGM 101 Monte Carlo)', () => {
    const dice = seeded(3);
    const read = (value: number, u: number): Measured => said(value + u * normal(dice), u);
    const drawn = (recessionMm: number): Measured =>
      removedByCaliper(6, {
        stations: [250, 215, 180].map((radiusMm) => ({
          radiusMm,
          widthBeforeMm: read(60, 0.1),
          widthAfterMm: read(60 - recessionMm, 0.1),
        })),
        bevelBeforeDeg: said(30, 0),
        bevelAfterDeg: said(30, 0),
        landBeforeMm: said(0.2, 0),
        landAfterMm: said(0.2, 0),
        edgeFromMm: 160,
        edgeToMm: 260,
      });
    const TRIALS = 1500;
    for (const recessionMm of [0, 0.03, 0.1, 0.5]) {
      const truth = 0.00785 * 6 * 100 * recessionMm;
      const all = Array.from({ length: TRIALS }, () => drawn(recessionMm));
      const mean = all.reduce((sum, { value }) => sum + value, 0) / TRIALS;
      const held = all.filter(({ value, u }) => Math.abs(value - truth) <= 2 * u).length;
      expect(Math.abs(mean - truth))
        .withContext(`${recessionMm} mm`)
        .toBeLessThan(0.02);
      expect(held / TRIALS)
        .withContext(`${recessionMm} mm`)
        .toBeGreaterThan(0.94);
      expect(held / TRIALS)
        .withContext(`${recessionMm} mm`)
        .toBeLessThan(0.97);
    }
  });
});

describe('removedByCaliper on a wheel', () => {
  const THICKNESS = 6.35;
  const wheel = { radiusMm: 101.6, aim: 'mean' } as const;
  const end = (lostMm: number, more: Partial<CaliperEnd> = {}): CaliperEnd => ({
    stations: [250, 180].map((radiusMm) => ({
      radiusMm,
      widthBeforeMm: said(60, 0.05),
      widthAfterMm: said(60 - lostMm, 0.05),
    })),
    bevelBeforeDeg: said(30, 0.5),
    bevelAfterDeg: said(30, 0.5),
    landBeforeMm: said(0, 0),
    landAfterMm: said(0, 0),
    edgeFromMm: 160,
    edgeToMm: 260,
    ...more,
  });

  it('counts the hollow a first wheel grind puts into a flat face: 1.3 g on 100 mm', () => {
    const plane = removedByCaliper(THICKNESS, end(0.5)).value;
    const arc = removedByCaliper(THICKNESS, end(0.5, { wheel })).value;
    // Two such edges: some 2.6 g (the segment of a circle, c³/12R of 12.7 mm chord on 101.6 mm).
    expect(2 * (arc - plane)).toBeCloseTo(2 * 100 * 0.00785 * (12.7 ** 3 / (12 * 101.6)), 1);
    expect(2 * (arc - plane)).toBeGreaterThan(2.55);
    expect(2 * (arc - plane)).toBeLessThan(2.7);
  });
  it('counts none of it a second time: hollow on hollow loses what a plane on a plane does', () => {
    const faceBefore = hollowFace(THICKNESS, { bevelDeg: 30, landMm: 0, wheel });
    const again = removedByCaliper(THICKNESS, end(0.5, { wheel, faceBefore })).value;
    expect(again).toBeCloseTo(removedByCaliper(THICKNESS, end(0.5)).value, 9);
  });
  it('carries the bevel’s doubt though the face’s shape is known', () => {
    const faceBefore = hollowFace(THICKNESS, { bevelDeg: 30, landMm: 0, wheel });
    const sure = end(0.5, { wheel, faceBefore, bevelBeforeDeg: said(30, 0) });
    const unsure = end(0.5, { wheel, faceBefore, bevelBeforeDeg: said(30, 1) });
    expect(removedByCaliper(THICKNESS, unsure).u).toBeGreaterThan(
      removedByCaliper(THICKNESS, sure).u,
    );
  });
  it('is the plane’s for a wheel as wide as the shop, at every taper', () => {
    const wide = { radiusMm: 1e7, aim: 'mean' } as const;
    const tapered = end(0.5, {
      stations: [250, 180].map((radiusMm, i) => ({
        radiusMm,
        widthBeforeMm: said(60, 0.05),
        widthAfterMm: said(59.9 - i, 0.05),
      })),
      landBeforeMm: said(0.4, 0.05),
      landAfterMm: said(0.15, 0.05),
    });
    expect(removedByCaliper(THICKNESS, { ...tapered, wheel: wide }).value).toBeCloseTo(
      removedByCaliper(THICKNESS, tapered).value,
      3,
    );
  });
});

describe('hearWitnesses', () => {
  it('is content when all agree, with fewer than two, too', () => {
    const { agree, repeat, pairs } = hearWitnesses({
      scale: said(6, 0.4),
      caliper: said(6.4, 0.5),
      passes: said(5.5, 0.9),
    });
    expect(agree).toBeTrue();
    expect(repeat).toBeUndefined();
    expect(pairs.length).toBe(3);
    expect(hearWitnesses({ scale: said(6, 0.4) }).agree).toBeTrue();
  });
  it('names the odd one of three, with the usual cause', () => {
    const { repeat } = hearWitnesses({
      scale: said(12, 0.4),
      caliper: said(6, 0.5),
      passes: said(6.4, 0.9),
    });
    expect(repeat).toEqual(jasmine.objectContaining({ witness: 'scale', sure: true }));
    expect(repeat?.cause).toContain('weighed dirty before');
    expect(
      hearWitnesses({ scale: said(6, 0.4), caliper: said(6.3, 0.5), passes: said(12, 0.9) }).repeat
        ?.cause,
    ).toContain('worn abrasive');
  });
  it('with two can only suggest the quickest to repeat', () => {
    const { repeat } = hearWitnesses({ scale: said(3, 0.4), caliper: said(6, 0.5) });
    expect(repeat).toEqual(jasmine.objectContaining({ witness: 'scale', sure: false }));
    expect(repeat?.cause).toContain('weighed dirty after');
  });
});

describe('mayTeach', () => {
  it('only lets a confirmed grind teach, or the tool would agree with itself', () => {
    const good = { scale: said(6, 0.4), caliper: said(6.2, 0.5) };
    expect(mayTeach(hearWitnesses(good))).toBeTrue();
    expect(mayTeach(hearWitnesses({ ...good, caliper: said(12, 0.5) }))).toBeFalse();
    expect(mayTeach(hearWitnesses({ scale: said(6, 0.4), passes: said(6.5, 1) }))).toBeTrue();
    expect(mayTeach(hearWitnesses({ scale: said(6, 0.4) }))).toBeFalse();
  });
});

describe('two photos as a witness', () => {
  const end = {
    bevelBeforeDeg: { value: 30, u: 0.4 },
    bevelAfterDeg: { value: 30, u: 0.4 },
    landBeforeMm: { value: 0.3, u: 0.02 },
    landAfterMm: { value: 0.3, u: 0.02 },
    edgeFromMm: 165,
    edgeToMm: 265,
  };
  const photo = (widthMm: number, bodyWidthMm?: number) => ({
    widthsMm: new Array<number>(220).fill(widthMm),
    placeU: 0.01,
    sharedU: 0.045,
    bodyWidthMm,
  });
  const removed = (before: ReturnType<typeof photo>, after: ReturnType<typeof photo>) =>
    removedByPhoto(6.35, end, { before, after, tipRadiusMm: 265 });

  it('say what a parallel recession takes: Δ·t of every millimetre (geometry)', () => {
    const found = removed(photo(60, 62), photo(59.6, 62));
    // Same bevel and land: the section goes back whole, 0.4 × 6.35 × 100 mm of steel of 0.00785 g/mm³.
    expect(found?.value).toBeCloseTo(0.4 * 6.35 * 100 * 0.00785, 2);
  });

  it('are as unsure of all places at once as of one: n places do not make the shared part smaller', () => {
    const registered = removed(photo(60, 62), photo(59.6, 62));
    const not = removed(photo(60), photo(59.6));
    const faces = 0.00785 * 100 * 6.35;
    // Not registered: √2 · 0.045 mm over the whole edge.
    expect(not?.u).toBeGreaterThan(Math.SQRT2 * 0.045 * faces);
    expect(registered?.u ?? 0).toBeLessThan(not?.u ?? 0);
  });

  it('do not speak where they show too little of the edge in common', () => {
    const hidden = {
      ...photo(60),
      widthsMm: photo(60).widthsMm.map((w, i) => (i < 80 ? null : w)),
    };
    expect(removed(hidden as never, photo(59.6))).toBeUndefined();
  });

  it('are named when all others agree against them', () => {
    const testimony = hearWitnesses({
      scale: { value: 6, u: 0.2 },
      caliper: { value: 6.2, u: 0.5 },
      photo: { value: 9, u: 0.3 },
      passes: { value: 6.1, u: 0.4 },
    });
    expect(testimony.repeat).toEqual(jasmine.objectContaining({ witness: 'photo', sure: true }));
  });
});
