import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
import { propagate, type Measured } from '../reading/uncertainty.js';
import { toDeg, toRad } from '../units/angles.js';
import { said } from '../units/said.js';

/**
 * The bevel by caliper. Section through the edge: thickness t, a vertical land of height e left at the
 * edge, above it a plane at β to the flat underside. The plane rises t − e, so its sloping face is
 * f = (t − e)/sin β and its run along the flat (t − e)/tan β (plane trigonometry).
 */
export interface EdgeSection {
  readonly thicknessMm: number;
  readonly landMm: number;
}

function riseMm({ thicknessMm, landMm }: EdgeSection): number {
  positive('thicknessMm', thicknessMm);
  notNegative('landMm', landMm);
  if (landMm >= thicknessMm) {
    throw new BenchError(
      'landMm',
      $localize`must be less than the thickness, ${said(thicknessMm, 'mm', 2)}`,
      landMm,
    );
  }
  return thicknessMm - landMm;
}

/**
 * Width of the bevel face, f = (t − e)/sin β, mm. Example: 6.35 mm, no land, 30° gives 12.7 mm.
 * @example faceFromBevelMm({ thicknessMm: 6.35, landMm: 0 }, 30) // 12.7
 */
export function faceFromBevelMm(section: EdgeSection, bevelDeg: number): number {
  return riseMm(section) / Math.sin(toRad(strictlyBetween('bevelDeg', bevelDeg, 0, 90)));
}

/**
 * Run of the bevel along the flat, (t − e)/tan β, mm. Example: 6.35 mm, no land, 45° gives 6.35 mm.
 * @example runFromBevelMm({ thicknessMm: 6.35, landMm: 0 }, 45) // 6.35
 */
export function runFromBevelMm(section: EdgeSection, bevelDeg: number): number {
  return riseMm(section) / Math.tan(toRad(strictlyBetween('bevelDeg', bevelDeg, 0, 90)));
}

/**
 * Bevel from the face's width, β = asin((t − e)/f), degrees.
 *
 * Errors: `faceMm` when it is no longer than the rise (no such triangle).
 * Example: a 12.7 mm face on 6.35 mm steel is 30°.
 * @example bevelFromFaceDeg({ thicknessMm: 6.35, landMm: 0 }, 12.7) // 30.0
 */
export function bevelFromFaceDeg(section: EdgeSection, faceMm: number): number {
  const rise = riseMm(section);
  if (positive('faceMm', faceMm) <= rise) {
    throw new BenchError(
      'faceMm',
      $localize`must be wider than the steel it climbs, ${said(rise, 'mm', 2)}`,
      faceMm,
    );
  }
  return toDeg(Math.asin(rise / faceMm));
}

/**
 * Bevel from its run along the flat, β = atan((t − e)/run), degrees. Example: 6.35 over 6.35 mm is 45°.
 * @example bevelFromRunDeg({ thicknessMm: 6.35, landMm: 0 }, 6.35) // 45.0
 */
export function bevelFromRunDeg(section: EdgeSection, runMm: number): number {
  return toDeg(Math.atan(riseMm(section) / positive('runMm', runMm)));
}

/**
 * {@link bevelFromFaceDeg} with the standard uncertainty carried through (JCGM 100:2008, 5.1.2).
 * @example rounded(bevelFromFace({ thicknessMm: { value: 6.35, u: 0 }, landMm: { value: 0, u: 0 }, faceMm: { value: 12.7, u: 0.1 } })) // { value: 30, u: 0.26 }
 */
export function bevelFromFace(input: {
  readonly thicknessMm: Measured;
  readonly landMm: Measured;
  readonly faceMm: Measured;
}): Measured {
  return propagate(
    ([thicknessMm, landMm, faceMm]) =>
      // A land read as none leaves as much in doubt as any other, so the doubt is taken past zero too.
      bevelFromFaceDeg(
        { thicknessMm: thicknessMm - Math.min(0, landMm), landMm: Math.max(0, landMm) },
        faceMm,
      ),
    [input.thicknessMm, input.landMm, input.faceMm],
  );
}
