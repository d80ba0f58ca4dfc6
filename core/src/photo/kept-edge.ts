import type { Station, WidthAt } from '../blade/shape.js';
import { median } from '../math/median.js';
import type { Measured } from '../reading/uncertainty.js';
import { smoothEdge } from './features.js';
import type { ProfilePlace } from './profile.js';

/** An edge is given out every so far. */
export const EDGE_EVERY_MM = 0.5;
/** What an edge photo can be like at most: half a metre of edge, and a doubt that is worth nothing. */
export const BENCH_PHOTO_LIMITS = { placesMost: 1000, uMostMm: 2 } as const;

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

/**
 * An edge's places as widths by their radius, those that are hidden left out.
 * @example edgePlaces([58, null, 59], 265) // [{ radiusMm: 265, widthMm: 58 }, { radiusMm: 264, widthMm: 59 }]
 */
export const edgePlaces = (widthsMm: readonly (number | null)[], tipRadiusMm: number): WidthAt[] =>
  widthsMm.flatMap((widthMm, i) =>
    widthMm === null ? [] : [{ radiusMm: tipRadiusMm - i * EDGE_EVERY_MM, widthMm }],
  );

/**
 * The edge of a kept photo without its nicks, at any place: what a straight grind meets. Nothing where the photo shows
 * too little of it.
 * @example rounded(soundEdge({ widthsMm: new Array(200).fill(58), placeU: 0.01, sharedU: 0.04 }, 90)?.(40)) // 58
 */
export function soundEdge(
  { widthsMm }: KeptEdge,
  edgeLengthMm: number,
): ((fromTipMm: number) => number) | undefined {
  const places = widthsMm.flatMap((widthMm, i) =>
    widthMm === null ? [] : [{ fromTipMm: i * EDGE_EVERY_MM, widthMm, sure: true }],
  );
  const smooth = smoothEdge(places, edgeLengthMm);
  const everywhere = [0, edgeLengthMm / 2, edgeLengthMm].every((at) =>
    Number.isFinite(smooth.valueAt(at)),
  );
  return everywhere ? smooth.valueAt : undefined;
}

/** A station's width is the middle of the places so near to it, mm. */
const AROUND_STATION_MM = 2.5;
const LEAST_PLACES = 4;

/**
 * Width at a station from a photo: the middle of the sure places about it, so that a small nick there does not make the
 * blade narrower, with what one place and all places are unsure of. Nothing where the photo has no sure places near it.
 * @example widthFromPhoto({ widthsMm: new Array(100).fill(58.2), placeU: 0.01, sharedU: 0.04 }, 265, { radiusMm: 250 })?.value // 58.2
 */
export function widthFromPhoto(
  { widthsMm, placeU, sharedU }: Omit<KeptEdge, 'bodyWidthMm'>,
  tipRadiusMm: number,
  { radiusMm }: Pick<Station, 'radiusMm'>,
): Measured | undefined {
  const fromTipMm = tipRadiusMm - radiusMm;
  const near = widthsMm.filter(
    (width, i): width is number =>
      width !== null && Math.abs(i * EDGE_EVERY_MM - fromTipMm) <= AROUND_STATION_MM,
  );
  if (near.length < LEAST_PLACES) return undefined;
  return { value: median(near), u: Math.hypot(placeU / Math.sqrt(near.length / 2), sharedU) };
}
