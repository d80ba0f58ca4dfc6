import { BenchError, finite, notNegative, positive } from '../errors.js';
import { propagate, type Measured } from '../reading/uncertainty.js';

/**
 * Unbalance from the tilt of a blade on a cone or point. The pivot stands h above the centre of mass, so the
 * blade rests where U·cos θ = M·h·sin θ: tan θ = U/(M·h) (statics).
 */

/**
 * |U| = M·h·tan θ, g·mm, tilt given as its tangent. Example: 1200 g, h = 2 mm, 0.1 is 240 g·mm.
 * @example tiltUnbalanceGmm(1200, 2, 0.1) // 240
 */
export function tiltUnbalanceGmm(massG: number, heightMm: number, tiltTangent: number): number {
  return (
    positive('massG', massG) *
    positive('heightMm', heightMm) *
    notNegative('tiltTangent', tiltTangent)
  );
}

/**
 * Tangent of the tilt from the difference in height of two points a distance apart along the blade.
 * @example tiltTangentFromHeights(30, 50) // 0.75
 */
export function tiltTangentFromHeights(differenceMm: number, apartMm: number): number {
  const sine = Math.abs(finite('differenceMm', differenceMm)) / positive('apartMm', apartMm);
  if (sine >= 1)
    throw new BenchError(
      'differenceMm',
      $localize`must be less than the distance between the points`,
    );
  return sine / Math.sqrt(1 - sine * sine);
}

/**
 * Unbalance by calibration on the same blade, without knowing h: tilt τ₁ alone, then τ₂ with a known mass
 * on the heavy end at radius r_c, h_c below the pivot. Statics of both give
 * U = m_c·(r_c − h_c·τ₂)·τ₁/(τ₂ − τ₁), g·mm.
 *
 * Errors: `tiltWithMass` when it is not more than the tilt alone.
 * Example: τ₁ = 0.1, τ₂ = 0.2 with 1 g at 200 mm, h_c = 5 mm is 199 g·mm.
 * @example calibratedTiltGmm({ tiltAlone: 0.1, tiltWithMass: 0.2, massG: 1, radiusMm: 200, belowPivotMm: 5 }) // 199
 */
export function calibratedTiltGmm(input: {
  readonly tiltAlone: number;
  readonly tiltWithMass: number;
  readonly massG: number;
  readonly radiusMm: number;
  readonly belowPivotMm: number;
}): number {
  const { tiltAlone, tiltWithMass, massG, radiusMm, belowPivotMm } = input;
  notNegative('tiltAlone', tiltAlone);
  if (finite('tiltWithMass', tiltWithMass) <= tiltAlone) {
    throw new BenchError(
      'tiltWithMass',
      $localize`must be more than the tilt alone: put the mass on the heavy end`,
    );
  }
  const lever =
    positive('radiusMm', radiusMm) - finite('belowPivotMm', belowPivotMm) * tiltWithMass;
  return (positive('massG', massG) * lever * tiltAlone) / (tiltWithMass - tiltAlone);
}

/**
 * The weight must move the tilt by so many times its doubt. Below, the linear doubt of the quotient is more than a tenth
 * less than what propagating distributions finds (JCGM 101:2008; checked in the tests).
 */
const LEAST_CONTRAST = 8;

/**
 * {@link calibratedTiltGmm} with the doubt of both tilts, the mass and its place (JCGM 100:2008, 5.1.2). The
 * difference of two near tilts is what makes it large: a calibration mass that moves the blade well pays.
 *
 * Errors: `tiltWithMass` also when the two differ by less than eight times their doubt.
 * Example: tilts read to ± 0.002 (k = 1), 0.1 and 0.2, 1 g at 200 mm: 199 ± 8.9 g·mm.
 * @example rounded(calibratedTilt({ tiltAlone: { value: 0.1, u: 0.002 }, tiltWithMass: { value: 0.2, u: 0.002 }, massG: { value: 1, u: 0 }, radiusMm: { value: 200, u: 0 }, belowPivotMm: 5 })) // { value: 199, u: 8.904 }
 */
export function calibratedTilt(input: {
  readonly tiltAlone: Measured;
  readonly tiltWithMass: Measured;
  readonly massG: Measured;
  readonly radiusMm: Measured;
  readonly belowPivotMm: number;
}): Measured {
  const { tiltAlone, tiltWithMass, massG, radiusMm, belowPivotMm } = input;
  const contrast = tiltWithMass.value - tiltAlone.value;
  if (contrast > 0 && contrast < LEAST_CONTRAST * Math.hypot(tiltAlone.u, tiltWithMass.u)) {
    throw new BenchError(
      'tiltWithMass',
      $localize`differs too little from the tilt alone to tell: hang a heavier weight, or further out`,
    );
  }
  return propagate(
    ([alone, withMass, mass, radius]) =>
      calibratedTiltGmm({
        tiltAlone: alone,
        tiltWithMass: withMass,
        massG: mass,
        radiusMm: radius,
        belowPivotMm,
      }),
    [tiltAlone, tiltWithMass, massG, radiusMm],
  );
}

