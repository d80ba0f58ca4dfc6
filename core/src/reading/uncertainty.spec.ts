import {
  agreementEn,
  carriedForward,
  expanded,
  meanOf,
  possible,
  propagate,
  resolutionUncertainty,
  risesBeyondDoubt,
  rss,
  typedResolution,
  typedUncertainty,
} from '../index.js';

describe('uncertainty', () => {
  // JCGM 100:2008, F.2.2.1: a display with resolution δx has u = 0.29 δx.
  it('of a display is 0.29 of its step', () => {
    expect(resolutionUncertainty(1)).toBeCloseTo(0.29, 2);
  });

  it('of a difference on a 1 g scale is 0.82 g expanded, from resolution alone', () => {
    const u = resolutionUncertainty(1);
    expect(expanded(rss(u, u))).toBeCloseTo(0.816, 3);
  });

  // JCGM 100:2008, 5.1.6: for a product or ratio relative variances add.
  it('propagates through a product and a ratio as relative variances', () => {
    const a = { value: 40, u: 0.4 };
    const b = { value: 5, u: 0.1 };
    const relative = Math.hypot(0.01, 0.02);
    const product = propagate(([x, y]) => x * y, [a, b]);
    expect(product.value).toBe(200);
    expect(product.u).toBeCloseTo(200 * relative, 6);
    const ratio = propagate(([x, y]) => x / y, [a, b]);
    expect(ratio.u).toBeCloseTo(8 * relative, 4);
  });

  it('of a mean of two shrinks by √2', () => {
    expect(
      meanOf([
        { value: 51, u: 0.1 },
        { value: 51.2, u: 0.1 },
      ]),
    ).toEqual({
      value: 51.1,
      u: jasmine.any(Number) as unknown as number,
    });
    expect(
      meanOf([
        { value: 51, u: 0.1 },
        { value: 51.2, u: 0.1 },
      ]).u,
    ).toBeCloseTo(0.1 / Math.SQRT2, 12);
    expect(() => meanOf([])).toThrowError(/readings/);
  });

  it('refuses negative and missing numbers by name', () => {
    expect(() => rss(-1)).toThrowError(/uncertainty part must not be negative/);
    expect(() => propagate(([x]) => x, [{ value: NaN, u: 0 }])).toThrowError(/inputs\[0\].value/);
  });
});

describe('agreement', () => {
  it('is |a − b| over the combined expanded uncertainty', () => {
    expect(agreementEn({ value: 10, u: 1.5 }, { value: 14, u: 2 })).toBeCloseTo(0.8, 12);
    expect(() => agreementEn({ value: 1, u: 0 }, { value: 2, u: 0 })).toThrowError(/above zero/);
  });

  it('accepts a small rise within k = 2 and doubts a larger one', () => {
    const u = resolutionUncertainty(1);
    expect(risesBeyondDoubt({ value: 812, u }, { value: 812.3, u })).toBeFalse();
    expect(risesBeyondDoubt({ value: 812, u }, { value: 815, u })).toBeTrue();
  });
});

describe('a typed reading', () => {
  it('claims the resolution of its last digit or fraction', () => {
    expect(typedResolution('812', 'g', 'g')).toBe(1);
    expect(typedResolution('812.4', 'g', 'g')).toBeCloseTo(0.1, 12);
    expect(typedResolution('2 1/8', 'in', 'mm')).toBeCloseTo(3.175, 9);
  });

  it('is never surer than handling allows', () => {
    expect(typedUncertainty('width', 0.001)).toBeCloseTo(0.08, 3);
  });

  it('that no blade can have is refused with the range', () => {
    expect(() => possible('bevel', 3)).toThrowError(/bevel is outside 10 to 60°: read it again/);
    expect(() => possible('mass', -5)).toThrowError(/outside 50 to 20000 g/);
    expect(() => possible('width', Number.NaN)).toThrowError(/width/);
    expect(possible('bevel', 30)).toBe(30);
  });

  it('grows less sure when carried forward', () => {
    expect(carriedForward({ value: 50, u: 0.3 }, 0.4)).toEqual({ value: 50, u: 0.5 });
  });

  it('over several cycles loses what each grind since has taken, and grows less sure with each', () => {
    const carried = carriedForward({ value: 62, u: 0.3 }, 0.1, 4, 0.5);
    expect(carried.value).toBeCloseTo(60.5, 12);
    expect(carried.u).toBeCloseTo(0.5, 12);
    expect(carriedForward({ value: 62, u: 0.3 }, 0.4, 0, 0.5)).toEqual({ value: 62, u: 0.5 });
    expect(() => carriedForward({ value: 62, u: 0.3 }, 0.4, -1)).toThrowError(/cycles/);
  });
});
