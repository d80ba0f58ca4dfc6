import fcg from 'fast-check'; fcg.configureGlobal({numRuns: 6000});
import fc from 'fast-check';
import { changeMinutes, matchOfSet, orderBatch, orderSetUps, } from '../index.js';
const setUp = (bevelDeg, hand = 'right', table = 'flat') => ({
    bevelDeg,
    hand,
    table,
});
const anySetUp = fc.record({
    bevelDeg: fc.constantFrom(28, 30, 35, 40, 45),
    hand: fc.constantFrom('right', 'left'),
    table: fc.constantFrom('flat', 'rounded'),
});
function permutations(n) {
    if (n === 0)
        return [[]];
    return permutations(n - 1).flatMap((rest) => Array.from({ length: n }, (_, at) => [...rest.slice(0, at), n - 1, ...rest.slice(at)]));
}
const total = (setUps, order, start) => order.reduce((sum, index, i) => {
    const from = i === 0 ? start : setUps[order[i - 1] ?? 0];
    const to = setUps[index];
    return sum + (from && to ? changeMinutes(from, to) : 0);
}, 0);
describe('orderSetUps', () => {
    it('costs what the best of all orders costs, up to six at random and eight once', () => {
        fc.assert(fc.property(fc.array(anySetUp, { minLength: 1, maxLength: 6 }), fc.option(anySetUp, { nil: undefined }), (setUps, start) => {
            const best = Math.min(...permutations(setUps.length).map((order) => total(setUps, order, start)));
            const order = orderSetUps(setUps, start);
            expect([...order].sort((a, b) => a - b)).toEqual([...setUps.keys()]);
            expect(total(setUps, order, start)).toBe(best);
        }), { numRuns: 6000 });
        const eight = [30, 45, 28, 35].flatMap((angle) => [setUp(angle), setUp(angle, 'left')]);
        const best = Math.min(...permutations(8).map((order) => total(eight, order)));
        expect(total(eight, orderSetUps(eight))).toBe(best);
    });
    it('goes on with many by the nearest next one', () => {
        const many = Array.from({ length: 14 }, (_, i) => setUp(28 + i, i % 2 ? 'left' : 'right'));
        expect([...orderSetUps(many)].sort((a, b) => a - b)).toEqual([...many.keys()]);
    });
});
describe('orderBatch', () => {
    it('keeps sets together inside a set-up and says each change-over', () => {
        const runs = orderBatch([
            { id: 'h1', setUp: setUp(30), setId: 'heron' },
            { id: 'y1', setUp: setUp(40), setId: 'yew' },
            { id: 'l1', setUp: setUp(30), setId: 'lark' },
            { id: 'h2', setUp: setUp(30.2), setId: 'heron' },
            { id: 'y2', setUp: setUp(40), setId: 'yew' },
        ], setUp(40));
        expect(runs.map(({ ids, changeMinutes: minutes }) => [ids, minutes])).toEqual([
            [['y1', 'y2'], 0],
            [['h1', 'h2', 'l1'], 4],
        ]);
    });
    it('refuses one blade twice', () => {
        const blade = { id: 'a', setUp: setUp(30) };
        expect(() => orderBatch([blade, blade])).toThrowError(/blades/);
        expect(orderBatch([])).toEqual([]);
    });
});
describe('matchOfSet', () => {
    const member = (id, change = {}) => ({
        id,
        lengthMm: 533,
        widthMm: 60,
        massG: 1600,
        ...change,
    });
    it('is content with blades alike', () => {
        expect(matchOfSet([member('a'), member('b', { massG: 1610 })])).toEqual({
            spread: { lengthMm: 0, widthMm: 0, massG: 10 },
            over: [],
        });
    });
    it('names what is apart, and the odd one where there are three', () => {
        const { over, oddId } = matchOfSet([
            member('a', { lengthMm: 531 }),
            member('b', { lengthMm: 526, massG: 1540 }),
            member('c'),
        ]);
        expect(over).toEqual(['lengthMm', 'massG']);
        expect(oddId).toBe('b');
        const two = matchOfSet([member('a'), member('b', { widthMm: 50 })]);
        expect(two.over).toEqual(['widthMm']);
        expect(two.oddId).toBeUndefined();
        expect(() => matchOfSet([])).toThrowError(/members/);
    });
});
//# sourceMappingURL=batch.spec.js.map