/**
 * Two signed readings, the blade turned by 180° on its adapter between them: the balancer's own offset
 * enters once with each sign, so the mean is the blade's (and half the difference the balancer's). It does
 * not cancel the hole's own wear.
 *
 * Example: +260 and +140 g·mm: the blade 200, the balancer 60.
 * @example halfTurnMean({ value: 260, u: 0 }, { value: 140, u: 0 }) // { blade: { value: 200, u: 0 }, balancerGmm: 60 }
 */
export function halfTurnMean(
  first: Measured,
  turned: Measured,
): { readonly blade: Measured; readonly balancerGmm: number } {
  return {
    blade: {
      value: (finite('first', first.value) + finite('turned', turned.value)) / 2,
      u: Math.hypot(first.u, turned.u) / 2,
    },
    balancerGmm: (first.value - turned.value) / 2,
  };
}

/** Unbalance along the blade and across it, g·mm; x toward end A, y toward end A's cutting edge. */
export interface PlaneUnbalance {
  readonly alongGmm: number;
  readonly acrossGmm: number;
}

/**
 * Size of an unbalance in the plane; the permissible value is on this. Example: 30 and 40 is 50.
 * @example planeSizeGmm({ alongGmm: 30, acrossGmm: 40 }) // 50
 */
export const planeSizeGmm = ({ alongGmm, acrossGmm }: PlaneUnbalance): number =>
  Math.hypot(finite('alongGmm', alongGmm), finite('acrossGmm', acrossGmm));

/**
 * Angle between the unbalance and the blade's axis, degrees, 0 to 90.
 * @example acrossAngleDeg({ alongGmm: 40, acrossGmm: 40 }) // 45
 */
export function acrossAngleDeg({ alongGmm, acrossGmm }: PlaneUnbalance): number {
  return (Math.atan2(Math.abs(acrossGmm), Math.abs(alongGmm)) * 180) / Math.PI;
}

/** Where metal can be taken: at radius r, ±w across. A mass taken there acts at (±r, ±w). */
export interface CorrectionPlaces {
  readonly radiusMm: number;
  readonly acrossMm: number;
  readonly trailingEdgeAllowed: boolean;
}

export interface PlaneCorrection {
  readonly cuttingAG: number;
  readonly cuttingBG: number;
  readonly trailingAG: number;
  readonly trailingBG: number;
  readonly left: PlaneUnbalance;
}

/**
 * Grams to take at the four edges so that the least unbalance is left. Metal at a cutting edge acts at
 * (r, +w), at a trailing edge at (r, −w); at end B both signs turn. With trailing edges any direction can
 * be met by the two edges of the heavy end or by opposite edges; without them only what lies between the two
 * cutting edges' lines of action is reached, and the rest is reported.
 *
 * Example: 300 g·mm along and 0 across at (200, 25): 0.75 g at each edge of end A.
 * @example planeCorrection({ alongGmm: 300, acrossGmm: 0 }, { radiusMm: 200, acrossMm: 25, trailingEdgeAllowed: true }).cuttingAG // 0.75
 */
export function planeCorrection(
  unbalance: PlaneUnbalance,
  places: CorrectionPlaces,
): PlaneCorrection {
  const r = positive('radiusMm', places.radiusMm);
  const w = positive('acrossMm', places.acrossMm);
  const x = finite('alongGmm', unbalance.alongGmm);
  const y = finite('acrossGmm', unbalance.acrossGmm);
  if (!places.trailingEdgeAllowed) {
    // One line of action only, (r, w): the cutting edges of A and B act against each other along it.
    const share = (x * r + y * w) / (r * r + w * w);
    return {
      cuttingAG: Math.max(0, share),
      cuttingBG: Math.max(0, -share),
      trailingAG: 0,
      trailingBG: 0,
      left: { alongGmm: x - share * r, acrossGmm: y - share * w },
    };
  }
  // x = r·(p + q), y = w·(p − q): p on the line of the cutting edges, q on that of the trailing edges.
  const p = (x / r + y / w) / 2;
  const q = (x / r - y / w) / 2;
  return {
    cuttingAG: Math.max(0, p),
    cuttingBG: Math.max(0, -p),
    trailingAG: Math.max(0, q),
    trailingBG: Math.max(0, -q),
    left: { alongGmm: 0, acrossGmm: 0 },
  };
}
