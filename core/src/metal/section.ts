import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
import { toRad } from '../units/angles.js';

/**
 * Section through the cutting edge. y = height above the underside, s(y) = how far back from the old
 * underside edge the steel begins. A section is a polyline in (y, s), y rising from 0 to the thickness.
 * Grinding only takes away, so the section after a grind is the greater of the two at every height.
 */
export interface SectionPoint {
  readonly yMm: number;
  readonly sMm: number;
}
export type Section = readonly SectionPoint[];

/** A flat bevel as it stands or as it is ground: land e, angle β, recession Δ of the underside edge. */
export interface FlatBevel {
  readonly bevelDeg: number;
  readonly landMm: number;
  /** How far the underside edge has moved back, mm; 0 for the section before the grind. */
  readonly recessionMm: number;
}

/**
 * The plane's polyline: Δ up to the land, then Δ + (y − e)·cot β. Errors name the field.
 * @example flatSection(6, plane(30, 0.5))[1] // { yMm: 0.5, sMm: 0 }
 */
export function flatSection(
  thicknessMm: number,
  { bevelDeg, landMm, recessionMm }: FlatBevel,
): Section {
  positive('thicknessMm', thicknessMm);
  strictlyBetween('bevelDeg', bevelDeg, 0, 90);
  notNegative('landMm', landMm);
  notNegative('recessionMm', recessionMm);
  if (landMm >= thicknessMm)
    throw new BenchError('landMm', $localize`must be less than the thickness`, landMm);
  const foot = { yMm: 0, sMm: recessionMm };
  const top = {
    yMm: thicknessMm,
    sMm: recessionMm + (thicknessMm - landMm) / Math.tan(toRad(bevelDeg)),
  };
  return landMm === 0 ? [foot, top] : [foot, { yMm: landMm, sMm: recessionMm }, top];
}

/**
 * s at height y by linear interpolation; the last value at and above the top.
 * @example setbackAtMm(flatSection(6, plane(45)), 2) // 2.000
 */
export function setbackAtMm(section: Section, yMm: number): number {
  for (let i = 1; i < section.length; i++) {
    const low = section[i - 1];
    const high = section[i];
    if (low && high && yMm <= high.yMm) {
      const span = high.yMm - low.yMm;
      return span === 0 ? high.sMm : low.sMm + ((high.sMm - low.sMm) * (yMm - low.yMm)) / span;
    }
  }
  return section.at(-1)?.sMm ?? 0;
}

/** Heights at which either polyline bends, and where the two cross, in order. */
function mergedHeights(a: Section, b: Section): number[] {
  const heights = [...new Set([...a, ...b].map((point) => point.yMm))].sort((p, q) => p - q);
  const crossings = heights.flatMap((high, i) => {
    const low = heights[i - 1];
    if (low === undefined) return [];
    const dLow = setbackAtMm(b, low) - setbackAtMm(a, low);
    const dHigh = setbackAtMm(b, high) - setbackAtMm(a, high);
    return dLow * dHigh < 0 ? [low + ((high - low) * dLow) / (dLow - dHigh)] : [];
  });
  return [...heights, ...crossings].sort((p, q) => p - q);
}

/**
 * Metal taken per mm of edge, ΔA = ∫₀ᵗ max(0, s₁ − s₀) dy, mm², exact (both sections are polylines, so the
 * integrand is piecewise linear). Mechanics and geometry; no published source needed.
 * Example: 0.5 mm off the whole height of 6 mm steel at an unchanged bevel is 3 mm².
 * @example removedAreaMm2(flatSection(6, plane(30)), flatSection(6, plane(30, 0, 0.5))) // 3.000
 */
export function removedAreaMm2(before: Section, ground: Section): number {
  const heights = mergedHeights(before, ground);
  return heights.reduce((area, high, i) => {
    const low = heights[i - 1];
    if (low === undefined) return area;
    const dLow = Math.max(0, setbackAtMm(ground, low) - setbackAtMm(before, low));
    const dHigh = Math.max(0, setbackAtMm(ground, high) - setbackAtMm(before, high));
    return area + ((dLow + dHigh) / 2) * (high - low);
  }, 0);
}

/**
 * The section that is left: the greater setback at every height. The next grind's `before`.
 * @example setbackAtMm(resultingSection(flatSection(6, plane(30)), flatSection(6, plane(45, 0, 1))), 0) // 1
 */
export function resultingSection(before: Section, ground: Section): Section {
  return mergedHeights(before, ground).map((yMm) => ({
    yMm,
    sMm: Math.max(setbackAtMm(before, yMm), setbackAtMm(ground, yMm)),
  }));
}

/**
 * The face moved so that its foot is at zero: the next grind measures its recession from there.
 * @example fromItsFoot(flatSection(6, plane(30, 0, 1)))[0] // { yMm: 0, sMm: 0 }
 */
export const fromItsFoot = (section: Section): Section =>
  section.map(({ yMm, sMm }) => ({ yMm, sMm: sMm - (section[0]?.sMm ?? 0) }));

/**
 * A section after use has put a flat of height e on the edge: below e the steel begins where the face stands
 * at e. The foot is at zero again. Errors: `landMm` negative or as high as the section.
 * Example: a sharp 45° face with a land of 0.5 mm starts 0.5 mm further back, and runs up from there.
 * @example setbackAtMm(withLand(flatSection(6, plane(45)), 0.5), 6) // 5.500
 */
export function withLand(section: Section, landMm: number): Section {
  const topMm = section.at(-1)?.yMm ?? 0;
  if (notNegative('landMm', landMm) >= topMm)
    throw new BenchError('landMm', $localize`must be less than the thickness`, landMm);
  const sMm = setbackAtMm(section, landMm);
  const above = section.filter(({ yMm }) => yMm > landMm);
  return fromItsFoot([{ yMm: 0, sMm }, { yMm: landMm, sMm }, ...above]);
}

/**
 * The land left by a grind, min(e₁, e₀ + Δ·tan β₀) for Δ > 0 and min(e₁, e₀) for Δ = 0: a wide land
 * cannot be made from a nearly sharp edge.
 * Example: asked for 0.5 mm from a sharp 30° edge moved back 0.1 mm, 0.058 mm is left.
 * @example landLeftMm(plane(30), plane(30, 0.5, 0.1)) // 0.058
 */
export function landLeftMm(before: FlatBevel, ground: FlatBevel): number {
  const reachable = before.landMm + ground.recessionMm * Math.tan(toRad(before.bevelDeg));
  return Math.min(ground.landMm, reachable);
}

/**
 * Height above the underside where a steeper new plane runs out and the old bevel is left standing (a
 * compound bevel), or `undefined` when the new face covers the whole height.
 * @example compoundBreakMm(6, plane(30), plane(45, 0, 1)) // 1.366
 */
export function compoundBreakMm(
  thicknessMm: number,
  before: FlatBevel,
  ground: FlatBevel,
): number | undefined {
  const old = flatSection(thicknessMm, before);
  const plane = flatSection(thicknessMm, ground);
  const top = setbackAtMm(plane, thicknessMm) - setbackAtMm(old, thicknessMm);
  if (top >= 0) return undefined;
  const heights = mergedHeights(old, plane);
  return heights.findLast((yMm) => setbackAtMm(plane, yMm) - setbackAtMm(old, yMm) >= -1e-12);
}
