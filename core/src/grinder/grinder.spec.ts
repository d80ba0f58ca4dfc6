import {
  bevelDriftDegPerMm,
  deckFit,
  flatSection,
  heightForEdgeBevelMm,
  heightForMeanBevelMm,
  judgeDeckFit,
  LARGEST_GAP_MM,
  removedAreaMm2,
  steadiness,
  surfaceSpeedMPerS,
  TIP_SPEED_LIMIT_M_PER_S,
  tipSpeedMPerS,
  wheelBevelDeg,
  wheelMeanBevelDeg,
  wheelSection,
  wheelSetbackMm,
} from '../index.js';

describe('a wheel over a table', () => {
  const R = 101.6;
  it('set for 30° at the edge grinds 33.3° in the mean on 6.35 mm', () => {
    const H = heightForEdgeBevelMm(R, 30);
    expect(H).toBeCloseTo(87.99, 2);
    expect(wheelBevelDeg(R, H)).toBeCloseTo(30, 9);
    expect(wheelMeanBevelDeg(R, H, 6.35)).toBeCloseTo(33.3, 1);
  });

  it('set for a mean of 30° stands at 90.99 mm and gives that mean back', () => {
    const H = heightForMeanBevelMm(R, 30, 6.35);
    expect(H).toBeCloseTo(90.99, 2);
    expect(wheelMeanBevelDeg(R, H, 6.35)).toBeCloseTo(30, 9);
  });

  it('agrees with circles intersected numerically', () => {
    const H = 89;
    const foot = Math.sqrt(R * R - H * H);
    for (const y of [0.5, 2, 4, 6.35]) {
      // Where the horizontal line at y meets the circle, found by bisection on the distance to the centre.
      let [low, high] = [foot, R];
      for (let i = 0; i < 80; i++) {
        const x = (low + high) / 2;
        if (Math.hypot(x, H - y) > R) high = x;
        else low = x;
      }
      expect(wheelSetbackMm(R, H, y)).toBeCloseTo(low - foot, 9);
      const slope = (wheelSetbackMm(R, H, y + 1e-5) - wheelSetbackMm(R, H, y - 1e-5)) / 2e-5;
      expect(wheelBevelDeg(R, H, y)).toBeCloseTo((Math.atan(1 / slope) * 180) / Math.PI, 5);
    }
  });

  it('on a flat 30° face takes some 2.6 g more than the plane says over two 100 mm edges', () => {
    const wheel = { radiusMm: R, centreHeightMm: heightForMeanBevelMm(R, 30, 6.35) };
    const flat = flatSection(6.35, { bevelDeg: 30, landMm: 0, recessionMm: 0 });
    const more = removedAreaMm2(flat, wheelSection(6.35, wheel, 0));
    expect(more * 200 * 0.00785).toBeCloseTo(2.6, 1);
  });

  it('drifts by about +1° per mm of radius and −1.1° per mm of height', () => {
    const { perRadius, perHeight } = bevelDriftDegPerMm(R, heightForEdgeBevelMm(R, 30));
    expect(perRadius).toBeCloseTo(0.98, 2);
    expect(perHeight).toBeCloseTo(-1.13, 2);
  });

  it('runs at π·d·n and keeps its gaps', () => {
    expect(surfaceSpeedMPerS(203.2, 3450)).toBeCloseTo(36.7, 1);
    expect(LARGEST_GAP_MM.workRest).toBeCloseTo(25.4 / 8, 12);
    expect(LARGEST_GAP_MM.tongue).toBeCloseTo(25.4 / 4, 12);
  });

  it('refuses what cannot stand', () => {
    expect(() => wheelBevelDeg(100, 120)).toThrowError(/centreHeightMm/);
    expect(() => heightForMeanBevelMm(3, 30, 6.35)).toThrowError(/radiusMm is too small/);
    expect(() => wheelMeanBevelDeg(100, 5, 6)).toThrowError(/thicknessMm/);
  });
});

