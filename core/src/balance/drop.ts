import { median, robustDeviation } from '../math/median.js';
import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
import { bisect, integrate } from '../math/integrate.js';
import { COVERAGE_K, rss, type Measured } from '../reading/uncertainty.js';
import { toRad } from '../units/angles.js';

/**
 * Unbalance from the time a blade takes to drop, on a low-friction shaft.
 *
 * The blade is released at rest from level; θ is the heavy end's angle below level. Energy:
 * ½·I·θ'² = U·g·(sin θ − μ·θ), μ = M_f/(U·g) the friction moment against the driving one. So the time to a
 * mark φ is t = √(I/(U·g))·K(φ, μ), K(φ, μ) = ∫₀^φ dθ/√(2(sin θ − μθ)) (mechanics). Without friction
 * K(90°) is the complete elliptic integral K(m = ½) = 1.854 074 677.
 */
export const GRAVITY_MM_PER_S2 = 9806.65;

/**
 * Largest μ for which a mark φ is reached: sin φ/φ. μ ≥ 1 never starts; 2/π < μ < 1 stops before hanging.
 * @example frictionAtWhichStopsBefore(90) // 0.6366
 */
export const frictionAtWhichStopsBefore = (markDeg: number): number =>
  Math.sin(toRad(markDeg)) / toRad(markDeg);

/**
 * K(φ, μ), dimensionless. θ = s² takes the root singularity at the start out of the integral.
 *
 * Errors: `friction` when the mark is never reached with it.
 * Example: `dropIntegral(90)` is 1.854 074 677.
 * @example dropIntegral(90) // 1.854074677
 */
export function dropIntegral(markDeg: number, friction = 0): number {
  strictlyBetween('markDeg', markDeg, 0, 180);
  notNegative('friction', friction);
  if (friction >= Math.min(1, frictionAtWhichStopsBefore(markDeg))) {
    throw new BenchError(
      'friction',
      $localize`is too large for the blade ever to reach ${markDeg}°`,
      friction,
    );
  }
  const end = Math.sqrt(toRad(markDeg));
  return integrate(
    (s) => {
      const angle = s * s;
      const drive = angle < 1e-9 ? 1 - friction : Math.sin(angle) / angle - friction;
      return Math.SQRT2 / Math.sqrt(drive);
    },
    0,
    end,
  );
}

/**
 * A blade's inertia over that of a flat bar of its size and mass: hole, bevels and wings make it 1.4 to 2 % less.
 * Where the balancer was calibrated, its own factor says it. Common practice, no source.
 */
export const BLADE_OVER_BAR = 0.983;

/**
 * Moment of inertia of a flat bar about its centre, M·(L² + W²)/12, g·mm² (statics). A real blade has
 * {@link BLADE_OVER_BAR} of it; add shaft and adapter.
 * @example barInertiaGmm2(1200, 500, 60) // 25360000
 */
export function barInertiaGmm2(massG: number, lengthMm: number, widthMm: number): number {
  return (
    (positive('massG', massG) *
      (positive('lengthMm', lengthMm) ** 2 + positive('widthMm', widthMm) ** 2)) /
    12
  );
}

/** Relative standard uncertainty of a blade's inertia by {@link BLADE_OVER_BAR}, common practice, no source. */
export const INERTIA_RELATIVE_U = 0.03;
/** The same once the balancer was calibrated with a check blade: blades differ in shape. Common practice, no source. */
export const CALIBRATED_INERTIA_RELATIVE_U = 0.015;

export interface DropSetUp {
  /** Blade, shaft and adapter together, g·mm². */
  readonly inertiaGmm2: number;
  /** Angle below level at which the clock is stopped; 90° is hanging. */
  readonly markDeg: number;
  /** Friction of the bearing as the unbalance it just holds, M_f/g, g·mm. */
  readonly frictionGmm: number;
  /** Drag of grease and air, c/I, 1/s; none where it is not said. */
  readonly dragPerS?: number;
}

