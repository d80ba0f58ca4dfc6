import { notNegative, positive } from '../errors.js';
import { GRAVITY_MM_PER_S2 } from './drop.js';

/**
 * A blade on a balancer, integrated in time: I·θ'' = g·(U·cos θ − M·h·sin θ) − c·θ' − M_f·sign θ'.
 * h is how far the centre of mass hangs below the pivot: 0 on a shaft, a few mm on a cone or point, less than
 * nothing on a straightedge, where the blade lies on top and only tells which end it falls to. One model for every
 * device; it proves the closed formulas and drives the simulated balancer.
 */
export interface SwingModel {
  readonly inertiaGmm2: number;
  /** Signed, positive end A heavy, g·mm. */
  readonly unbalanceGmm: number;
  readonly massG: number;
  /** Centre of mass below the pivot, mm; negative above it. */
  readonly belowPivotMm: number;
  /** Friction as the unbalance it just holds, M_f/g, g·mm. */
  readonly frictionGmm: number;
  /** Damping of the air, 1/s: c/I. */
  readonly dampingPerS: number;
}

export interface SwingState {
  readonly timeS: number;
  /** Angle of end A below level, rad. */
  readonly angleRad: number;
  readonly rateRadPerS: number;
}

const STILL_RAD_PER_S = 1e-7;

/** Drive without friction, rad/s². */
function drive(
  { inertiaGmm2, unbalanceGmm, massG, belowPivotMm }: SwingModel,
  angleRad: number,
): number {
  const moment = unbalanceGmm * Math.cos(angleRad) - massG * belowPivotMm * Math.sin(angleRad);
  return (GRAVITY_MM_PER_S2 * moment) / inertiaGmm2;
}

/**
 * One step of the classical Runge–Kutta method; friction holds a blade at rest that is not driven enough.
 * @example swingStep(onShaft, { timeS: 0, angleRad: 0, rateRadPerS: 0 }, 0.01).rateRadPerS // 0.00098
 */
export function swingStep(model: SwingModel, state: SwingState, stepS: number): SwingState {
  positive('inertiaGmm2', model.inertiaGmm2);
  positive('stepS', stepS);
  const friction =
    (GRAVITY_MM_PER_S2 * notNegative('frictionGmm', model.frictionGmm)) / model.inertiaGmm2;
  const { angleRad, rateRadPerS, timeS } = state;
  const driven = drive(model, angleRad);
  if (Math.abs(rateRadPerS) < STILL_RAD_PER_S && Math.abs(driven) <= friction) {
    return { timeS: timeS + stepS, angleRad, rateRadPerS: 0 };
  }
  const way = Math.sign(Math.abs(rateRadPerS) < STILL_RAD_PER_S ? driven : rateRadPerS);
  const acceleration = (angle: number, rate: number): number =>
    drive(model, angle) - model.dampingPerS * rate - way * friction;
  const k1 = acceleration(angleRad, rateRadPerS);
  const r2 = rateRadPerS + (stepS / 2) * k1;
  const k2 = acceleration(angleRad + (stepS / 2) * rateRadPerS, r2);
  const r3 = rateRadPerS + (stepS / 2) * k2;
  const k3 = acceleration(angleRad + (stepS / 2) * r2, r3);
  const r4 = rateRadPerS + stepS * k3;
  const k4 = acceleration(angleRad + stepS * r3, r4);
  const rate = rateRadPerS + (stepS / 6) * (k1 + 2 * k2 + 2 * k3 + k4);
  const angle = angleRad + (stepS / 6) * (rateRadPerS + 2 * r2 + 2 * r3 + r4);
  // A turning point inside the step: friction changes side there, so the blade stands still for an instant.
  const turned = way !== 0 && Math.sign(rate) === -way;
  return { timeS: timeS + stepS, angleRad: angle, rateRadPerS: turned ? 0 : rate };
}

/**
 * Time to a mark below level, s, released at rest from level; `undefined` when it is not reached in time.
 * @example simulatedDropS(onShaft, 90, 1e-3) // 5.92
 */
export function simulatedDropS(
  model: SwingModel,
  markDeg: number,
  stepS = 1e-4,
  limitS = 120,
): number | undefined {
  const mark = (markDeg * Math.PI) / 180;
  let state: SwingState = { timeS: 0, angleRad: 0, rateRadPerS: 0 };
  while (state.timeS < limitS) {
    const next = swingStep(model, state, stepS);
    const [before, after] = [Math.abs(state.angleRad), Math.abs(next.angleRad)];
    if (after >= mark) return state.timeS + (stepS * (mark - before)) / (after - before);
    if (next.rateRadPerS === 0 && state.rateRadPerS === 0 && state.timeS > 0) return undefined;
    state = next;
  }
  return undefined;
}

/**
 * Largest angle before the first stop, degrees, released at rest from level.
 * @example simulatedFirstStopDeg({ ...onShaft, frictionGmm: 40 }, 1e-3) // 163.4
 */
export function simulatedFirstStopDeg(model: SwingModel, stepS = 1e-4, limitS = 240): number {
  let state: SwingState = { timeS: 0, angleRad: 0, rateRadPerS: 0 };
  let largest = 0;
  while (state.timeS < limitS) {
    const next = swingStep(model, state, stepS);
    largest = Math.max(largest, Math.abs(next.angleRad));
    if (next.rateRadPerS === 0 && state.timeS > 0) return (largest * 180) / Math.PI;
    state = next;
  }
  return (largest * 180) / Math.PI;
}
