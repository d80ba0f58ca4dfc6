import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
import { integrate } from '../math/integrate.js';
import { toRad } from '../units/angles.js';

/** Density of carbon steel, g/mm³ (handbook value, 7.85 g/cm³). */
export const STEEL_G_PER_MM3 = 0.00785;

/** One place along a cutting edge: the bevel before and after, and the recession between. */
export interface EdgeStation {
  /** Distance from the hole centre, mm. */
  readonly radiusMm: number;
  readonly recessionMm: number;
  readonly beforeBevelDeg: number;
  readonly beforeLandMm: number;
  readonly afterBevelDeg: number;
  readonly afterLandMm: number;
}

/** Metal taken from one end: mass and its unsigned first moment about the hole centre. */
export interface MetalRemoved {
  readonly massG: number;
  readonly momentGmm: number;
}

/** Everything that varies linearly along a span, as [value at its inner end, value at its outer end]. */
interface Linear {
  readonly at: (x: number) => number;
  readonly slope: number;
  readonly start: number;
}
const linear = (start: number, end: number): Linear => ({
  start,
  slope: end - start,
  at: (x) => start + (end - start) * x,
});

/** Real roots in (0, 1) of a quadratic known at 0, ½ and 1. */
function rootsInside(f: (x: number) => number): number[] {
  const c = f(0);
  const a = 2 * (f(1) - 2 * f(0.5) + c);
  const b = f(1) - c - a;
  const scale = Math.abs(a) + Math.abs(b) + Math.abs(c);
  if (scale === 0) return [];
  if (Math.abs(a) < 1e-14 * scale) return [-c / b].filter((x) => x > 0 && x < 1);
  const discriminant = b * b - 4 * a * c;
  if (discriminant <= 0) return [];
  const q = -0.5 * (b + Math.sign(b || 1) * Math.sqrt(discriminant));
  return [q / a, c / q].filter((x) => x > 0 && x < 1);
}

/**
 * Area per mm of edge in closed form for two flat bevels. D(y) = s₁ − s₀ bends at the two lands; it is
 * never negative at or below the lower of them, so it can change sign once above the new land's height
 * (new plane steeper: it runs out below the top) or twice when the new land stands higher than the old.
 */
function areaMm2(t: number, delta: number, e0: number, c0: number, e1: number, c1: number): number {
  const d = (y: number): number => delta + Math.max(0, y - e1) * c1 - Math.max(0, y - e0) * c0;
  const low = Math.min(e0, e1);
  const high = Math.max(e0, e1);
  const piece = (y0: number, y1: number): number => {
    if (y1 <= y0) return 0;
    const d0 = d(y0);
    const d1 = d(y1);
    if (d0 >= 0 && d1 >= 0) return ((d0 + d1) / 2) * (y1 - y0);
    if (d0 <= 0 && d1 <= 0) return 0;
    const positiveEnd = Math.max(d0, d1);
    return (positiveEnd * positiveEnd * (y1 - y0)) / (2 * Math.abs(d1 - d0));
  };
  return piece(0, low) + piece(low, high) + piece(high, t);
}

/** Does the clipping cut a stretch of the height in two here? Then the area is a ratio, not a polynomial. */
function clipsInside(
  t: number,
  delta: number,
  e0: number,
  c0: number,
  e1: number,
  c1: number,
): boolean {
  const d = (y: number): number => delta + Math.max(0, y - e1) * c1 - Math.max(0, y - e0) * c0;
  const low = d(Math.min(e0, e1));
  const high = d(Math.max(e0, e1));
  return low * high < 0 || high * d(t) < 0;
}

/** Gauss–Legendre on [0, 1], 3 points: exact to degree 5. */
const THREE_POINTS: readonly (readonly [node: number, weight: number])[] = [
  [(1 - Math.sqrt(0.6)) / 2, 5 / 18],
  [0.5, 8 / 18],
  [(1 + Math.sqrt(0.6)) / 2, 5 / 18],
];

function checkStation(thicknessMm: number, station: EdgeStation, at: string): void {
  notNegative(`${at}.radiusMm`, station.radiusMm);
  notNegative(`${at}.recessionMm`, station.recessionMm);
  strictlyBetween(`${at}.beforeBevelDeg`, station.beforeBevelDeg, 0, 90);
  strictlyBetween(`${at}.afterBevelDeg`, station.afterBevelDeg, 0, 90);
  for (const field of ['beforeLandMm', 'afterLandMm'] as const) {
    if (notNegative(`${at}.${field}`, station[field]) >= thicknessMm) {
      throw new BenchError(
        `${at}.${field}`,
        $localize`must be less than the thickness`,
        station[field],
      );
    }
  }
}

