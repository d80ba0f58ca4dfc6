import type { Station, WidthAt } from '../blade/shape.js';
import { median } from '../math/median.js';
import type { Measured } from '../reading/uncertainty.js';
import { smoothEdge } from './features.js';
import { BENCH_PHOTO_LIMITS } from './limits.js';
import type { ProfilePlace } from './profile.js';
import { isSameNotch } from './proposed.js';

/** An edge is given out every so far. */
export const EDGE_EVERY_MM = 0.5;
/**
 * Means of the sure places in each half millimetre from the tip inward; null where there is none.
 * @example everyHalfMm([{ fromTipMm: 0.9, widthMm: 58, sure: true }, { fromTipMm: 1.1, widthMm: 59, sure: true }]) // [null, null, 58.5]
 */
export function everyHalfMm(places: readonly ProfilePlace[]): (number | null)[] {
  const bins: { sum: number; count: number }[] = [];
  for (const { fromTipMm, widthMm, sure } of places) {
    const bin = Math.round(fromTipMm / EDGE_EVERY_MM);
    if (bin < 0 || bin >= BENCH_PHOTO_LIMITS.placesMost || !sure) continue;
    const into = (bins[bin] ??= { sum: 0, count: 0 });
    into.sum += widthMm;
    into.count += 1;
  }
  return Array.from(bins, (bin) => ((bin as typeof bin | undefined) ? bin.sum / bin.count : null));
}

/** An edge photo as it is kept. */
export interface KeptEdge {
  /** Widths every half millimetre from the tip inward; null where the edge is hidden. */
  readonly widthsMm: readonly (number | null)[];
  /** Standard uncertainty of one place for itself, and what all places share, mm. */
  readonly placeU: number;
  readonly sharedU: number;
  readonly bodyWidthMm?: number | undefined;
}

/** The places a kept edge shows, those that are hidden left out. */
const seenPlaces = (widthsMm: KeptEdge['widthsMm']): ProfilePlace[] =>
  widthsMm.flatMap((widthMm, i) =>
    widthMm === null ? [] : [{ fromTipMm: i * EDGE_EVERY_MM, widthMm, sure: true }],
  );

/**
 * An edge's places as widths by their radius, those that are hidden left out.
 * @example edgePlaces([58, null, 59], 265) // [{ radiusMm: 265, widthMm: 58 }, { radiusMm: 264, widthMm: 59 }]
 */
export const edgePlaces = (widthsMm: readonly (number | null)[], tipRadiusMm: number): WidthAt[] =>
  seenPlaces(widthsMm).map(({ fromTipMm, widthMm }) => ({
    radiusMm: tipRadiusMm - fromTipMm,
    widthMm,
  }));

/**
 * The edge of a kept photo without its nicks, at any place: what a straight grind meets. Nothing where the photo shows
 * too little of it.
 * @example rounded(soundEdge({ widthsMm: new Array(200).fill(58), placeU: 0.01, sharedU: 0.04 }, 90)?.(40)) // 58
 */
export function soundEdge(
  { widthsMm }: KeptEdge,
  edgeLengthMm: number,
): ((fromTipMm: number) => number) | undefined {
  const smooth = smoothEdge(seenPlaces(widthsMm), edgeLengthMm);
  const everywhere = [0, edgeLengthMm / 2, edgeLengthMm].every((at) =>
    Number.isFinite(smooth.valueAt(at)),
  );
  return everywhere ? smooth.valueAt : undefined;
}

/** How well a depth is known beside its place's own doubt, and the shallowest drop that is a notch, mm. Found with the pictures of the tests. */
const DEPTH_U_MM = 0.04;
const LEAST_NOTCH_MM = 0.12;

/**
 * How deep the edge of a kept photo drops below its sound line near a place, mm: what is left there of a notch, 0 where
 * the edge is sound. Nothing where the photo hides the place. A notch that fills much of the stretch reads too shallow.
 * @example notchDepth({ widthsMm: new Array(200).fill(58), placeU: 0.01, sharedU: 0.04 }, 90, 40)?.value // 0
 */
export function notchDepth(
  edge: KeptEdge,
  edgeLengthMm: number,
  fromTipMm: number,
): Measured | undefined {
  const sound = soundEdge(edge, edgeLengthMm);
  const near = seenPlaces(edge.widthsMm).filter((place) => isSameNotch(place.fromTipMm, fromTipMm));
  if (!sound || near.length < LEAST_PLACES) return undefined;
  const dropOf = (place: ProfilePlace): number => sound(place.fromTipMm) - place.widthMm;
  const deepest = near.reduce((best, each) => (dropOf(each) > dropOf(best) ? each : best));
  // The mean of half a millimetre misses the bottom of a V by a quarter of its width on both flanks [M].
  const beside = [-2, 2].flatMap(
    (off) => edge.widthsMm[Math.round(deepest.fromTipMm / EDGE_EVERY_MM) + off] ?? [],
  );
  const flanks = beside.map((width) => Math.max(0, width - deepest.widthMm));
  const rise = flanks.reduce((sum, each) => sum + each, 0) / Math.max(1, flanks.length);
  const filled = (rise / (2 * EDGE_EVERY_MM)) * (EDGE_EVERY_MM / 4);
  const depth = dropOf(deepest) + filled;
  return { value: depth < LEAST_NOTCH_MM ? 0 : depth, u: Math.hypot(edge.placeU, DEPTH_U_MM) };
}

/** A station's width is that of the sound edge there, where so many places so near to it are seen, mm. */
const AROUND_STATION_MM = 2.5;
const LEAST_PLACES = 4;

/**
 * Width at a station from a photo: the sound edge's, so that a nick there does not make the blade narrower, with what one
 * place and all places are unsure of. Nothing where the photo has no sure places near it.
 * @example rounded(widthFromPhoto({ widthsMm: new Array(200).fill(58.2), placeU: 0.01, sharedU: 0.04 }, 90, 265, { radiusMm: 230 })?.value ?? 0) // 58.2
 */
export function widthFromPhoto(
  edge: KeptEdge,
  edgeLengthMm: number,
  tipRadiusMm: number,
  { radiusMm }: Pick<Station, 'radiusMm'>,
): Measured | undefined {
  const { widthsMm, placeU, sharedU } = edge;
  const fromTipMm = tipRadiusMm - radiusMm;
  const near = seenPlaces(widthsMm).filter(
    (place) => Math.abs(place.fromTipMm - fromTipMm) <= AROUND_STATION_MM,
  );
  if (near.length < LEAST_PLACES) return undefined;
  const sound = soundEdge(edge, edgeLengthMm)?.(fromTipMm);
  const value =
    sound !== undefined && fromTipMm < edgeLengthMm
      ? sound
      : median(near.map(({ widthMm }) => widthMm));
  return { value, u: Math.hypot(placeU / Math.sqrt(near.length / 2), sharedU) };
}
