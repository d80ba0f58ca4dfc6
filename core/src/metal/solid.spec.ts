import fc from 'fast-check';
import loadManifold, { type Manifold, type ManifoldToplevel, type Vec3 } from 'manifold-3d';
import { metalRemoved, STEEL_G_PER_MM3, type EdgeStation } from '../index.js';

/**
 * The removed solid itself, built and cut with a solid modeller from the registry (manifold-3d): the steel
 * before and the steel after as hulls of their end sections, one subtracted from the other. The hulls are
 * exact where bevel and land are constant along the span, so that both are polyhedra.
 */
let solids: ManifoldToplevel;

beforeAll(async () => {
  solids = await loadManifold();
  solids.setup();
});

interface Cut {
  readonly thicknessMm: number;
  readonly lengthMm: number;
  readonly before: { readonly bevelDeg: number; readonly landMm: number };
  readonly after: { readonly bevelDeg: number; readonly landMm: number };
  readonly recessionMm: readonly [number, number];
}

const BACK_MM = 60;
const cot = (bevelDeg: number): number => 1 / Math.tan((bevelDeg * Math.PI) / 180);

/** The steel behind a flat bevel whose foot stands at `feet` at the two ends of the span. */
function steel(cut: Cut, bevel: Cut['before'], feet: readonly [number, number]): Manifold {
  const { thicknessMm: t, lengthMm } = cut;
  const corners = feet.flatMap((foot, i): Vec3[] => {
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

/** Volume of a solid and its first moment along the span, by its triangles (divergence theorem). */
function momentAlongZ(solid: Manifold): number {
  const { triVerts, vertProperties, numProp } = solid.getMesh();
  const vertex = (i: number): Vec3 => {
    const at = (triVerts[i] ?? 0) * numProp;
    return [vertProperties[at] ?? 0, vertProperties[at + 1] ?? 0, vertProperties[at + 2] ?? 0];
  };
  let moment = 0;
  for (let i = 0; i < triVerts.length; i += 3) {
    const [a, b, c] = [vertex(i), vertex(i + 1), vertex(i + 2)];
    const volume =
      (a[0] * (b[1] * c[2] - b[2] * c[1]) -
        a[1] * (b[0] * c[2] - b[2] * c[0]) +
        a[2] * (b[0] * c[1] - b[1] * c[0])) /
      6;
    moment += (volume * (a[2] + b[2] + c[2])) / 4;
  }
  return moment;
}

const stationsOf = (cut: Cut): EdgeStation[] =>
  cut.recessionMm.map((recessionMm, i) => ({
    radiusMm: i * cut.lengthMm,
    recessionMm,
    beforeBevelDeg: cut.before.bevelDeg,
    beforeLandMm: cut.before.landMm,
    afterBevelDeg: cut.after.bevelDeg,
    afterLandMm: cut.after.landMm,
  }));

const real = (min: number, max: number): fc.Arbitrary<number> =>
  fc.double({ min, max, noNaN: true });
const bevel = fc.record({ bevelDeg: real(24, 46), landMm: real(0.05, 1) });
const cuts: fc.Arbitrary<Cut> = fc.record({
  thicknessMm: real(2.5, 6.5),
  lengthMm: real(30, 150),
  before: bevel,
  after: bevel,
  recessionMm: fc.tuple(real(0.05, 4), real(0.05, 4)),
});

describe('metal removed against the removed solid', () => {
  it('agrees to 1e-6 in mass on 250 random blades, lands, angles and tapered recessions', () => {
    let compound = 0;
    fc.assert(
      fc.property(cuts, (cut) => {
        const old = steel(cut, cut.before, [0, 0]);
        const ground = steel(cut, cut.after, cut.recessionMm);
        const removed = old.subtract(ground);
        const volume = removed.volume();
        const { massG, momentGmm } = metalRemoved(cut.thicknessMm, stationsOf(cut));
        expect(massG / (STEEL_G_PER_MM3 * volume)).toBeCloseTo(1, 5.7);
        // The mesh comes back in single precision; the moment is compared as far as that goes.
        const moment = momentAlongZ(removed);
        expect(momentGmm / (STEEL_G_PER_MM3 * moment)).toBeCloseTo(1, 3);
        if (cut.after.bevelDeg > cut.before.bevelDeg + 5) compound += 1;
        for (const solid of [old, ground, removed]) solid.delete();
      }),
      { numRuns: 250 },
    );
    expect(compound).toBeGreaterThan(40);
  });

  it('agrees on the centroid of a wedge worked by hand', () => {
    const cut: Cut = {
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
    expect(momentAlongZ(removed) / removed.volume()).toBeCloseTo(60, 3);
  });
});
