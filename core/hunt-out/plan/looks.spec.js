import fc from 'fast-check';
import { lookPoints } from '../index.js';
describe('lookPoints', () => {
    it('looks early, where the tool may already have taken it all, and at the end', () => {
        expect(lookPoints(12, 0.15)).toEqual([3, 9, 12]);
        expect(lookPoints(2, 0.15)).toEqual([1, 2]);
        expect(lookPoints(0, 0.15)).toEqual([]);
        expect(() => lookPoints(3, -0.1)).toThrowError(/relativeU/);
    });
    it('never looks past the plan, and looks where an eager tool is done', () => {
        fc.assert(fc.property(fc.integer({ min: 1, max: 80 }), fc.double({ min: 0, max: 0.4, noNaN: true }), (passes, u) => {
            const points = lookPoints(passes, u);
            expect(points.at(-1)).toBe(passes);
            expect(points.every((at) => at >= 1 && at <= passes)).toBeTrue();
            const sure = Math.floor(passes / (1 + 2 * u));
            if (sure > 0)
                expect(points).toContain(sure);
        }));
    });
});
//# sourceMappingURL=looks.spec.js.map