/** A bearing nobody has calibrated holds so much, g·mm. Common practice for a good bearing, no source. */
export const USUAL_FRICTION_GMM: Measured = { value: 8, u: 4 };

/**
 * Drag of a shaft in good order, 1/s: its swing dies to a third in about a minute, or in half of that with stiff
 * grease. Common practice, no source.
 */
export const USUAL_DRAG_PER_S: Measured = { value: 0.03, u: 0.02 };

/**
 * How much longer a drop takes by drag, as a share of its time per d·t: the work W = d·∫√(2·sin θ)dθ lost on the
 * way slows it by ∫W/(2·sin θ)^1.5 dθ, to the first order in d (derived from the energy of the drop).
 * @example dragSlowing(90) // 0.1865
 */
export function dragSlowing(markDeg: number): number {
  strictlyBetween('markDeg', markDeg, 0, 180);
  // θ = s² again; near the start the lost work is (2/3)·√2·θ^1.5.
  const lost = (angle: number): number =>
    integrate((s) => 2 * s * Math.sqrt(2 * Math.sin(s * s)), 0, Math.sqrt(angle), 1e-9);
  const slowed = integrate(
    (s) => {
      const angle = s * s;
      if (angle < 1e-6) return (2 * s) / 3;
      return (2 * s * lost(angle)) / (2 * Math.sin(angle)) ** 1.5;
    },
    0,
    Math.sqrt(toRad(markDeg)),
    1e-7,
  );
  return slowed / dropIntegral(markDeg) ** 2;
}

const slowings = new Map<number, number>();
function slowingOf(markDeg: number): number {
  const known = slowings.get(markDeg) ?? dragSlowing(markDeg);
  slowings.set(markDeg, known);
  return known;
}

/** What a drop would have taken without drag, s. */
function withoutDragS(timeS: number, { markDeg, dragPerS = 0 }: DropSetUp): number {
  const slowing = notNegative('dragPerS', dragPerS) * slowingOf(markDeg);
  return slowing === 0 ? timeS : (Math.sqrt(1 + 4 * slowing * timeS) - 1) / (2 * slowing);
}

/**
 * Time to the mark, s. Errors: `unbalanceGmm` when friction keeps the blade from reaching it.
 * Example: 400 g·mm on 40 kg·mm² (4 × 10⁷ g·mm²) hangs after 5.9 s without friction.
 * @example dropTimeS(400, drop) // 5.92
 */
export function dropTimeS(
  unbalanceGmm: number,
  { inertiaGmm2, markDeg, frictionGmm, dragPerS = 0 }: DropSetUp,
): number {
  positive('unbalanceGmm', unbalanceGmm);
  positive('inertiaGmm2', inertiaGmm2);
  const constant = dropIntegral(markDeg, notNegative('frictionGmm', frictionGmm) / unbalanceGmm);
  const free = constant * Math.sqrt(inertiaGmm2 / (unbalanceGmm * GRAVITY_MM_PER_S2));
  const drag = notNegative('dragPerS', dragPerS);
  return drag === 0 ? free : free * (1 + drag * slowingOf(markDeg) * free);
}

/**
 * Unbalance below which this balancer shows nothing at the mark, g·mm: friction over sin φ/φ (or over 1).
 * @example leastVisibleGmm({ ...drop, frictionGmm: 8 }) // 12.57
 */
export function leastVisibleGmm({
  markDeg,
  frictionGmm,
}: Pick<DropSetUp, 'markDeg' | 'frictionGmm'>): number {
  return frictionGmm / Math.min(1, frictionAtWhichStopsBefore(markDeg));
}

/**
 * Unbalance from a drop time: U = I·K²/(g·t²), with friction solved for, since μ depends on U.
 * Ignoring μ = 0.1 reads 11 % low, μ = 0.3 33 % low.
 *
 * Errors: `timeS` when not above zero.
 * @example unbalanceFromDropGmm(5.92, drop) // 400.1
 */
