import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
import type { Section } from '../metal/section.js';
import { propagate, type Measured } from '../reading/uncertainty.js';
import { toDeg, toRad } from '../units/angles.js';

/**
 * A blade flat on a table under a wheel of radius R whose centre stands H above the table. At height y the
 * face is the circle: cos β(y) = (H − y)/R, so the bevel steepens upward and the face is hollow (geometry).
 */
function checkWheel(radiusMm: number, centreHeightMm: number): void {
  positive('radiusMm', radiusMm);
  strictlyBetween('centreHeightMm', centreHeightMm, 0, radiusMm);
}

/**
 * Bevel at height y, cos β = (H − y)/R, degrees; y = 0 is the edge.
 * @example wheelBevelDeg(101.6, 87.99) // 30.0
 */
export function wheelBevelDeg(radiusMm: number, centreHeightMm: number, yMm = 0): number {
  checkWheel(radiusMm, centreHeightMm);
  return toDeg(Math.acos((centreHeightMm - yMm) / radiusMm));
}

/**
 * Setback of the face at height y against its foot, √(R² − (H − y)²) − √(R² − H²), mm.
 * @example wheelSetbackMm(101.6, 87.99, 6.35) // 9.68
 */
export function wheelSetbackMm(radiusMm: number, centreHeightMm: number, yMm: number): number {
  checkWheel(radiusMm, centreHeightMm);
  const foot = Math.sqrt(radiusMm ** 2 - centreHeightMm ** 2);
  return Math.sqrt(radiusMm ** 2 - (centreHeightMm - yMm) ** 2) - foot;
}

/**
 * Mean (chord) bevel over the thickness, degrees: tan β̄ = t/(setback at the top).
 * @example wheelMeanBevelDeg(101.6, 87.99, 6.35) // 33.3
 */
export function wheelMeanBevelDeg(
  radiusMm: number,
  centreHeightMm: number,
  thicknessMm: number,
): number {
  positive('thicknessMm', thicknessMm);
  if (thicknessMm >= centreHeightMm) {
    throw new BenchError(
      'thicknessMm',
      $localize`must be less than the height of the wheel’s centre`,
      thicknessMm,
    );
  }
  return toDeg(Math.atan2(thicknessMm, wheelSetbackMm(radiusMm, centreHeightMm, thicknessMm)));
}

/**
 * Centre height for a bevel at the edge, H = R·cos β, mm. Example: 101.6 mm, 30° is 87.99 mm.
 * @example heightForEdgeBevelMm(101.6, 30) // 87.99
 */
export function heightForEdgeBevelMm(radiusMm: number, bevelDeg: number): number {
  return (
    positive('radiusMm', radiusMm) * Math.cos(toRad(strictlyBetween('bevelDeg', bevelDeg, 0, 90)))
  );
}

/**
 * Centre height for a mean bevel, H = R·cos(β̄ − asin(t/(2R·sin β̄))), mm: the chord of length t/sin β̄
 * subtends twice that angle. Example: 101.6 mm wheel, 6.35 mm blade, 30° is 90.99 mm.
 * @example heightForMeanBevelMm(101.6, 30, 6.35) // 90.99
 */
export function heightForMeanBevelMm(
  radiusMm: number,
  bevelDeg: number,
  thicknessMm: number,
): number {
  const mean = toRad(strictlyBetween('bevelDeg', bevelDeg, 0, 90));
  const half =
    positive('thicknessMm', thicknessMm) / (2 * positive('radiusMm', radiusMm) * Math.sin(mean));
  if (half >= 1)
    throw new BenchError(
      'radiusMm',
      $localize`is too small for this thickness and bevel`,
      radiusMm,
    );
  return radiusMm * Math.cos(mean - Math.asin(half));
}

/**
 * The hollow face as a section of n chords, foot moved back by the recession; n = 64 is 1e-4 mm² exact.
 * @example wheelSection(6.35, { radiusMm: 101.6, centreHeightMm: 87.99 }, 0.5)[0] // { yMm: 0, sMm: 0.5 }
 */
export function wheelSection(
  thicknessMm: number,
  wheel: { readonly radiusMm: number; readonly centreHeightMm: number },
  recessionMm: number,
  chords = 64,
): Section {
  positive('thicknessMm', thicknessMm);
  return wheelFace(thicknessMm, wheel, 0, chords).map(({ yMm, sMm }) => ({
    yMm,
    sMm: recessionMm + sMm,
  }));
}

/**
 * The face a wheel leaves above a land, foot at zero: flat up to the land, the arc from there. `centreHeightMm`
 * is above the table. Errors name the field; the land must be under the thickness.
 * @example wheelFace(6.35, { radiusMm: 101.6, centreHeightMm: 87.99 }, 0.2).length // 18
 */
export function wheelFace(
  thicknessMm: number,
  wheel: { readonly radiusMm: number; readonly centreHeightMm: number },
  landMm: number,
  chords = 16,
): Section {
  if (notNegative('landMm', landMm) >= thicknessMm)
    throw new BenchError('landMm', $localize`must be less than the thickness`, landMm);
  const { radiusMm, centreHeightMm } = wheel;
  const foot = wheelSetbackMm(radiusMm, centreHeightMm, landMm);
  const arc = Array.from({ length: chords + 1 }, (_, i) => {
    const yMm = landMm + ((thicknessMm - landMm) * i) / chords;
    return { yMm, sMm: wheelSetbackMm(radiusMm, centreHeightMm, yMm) - foot };
  });
  return landMm === 0 ? arc : [{ yMm: 0, sMm: 0 }, ...arc];
}

