import fcg from 'fast-check'; fcg.configureGlobal({numRuns: 40000});
import fc from 'fast-check';
import { setbackAtMm, withLand, compareWitnesses, compoundBreakMm, flatSection, landLeftMm, metalRemoved, removedAreaMm2, removedByCaliper, removedByScale, resultingSection, } from '../index.js';
const station = (radiusMm, change = {}) => ({
    radiusMm,
    recessionMm: 0.5,
    beforeBevelDeg: 30,
    beforeLandMm: 0,
    afterBevelDeg: 30,
    afterLandMm: 0,
    ...change,
});
describe('metal removed', () => {
    // A hand-worked prism: 0.5 mm × 6 mm × 100 mm = 300 mm³, at the handbook's 7.85 g/cm³ 2.355 g.
    it('is a prism where the bevel keeps its angle', () => {
        const { massG, momentGmm } = metalRemoved(6, [station(100), station(200)]);
        expect(massG).toBeCloseTo(2.355, 12);
        expect(momentGmm).toBeCloseTo(2.355 * 150, 9);
    });
    // Worked: a trapezium of steel above the old land, (0.5 − 0.15)·(12.7 − 0.65)/2·cot 30° over 200 mm.
    it('counts a land taken off without any change of width: 5.7 g', () => {
        const landOff = { recessionMm: 0, beforeLandMm: 0.5, afterLandMm: 0.15 };
        const one = metalRemoved(6.35, [station(100, landOff), station(200, landOff)]).massG;
        const byHand = (0.5 * (6.2 ** 2 - 5.85 ** 2) * 100 * 0.00785) / Math.tan(Math.PI / 6);
        expect(one).toBeCloseTo(byHand, 10);
        expect(2 * one).toBeCloseTo(5.73, 2);
    });
    it('is a wedge where recession tapers to nothing', () => {
        const { massG, momentGmm } = metalRemoved(6, [station(100, { recessionMm: 0 }), station(200)]);
        expect(massG).toBeCloseTo(2.355 / 2, 12);
        // Centroid of a triangle: two thirds of the way to the thick end.
        expect(momentGmm / massG).toBeCloseTo(100 + 200 / 3, 9);
    });
    it('of a steeper plane leaves the old bevel above the break', () => {
        const before = { bevelDeg: 30, landMm: 0, recessionMm: 0 };
        const steep = { bevelDeg: 45, landMm: 0, recessionMm: 1 };
        const breakMm = compoundBreakMm(6, before, steep);
        // The planes meet where 1 + y = y·cot 30°.
        expect(breakMm).toBeCloseTo(1 / (Math.sqrt(3) - 1), 9);
        const area = removedAreaMm2(flatSection(6, before), flatSection(6, steep));
        expect(area).toBeCloseTo((1 * (breakMm ?? 0)) / 2, 9);
        expect(compoundBreakMm(6, steep, { ...before, recessionMm: 1 })).toBeUndefined();
    });
    it('agrees with the section polyline for any bevel, land and recession', () => {
        const bevel = fc.record({
            bevelDeg: fc.double({ min: 20, max: 55, noNaN: true }),
            landMm: fc.double({ min: 0, max: 1.5, noNaN: true }),
        });
        fc.assert(fc.property(bevel, bevel, fc.double({ min: 0, max: 4, noNaN: true }), (before, after, recessionMm) => {
            const area = removedAreaMm2(flatSection(5, { ...before, recessionMm: 0 }), flatSection(5, { ...after, recessionMm }));
            const same = {
                recessionMm,
                beforeBevelDeg: before.bevelDeg,
                beforeLandMm: before.landMm,
                afterBevelDeg: after.bevelDeg,
                afterLandMm: after.landMm,
            };
            const { massG } = metalRemoved(5, [station(100, same), station(101, same)], 1);
            expect(massG).toBeCloseTo(area, 9);
        }));
    });
    it('agrees with fine slicing where bevels, lands and recession all taper and clip', () => {
        const end = fc.record({
            recessionMm: fc.double({ min: 0, max: 3, noNaN: true }),
            beforeBevelDeg: fc.double({ min: 25, max: 45, noNaN: true }),
            beforeLandMm: fc.double({ min: 0, max: 1, noNaN: true }),
            afterBevelDeg: fc.double({ min: 25, max: 45, noNaN: true }),
            afterLandMm: fc.double({ min: 0, max: 1, noNaN: true }),
        });
        fc.assert(fc.property(end, end, (inner, outer) => {
            const a = station(150, inner);
            const b = station(250, outer);
            const exact = metalRemoved(6, [a, b]);
            const sliced = slices(6, a, b, 800);
            expect(exact.massG).toBeCloseTo(sliced.massG, 4);
            expect(exact.momentGmm / 200).toBeCloseTo(sliced.momentGmm / 200, 4);
        }), { numRuns: 40000 });
    });
    it('never shrinks when more is taken, and the section left is never inside the old one', () => {
        const before = flatSection(6, { bevelDeg: 32, landMm: 0.3, recessionMm: 0 });
        const at = (recessionMm) => removedAreaMm2(before, flatSection(6, { bevelDeg: 30, landMm: 0.1, recessionMm }));
        const areas = [0, 0.1, 0.2, 0.5, 1, 2].map(at);
        expect([...areas].sort((p, q) => p - q)).toEqual(areas);
        const left = resultingSection(before, flatSection(6, { bevelDeg: 45, landMm: 0, recessionMm: 0.2 }));
        expect(removedAreaMm2(left, before)).toBeCloseTo(0, 9);
    });
    it('refuses impossible input by station and field', () => {
        expect(() => metalRemoved(6, [station(100)])).toThrowError(/stations must hold at least two/);
        expect(() => metalRemoved(6, [station(100), station(200, { recessionMm: -1 })])).toThrowError(/stations\[1\].recessionMm must not be negative/);
        expect(() => metalRemoved(6, [station(100), station(200, { afterLandMm: 6 })])).toThrowError(/stations\[1\].afterLandMm/);
        expect(() => metalRemoved(0, [station(100), station(200)])).toThrowError(/thicknessMm/);
    });
});
/** Midpoint slices with cot β, land and recession linear between the two stations. */
function slices(t, a, b, n) {
    const cot = (deg) => 1 / Math.tan((deg * Math.PI) / 180);
    const mix = (p, q, x) => p + (q - p) * x;
    let massG = 0;
    let momentGmm = 0;
    const dr = (b.radiusMm - a.radiusMm) / n;
    for (let i = 0; i < n; i++) {
        const x = (i + 0.5) / n;
        const angle = (key) => (Math.atan(1 / mix(cot(a[key]), cot(b[key]), x)) * 180) / Math.PI;
        const area = removedAreaMm2(flatSection(t, {
            bevelDeg: angle('beforeBevelDeg'),
            landMm: mix(a.beforeLandMm, b.beforeLandMm, x),
            recessionMm: 0,
        }), flatSection(t, {
            bevelDeg: angle('afterBevelDeg'),
            landMm: mix(a.afterLandMm, b.afterLandMm, x),
            recessionMm: mix(a.recessionMm, b.recessionMm, x),
        }));
        massG += 0.00785 * area * dr;
        momentGmm += 0.00785 * area * dr * mix(a.radiusMm, b.radiusMm, x);
    }
    return { massG, momentGmm };
}
describe('the land left', () => {
    it('cannot be wider than the old edge gives', () => {
        const sharp = { bevelDeg: 30, landMm: 0, recessionMm: 0 };
        expect(landLeftMm(sharp, { bevelDeg: 30, landMm: 0.5, recessionMm: 0.1 })).toBeCloseTo(0.0577, 4);
        expect(landLeftMm({ ...sharp, landMm: 0.6 }, { bevelDeg: 30, landMm: 0.15, recessionMm: 0 })).toBe(0.15);
    });
});
describe('witnesses', () => {
    const exact = (value) => ({ value, u: 0 });
    it('agree on an invented grind within their uncertainty', () => {
        const caliper = removedByCaliper(6, {
            stations: [
                {
                    radiusMm: 250,
                    widthBeforeMm: { value: 60, u: 0.08 },
                    widthAfterMm: { value: 59.5, u: 0.08 },
                },
                {
                    radiusMm: 180,
                    widthBeforeMm: { value: 60, u: 0.08 },
                    widthAfterMm: { value: 59.5, u: 0.08 },
                },
            ],
            bevelBeforeDeg: exact(30),
            bevelAfterDeg: exact(30),
            landBeforeMm: exact(0),
            landAfterMm: exact(0),
            edgeFromMm: 160,
            edgeToMm: 260,
        });
        expect(caliper.value).toBeCloseTo(2.355, 9);
        expect(caliper.u).toBeGreaterThan(0.3);
        const scale = removedByScale({ value: 812.4, u: 0.1 }, { value: 809.9, u: 0.1 });
        expect(scale.value).toBeCloseTo(2.5, 9);
        expect(compareWitnesses(scale, caliper).agree).toBeTrue();
        expect(compareWitnesses({ value: 9, u: 0.1 }, caliper).agree).toBeFalse();
    });
});
describe('withLand', () => {
    it('begins the steel where the face stands at the land’s height', () => {
        const sharp = flatSection(6, { bevelDeg: 45, landMm: 0, recessionMm: 0 });
        const blunt = withLand(sharp, 0.5);
        expect(setbackAtMm(blunt, 0)).toBe(0);
        expect(setbackAtMm(blunt, 0.5)).toBeCloseTo(0, 12);
        expect(setbackAtMm(blunt, 6)).toBeCloseTo(5.5, 12);
        expect(() => withLand(sharp, 6)).toThrowError(/landMm/);
    });
});
//# sourceMappingURL=metal.spec.js.map