export function unbalanceFromDropGmm(timeS: number, setUp: DropSetUp): number {
  const undraggedS = withoutDragS(positive('timeS', timeS), setUp);
  const free =
    (setUp.inertiaGmm2 * dropIntegral(setUp.markDeg) ** 2) / (GRAVITY_MM_PER_S2 * undraggedS ** 2);
  if (setUp.frictionGmm === 0) return free;
  const least = leastVisibleGmm(setUp) * (1 + 1e-9);
  const most = free + 4 * setUp.frictionGmm + least;
  return bisect((unbalance) => timeS - dropTimeS(unbalance, setUp), least, most);
}

/** Standard uncertainty of one hand-timed start and stop, s. Common practice, no source. */
export const REACTION_U_S = 0.07;
/** Below this a drop is too quick to time by hand, s: more drops or another device. */
export const TOO_QUICK_S = 0.8;

export interface DropResult {
  readonly unbalance: Measured;
  /** Times left out as outliers, s. */
  readonly outliersS: readonly number[];
  readonly tooQuick: boolean;
  /** Drops after which timing adds no more than half of the other uncertainty; 0 when that is so already. */
  readonly dropsWorthMaking: number;
}

/**
 * Times further than this many scaled median deviations from the median are outliers: 3.5 of many, more of few,
 * whose median deviation is often small by chance; of three nobody can say which one is wrong.
 */
const outlierDeviations = (drops: number): number => (drops < 4 ? Infinity : 3.5 * (1 + 8 / drops));

/** Student's t for 95.45 % by degrees of freedom from one on, what k = 2 stands for (JCGM 100:2008, table G.2). */
const STUDENT_T = [13.97, 4.53, 3.31, 2.87, 2.65, 2.52, 2.43, 2.37, 2.32, 2.28];

/**
 * Standard uncertainty of one timed drop, s: the usual reaction, or what these drops differ by where that is more.
 * Few drops tell little of how they differ, so what k = 2 would make too narrow is widened by Student's t.
 */
function timingU(timesS: readonly number[], mean: number): number {
  const n = timesS.length;
  const squares = timesS.reduce((sum, time) => sum + (time - mean) ** 2, 0);
  if (n < 2 || squares <= (n - 1) * REACTION_U_S ** 2) return REACTION_U_S;
  const t = STUDENT_T[Math.min(STUDENT_T.length, n - 1) - 1] ?? COVERAGE_K;
  return (Math.sqrt(squares / (n - 1)) * t) / COVERAGE_K;
}

/** Where timing alone leaves the unbalance as unsure as it is large (standard), the drops do not even tell the heavy end. */
const TELLS_NOTHING = 1;
/** No hand stops a drop so quick, s: it was pressed too early. Common practice, no source. */
const QUICKEST_S = 0.4;

/** Refuses drops that together tell nothing. */
function refuseUseless(timesS: readonly number[], mean: number): void {
  if (mean < QUICKEST_S)
    throw new BenchError('timesS', $localize`are too quick to be timed by hand: use a test weight`);
  const relativeU = (2 * timingU(timesS, mean)) / mean / Math.sqrt(timesS.length);
  if (relativeU < TELLS_NOTHING) return;
  const [quickest, slowest] = [Math.min(...timesS), Math.max(...timesS)];
  throw new BenchError(
    'timesS',
    $localize`lie too far apart to tell anything, ${quickest.toFixed(2)} s and ${slowest.toFixed(2)} s: strike the wrong one out, or drop it once more`,
  );
}

/** Nobody makes more drops than this of one blade. */
const MOST_DROPS = 9;

/** What the drops made so far are worth, before anything else of the blade is known. */
export interface DropsSoFar {
  /** Relative standard uncertainty that timing alone puts on the unbalance. */
  readonly relativeU: number;
  /** Further drops after which timing adds no more than half of what the inertia leaves open. */
  readonly worthMaking: number;
  readonly tooQuick: boolean;
}

/**
 * Whether another drop is worth making: reaction enters the unbalance twice, and falls with the root of the drops.
 * Errors: `timesS` when empty or not above zero.
 * @example dropsSoFar([6, 6.02, 5.98]).worthMaking // 0
 */
