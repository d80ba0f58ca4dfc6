import { bevelFromHeight, correctionMass, deckFit, judgeBalance, measuredDeckFit, wheelHeight, } from '../index.js';
const sure = (value) => ({ value, u: 0 });
/** Against derivatives taken by hand (JCGM 100:2008, 5.1.2, eq. 10). */
describe('the doubt of what is measured', () => {
    it('reaches the wheel’s height: ∂H/∂R = cos β at the edge', () => {
        const height = wheelHeight({ radiusMm: { value: 101.6, u: 0.4 }, thicknessMm: { value: 6.35, u: 0.1 }, aim: 'edge' }, 30);
        expect(height.u).toBeCloseTo(0.4 * Math.cos(Math.PI / 6), 9);
        const mean = wheelHeight({ radiusMm: { value: 101.6, u: 0.4 }, thicknessMm: { value: 6.35, u: 0.1 }, aim: 'mean' }, 30);
        expect(mean.value).toBeCloseTo(90.99, 2);
        expect(mean.u).toBeGreaterThan(0.33);
    });
    it('comes back from a height as a bevel: about −1.1° per mm of H and +1° per mm of R', () => {
        const wheel = { radiusMm: sure(101.6), thicknessMm: sure(6.35), aim: 'edge' };
        const byHeight = bevelFromHeight(wheel, { value: 87.988, u: 1 });
        expect(byHeight.value).toBeCloseTo(30, 2);
        expect(byHeight.u).toBeCloseTo(1.128, 2);
        const byRadius = bevelFromHeight({ ...wheel, radiusMm: { value: 101.6, u: 1 } }, { value: 87.988, u: 0 });
        expect(byRadius.u).toBeCloseTo(0.977, 2);
    });
    it('reaches clearance and overlap of a deck, each size by its own share', () => {
        const fit = measuredDeckFit({
            spacingMm: { value: 500, u: 0.6 },
            staggerMm: { value: 200, u: 0.8 },
            lengthMm: [{ value: 533, u: 0.5 }, sure(533)],
            widthMm: [sure(63), { value: 63, u: 0.3 }],
        });
        const exact = deckFit({
            spacingMm: 500,
            staggerMm: 200,
            lengthMm: [533, 533],
            widthMm: [63, 63],
        });
        expect(fit.clearanceMm.value).toBeCloseTo(exact.clearanceMm, 12);
        const d = Math.hypot(500, 200);
        const swept = Math.hypot(533, 63);
        expect(fit.clearanceMm.u).toBeCloseTo(Math.hypot((500 / d) * 0.6, (200 / d) * 0.8, (533 / swept / 2) * 0.5, (63 / swept / 2) * 0.3), 6);
        expect(fit.overlapMm.u).toBeCloseTo(Math.hypot(0.6, 0.25), 6);
    });
    it('reaches the grams to take off, on either end, and down to level', () => {
        const grams = correctionMass({ value: -300, u: 30 }, { value: 230, u: 5 });
        expect(grams.value).toBeCloseTo(300 / 230, 12);
        expect(grams.u).toBeCloseTo(Math.hypot(30 / 230, (300 * 5) / 230 ** 2), 4);
        expect(correctionMass({ value: 0, u: 30 }, sure(230)).u).toBeCloseTo(30 / 230, 9);
        const { correctionUG } = judgeBalance({
            unbalance: { value: 300, u: 30 },
            bladeMassG: 1600,
            speedRpm: 3000,
            gradeMmPerS: 40,
            correctionRadiusMm: 230,
        });
        expect(correctionUG).toBeCloseTo(grams.u, 6);
    });
});
//# sourceMappingURL=carried.spec.js.map