import { bevelToGrindDeg, nickRecessMm } from '../index.js';
describe('nickRecessMm', () => {
    it('clears all, leaves the last of it, or leaves it', () => {
        expect(nickRecessMm({ kind: 'clear-all' }, 1.6)).toBe(1.6);
        expect(nickRecessMm({ kind: 'leave-to', depthMm: 0.8 }, 1.6)).toBeCloseTo(0.8, 12);
        expect(nickRecessMm({ kind: 'leave-to', depthMm: 0.8 }, 0.5)).toBe(0);
        expect(nickRecessMm({ kind: 'leave-all' }, 1.6)).toBe(0);
        expect(() => nickRecessMm({ kind: 'clear-all' }, -1)).toThrowError(/depthMm/);
    });
});
describe('bevelToGrindDeg', () => {
    const angles = { specDeg: 30, fixedDeg: 32, measuredDeg: [33, 35] };
    it('is the spec’s, the one that is there, or one for all', () => {
        expect(bevelToGrindDeg('spec', angles)).toBe(30);
        expect(bevelToGrindDeg('follow', angles)).toBe(34);
        expect(bevelToGrindDeg('fixed', angles)).toBe(32);
    });
    it('cannot follow what nobody read', () => {
        expect(() => bevelToGrindDeg('follow', { ...angles, measuredDeg: [] })).toThrowError(/measuredDeg/);
    });
});
//# sourceMappingURL=schools.spec.js.map