import { BenchError, notNegative, positive } from '../errors.js';
import { COVERAGE_K, propagate, rss, type Measured } from '../reading/uncertainty.js';
import { omegaRadPerS } from '../units/angles.js';

/**
 * Unbalance of a blade about its hole centre, U in g·mm along the blade. Signed: positive means end A is
 * heavy. A balancer finds it; the permissible value comes from the blade's mass and speed; grams at the
 * edge take it away.
 */
export type HeavyEnd = 'A' | 'B' | 'level';

/**
 * Signed unbalance from its magnitude and the end that hangs low. Example: 120 at B is −120.
 * @example signedGmm('B', 120) // -120
 */
export function signedGmm(heavyEnd: HeavyEnd, magnitudeGmm: number): number {
  notNegative('magnitudeGmm', magnitudeGmm);
  return heavyEnd === 'level' ? 0 : heavyEnd === 'A' ? magnitudeGmm : -magnitudeGmm;
}

/**
 * Unbalance by test weight: a known mass on the light end that makes the blade hang level balances the
 * moment of the heavy end, |U| = m_w·r_w (statics of the lever).
 *
 * Example: a 1.5 g coin 200 mm from the hole centre is 300 g·mm.
 * @example testWeightGmm(1.5, 200) // 300
 */
export function testWeightGmm(massG: number, radiusMm: number): number {
  return notNegative('massG', massG) * positive('radiusMm', radiusMm);
}

/**
 * {@link testWeightGmm} with its uncertainty: mass and place of the weight, the least swing the balancer
 * shows, and the centring of the hole on it, which adds M·ε (JCGM 100:2008, 5.1.2).
 *
 * Example: 1.50 ± 0.05 g at 200 ± 1 mm, 1.2 kg blade centred within 0.03 mm: 300 ± 37 g·mm (k = 1).
 * @example rounded(testWeightUnbalance({ massG: { value: 1.5, u: 0.05 }, radiusMm: { value: 200, u: 1 }, bladeMassG: 1200, centringMm: 0.03, sensitivityGmm: 0 }).u) // 37.393
 */
export function testWeightUnbalance(input: {
  readonly massG: Measured;
  readonly radiusMm: Measured;
  readonly bladeMassG: number;
  /** Standard uncertainty of the hole's centre on the balancer, mm. */
  readonly centringMm: number;
  /** Standard uncertainty from the least swing the balancer shows, g·mm. */
  readonly sensitivityGmm: number;
}): Measured {
  positive('bladeMassG', input.bladeMassG);
  const lever = propagate(([m, r]) => m * r, [input.massG, input.radiusMm]);
  return {
    value: testWeightGmm(input.massG.value, input.radiusMm.value),
    u: rss(
      lever.u,
      input.bladeMassG * notNegative('centringMm', input.centringMm),
      notNegative('sensitivityGmm', input.sensitivityGmm),
    ),
  };
}

/** Named balance quality grades, G in mm/s, and where each comes from. */
export const BALANCE_GRADES = {
  get 16() {
    return $localize`G 16: where ISO 21940-11 lists agricultural machinery`;
  },
  get 40() {
    return $localize`G 40: our default, common practice for mower blades, no source`;
  },
} as const;

/** The shop's default grade, mm/s. Our choice, common practice, no source. */
export const DEFAULT_GRADE_MM_PER_S = 40;

/**
 * Permissible residual unbalance, U_per = G·M/ω (ISO 21940-11:2016, permissible residual specific
 * unbalance e_per = G/ω times the mass). M in g, G in mm/s, speed in rpm of the blade; g·mm.
 *
 * Example: G 6.3, 40 kg at 3000 rpm is 802 g·mm.
 * @example permissibleGmm(40000, 3000, 6.3) // 802
 */
export function permissibleGmm(massG: number, speedRpm: number, gradeMmPerS: number): number {
  positive('massG', massG);
  positive('gradeMmPerS', gradeMmPerS);
  return (gradeMmPerS * massG) / omegaRadPerS(positive('speedRpm', speedRpm));
}

/**
 * Rotating force, F = 10⁻⁶·U·ω², N. Example: 300 g·mm at 3000 rpm pulls 29.6 N round and round.
 * @example unbalanceForceN(300, 3000) // 29.6
 */
export function unbalanceForceN(unbalanceGmm: number, speedRpm: number): number {
  return (
    1e-6 *
    notNegative('unbalanceGmm', unbalanceGmm) *
    omegaRadPerS(positive('speedRpm', speedRpm)) ** 2
  );
}

/**
 * Mass to take off at a radius, m = U/r, g. Example: 300 g·mm at 230 mm is 1.3 g.
 * @example correctionMassG(300, 230) // 1.3
 */
export function correctionMassG(unbalanceGmm: number, radiusMm: number): number {
  return notNegative('unbalanceGmm', unbalanceGmm) / positive('radiusMm', radiusMm);
}

