import fc from 'fast-check';
import loadGlpk, { type GLPK } from 'glpk.js/node';
import loadHighs, { type LegacyHighs } from 'highs';
import {
  planRows,
  searchPasses,
  type PlanInput,
  type PlanStation,
  type PlanZone,
} from '../index.js';
import { glpkProgram } from '../testing/glpk.js';
import { programText } from '../testing/program.js';

/** The same programme through a second, unrelated solver (GLPK). Both read our text; GLPK by a small parser. */
let highs: LegacyHighs;
let glpk: GLPK;

beforeAll(async () => {
  // Its types describe a default export that Node's resolution reads as a namespace.
  highs = await (loadHighs as unknown as () => Promise<LegacyHighs>)();
  glpk = await loadGlpk();
});

const zones: PlanZone[] = [
  { key: 'full', reachMm: 100, featherMm: 10, gramsPerPass: 0.6 },
  { key: 'half', reachMm: 50, featherMm: 8, gramsPerPass: 0.4 },
  { key: 'tip', reachMm: 25, featherMm: 5, gramsPerPass: 0.25 },
];

const real = (min: number, max: number): fc.Arbitrary<number> =>
  fc.double({ min, max, noNaN: true });
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

/** With `linear` the blade is ground at the bevel and land it has: recession is linear in area then. */
function inputOf(
  blade: typeof drawn extends fc.Arbitrary<infer T> ? T : never,
  linear = false,
): PlanInput {
  const stations = (landMm: number): PlanStation[] =>
    Array.from({ length: 12 }, (_, i) => ({
      radiusMm: 257 - i * 7.5,
      bevelDeg: linear ? 30 : 31,
      landMm: linear ? 0.15 : landMm,
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
    fc.assert(
      fc.property(drawn, (blade) => {
        const input = inputOf(blade);
        const text = programText(input, planRows(input));
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
        if (!feasible) return;
        solved += 1;
        expect(first.ObjectiveValue).toBeCloseTo(result.z, 4);
      }),
      { numRuns: 200, seed: 13 },
    );
    expect(solved).toBeGreaterThan(40);
  });

  it('costs what the exact search says wherever recession is linear, on 200 blades', () => {
    let solved = 0;
    fc.assert(
      fc.property(drawn, (blade) => {
        const input = inputOf(blade, true);
        const rows = planRows(input);
        const solver = highs.solve(programText(input, rows), { mip_rel_gap: 0 });
        const { objectiveG, proven } = searchPasses(input, rows);
        expect(proven).toBeTrue();
        if (solver.Status !== 'Optimal') expect(objectiveG).toBeUndefined();
        else {
          solved += 1;
          expect(objectiveG).toBeCloseTo(solver.ObjectiveValue, 4);
        }
      }),
      { numRuns: 200, seed: 13 },
    );
    expect(solved).toBeGreaterThan(80);
  });
});