describe('deck fit', () => {
  // By hand, 3-4-5 triangles: swept diameters 500, spindles 600 across and 0 or 250 along.
  const blades = { lengthMm: [400, 400], widthMm: [300, 300] } as const;
  it('is the spindle distance less the swept radii, and the lengths less the spacing', () => {
    expect(deckFit({ ...blades, spacingMm: 600, staggerMm: 0 })).toEqual({
      spindleDistanceMm: 600,
      clearanceMm: 100,
      overlapMm: -200,
    });
    expect(deckFit({ ...blades, spacingMm: 600, staggerMm: 250 }).spindleDistanceMm).toBe(650);
  });

  it('refuses a clash and says by how much, but not on a timed deck', () => {
    const fit = deckFit({ lengthMm: [533, 533], widthMm: [63, 63], spacingMm: 520, staggerMm: 60 });
    const limits = { leastClearanceMm: 5, leastOverlapMm: 10, timed: false };
    const [clash] = judgeDeckFit(fit, limits);
    expect(clash?.kind).toBe('clash');
    expect(clash?.shortMm).toBeCloseTo(5 - fit.clearanceMm, 12);
    expect(judgeDeckFit(fit, { ...limits, timed: true })).toEqual([]);
    expect(() => deckFit({ ...blades, spacingMm: 0, staggerMm: 0 })).toThrowError(/spacingMm/);
  });

  it('knows how fast a tip may be', () => {
    expect(tipSpeedMPerS(533, 3000)).toBeCloseTo(83.7, 1);
    expect(TIP_SPEED_LIMIT_M_PER_S * 60).toBeCloseTo(19_000 * 0.3048, 0);
  });
});

describe('steadiness', () => {
  const stream = (value: (t: number) => number, seconds: number) =>
    Array.from({ length: seconds * 20 + 1 }, (_, i) => ({ timeS: i / 20, value: value(i / 20) }));

  it('takes a reading only when it stands still', () => {
    const settling = stream((t) => 812 - 12 * Math.exp(-2 * t), 2);
    expect(steadiness(settling, { windowS: 1, tolerance: 0.2 }).steady).toBeFalse();
    const settled = steadiness(
      stream((t) => 812 - 12 * Math.exp(-2 * t), 6),
      { windowS: 1, tolerance: 0.2 },
    );
    expect(settled.steady).toBeTrue();
    expect(settled.value).toBeCloseTo(812, 2);
  });

  it('does not take a stream with a gap for one that stood still', () => {
    const seen = (times: number[]) => times.map((timeS) => ({ timeS, value: 812 }));
    const gap = seen([0, 0.1, 0.2, 0.3, 3.8, 3.9, 4]);
    expect(steadiness(gap, { windowS: 4, tolerance: 0.2 }).steady).toBeFalse();
    const slow = seen([0, 0.8, 1.6, 2.4, 3.2, 4]);
    expect(steadiness(slow, { windowS: 4, tolerance: 0.2 }).steady).toBeTrue();
  });

  it('is not fooled by a turning point once its window holds a period', () => {
    const swing = stream((t) => 10 * Math.cos((2 * Math.PI * t) / 7), 7);
    expect(steadiness(swing, { windowS: 0.3, tolerance: 0.5 }).steady).toBeTrue();
    expect(steadiness(swing, { windowS: 7, tolerance: 0.5, periodS: 7 }).steady).toBeFalse();
    expect(() => steadiness(swing, { windowS: 1, tolerance: 0.5, periodS: 7 })).toThrowError(
      /one period/,
    );
  });

  it('sees a slow drift', () => {
    const creeping = steadiness(
      stream((t) => 100 + 0.5 * t, 4),
      { windowS: 2, tolerance: 0.6 },
    );
    expect(creeping.steady).toBeFalse();
    expect(creeping.drift).toBeCloseTo(1, 1);
    expect(steadiness([], { windowS: 1, tolerance: 1 }).steady).toBeFalse();
  });
});
