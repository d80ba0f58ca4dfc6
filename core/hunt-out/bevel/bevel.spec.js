import { bevelFromFace, bevelFromFaceDeg, bevelFromRunDeg, faceFromBevelMm, runFromBevelMm, } from '../index.js';
describe('bevel by caliper', () => {
    // Hand trigonometry: sin 30° = 1/2, tan 45° = 1, a 3-4-5 triangle.
    it('agrees with triangles one can do by hand', () => {
        expect(bevelFromFaceDeg({ thicknessMm: 6.35, landMm: 0 }, 12.7)).toBeCloseTo(30, 10);
        expect(faceFromBevelMm({ thicknessMm: 6.35, landMm: 0 }, 30)).toBeCloseTo(12.7, 10);
        expect(bevelFromRunDeg({ thicknessMm: 6.35, landMm: 0 }, 6.35)).toBeCloseTo(45, 10);
        expect(bevelFromFaceDeg({ thicknessMm: 3, landMm: 0 }, 5)).toBeCloseTo(36.8699, 4);
        expect(runFromBevelMm({ thicknessMm: 3, landMm: 0 }, 36.869897645844)).toBeCloseTo(4, 9);
    });
    it('counts only the rise above the land', () => {
        expect(bevelFromFaceDeg({ thicknessMm: 6.5, landMm: 0.5 }, 12)).toBeCloseTo(30, 10);
    });
    it('carries the uncertainty of thickness, land and face', () => {
        const { value, u } = bevelFromFace({
            thicknessMm: { value: 6, u: 0 },
            landMm: { value: 0, u: 0 },
            faceMm: { value: 12, u: 0.2 },
        });
        expect(value).toBeCloseTo(30, 9);
        // dβ/df = −tan β / f, so u = tan 30° / 12 · 0.2 rad.
        expect(u).toBeCloseTo(((Math.tan(Math.PI / 6) / 12) * 0.2 * 180) / Math.PI, 4);
    });
    it('refuses what is no triangle, naming the field', () => {
        expect(() => bevelFromFaceDeg({ thicknessMm: 6, landMm: 0 }, 5.9)).toThrowError(/faceMm must be wider/);
        expect(() => bevelFromFaceDeg({ thicknessMm: 6, landMm: 7 }, 15)).toThrowError(/landMm/);
        expect(() => faceFromBevelMm({ thicknessMm: 6, landMm: 0 }, 90)).toThrowError(/bevelDeg/);
        expect(() => runFromBevelMm({ thicknessMm: -1, landMm: 0 }, 30)).toThrowError(/thicknessMm/);
    });
});
//# sourceMappingURL=bevel.spec.js.map