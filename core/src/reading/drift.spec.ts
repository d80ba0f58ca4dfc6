import { judgeDrift, type Measured } from '../index.js';
import { normal, seeded } from '../testing/dice.js';

const REFERENCE: Measured = { value: 500, u: 0.02 };
const read = (value: number): Measured => ({ value, u: 0.1 });

describe('judgeDrift', () => {
  it('is content with a reading within its own doubt, and says how far off it is', () => {
    const { trueness, deviation, expanded } = judgeDrift([read(500.15)], REFERENCE);
    expect(trueness).toBe('true');
    expect(deviation).toBeCloseTo(0.15, 12);
    expect(expanded).toBeCloseTo(2 * Math.hypot(0.1, 0.02), 12);
  });
  it('calls one reading off that its doubt does not explain', () => {
    expect(judgeDrift([read(500), read(500.4)], REFERENCE).trueness).toBe('off');
    expect(judgeDrift([read(499.6)], REFERENCE).trueness).toBe('off');
  });
  it('sees a slow drift before any single reading stands out', () => {
    const mornings = Array.from({ length: 20 }, (_, day) => read(500 + 0.01 * day));
    const found = judgeDrift(mornings, REFERENCE);
    expect(Math.abs(found.deviation)).toBeLessThan(found.expanded);
    expect(found.trueness).toBe('drifting');
  });
  it('cries wolf seldom: once in a hundred mornings at most on a true instrument', () => {
    const dice = seeded(12);
    let alarms = 0;
    const mornings: Measured[] = [];
    for (let day = 0; day < 1000; day++) {
      mornings.push(read(500 + 0.1 * normal(dice)));
      if (judgeDrift(mornings.slice(-60), REFERENCE).trueness === 'drifting') alarms += 1;
    }
    expect(alarms).toBeLessThan(10);
  });
  it('refuses nothing to judge', () => {
    expect(() => judgeDrift([], REFERENCE)).toThrowError(/readings/);
    expect(() => judgeDrift([{ value: 500, u: 0 }], REFERENCE)).toThrowError(/u/);
  });
});
