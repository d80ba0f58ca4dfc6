import { correctionMassG, judgeBalance, outer50RadiusMm, permissibleGmm, signedGmm, testWeightGmm, testWeightUnbalance, unbalanceForceN, } from '../index.js';
describe('unbalance', () => {
    // ISO 21940-11:2016 defines e_per·ω = G. Worked: 40 kg, 3000 rpm, G 6.3 gives e_per 20 g·mm/kg, 802 g·mm.
    it('permissible follows ISO 21940-11', () => {
        expect(permissibleGmm(40_000, 3000, 6.3)).toBeCloseTo(802.1, 1);
        expect(permissibleGmm(40_000, 3000, 6.3) / 40).toBeCloseTo(20.05, 2);
        expect(permissibleGmm(1600, 3100, 40)).toBeCloseTo(197.1, 1);
        expect(permissibleGmm(1600, 3100, 16) / permissibleGmm(1600, 3100, 40)).toBeCloseTo(0.4, 12);
    });
    it('by test weight is the lever that holds it level', () => {
        expect(testWeightGmm(1.5, 200)).toBe(300);
        expect(signedGmm('B', 300)).toBe(-300);
        expect(signedGmm('level', 0)).toBe(0);
    });
    it('carries mass, place, centring and sensitivity', () => {
        const { value, u } = testWeightUnbalance({
            massG: { value: 1.5, u: 0.05 },
            radiusMm: { value: 200, u: 1 },
            bladeMassG: 1200,
            centringMm: 0.03,
            sensitivityGmm: 0,
        });
        expect(value).toBe(300);
        expect(u).toBeCloseTo(Math.hypot(10, 1.5, 36), 6);
    });
    it('pulls with 10⁻⁶·U·ω²', () => {
        // 300 g·mm at 3000 rpm: 3e-4 kg·m × (314.159 rad/s)² = 29.6 N.
        expect(unbalanceForceN(300, 3000)).toBeCloseTo(29.6, 1);
    });
    it('is taken off as U over the radius', () => {
        expect(correctionMassG(300, outer50RadiusMm(255))).toBeCloseTo(300 / 230, 12);
        expect(() => outer50RadiusMm(40)).toThrowError(/halfLengthMm/);
    });
    it('is judged by the value, with a coarse reading said aloud', () => {
        const judged = judgeBalance({
            unbalance: { value: -150, u: 120 },
            bladeMassG: 1600,
            speedRpm: 3100,
            gradeMmPerS: 40,
            correctionRadiusMm: 240,
        });
        expect(judged.heavyEnd).toBe('B');
        expect(judged.within).toBeTrue();
        expect(judged.tooCoarse).toBeTrue();
        expect(judged.correctionG).toBeCloseTo(0.625, 3);
    });
    it('refuses impossible input by name', () => {
        expect(() => testWeightGmm(-1, 200)).toThrowError(/massG/);
        expect(() => testWeightGmm(1, 0)).toThrowError(/radiusMm/);
        expect(() => permissibleGmm(1000, 0, 40)).toThrowError(/speedRpm/);
        expect(() => permissibleGmm(NaN, 3000, 40)).toThrowError(/massG/);
    });
});
//# sourceMappingURL=unbalance.spec.js.map