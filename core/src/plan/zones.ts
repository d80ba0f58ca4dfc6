import { finite, positive } from '../errors.js';
import type { ZoneKey } from '../vocabulary/keys.js';
import { zoneRadiusMm, type PlanZone } from './problem.js';

const FEATHER_MM = 10;
const OUTER_MM = 50;

/**
 * The usual zones of an edge: all of it, its outer half, its outer 50 mm (left out where that is about the
 * half already). Shorter strokes take less: a zone nobody has counted on yet is given the full edge's grams
 * by its share of the length. `learnedG` gives a zone's own g/pass where it is known.
 * @example usualZones(100, 0.6).map(({ gramsPerPass }) => gramsPerPass) // [0.6, 0.3]
 */
export function usualZones(
  edgeLengthMm: number,
  fullG: number,
  learnedG: (key: ZoneKey) => number | undefined = () => undefined,
): PlanZone[] {
  positive('edgeLengthMm', edgeLengthMm);
  positive('fullG', fullG);
  const zone = (key: ZoneKey, reachMm: number): PlanZone => ({
    key,
    reachMm,
    featherMm: Math.min(FEATHER_MM, reachMm / 2),
    gramsPerPass: learnedG(key) ?? (fullG * reachMm) / edgeLengthMm,
  });
  const half = edgeLengthMm / 2;
  return [
    zone('full', edgeLengthMm),
    zone('outer-half', half),
    ...(half > OUTER_MM * 1.3 ? [zone('outer-50', OUTER_MM)] : []),
  ];
}

/**
 * The trailing edge near the tip, for balance alone. A few passes at most: the lift wing is there.
 * @example trailingZone(100, 0.6).edge // 'trailing'
 */
export function trailingZone(edgeLengthMm: number, fullG: number, learnedG?: number): PlanZone {
  const reachMm = Math.min(OUTER_MM, positive('edgeLengthMm', edgeLengthMm) / 2);
  return {
    key: 'back',
    edge: 'trailing',
    reachMm,
    featherMm: Math.min(FEATHER_MM, reachMm / 2),
    gramsPerPass: learnedG ?? (positive('fullG', fullG) * reachMm) / edgeLengthMm,
    mostPasses: 10,
  };
}

/**
 * The inner half of an edge by itself: the curved part of a mulching blade, on a rounded table. It overlaps the outer
 * half by the feather, so that as many passes of both leave an even edge.
 * @example innerZone(100, 0.6).fromMm // 40
 */
export function innerZone(edgeLengthMm: number, fullG: number, learnedG?: number): PlanZone {
  const half = positive('edgeLengthMm', edgeLengthMm) / 2;
  const featherMm = Math.min(FEATHER_MM, half / 2);
  return {
    key: 'inner',
    fromMm: half - featherMm,
    reachMm: edgeLengthMm,
    featherMm,
    gramsPerPass: learnedG ?? (positive('fullG', fullG) * half) / edgeLengthMm,
  };
}

/**
 * The whole edge with the tool held upright: a deep nick is dressed so, before the bevel is brought back.
 * @example squareZone(100, 0.6).square // true
 */
export const squareZone = (edgeLengthMm: number, fullG: number, learnedG?: number): PlanZone => ({
  key: 'square',
  square: true,
  reachMm: positive('edgeLengthMm', edgeLengthMm),
  featherMm: Math.min(FEATHER_MM, edgeLengthMm / 2),
  gramsPerPass: learnedG ?? positive('fullG', fullG),
});

/**
 * Passes of one zone that take an unbalance off: |U|/(g·r), at least one where there is any. A first idea before
 * the plan is solved again. Example: 130 g·mm by passes of 0.3 g at 230 mm is two.
 * @example correctionPasses(130, { ...full, reachMm: 60, featherMm: 0, gramsPerPass: 0.3 }, 260) // 2
 */
export function correctionPasses(
  unbalanceGmm: number,
  zone: PlanZone,
  tipRadiusMm: number,
): number {
  const size = Math.abs(finite('unbalanceGmm', unbalanceGmm));
  const step = zone.gramsPerPass * zoneRadiusMm(zone, positive('tipRadiusMm', tipRadiusMm));
  return size === 0 ? 0 : Math.max(1, Math.round(size / step));
}
