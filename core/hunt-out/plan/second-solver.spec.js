import fc from 'fast-check';
import loadGlpk, {} from 'glpk.js/node';
import loadHighs, {} from 'highs';
import { planRows, programText, } from '../index.js';
import { glpkProgram } from '../testing/glpk.js';
/** The same programme through a second, unrelated solver (GLPK). Both read our text; GLPK by a small parser. */
let highs;
let glpk;
beforeAll(async () => {
    // Its types describe a default export that Node's resolution reads as a namespace.
    highs = await loadHighs();
    glpk = await loadGlpk();
});
const zones = [
    { key: 'full', reachMm: 100, featherMm: 10, gramsPerPass: 0.6 },
    { key: 'half', reachMm: 50, featherMm: 8, gramsPerPass: 0.4 },
    { key: 'tip', reachMm: 25, featherMm: 5, gramsPerPass: 0.25 },
];
const real = (min, max) => fc.double({ min, max, noNaN: true });
const drawn = fc.record({
    landA: real(0.2, 0.9),
    landB: real(0.2, 0.9),
    room: real(1, 8),
    unbalance: real(-1500, 1500),
    permissible: real(100, 300),
    u: real(0, 80),
    nicks: fc.array(fc.record({ atMm: real(5, 80), recessMm: real(0.1, 1.5), atA: fc.boolean() }), {
        maxLength: 4,
    }),
});
function inputOf(blade) {
    const stations = (landMm) => Array.from({ length: 12 }, (_, i) => ({
        radiusMm: 257 - i * 7.5,
        bevelDeg: 31,
        landMm,
        wornMm: 0.5,
        roomMm: blade.room,
    }));
    return {
        thicknessMm: 6,
        tipRadiusMm: 260,
        edgeLengthMm: 100,
        stations: { A: stations(blade.landA), B: stations(blade.landB) },
        nicks: blade.nicks.map((nick, i) => ({
            id: String(i),
            end: nick.atA ? 'A' : 'B',
            radiusMm: 260 - nick.atMm,
            lengthMm: 8,
            depthMm: nick.recessMm,
            recessMm: nick.recessMm,
        })),
        zones,
        rules: {
            newBevelDeg: 30,
            finishLandMm: 0.15,
            straightness: 0.03,
            wearWeightG: 6,
            mostPassesPerZone: 40,
        },
        balance: {
            unbalanceGmm: blade.unbalance,
            uGmm: blade.u,
            permissibleGmm: blade.permissible,
        },
    };
}
describe('the plan through a second solver', () => {
    it('has the same optimum on 200 blades of 2 × 12 stations, 3 zones and up to 4 nicks', () => {
        let solved = 0;
        fc.assert(fc.property(drawn, (blade) => {
            const input = inputOf(blade);
            const text = programText(input, planRows(input), 'metal');
            const first = highs.solve(text, { mip_rel_gap: 0 });
            const { result } = glpk.solve(glpkProgram(glpk, text), {
                msglev: glpk.GLP_MSG_OFF,
                mipgap: 0,
                tmlim: 20,
            });
            const feasible = result.status === glpk.GLP_OPT;
            expect(feasible)
                .withContext(first.Status)
                .toBe(first.Status === 'Optimal');
            if (!feasible)
                return;
            solved += 1;
            expect(first.ObjectiveValue).toBeCloseTo(result.z, 4);
        }), { numRuns: 200 });
        expect(solved).toBeGreaterThan(40);
    });
});
//# sourceMappingURL=second-solver.spec.js.map