import fc from 'fast-check';
import { bestSet, USUAL_SET_SPREAD, type SetMember } from '../index.js';

const QUANTITIES = ['lengthMm', 'widthMm', 'massG'] as const;
const worstOf = (members: readonly SetMember[]): number =>
  Math.max(
    ...QUANTITIES.map((quantity) => {
      const values = members.map((member) => member[quantity]);
      return (Math.max(...values) - Math.min(...values)) / USUAL_SET_SPREAD[quantity];
    }),
  );
function* choices(pool: readonly SetMember[], count: number): Generator<SetMember[]> {
  if (count === 0) yield [];
  else
    for (const [i, member] of pool.entries())
      for (const rest of choices(pool.slice(i + 1), count - 1)) yield [member, ...rest];
}
const pools = fc.array(
  fc.record({
    lengthMm: fc.integer({ min: 528, max: 534 }),
    widthMm: fc.integer({ min: 56, max: 64 }),
    massG: fc.integer({ min: 1560, max: 1640 }),
  }),
  { minLength: 4, maxLength: 8 },
);
const named = (sizes: readonly Omit<SetMember, 'id'>[]): SetMember[] =>
  sizes.map((size, i) => ({ id: String(i), ...size }));

describe('bestSet', () => {
  it('is as alike as the best of all choices', () => {
    fc.assert(
      fc.property(pools, fc.integer({ min: 1, max: 4 }), (sizes, count) => {
        const pool = named(sizes);
        const best = Math.min(...[...choices(pool, count)].map(worstOf));
        const found = bestSet(pool, count);
        expect(found.ids.length).toBe(count);
        expect(found.worst).toBeCloseTo(best, 12);
      }),
      { numRuns: 300 },
    );
  });
  it('keeps those that stay, and is the best of the others beside them', () => {
    fc.assert(
      fc.property(pools, (sizes) => {
        const [stays, ...pool] = named(sizes);
        if (!stays) return;
        const best = Math.min(...[...choices(pool, 2)].map((two) => worstOf([stays, ...two])));
        const found = bestSet(pool, 3, { keep: [stays] });
        expect(found.ids).toContain(stays.id);
        expect(found.worst).toBeCloseTo(best, 12);
      }),
      { numRuns: 200 },
    );
  });
  it('names the odd one where even the best does not match', () => {
    const pool = named([
      { lengthMm: 533, widthMm: 60, massG: 1600 },
      { lengthMm: 533, widthMm: 60, massG: 1600 },
      { lengthMm: 520, widthMm: 60, massG: 1600 },
    ]);
    expect(bestSet(pool, 3)).toEqual(jasmine.objectContaining({ oddId: '2', over: ['lengthMm'] }));
    expect(bestSet(pool, 2).worst).toBe(0);
  });
  it('says how many a set is short', () => {
    const pool = named([{ lengthMm: 533, widthMm: 60, massG: 1600 }]);
    expect(() => bestSet(pool, 3)).toThrowError(/2 short of a set of 3/);
    expect(() => bestSet(pool, 0)).toThrowError(/count/);
  });
});
