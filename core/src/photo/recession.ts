import type { Measured } from '../reading/uncertainty.js';
import { EDGE_EVERY_MM, type KeptEdge } from './kept-edge.js';

/** How far the edge went back between two photos of it. */
export interface EdgeRecession {
  /** Every half millimetre from the tip inward, mm; null where either photo does not show the edge. */
  readonly recessionMm: readonly (number | null)[];
  /** What all places share and what each has for itself, standard, mm. */
  readonly sharedU: number;
  readonly placeU: number;
  /** True where both show the unworn bar, so that neither print nor lie counts. */
  readonly registered: boolean;
}

/** How well the middle of the unworn bar is known, mm. Found with the pictures of the tests. */
const BODY_U_MM = 0.012;

/**
 * Recession between two photos of one end [M]. The bar inside the edge is never ground: where both photos show it, the
 * later one is scaled so that its bar is as wide as the earlier one's, and what print, camera and lie do to all lengths
 * alike drops out. Never registered on the edge itself: it is what changed.
 * @example edgeRecession({ widthsMm: [60, 60], placeU: 0.01, sharedU: 0.05, bodyWidthMm: 62 }, { widthsMm: [59.5, null], placeU: 0.01, sharedU: 0.05, bodyWidthMm: 62 }).recessionMm // [0.5, null]
 */
export function edgeRecession(before: KeptEdge, after: KeptEdge): EdgeRecession {
  const { bodyWidthMm: first } = before;
  const { bodyWidthMm: second } = after;
  const registered = first !== undefined && second !== undefined;
  const scale = registered ? first / second : 1;
  const count = Math.min(before.widthsMm.length, after.widthsMm.length);
  return {
    recessionMm: Array.from({ length: count }, (_, i) => {
      const [was, is] = [before.widthsMm[i] ?? null, after.widthsMm[i] ?? null];
      return was === null || is === null ? null : was - is * scale;
    }),
    sharedU: registered ? Math.SQRT2 * BODY_U_MM : Math.hypot(before.sharedU, after.sharedU),
    placeU: Math.hypot(before.placeU, after.placeU),
    registered,
  };
}

/**
 * Mean recession over a stretch of the edge, mm from the tip; nothing where neither photo shows it.
 * @example meanRecession({ recessionMm: [0.4, 0.6], sharedU: 0.02, placeU: 0, registered: true }, [0, 1])?.value // 0.5
 */
export function meanRecession(
  { recessionMm, sharedU, placeU }: EdgeRecession,
  [fromMm, toMm]: readonly [number, number],
): Measured | undefined {
  const known = recessionMm.filter(
    (each, i): each is number =>
      each !== null && i * EDGE_EVERY_MM >= fromMm && i * EDGE_EVERY_MM <= toMm,
  );
  if (known.length === 0) return undefined;
  return {
    value: known.reduce((sum, each) => sum + each, 0) / known.length,
    u: Math.hypot(sharedU, placeU / Math.sqrt(known.length)),
  };
}

/** Places of two edges compared: nearer the tip it wears, further in nothing is ground, mm. */
const COMPARED_MM: readonly [number, number] = [6, 90];
/** The other end's shape fits so many times better, and this end's so badly, that the ends were mistaken. */
const TIMES_BETTER = 3;
const FITS_BADLY_MM = 0.12;

/** How far two edges differ in shape once their mean difference is taken away, mm. */
function shapeApartMm(before: KeptEdge, after: KeptEdge): number {
  const { recessionMm } = edgeRecession(before, after);
  const known = recessionMm.filter(
    (each, i): each is number =>
      each !== null && i * EDGE_EVERY_MM >= COMPARED_MM[0] && i * EDGE_EVERY_MM <= COMPARED_MM[1],
  );
  if (known.length < 40) return NaN;
  const mean = known.reduce((sum, each) => sum + each, 0) / known.length;
  return Math.sqrt(known.reduce((sum, each) => sum + (each - mean) ** 2, 0) / known.length);
}

/**
 * Does an edge look like the other end's last one rather than like its own? Notches and wear make every edge its own;
 * where it fits the other end's several times better, the ends were mistaken. False wherever that cannot be told.
 * @example looksLikeOtherEnd({ widthsMm: [60], placeU: 0.01, sharedU: 0.04 }, undefined, undefined) // false
 */
export function looksLikeOtherEnd(
  edge: KeptEdge,
  own: KeptEdge | undefined,
  other: KeptEdge | undefined,
): boolean {
  if (!own || !other) return false;
  const [asOwn, asOther] = [shapeApartMm(own, edge), shapeApartMm(other, edge)];
  return asOwn > FITS_BADLY_MM && asOther * TIMES_BETTER < asOwn;
}
