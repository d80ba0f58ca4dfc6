import fc from 'fast-check';
import loadManifold, {} from 'manifold-3d';
import { metalRemoved, STEEL_G_PER_MM3 } from '../index.js';
/**
 * The removed solid itself, built and cut with a solid modeller from the registry (manifold-3d): the steel
 * before and the steel after as hulls of their end sections, one subtracted from the other. The hulls are
 * exact where bevel and land are constant along the span, so that both are polyhedra.
 */
let solids;
beforeAll(async () => {
    solids = await loadManifold();
    solids.setup();
});
const BACK_MM = 60;
const cot = (bevelDeg) => 1 / Math.tan((bevelDeg * Math.PI) / 180);
/** The steel behind a flat bevel whose foot stands at `feet` at the two ends of the span. */
function steel(cut, bevel, feet) {
    const { thicknessMm: t, lengthMm } = cut;
    const corners = feet.flatMap((foot, i) => {
        const z = i * lengthMm;
        return [
            [foot, 0, z],
            [foot, bevel.landMm, z],
            [foot + (t - bevel.landMm) * cot(bevel.bevelDeg), t, z],
            [BACK_MM, t, z],
            [BACK_MM, 0, z],
        ];
    });
    return solids.Manifold.hull(corners);
}
/** Heights of the solid's corners along the span, in order: between two of them V(z) is one cubic. */
function cornerHeights(solid) {
    const { vertProperties, numProp } = solid.getMesh();
    const heights = Array.from({ length: vertProperties.length / numProp }, (_, i) => Number((vertProperties[i * numProp + 2] ?? 0).toFixed(4)));
    return [...new Set(heights)].sort((x, y) => x - y);
}
/**
 * First moment along the span, ∫ z dV = ∫ V(beyond z) dz, by the modeller's own volumes of what lies beyond a
 * cut: those are worked in double precision, the mesh it hands out is not. Two Gauss points a stretch are
 * exact for a cubic.
 */
function momentAlongZ(solid) {
    const heights = cornerHeights(solid);
    const beyond = (z) => {
        const part = solid.trimByPlane([0, 0, 1], z);
        const volume = part.volume();
        part.delete();
        return volume;
    };
    const start = heights[0] ?? 0;
    return heights.slice(1).reduce((moment, high, i) => {
        const low = heights[i] ?? 0;
        const half = (high - low) / 2;
        const middle = (high + low) / 2;
        const step = half / Math.sqrt(3);
        return moment + half * (beyond(middle - step) + beyond(middle + step));
    }, start * solid.volume());
}
const stationsOf = (cut) => cut.recessionMm.map((recessionMm, i) => ({
    radiusMm: i * cut.lengthMm,
    recessionMm,
    beforeBevelDeg: cut.before.bevelDeg,
    beforeLandMm: cut.before.landMm,
    afterBevelDeg: cut.after.bevelDeg,
    afterLandMm: cut.after.landMm,
}));
const real = (min, max) => fc.double({ min, max, noNaN: true });
const bevel = fc.record({ bevelDeg: real(24, 46), landMm: real(0.05, 1) });
const cuts = fc.record({
    thicknessMm: real(2.5, 6.5),
    lengthMm: real(30, 150),
    before: bevel,
    after: bevel,
    recessionMm: fc.tuple(real(0.05, 4), real(0.05, 4)),
});
describe('metal removed against the removed solid', () => {
    it('agrees to 1e-6 in mass, moment and centroid on 250 random blades, lands, angles and tapered recessions', () => {
        let compound = 0;
        fc.assert(fc.property(cuts, (cut) => {
            const old = steel(cut, cut.before, [0, 0]);
            const ground = steel(cut, cut.after, cut.recessionMm);
            const removed = old.subtract(ground);
            const volume = removed.volume();
            const { massG, momentGmm } = metalRemoved(cut.thicknessMm, stationsOf(cut));
            expect(massG / (STEEL_G_PER_MM3 * volume)).toBeCloseTo(1, 5.7);
            const moment = momentAlongZ(removed);
            expect(Math.abs(momentGmm / (STEEL_G_PER_MM3 * moment) - 1)).toBeLessThan(1e-6);
            // The centroid is their ratio.
            expect(Math.abs(momentGmm / massG / (moment / volume) - 1)).toBeLessThan(1e-6);
            if (cut.after.bevelDeg > cut.before.bevelDeg + 5)
                compound += 1;
            for (const solid of [old, ground, removed])
                solid.delete();
        }), { numRuns: 250 });
        expect(compound).toBeGreaterThan(40);
    });
    it('agrees on the centroid of a wedge worked by hand', () => {
        const cut = {
            thicknessMm: 6,
            lengthMm: 90,
            before: { bevelDeg: 30, landMm: 0.2 },
            after: { bevelDeg: 30, landMm: 0.2 },
            recessionMm: [0, 1],
        };
        const removed = steel(cut, cut.before, [0, 0]).subtract(steel(cut, cut.after, cut.recessionMm));
        expect(removed.volume()).toBeCloseTo((6 * 1 * 90) / 2, 6);
        const { massG, momentGmm } = metalRemoved(6, stationsOf(cut));
        expect(momentGmm / massG).toBeCloseTo(60, 9);
        expect(momentAlongZ(removed) / removed.volume()).toBeCloseTo(60, 6);
    });
});
//# sourceMappingURL=solid.spec.js.map