/**
 * Metal removed from one cutting edge between the first and last station: m = ρ·∫ΔA dr and the first
 * moment μ = ρ·∫ΔA·r dr about the hole centre. Between stations recession, land and cot β are linear
 * (not β itself). Each span is split where the clipping changes; the pieces are polynomials of degree
 * four or less (integrated exactly) or smooth ratios of polynomials (integrated to 1e-12 with control
 * of the error), so no sampling error hides in the result. Geometry, no published source needed.
 *
 * Stations: two or more, any order, mm from the hole centre. Errors name the station and field.
 * Example: 0.5 mm off 100 mm of 6 mm steel at an unchanged bevel is 2.355 g.
 * @example metalRemoved(6, [200, 100].map((radiusMm) => ({ radiusMm, recessionMm: 0.5, beforeBevelDeg: 30, afterBevelDeg: 30, beforeLandMm: 0, afterLandMm: 0 }))).massG // 2.355
 */
export function metalRemoved(
  thicknessMm: number,
  stations: readonly EdgeStation[],
  densityGPerMm3: number = STEEL_G_PER_MM3,
): MetalRemoved {
  positive('thicknessMm', thicknessMm);
  positive('densityGPerMm3', densityGPerMm3);
  if (stations.length < 2)
    throw new BenchError('stations', $localize`must hold at least two`, stations.length);
  stations.forEach((station, i) => {
    checkStation(thicknessMm, station, `stations[${i}]`);
  });
  const sorted = [...stations].sort((a, b) => a.radiusMm - b.radiusMm);
  let volume = 0;
  let moment = 0;
  for (let i = 1; i < sorted.length; i++) {
    const inner = sorted[i - 1];
    const outer = sorted[i];
    if (!inner || !outer) continue;
    const [v, m] = span(thicknessMm, inner, outer);
    volume += v;
    moment += m;
  }
  return { massG: densityGPerMm3 * volume, momentGmm: densityGPerMm3 * moment };
}

const cot = (bevelDeg: number): number => 1 / Math.tan(toRad(bevelDeg));

function span(t: number, inner: EdgeStation, outer: EdgeStation): readonly [number, number] {
  const length = outer.radiusMm - inner.radiusMm;
  if (length === 0) return [0, 0];
  const delta = linear(inner.recessionMm, outer.recessionMm);
  const e0 = linear(inner.beforeLandMm, outer.beforeLandMm);
  const e1 = linear(inner.afterLandMm, outer.afterLandMm);
  const c0 = linear(cot(inner.beforeBevelDeg), cot(outer.beforeBevelDeg));
  const c1 = linear(cot(inner.afterBevelDeg), cot(outer.afterBevelDeg));
  const landsMeet = (x: number): number => e1.at(x) - e0.at(x);
  const runsOutAtLand = (x: number): number => delta.at(x) - (e1.at(x) - e0.at(x)) * c0.at(x);
  const runsOutAtTop = (x: number): number =>
    delta.at(x) + (t - e1.at(x)) * c1.at(x) - (t - e0.at(x)) * c0.at(x);
  const cuts = [0, 1, ...[landsMeet, runsOutAtLand, runsOutAtTop].flatMap(rootsInside)].sort(
    (a, b) => a - b,
  );
  const removed = (x: number): number =>
    areaMm2(t, delta.at(x), e0.at(x), c0.at(x), e1.at(x), c1.at(x));
  const turned = (x: number): number => removed(x) * (inner.radiusMm + length * x);
  let area = 0;
  let moment = 0;
  for (let i = 1; i < cuts.length; i++) {
    const from = cuts[i - 1] ?? 0;
    const to = cuts[i] ?? 1;
    const x = (from + to) / 2;
    if (clipsInside(t, delta.at(x), e0.at(x), c0.at(x), e1.at(x), c1.at(x))) {
      area += length * integrate(removed, from, to);
      moment += length * integrate(turned, from, to);
      continue;
    }
    for (const [node, weight] of THREE_POINTS) {
      const at = from + (to - from) * node;
      const slice = length * (to - from) * weight * removed(at);
      area += slice;
      moment += slice * (inner.radiusMm + length * at);
    }
  }
  return [area, moment];
}
