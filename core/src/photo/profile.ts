import { median, robustDeviation } from '../math/median.js';
import type { OutlinePlace, Traced } from './trace.js';
import type { Lie, MatPoint } from './mat.js';

/** The edge of one end in the blade's own frame. */
export interface ProfilePlace {
  /** From the tip inward, along the trailing side, mm. */
  readonly fromTipMm: number;
  /** From the line of the trailing side to the edge, mm. */
  readonly widthMm: number;
  readonly sure: boolean;
}

/** With where it was seen on the mat. */
export interface FramedPlace extends ProfilePlace {
  readonly mat: MatPoint;
}

export interface Framed {
  readonly places: readonly FramedPlace[];
  /** The bar's own width inside the edge, mm; nothing where the picture does not reach so far. */
  readonly bodyWidthMm: number | undefined;
  /** Standard deviation of a single place about its neighbours, mm. */
  readonly scatterMm: number;
  /** How far the trailing side's places lie off its line, mm. */
  readonly trailingOffMm: number;
}

interface Line {
  readonly at: MatPoint;
  readonly x: number;
  readonly y: number;
}

const offLine = ({ at, x, y }: Line, { xMm, yMm }: MatPoint): number =>
  (yMm - at.yMm) * x - (xMm - at.xMm) * y;

/**
 * The line most of the places lie on: least squares with Tukey's biweight (from memory), begun from the middle of
 * slopes between far places, so that a wing, a dent or dirt does not turn it.
 * @param along 'x' where the line runs across the mat, 'y' where it runs down it
 */
function lineOf(places: readonly OutlinePlace[], along: 'x' | 'y'): Line | undefined {
  const points = places
    .filter(({ sure }) => sure)
    .map(({ xMm, yMm }) => (along === 'x' ? { s: xMm, t: yMm } : { s: yMm, t: xMm }));
  if (points.length < 8) return undefined;
  const half = Math.floor(points.length / 2);
  const slopes = points.slice(0, half).map((point, i) => {
    const other = points[i + half] ?? point;
    return (other.t - point.t) / (other.s - point.s || 1);
  });
  let slope = median(slopes);
  let offset = median(points.map(({ s, t }) => t - slope * s));
  for (let round = 0; round < 8; round++) {
    const misses = points.map(({ s, t }) => t - offset - slope * s);
    const spread = Math.max(0.01, robustDeviation(misses));
    let [w0, ws, wt, wss, wst] = [0, 0, 0, 0, 0];
    points.forEach(({ s, t }, i) => {
      const share = (misses[i] ?? 0) / (4.685 * spread);
      const weight = Math.abs(share) < 1 ? (1 - share * share) ** 2 : 0;
      w0 += weight;
      ws += weight * s;
      wt += weight * t;
      wss += weight * s * s;
      wst += weight * s * t;
    });
    const below = w0 * wss - ws * ws;
    if (!(below > 0)) return undefined;
    slope = (w0 * wst - ws * wt) / below;
    offset = (wt - slope * ws) / w0;
  }
  const length = Math.hypot(1, slope);
  return along === 'x'
    ? { at: { xMm: 0, yMm: offset }, x: 1 / length, y: slope / length }
    : { at: { xMm: offset, yMm: 0 }, x: slope / length, y: 1 / length };
}

/** Spread of second differences of neighbouring places, as the deviation of one: a curve or a slope drops out. */
function scatterOf(places: readonly ProfilePlace[]): number {
  const seconds = places.flatMap(({ widthMm }, i) => {
    const [a, b] = [places[i - 4], places[i + 4]];
    return a && b ? [a.widthMm - 2 * widthMm + b.widthMm] : [];
  });
  return seconds.length > 0 ? robustDeviation(seconds) / Math.sqrt(6) : 0;
}

/**
 * The traced outline seen from the blade: its frame is the line of the unworn trailing side and, along it, where the
 * trailing half of the tip's end meets it. Nothing where neither line can be drawn.
 */
export function framed(traced: Traced, lie: Lie, edgeLengthMm: number): Framed | undefined {
  const side = lineOf(traced.trailing, 'x');
  const end = lineOf(traced.tip, 'y');
  if (!side || !end) return undefined;
  // Where the two lines meet: the tip's trailing corner.
  const cross = side.x * end.y - side.y * end.x;
  const along = ((end.at.xMm - side.at.xMm) * end.y - (end.at.yMm - side.at.yMm) * end.x) / cross;
  const corner = { xMm: side.at.xMm + along * side.x, yMm: side.at.yMm + along * side.y };
  const inBlade = (place: OutlinePlace): FramedPlace => ({
    fromTipMm: lie.inward * ((place.xMm - corner.xMm) * side.x + (place.yMm - corner.yMm) * side.y),
    widthMm: lie.toEdge * offLine(side, place),
    sure: place.sure,
    mat: place,
  });
  const places = traced.edge.map(inBlade).sort((a, b) => a.fromTipMm - b.fromTipMm);
  const body = places.filter(({ fromTipMm, sure }) => sure && fromTipMm > edgeLengthMm + 12);
  return {
    places,
    bodyWidthMm: body.length >= 20 ? median(body.map(({ widthMm }) => widthMm)) : undefined,
    scatterMm: scatterOf(places.filter(({ sure }) => sure)),
    trailingOffMm: robustDeviation(
      traced.trailing.filter(({ sure }) => sure).map((place) => offLine(side, place)),
    ),
  };
}
