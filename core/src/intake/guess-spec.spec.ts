import { sampleStandardDeviation } from 'simple-statistics';
import { guessSpec, sampleOf, type KnownSpec } from '../index.js';

const spec = (id: string, change: Partial<KnownSpec>): KnownSpec => ({
  id,
  newLengthMm: 533,
  newWidthMm: 63.5,
  hole: 'round',
  holeMm: 16,
  ...change,
});
const SPECS = [
  spec('towpath', {}),
  spec('bank', { newLengthMm: 483, hole: 'star', holeMm: 20 }),
  spec('churchyard', { newLengthMm: 457, newWidthMm: 57, hole: 'star', holeMm: 20 }),
];

describe('guessSpec', () => {
  it('puts the likeliest first, and says what speaks against the others', () => {
    const [first, ...others] = guessSpec(
      { lengthMm: 529, widthMm: 58, hole: 'round', holeMm: 16.3 },
      SPECS,
    );
    expect(first?.id).toBe('towpath');
    expect(first?.fits).toBeTrue();
    expect(others.every(({ fits }) => !fits)).toBeTrue();
    expect(others.find(({ id }) => id === 'bank')?.against).toContain('46 mm longer than new');
    expect(others.find(({ id }) => id === 'bank')?.against).toContain('its hole is star');
  });
  it('lets a blade be worn, but never grown', () => {
    expect(guessSpec({ lengthMm: 521 }, SPECS)[0]?.fits).toBeTrue();
    expect(guessSpec({ lengthMm: 540 }, SPECS).some(({ fits }) => fits)).toBeFalse();
    expect(guessSpec({ lengthMm: 533, widthMm: 66 }, SPECS).some(({ fits }) => fits)).toBeFalse();
  });
  it('tells two of one length apart by the hole', () => {
    const twins = [spec('round', {}), spec('square', { hole: 'square' })];
    expect(guessSpec({ lengthMm: 533, hole: 'square' }, twins)[0]?.id).toBe('square');
    expect(guessSpec({ lengthMm: 533, holeMm: 18 }, twins)[0]?.against[0]).toContain('smaller');
  });
  it('refuses sizes that are none', () => {
    expect(() => guessSpec({ lengthMm: 0 }, SPECS)).toThrowError(/lengthMm/);
    expect(() => guessSpec({ lengthMm: 500, widthMm: -1 }, SPECS)).toThrowError(/widthMm/);
  });
});

describe('sampleOf', () => {
  it('predicts one further blade as the handbook does (simple-statistics)', () => {
    const values = [58.2, 60.1, 59.4, 61, 57.9];
    const { value, u } = sampleOf(values, 0.05, 1);
    expect(value).toBeCloseTo(59.32, 9);
    expect(u).toBeCloseTo(sampleStandardDeviation(values) * Math.sqrt(1.2), 12);
  });
  it('is never surer than a reading, and one alone says little', () => {
    expect(sampleOf([60, 60, 60], 0.05, 1).u).toBe(0.05);
    expect(sampleOf([60], 0.05, 1).u).toBeCloseTo(Math.SQRT2, 12);
    expect(() => sampleOf([], 0.05, 1)).toThrowError(/values/);
  });
});