/**
 * {@link correctionMassG} with the doubt of the reading and of the place it is taken off (JCGM 100:2008,
 * 5.1.2). An unbalance within its own doubt of level asks for as many grams as that doubt.
 * Example: 300 ± 30 g·mm at 230 ± 5 mm (k = 1) is 1.30 ± 0.13 g.
 * @example rounded(correctionMass({ value: -300, u: 30 }, { value: 230, u: 5 })) // { value: 1.304, u: 0.133 }
 */
export const correctionMass = (unbalance: Measured, radiusMm: Measured): Measured => {
  positive('radiusMm.value', radiusMm.value);
  const size = { value: Math.abs(unbalance.value), u: unbalance.u };
  return propagate(([gmm, mm]) => gmm / mm, [size, radiusMm]);
};

/** How far a last touch may land from the middle of the outer 50 mm, mm. Common practice, no source. */
const TOUCH_U_MM = 5;

/** What a balance reading means for the blade at hand. */
export interface BalanceResult {
  /** Signed, positive end A heavy, g·mm. */
  readonly unbalance: Measured;
  readonly heavyEnd: HeavyEnd;
  readonly permissibleGmm: number;
  readonly gradeMmPerS: number;
  readonly correctionRadiusMm: number;
  readonly correctionG: number;
  /** Standard uncertainty of it, g: the reading's, and where along the edge it is taken. */
  readonly correctionUG: number;
  readonly forceN: number;
  readonly within: boolean;
  /** The reading's own expanded uncertainty (k = 2) is wider than the whole allowance. */
  readonly tooCoarse: boolean;
}

/**
 * Judges a balance reading: the value itself against the permissible one. Uncertainty is shown beside it
 * and, where it is wider than the whole allowance, said aloud rather than made a failure.
 * @example judgeBalance({ unbalance: { value: 300, u: 20 }, bladeMassG: 1600, speedRpm: 3000, gradeMmPerS: 40, correctionRadiusMm: 235 }).within // false
 */
export function judgeBalance(input: {
  readonly unbalance: Measured;
  readonly bladeMassG: number;
  readonly speedRpm: number;
  readonly gradeMmPerS: number;
  readonly correctionRadiusMm: number;
}): BalanceResult {
  const size = Math.abs(input.unbalance.value);
  const permissible = permissibleGmm(input.bladeMassG, input.speedRpm, input.gradeMmPerS);
  return {
    unbalance: input.unbalance,
    heavyEnd: size === 0 ? 'level' : input.unbalance.value > 0 ? 'A' : 'B',
    permissibleGmm: permissible,
    gradeMmPerS: input.gradeMmPerS,
    correctionRadiusMm: input.correctionRadiusMm,
    correctionG: correctionMassG(size, input.correctionRadiusMm),
    correctionUG: correctionMass(input.unbalance, {
      value: input.correctionRadiusMm,
      u: TOUCH_U_MM,
    }).u,
    forceN: unbalanceForceN(size, input.speedRpm),
    within: size <= permissible,
    tooCoarse: COVERAGE_K * input.unbalance.u > permissible,
  };
}

/**
 * Does a reading tell how much a blade is out of balance? Where its doubt (k = 2) is wider than the allowance and reaches
 * past level, it tells at the most which end: no metal is taken for such an amount.
 * @example tellsAmount({ value: 500, u: 640 }, 190) // false
 */
export function tellsAmount({ value, u }: Measured, permissible: number): boolean {
  const expanded = COVERAGE_K * u;
  return expanded <= permissible || expanded < Math.abs(value);
}

/**
 * No blade's centre of mass is further from its hole, mm: with a third of an end broken off it is not a blade to balance
 * any more. Common practice, no source.
 */
export const MOST_OFFSET_MM = 12;

/** How a shop's devices centre and show a blade. Defaults, common practice, no source. */
export const BALANCE_DEVICES = {
  'bearing-shaft': {
    get label() {
      return $localize`Cone on a bearing shaft`;
    },
    centringMm: 0.02,
    sensitivityGmm: 15,
  },
  'cone-point': {
    get label() {
      return $localize`Cone on a point`;
    },
    centringMm: 0.05,
    sensitivityGmm: 25,
  },
  straightedge: {
    get label() {
      return $localize`Straightedge under a centre line`;
    },
    centringMm: 0.15,
    sensitivityGmm: 60,
  },
  nail: {
    get label() {
      return $localize`Nail in a wall`;
    },
    centringMm: 0.4,
    sensitivityGmm: 150,
  },
} as const;
export type BalanceDevice = keyof typeof BALANCE_DEVICES;

/**
 * Middle of the outer 50 mm, where the last touches go, mm from the hole centre.
 * @example outer50RadiusMm(260) // 235
 */
export function outer50RadiusMm(halfLengthMm: number): number {
  if (positive('halfLengthMm', halfLengthMm) <= 50) {
    throw new BenchError(
      'halfLengthMm',
      $localize`must be longer than the 50 mm it is measured in`,
      halfLengthMm,
    );
  }
  return halfLengthMm - 25;
}
