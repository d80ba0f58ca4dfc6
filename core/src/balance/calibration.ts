import { BenchError, positive } from '../errors.js';
import { fitValues } from '../math/least-squares.js';
import { rss, type Measured } from '../reading/uncertainty.js';
import {
  dropIntegral,
  dropTimeS,
  GRAVITY_MM_PER_S2,
  REACTION_U_S,
  USUAL_FRICTION_GMM,
} from './drop.js';
import type { End } from '../blade/shape.js';

/**
 * Calibration of a shaft balancer with known weights. A check blade is timed from level to hanging with a
 * light and a heavy weight, each at end A and at end B. The times hold three unknowns apart: the bearing's
 * friction (it slows the light weight more), the blade's inertia with the shaft (it slows both alike), and the
 * check blade's own unbalance (it speeds one end and slows the other). Two more drops with the blade turned
 * half way round on the adapter tell how far off centre the balancer holds it.
 */
export interface KnownWeightDrops {
  readonly weightG: number;
  /** Where the weight hangs, mm from the hole centre. */
  readonly radiusMm: number;
  readonly end: End;
  /** The blade turned by 180° on its adapter. */
  readonly turned: boolean;
  readonly timesS: readonly number[];
}

export interface ShaftCalibration {
  /** Friction of the bearing as the unbalance it just holds, g·mm. */
  readonly frictionGmm: Measured;
  /** Inertia of blade, shaft and adapter over that of a bar of the blade's size. */
  readonly inertiaFactor: Measured;
  /** The check blade's own unbalance as it hangs, positive end A heavy, g·mm. */
  readonly bladeGmm: Measured;
  /** How far off centre the balancer holds a blade, mm; only where it was turned half way round. */
  readonly centringMm?: Measured;
  /**
   * What the drops miss the fitted times by over their doubt, root of χ² over its degrees of freedom (drops less
   * unknowns). Above 2: repeat.
   */
  readonly misfit: number;
}

/** A light weight must leave enough of the swing to time, and the heavy one must differ from it. */
const LEAST_RATIO = 1.8;
/** A known weight is known so well, relative: a coin or a letter scale's weight. Common practice, no source. */
const WEIGHT_RELATIVE_U = 0.005;

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

function checkWeights(drops: readonly KnownWeightDrops[]): void {
  drops.forEach(({ weightG, radiusMm, timesS }, i) => {
    positive(`drops[${i}].weightG`, weightG);
    positive(`drops[${i}].radiusMm`, radiusMm);
    if (timesS.length === 0)
      throw new BenchError(`drops[${i}].timesS`, $localize`must hold at least one drop`);
    timesS.forEach((time, j) => positive(`drops[${i}].timesS[${j}]`, time));
  });
  const straight = drops.filter(({ turned }) => !turned);
  const moments = straight.map(({ weightG, radiusMm }) => weightG * radiusMm);
  if (!straight.some(({ end }) => end === 'A') || !straight.some(({ end }) => end === 'B')) {
    throw new BenchError('drops', $localize`must be made with the weight at end A and at end B`);
  }
  if (Math.max(...moments) < LEAST_RATIO * Math.min(...moments)) {
    throw new BenchError(
      'drops',
      $localize`must be made with a light weight and with one about twice as heavy`,
    );
  }
}

/**
 * Friction, inertia and centring of a shaft balancer from timed drops with known weights, by least squares.
 * Timing counts by the reaction at start and stop over √n, a weight by half of its relative doubt.
 *
 * Errors: `drops` when they do not hold both ends and two weights; `drops[i].timesS[j]` when not above zero.
 * Example: a check blade timed with 2 g and 5 g at 200 mm on a shaft that holds 8 g·mm gives those 8 back.
 * @example calibrateShaft({ bladeMassG: 1700, inertiaGmm2: 4e7, drops: dropsOn(8) }).frictionGmm.value // 8.0
 */
export function calibrateShaft(input: {
  readonly bladeMassG: number;
  /** Of a bar of the check blade's size, g·mm². */
  readonly inertiaGmm2: number;
  readonly drops: readonly KnownWeightDrops[];
  /** Drag of the shaft, 1/s; what it differs by goes into inertia and friction. */
  readonly dragPerS?: number;
}): ShaftCalibration {
  const { drops, dragPerS = 0 } = input;
  const bladeMassG = positive('bladeMassG', input.bladeMassG);
  const inertiaGmm2 = positive('inertiaGmm2', input.inertiaGmm2);
  checkWeights(drops);
  const turned = drops.some((each) => each.turned);
  const seen = drops.map(({ timesS }) => {
    const value = mean(timesS);
    return {
      value,
      u: rss(REACTION_U_S / Math.sqrt(timesS.length), (value * WEIGHT_RELATIVE_U) / 2),
    };
  });
  const known = ([friction = 0, factor = 1, own = 0, offset = 0]: readonly number[]): number[] =>
    drops.map(({ weightG, radiusMm, end, turned: round }) => {
      const blade = own + (turned ? (round ? -offset : offset) : 0);
      const unbalance = weightG * radiusMm + (end === 'A' ? blade : -blade);
      const inertia = factor * inertiaGmm2 + weightG * radiusMm ** 2;
      return timeOf(unbalance, inertia, friction, dragPerS);
    });
  const light = Math.min(...drops.map(({ weightG, radiusMm }) => weightG * radiusMm));
  const { values, us, chiSquared } = fitValues(known, seen, {
    start: [Math.min(USUAL_FRICTION_GMM.value, light / 10), 1, 0, ...(turned ? [0] : [])],
    sizes: [light / 10, 0.1, light / 10, ...(turned ? [light / 10] : [])],
    atLeast: [0, 0.2, -light, ...(turned ? [-light] : [])],
  });
  const at = (i: number): Measured => ({ value: values[i] ?? 0, u: us[i] ?? 0 });
  return {
    frictionGmm: at(0),
    inertiaFactor: at(1),
    bladeGmm: at(2),
    ...(turned
      ? { centringMm: { value: Math.abs(at(3).value) / bladeMassG, u: at(3).u / bladeMassG } }
      : {}),
    // As many drops as unknowns fit whatever they are: the first one more can tell.
    misfit: Math.sqrt(chiSquared / Math.max(1, drops.length - values.length)),
  };
}

/** Time to hanging; where friction would hold the blade short of it, a time far longer than any seen. */
function timeOf(
  unbalanceGmm: number,
  inertiaGmm2: number,
  frictionGmm: number,
  dragPerS: number,
): number {
  const most = 0.6;
  if (unbalanceGmm <= 0 || frictionGmm / unbalanceGmm >= most) {
    const stuck = Math.max(1, frictionGmm / most);
    return 4 * dropIntegral(90, most) * Math.sqrt(inertiaGmm2 / (stuck * GRAVITY_MM_PER_S2));
  }
  return dropTimeS(unbalanceGmm, { inertiaGmm2, markDeg: 90, frictionGmm, dragPerS });
}
