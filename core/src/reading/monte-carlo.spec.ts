import { bevelFromFace, bevelFromFaceDeg } from '../bevel/bevel.js';
import { correctionMass, testWeightUnbalance } from '../balance/unbalance.js';
import { deckFit, measuredDeckFit } from '../deck/fit.js';
import {
  bevelFromHeight,
  heightForEdgeBevelMm,
  heightForMeanBevelMm,
  wheelBevelDeg,
  wheelHeight,
  wheelMeanBevelDeg,
} from '../grinder/wheel.js';
import { removedByPasses, removedByScale } from '../metal/witness.js';
import { normal, seeded } from '../testing/dice.js';
import { meanOf, type Measured } from './uncertainty.js';

/**
 * Propagation of distributions, JCGM 101:2008, 7: every input drawn from its own normal distribution, the model
 * worked out for each draw, mean and standard deviation of what came (or the spread about a value given). Drops, tilts and the caliper's grams have
 * theirs beside them (drop.spec.ts, tilt.spec.ts, witness.spec.ts).
 */
function drawn(
  model: (values: number[]) => number,
  inputs: readonly Measured[],
  about?: number,
): Measured {
  const draws = 40_000;
  const dice = seeded(1);
  const came = Array.from({ length: draws }, () =>
    model(inputs.map(({ value, u }) => value + u * normal(dice))),
  );
  const value = about ?? came.reduce((sum, each) => sum + each, 0) / draws;
  return {
    value,
    u: Math.sqrt(came.reduce((sum, each) => sum + (each - value) ** 2, 0) / (draws - 1)),
  };
}

const m = (value: number, u: number): Measured => ({ value, u });

/** Each formula with figures as they are met at a bench, fine and coarse, and its model for the draws. */
const FORMULAS: readonly (readonly [string, Measured, Measured])[] = [
  ...[m(0.4, 0.1), m(0, 0.1)].flatMap((landMm) =>
    [m(12.7, 0.15), m(9, 0.5)].map((faceMm) => {
      const formula = bevelFromFace({ thicknessMm: m(6.35, 0.05), landMm, faceMm });
      return [
        `bevel from a face of ${faceMm.value} over a land of ${landMm.value}`,
        formula,
        // A land read as none is some land or none, never less: its draws are those above zero.
        drawn(
          ([t = 0, e = 0, f = 0]) => bevelFromFaceDeg({ thicknessMm: t, landMm: Math.abs(e) }, f),
          [m(6.35, 0.05), landMm, faceMm],
          landMm.value === 0 ? formula.value : undefined,
        ),
      ] as const;
    }),
  ),
  ...[0.5, 1.5, 6].map(
    (massG) =>
      [
        `unbalance by a weight of ${massG} g`,
        testWeightUnbalance({
          massG: m(massG, 0.05),
          radiusMm: m(200, 3),
          bladeMassG: 1600,
          centringMm: 0.03,
          sensitivityGmm: 12,
        }),
        drawn(
          ([g = 0, mm = 0, centring = 0, least = 0]) => g * mm + 1600 * centring + least,
          [m(massG, 0.05), m(200, 3), m(0, 0.03), m(0, 12)],
        ),
      ] as const,
  ),
  ...[m(-300, 30), m(900, 200), m(2500, 90)].map(
    (unbalance) =>
      [
        `grams for ${unbalance.value} g·mm`,
        correctionMass(unbalance, m(230, 5)),
        drawn(([gmm = 0, mm = 0]) => Math.abs(gmm) / mm, [unbalance, m(230, 5)]),
      ] as const,
  ),
  ...([0, 40] as const).flatMap((stagger) =>
    (['clearanceMm', 'overlapMm'] as const).map(
      (of) =>
        [
          `${of} at a stagger of ${stagger} mm`,
          measuredDeckFit({
            spacingMm: m(520, 0.5),
            staggerMm: m(stagger, 1),
            lengthMm: [m(533, 0.5), m(531, 0.5)],
            widthMm: [m(64, 0.3), m(58, 0.3)],
          })[of],
          drawn(
            ([spacingMm = 0, staggerMm = 0, a = 0, b = 0, c = 0, d = 0]) =>
              deckFit({ spacingMm, staggerMm, lengthMm: [a, b], widthMm: [c, d] })[of],
            [m(520, 0.5), m(stagger, 1), m(533, 0.5), m(531, 0.5), m(64, 0.3), m(58, 0.3)],
          ),
        ] as const,
    ),
  ),
  ...([25, 30, 45] as const).flatMap((bevelDeg) =>
    (['edge', 'mean'] as const).flatMap((aim) => {
      const wheel = { radiusMm: m(101.6, 0.5), thicknessMm: m(6.35, 0.05), aim };
      const heightFor = (r: number, t: number): number =>
        aim === 'mean' ? heightForMeanBevelMm(r, bevelDeg, t) : heightForEdgeBevelMm(r, bevelDeg);
      const set = m(heightFor(101.6, 6.35), 0.3);
      return [
        [
          `height of a wheel for ${bevelDeg}° (${aim})`,
          wheelHeight(wheel, bevelDeg),
          drawn(([r = 0, t = 0]) => heightFor(r, t), [wheel.radiusMm, wheel.thicknessMm]),
        ] as const,
        [
          `bevel of a wheel set for ${bevelDeg}° (${aim})`,
          bevelFromHeight(wheel, set),
          drawn(
            ([r = 0, t = 0, h = 0]) =>
              aim === 'mean' ? wheelMeanBevelDeg(r, h, t) : wheelBevelDeg(r, h),
            [wheel.radiusMm, wheel.thicknessMm, set],
          ),
        ] as const,
      ];
    }),
  ),
  [
    'grams by the scale',
    removedByScale(m(1612.4, 0.07), m(1604.1, 0.07)),
    drawn(([a = 0, b = 0]) => a - b, [m(1612.4, 0.07), m(1604.1, 0.07)]),
  ],
  [
    'grams by the passes',
    removedByPasses(14, { value: 0.5, nextU: 0.06 }),
    drawn(([rate = 0]) => 14 * rate, [m(0.5, 0.06)]),
  ],
  [
    'mean of three readings',
    meanOf([m(60.1, 0.1), m(60.2, 0.1), m(60, 0.2)]),
    drawn(([a = 0, b = 0, c = 0]) => (a + b + c) / 3, [m(60.1, 0.1), m(60.2, 0.1), m(60, 0.2)]),
  ],
];

/** JCGM 101:2008, 8: a formula stands where the two agree; within a tenth here. */
describe('a doubt by formula agrees with the doubt by propagating distributions', () => {
  for (const [name, formula, distribution] of FORMULAS)
    it(`${name}`, () => {
      expect(formula.u / distribution.u)
        .withContext(`${formula.u} by the formula, ${distribution.u} by the draws`)
        .toBeGreaterThan(0.9);
      expect(formula.u / distribution.u)
        .withContext(`${formula.u} by the formula, ${distribution.u} by the draws`)
        .toBeLessThan(1.1);
      // The value itself is not moved by more than a fifth of its doubt.
      expect(Math.abs(formula.value - distribution.value)).toBeLessThan(0.2 * formula.u);
    });
});
