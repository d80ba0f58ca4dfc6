import { expectedAfterTaking, hangingsAgree } from './between-hangings.js';
import { unbalanceFromDrops } from './drop.js';

describe('Two hangings of a blade', () => {
  const before = { value: 500, u: 30 };

  it('metal taken from the heavy end lessens it, from the other it adds', () => {
    const fromA = expectedAfterTaking(before, { A: [{ value: 400, u: 40 }], B: [] });
    expect(fromA).toEqual({ value: 100, u: 50 });
    const fromB = expectedAfterTaking(before, { A: [], B: [{ value: 400, u: 40 }] });
    expect(fromB).toEqual({ value: 900, u: 50 });
  });

  it('doubts of one end add up, those of two ends do not', () => {
    const taken = { value: 100, u: 15 };
    const one = expectedAfterTaking({ value: 0, u: 0 }, { A: [taken, taken], B: [] });
    const both = expectedAfterTaking({ value: 0, u: 0 }, { A: [taken], B: [taken] });
    expect([one.u, both.u]).toEqual([30, Math.hypot(15, 15)]);
  });

  it('agree up to E_n 1, at the edge as well', () => {
    expect(hangingsAgree({ value: 100, u: 30 }, { value: 200, u: 40 })).toBeTrue();
    expect(hangingsAgree({ value: 100, u: 30 }, { value: 200.01, u: 40 })).toBeFalse();
    expect(hangingsAgree({ value: 0, u: 0 }, { value: 0, u: 0 })).toBeTrue();
    expect(hangingsAgree({ value: 0, u: 0 }, { value: 1, u: 0 })).toBeFalse();
  });

  it('tell a clock stopped at hanging from one stopped at 30°', () => {
    const bar = { inertiaGmm2: 5e7, frictionGmm: 8, dragPerS: 0.02 };
    const look = { bladeMassG: 1100, centringMm: 0.03, frictionU: 3, dragU: 0.01 };
    const at90 = unbalanceFromDrops([4, 4.02], { ...bar, markDeg: 90 }, look).unbalance;
    const at30 = unbalanceFromDrops([4, 4.02], { ...bar, markDeg: 30 }, look).unbalance;
    expect(at90.value / at30.value).toBeGreaterThan(2.5);
    expect(hangingsAgree(expectedAfterTaking(at90, { A: [], B: [] }), at30)).toBeFalse();
  });
});