/** A wheel as measured, and what its height is to aim at. */
export interface MeasuredWheel {
  readonly radiusMm: Measured;
  readonly thicknessMm: Measured;
  readonly aim: 'edge' | 'mean';
}

/**
 * Centre height for a bevel with the doubt that the wheel's and the blade's own readings put into it, mm
 * (JCGM 100:2008, 5.1.2). Errors: as the height functions.
 * Example: a wheel read to ± 0.5 mm (k = 1) puts 0.43 mm into the height for 30° at the edge.
 * @example rounded(wheelHeight({ radiusMm: { value: 101.6, u: 0.5 }, thicknessMm: { value: 6.35, u: 0 }, aim: 'edge' }, 30)) // { value: 87.988, u: 0.433 }
 */
export const wheelHeight = (
  { radiusMm, thicknessMm, aim }: MeasuredWheel,
  bevelDeg: number,
): Measured =>
  propagate(
    ([radius, thickness]) =>
      aim === 'mean'
        ? heightForMeanBevelMm(radius, bevelDeg, thickness)
        : heightForEdgeBevelMm(radius, bevelDeg),
    [radiusMm, thicknessMm],
  );

/**
 * The bevel that comes of a height as set, with the doubt of wheel and height, degrees (JCGM 100:2008, 5.1.2).
 * Example: ± 0.5 mm on a 101.6 mm wheel and ± 0.3 mm on its height are ± 0.6° (k = 1) at the edge.
 * @example bevelFromHeight({ radiusMm: { value: 101.6, u: 0.5 }, thicknessMm: { value: 6.35, u: 0 }, aim: 'edge' }, { value: 87.988, u: 0.3 }).u // 0.6
 */
export const bevelFromHeight = (
  { radiusMm, thicknessMm, aim }: MeasuredWheel,
  heightMm: Measured,
): Measured =>
  propagate(
    ([radius, thickness, height]) =>
      aim === 'mean' ? wheelMeanBevelDeg(radius, height, thickness) : wheelBevelDeg(radius, height),
    [radiusMm, thicknessMm, heightMm],
  );

/** A wheel as worn today, and where a bevel on it is told: over the whole face (its chord) or at the edge. */
export interface Wheel {
  readonly radiusMm: number;
  readonly aim: 'edge' | 'mean';
}

/**
 * The same face told by what is read of it: bevel, land, and the wheel that made it. The bevel is the face's
 * chord above the land, or that at the edge where the wheel is aimed so.
 * Example: a 101.6 mm wheel, 6.35 mm steel at 30° over the face is hollow by 0.20 mm at most.
 * @example setbackAtMm(hollowFace(6.35, { bevelDeg: 30, landMm: 0, wheel: { radiusMm: 101.6, aim: 'mean' } }), 6.35) // 11.00
 */
export function hollowFace(
  thicknessMm: number,
  face: { readonly bevelDeg: number; readonly landMm: number; readonly wheel: Wheel },
  chords = 16,
): Section {
  const { bevelDeg, landMm, wheel } = face;
  const aboveLandMm =
    wheel.aim === 'mean'
      ? heightForMeanBevelMm(wheel.radiusMm, bevelDeg, thicknessMm - landMm)
      : heightForEdgeBevelMm(wheel.radiusMm, bevelDeg);
  const set = { radiusMm: wheel.radiusMm, centreHeightMm: aboveLandMm + landMm };
  return wheelFace(thicknessMm, set, landMm, chords);
}

/**
 * Change of the edge bevel when nothing is reset, degrees per mm of wheel radius and of centre height.
 * @example rounded(bevelDriftDegPerMm(101.6, 87.99)) // { perRadius: 0.977, perHeight: -1.128 }
 */
export function bevelDriftDegPerMm(
  radiusMm: number,
  centreHeightMm: number,
): { readonly perRadius: number; readonly perHeight: number } {
  checkWheel(radiusMm, centreHeightMm);
  const sine = Math.sqrt(1 - (centreHeightMm / radiusMm) ** 2);
  return {
    perRadius: toDeg(centreHeightMm / (radiusMm ** 2 * sine)),
    perHeight: -toDeg(1 / (radiusMm * sine)),
  };
}

/**
 * Surface speed π·d·n, m/s, to hold against the wheel's marking.
 * @example surfaceSpeedMPerS(200, 2850) // 29.8
 */
export function surfaceSpeedMPerS(diameterMm: number, speedRpm: number): number {
  return (Math.PI * positive('diameterMm', diameterMm) * positive('speedRpm', speedRpm)) / 60_000;
}

/** Largest gaps: work rest 1/8 in, tongue guard 1/4 in, in mm and exact (29 CFR 1910.215, from memory). */
export const LARGEST_GAP_MM = { workRest: 3.175, tongue: 6.35 } as const;
/** The shop's default for both, mm. Common practice, no source. */
export const SHOP_GAP_MM = 3;