export function dropsSoFar(
  timesS: readonly number[],
  inertiaRelativeU: number = INERTIA_RELATIVE_U,
): DropsSoFar {
  if (timesS.length === 0) throw new BenchError('timesS', $localize`must hold at least one drop`);
  const mean =
    timesS.reduce((sum, time, i) => sum + positive(`timesS[${i}]`, time), 0) / timesS.length;
  const one = (2 * timingU(timesS, mean)) / mean;
  const worth = Math.ceil((one / (positive('inertiaRelativeU', inertiaRelativeU) / 2)) ** 2);
  return {
    relativeU: one / Math.sqrt(timesS.length),
    worthMaking: Math.max(0, Math.min(MOST_DROPS, worth) - timesS.length),
    tooQuick: mean < TOO_QUICK_S,
  };
}

/**
 * Several drops of one blade into one unbalance. Reaction time enters twice: u(U)/U = 2·u(t)/t; inertia
 * enters once, drag as what it slows the drop by; centring adds M·ε. Outliers by the median absolute deviation, never fewer than half kept.
 *
 * Errors: `timesS` when empty, not above zero, too quick for a hand, or so far apart that they tell nothing.
 * @example unbalanceFromDrops([5.9, 5.95, 5.92], drop, { bladeMassG: 1700, centringMm: 0.02 }).outliersS // []
 */
export function unbalanceFromDrops(
  timesS: readonly number[],
  setUp: DropSetUp,
  doubts: {
    readonly bladeMassG: number;
    readonly centringMm: number;
    /** Standard uncertainty of the friction, g·mm. */
    readonly frictionU?: number;
    /** Relative standard uncertainty of the inertia; a bar's where the balancer was not calibrated. */
    readonly inertiaRelativeU?: number;
    /** Standard uncertainty of the drag, 1/s. */
    readonly dragU?: number;
  },
): DropResult {
  if (timesS.length === 0) throw new BenchError('timesS', $localize`must hold at least one drop`);
  timesS.forEach((time, i) => positive(`timesS[${i}]`, time));
  const middle = median(timesS);
  const usual = Math.max(REACTION_U_S, robustDeviation(timesS.map((time) => time - middle)));
  const far = (time: number): boolean =>
    Math.abs(time - middle) > outlierDeviations(timesS.length) * usual;
  const kept = timesS.filter((time) => !far(time));
  const mean = kept.reduce((sum, time) => sum + time, 0) / kept.length;
  refuseUseless(kept, mean);
  const spread = timingU(kept, mean);
  const value = unbalanceFromDropGmm(mean, setUp);
  const timing = (drops: number): number => (value * 2 * spread) / (mean * Math.sqrt(drops));
  const centring =
    positive('bladeMassG', doubts.bladeMassG) * notNegative('centringMm', doubts.centringMm);
  const frictionU = notNegative('frictionU', doubts.frictionU ?? 0);
  const more = { ...setUp, frictionGmm: setUp.frictionGmm + frictionU };
  const friction = frictionU === 0 ? 0 : unbalanceFromDropGmm(mean, more) - value;
  const dragU = notNegative('dragU', doubts.dragU ?? 0);
  const dragged = { ...setUp, dragPerS: (setUp.dragPerS ?? 0) + dragU };
  const drag = dragU === 0 ? 0 : unbalanceFromDropGmm(mean, dragged) - value;
  const other = rss(
    value * (doubts.inertiaRelativeU ?? INERTIA_RELATIVE_U),
    centring,
    Math.abs(friction),
    Math.abs(drag),
  );
  const worth = Math.ceil((timing(1) / Math.max(other / 2, 1e-9)) ** 2);
  return {
    unbalance: { value, u: rss(timing(kept.length), other) },
    outliersS: timesS.filter(far),
    tooQuick: mean < TOO_QUICK_S,
    dropsWorthMaking: Math.max(0, Math.min(MOST_DROPS, worth) - kept.length),
  };
}
