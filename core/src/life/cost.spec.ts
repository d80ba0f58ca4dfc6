import { bladeCost, bladePrice } from '../index.js';

const prices = { blade: 18, minutesPerBlade: 12, benchHour: 30, abrasivePerGrind: 0.5 };

describe('bladePrice', () => {
  it('is the spec’s own where it has one, nothing included, else the usual', () => {
    const own = { blade: 18, bladeOf: { wide: 26, given: 0 } };
    expect(['wide', 'given', 'flat'].map((spec) => bladePrice(own, spec))).toEqual([26, 0, 18]);
    expect(bladePrice({ blade: 18 }, 'wide')).toBe(18);
  });
});

describe('bladeCost', () => {
  it('adds the blade, its minutes at the bench and its abrasive', () => {
    expect(bladeCost(prices, 4, 80)).toEqual({
      blade: 18,
      bench: 24,
      abrasive: 2,
      total: 44,
      perHour: 0.55,
    });
  });
  it('has no cost an hour before the first hour', () => {
    expect(bladeCost(prices, 0, 0)).toEqual({ blade: 18, bench: 0, abrasive: 0, total: 18 });
  });
  it('refuses what is below none, by its field', () => {
    expect(() => bladeCost({ ...prices, blade: -1 }, 1, 1)).toThrowError(/blade/);
    expect(() => bladeCost(prices, -1, 1)).toThrowError(/grinds/);
    expect(() => bladeCost(prices, 1, -1)).toThrowError(/hours/);
  });
});
