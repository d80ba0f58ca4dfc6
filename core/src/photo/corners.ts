import { median } from '../math/median.js';
import { crossingIn, lightAlong } from './crossing.js';
import type { Picture, PicturePoint } from './picture.js';

/** Corners of a marker as a detector gives them, clockwise from the marker's own upper left. */
export type FourCorners = readonly [PicturePoint, PicturePoint, PicturePoint, PicturePoint];

export interface FineCorners {
  readonly corners: FourCorners;
  /** Width of its sides' change from black to white, a quarter to three quarters, px: how blurred the picture is. */
  readonly risePx: number;
  /** Light of its white paper and of its black print. */
  readonly white: number;
  readonly black: number;
}

/** Places along a side that are looked at, and how much of it at its corners is left out. */
const PLACES = 24;
const LEFT_OUT = 0.12;

interface Line {
  readonly at: PicturePoint;
  readonly dx: number;
  readonly dy: number;
}

/** The line that lies nearest to the points, those far off it left out: total least squares, twice. */
function lineThrough(points: readonly PicturePoint[]): Line | undefined {
  let kept = points;
  let line: Line | undefined;
  for (let round = 0; round < 3; round++) {
    if (kept.length < PLACES / 3) return undefined;
    const at = {
      xPx: kept.reduce((sum, { xPx }) => sum + xPx, 0) / kept.length,
      yPx: kept.reduce((sum, { yPx }) => sum + yPx, 0) / kept.length,
    };
    let [xx, xy, yy] = [0, 0, 0];
    for (const { xPx, yPx } of kept) {
      xx += (xPx - at.xPx) ** 2;
      xy += (xPx - at.xPx) * (yPx - at.yPx);
      yy += (yPx - at.yPx) ** 2;
    }
    const turn = Math.atan2(2 * xy, xx - yy) / 2;
    line = { at, dx: Math.cos(turn), dy: Math.sin(turn) };
    const off = ({ xPx, yPx }: PicturePoint): number =>
      Math.abs((xPx - at.xPx) * Math.sin(turn) - (yPx - at.yPx) * Math.cos(turn));
    const sizes = kept.map(off).sort((a, b) => a - b);
    const most = Math.max(0.15, 4.5 * (sizes[Math.floor(sizes.length / 2)] ?? 0));
    kept = points.filter((point) => off(point) <= most);
  }
  return line;
}

function meeting(a: Line, b: Line): PicturePoint | undefined {
  const cross = a.dx * b.dy - a.dy * b.dx;
  if (Math.abs(cross) < 0.2) return undefined;
  const along = ((b.at.xPx - a.at.xPx) * b.dy - (b.at.yPx - a.at.yPx) * b.dx) / cross;
  return { xPx: a.at.xPx + along * a.dx, yPx: a.at.yPx + along * a.dy };
}

/**
 * Corners to a part of a pixel: along each side the picture is crossed at right angles, the crossings make a line,
 * and neighbouring lines meet in the corner [M]. `straighten` takes the camera's distortion out and `bend` puts it
 * back, so that sides that the lens bows still make straight lines. Nothing where a side is not to be seen.
 */
export function fineCorners(
  picture: Picture,
  rough: FourCorners,
  straighten: (point: PicturePoint) => PicturePoint = (point) => point,
  bend: (point: PicturePoint) => PicturePoint = (point) => point,
): FineCorners | undefined {
  const rises: number[] = [];
  const whites: number[] = [];
  const blacks: number[] = [];
  const centre = {
    xPx: rough.reduce((sum, { xPx }) => sum + xPx, 0) / 4,
    yPx: rough.reduce((sum, { yPx }) => sum + yPx, 0) / 4,
  };
  const sides = rough.map((from, i) => {
    const to = rough[(i + 1) % 4] ?? from;
    const length = Math.hypot(to.xPx - from.xPx, to.yPx - from.yPx);
    let normal = { x: (to.yPx - from.yPx) / length, y: (from.xPx - to.xPx) / length };
    const outward =
      normal.x * ((from.xPx + to.xPx) / 2 - centre.xPx) +
      normal.y * ((from.yPx + to.yPx) / 2 - centre.yPx);
    if (outward < 0) normal = { x: -normal.x, y: -normal.y };
    // Print and paper each reach an eighth of the side: the marker's black border and its white surround.
    const reach = Math.max(3, 0.11 * length);
    const steps = Math.max(16, Math.ceil(reach * 4));
    const found: PicturePoint[] = [];
    for (let place = 0; place < PLACES; place++) {
      const share = LEFT_OUT + ((1 - 2 * LEFT_OUT) * (place + 0.5)) / PLACES;
      const on = {
        xPx: from.xPx + share * (to.xPx - from.xPx),
        yPx: from.yPx + share * (to.yPx - from.yPx),
      };
      const at = (off: number): PicturePoint => ({
        xPx: on.xPx + off * normal.x,
        yPx: on.yPx + off * normal.y,
      });
      const crossing = crossingIn(lightAlong(picture, at(-reach), at(reach), steps));
      if (!crossing || crossing.after < crossing.before) continue;
      const perStep = (2 * reach) / steps;
      rises.push(crossing.rise * perStep);
      whites.push(crossing.after);
      blacks.push(crossing.before);
      found.push(straighten(at(crossing.at * perStep - reach)));
    }
    return lineThrough(found);
  });
  const corners = sides.map((side, i) => {
    const previous = sides[(i + 3) % 4];
    const met = side && previous && meeting(previous, side);
    return met && bend(met);
  });
  const [a, b, c, d] = corners;
  if (!a || !b || !c || !d) return undefined;
  return {
    corners: [a, b, c, d],
    risePx: median(rises),
    white: median(whites),
    black: median(blacks),
  };
}
