import type { End } from '../blade/shape.js';
import { median } from '../math/median.js';
import { MARKERS_A_MAT, MARKERS_A_ROW } from './limits.js';
import {
  distorted,
  fitCamera,
  inPicture,
  moved,
  pxPerMm,
  undistorted,
  type Camera,
  type Pair,
} from './camera.js';
import { fineCorners, type FineCorners, type FourCorners } from './corners.js';
import {
  BED_MM,
  MARKER_MM,
  matMarkers,
  matOfMarker,
  type MatMarker,
  type MatPoint,
  type PrintScale,
} from './mat.js';
import type { PhotoRefused } from './photo-trouble.js';
import { lightAt, type Picture, type PicturePoint } from './picture.js';

/** A marker as the detector found it. */
export interface SeenMarker {
  readonly id: number;
  /** Clockwise from the marker's own upper left. */
  readonly corners: FourCorners;
}

/** A marker with its corners made fine. */
export interface FineMarker {
  readonly id: number;
  readonly fine: FineCorners;
  readonly pairs: readonly Pair[];
}

/** The mat as a picture shows it, with a second one beside it where the edge is long. */
export interface SeenMat {
  readonly camera: Camera;
  readonly markers: readonly FineMarker[];
  readonly matNumber: number;
  /** Print scale of the mat the tip lies on; the doubt is the larger of the two. */
  readonly scale: PrintScale;
  /** How far the bed reaches, mm. */
  readonly bed: { readonly left: number; readonly right: number };
}

type ScaleOf = (matNumber: number) => PrintScale | undefined;

/** Markers a row that are needed, and how many places apart the outermost must be. */
const LEAST_ROW = 3;
const LEAST_SPAN = 4;
/** Two mats laid by hand: how far the second one's bed may be off the first one's, mm. */
const MOST_ASKEW_MM = 5;

const scaled = (scale: PrintScale, { xMm, yMm }: MatPoint): MatPoint => ({
  xMm: xMm * scale.across,
  yMm: yMm * scale.down,
});

const sizePx = ({ corners: [a, , c] }: SeenMarker): number =>
  Math.hypot(c.xPx - a.xPx, c.yPx - a.yPx);

/** A detector may see a marker twice, once by the inner side of its border. */
function largestOfEach(seen: readonly SeenMarker[]): SeenMarker[] {
  const largest = new Map<number, SeenMarker>();
  for (const marker of seen) {
    const known = largest.get(marker.id);
    if (!known || sizePx(marker) > sizePx(known)) largest.set(marker.id, marker);
  }
  return [...largest.values()];
}

/** The mats that four markers or more are seen of, those with most first. */
function matsIn(seen: readonly SeenMarker[]): { readonly mats: number[]; readonly most: number } {
  const counts = new Map<number, number>();
  for (const { id } of seen) {
    const matNumber = matOfMarker(id);
    if (matNumber !== undefined) counts.set(matNumber, (counts.get(matNumber) ?? 0) + 1);
  }
  const sorted = [...counts].sort((a, b) => b[1] - a[1]);
  return {
    mats: sorted.filter(([, count]) => count >= 4).map(([matNumber]) => matNumber),
    most: sorted[0]?.[1] ?? 0,
  };
}

/** Are the markers of a mat spread over both of its rows? */
const wellSpread = (markers: readonly FineMarker[], matNumber: number): boolean =>
  [0, 1].every((row) => {
    const places = markers
      .map(({ id }) => id - (matNumber - 1) * MARKERS_A_MAT - row * MARKERS_A_ROW)
      .filter((place) => place >= 0 && place < MARKERS_A_ROW);
    return places.length >= LEAST_ROW && Math.max(...places) - Math.min(...places) >= LEAST_SPAN;
  });

/** Fine corners of a mat's markers. */
function fineMarkers(
  picture: Picture,
  seen: readonly SeenMarker[],
  { matNumber, scale, beside }: { matNumber: number; scale: PrintScale; beside?: boolean },
  camera?: Camera,
): FineMarker[] {
  const drawn = new Map(matMarkers(matNumber).map(({ id, corners }) => [id, corners]));
  return seen.flatMap(({ id, corners }) => {
    const places = drawn.get(id);
    if (!places) return [];
    const fine = camera
      ? fineCorners(
          picture,
          corners,
          (point) => undistorted(camera, point),
          (point) => distorted(camera, point),
        )
      : fineCorners(picture, corners);
    if (!fine) return [];
    const pairs = places.flatMap((mat, i) => {
      const corner = fine.corners[i];
      return corner
        ? [{ mat: scaled(scale, mat), picture: corner, ...(beside && { beside }) }]
        : [];
    });
    return [{ id, fine, pairs }];
  });
}

/** How far inside and outside a marker's side its black and the paper are looked for, mm. */
const INSIDE_MM = 1.2;
const OUTSIDE_MM = 2.5;

/**
 * Does something lie over a marker that was not seen: no black border where it should be, or no paper around it?
 * False where it is out of the picture.
 */
function isCovered(
  picture: Picture,
  camera: Camera,
  white: number,
  { corners: [a, b, c] }: MatMarker,
): boolean {
  const middle = { xMm: (a.xMm + c.xMm) / 2, yMm: (a.yMm + c.yMm) / 2 };
  const half = (b.xMm - a.xMm) / 2;
  const lights = (off: number): number[] =>
    [
      [off, 0],
      [-off, 0],
      [0, off],
      [0, -off],
    ].map(([x = 0, y = 0]) => {
      const { xPx, yPx } = inPicture(camera, { xMm: middle.xMm + x, yMm: middle.yMm + y });
      return lightAt(picture, xPx, yPx);
    });
  const border = lights(half - INSIDE_MM);
  const around = lights(half + OUTSIDE_MM);
  if ([...border, ...around].some((light) => Number.isNaN(light))) return false;
  const odd =
    border.filter((light) => light > 0.5 * white).length +
    around.filter((light) => light < 0.5 * white).length;
  return odd >= 3;
}

/** Why there are too few markers: something lies over them, or the mat is not whole in the picture. */
function tooFew(picture: Picture, markers: readonly FineMarker[], matNumber: number): PhotoRefused {
  const camera = fitCamera(
    markers.map(({ pairs }) => pairs),
    picture,
  );
  const seen = new Set(markers.map(({ id }) => id));
  const white = median(markers.map(({ fine }) => fine.white));
  const covered =
    camera &&
    matMarkers(matNumber).find(
      (marker) => !seen.has(marker.id) && isCovered(picture, camera, white, marker),
    );
  if (!camera || !covered) return { refused: 'few-markers', found: markers.length };
  const [corner] = covered.corners;
  const middle = { xMm: corner.xMm + MARKER_MM / 2, yMm: corner.yMm + MARKER_MM / 2 };
  return { refused: 'markers-covered', at: inPicture(camera, middle) };
}

/**
 * Markers of the mat, their corners made fine, and the camera they give; or why not. Of two mats side by side the one
 * the tip lies on is the first: the left one for end A, the right one for end B.
 */
export function seeMat(
  picture: Picture,
  all: readonly SeenMarker[],
  end: End,
  scaleOf: ScaleOf,
): SeenMat | PhotoRefused {
  const seen = largestOfEach(all);
  const { mats, most } = matsIn(seen);
  const [main] = mats;
  if (main === undefined) return { refused: 'few-markers', found: most };
  const unknown = mats.find((matNumber) => !scaleOf(matNumber));
  if (unknown !== undefined) return { refused: 'unknown-mat', found: unknown };
  const scales = (matNumber: number): PrintScale =>
    scaleOf(matNumber) ?? { across: 1, down: 1, u: 0 };
  const rough = new Map(
    mats.map((matNumber) => [
      matNumber,
      fineMarkers(picture, seen, { matNumber, scale: scales(matNumber) }),
    ]),
  );
  const whole = mats.filter((matNumber) => wellSpread(rough.get(matNumber) ?? [], matNumber));
  const [only, other] = whole;
  if (only === undefined) return tooFew(picture, rough.get(main) ?? [], main);

  const seeWith = (matNumber: number, besideNumber?: number): SeenMat | undefined => {
    const both = (camera?: Camera): FineMarker[] => [
      ...fineMarkers(picture, seen, { matNumber, scale: scales(matNumber) }, camera),
      ...(besideNumber === undefined
        ? []
        : fineMarkers(
            picture,
            seen,
            { matNumber: besideNumber, scale: scales(besideNumber), beside: true },
            camera,
          )),
    ];
    const fit = (markers: readonly FineMarker[]): Camera | undefined =>
      fitCamera(
        markers.map(({ pairs }) => pairs),
        picture,
      );
    const about = fit(both());
    if (!about) return undefined;
    const markers = both(about);
    const camera = wellSpread(markers, matNumber) ? fit(markers) : undefined;
    if (!camera) return undefined;
    const scale = scales(matNumber);
    const u = Math.max(scale.u, besideNumber === undefined ? 0 : scales(besideNumber).u);
    return { camera, markers, matNumber, scale: { ...scale, u }, bed: bedOf(camera) };
  };
  let found = seeWith(only, other);
  const tipElsewhere = (mat: SeenMat): boolean =>
    mat.camera.beside !== undefined && mat.camera.beside.xMm > 0 !== (end === 'A');
  if (found && other !== undefined && tipElsewhere(found)) found = seeWith(other, only);
  if (!found) return { refused: 'few-markers', found: rough.get(only)?.length ?? 0 };
  const askewMm = askewOf(found.camera);
  return askewMm > MOST_ASKEW_MM ? { refused: 'mats-askew', found: askewMm } : found;
}

/** From the first mat's bed to the end of the second one's. */
function bedOf({ beside }: Camera): SeenMat['bed'] {
  if (!beside) return BED_MM;
  const middleMm = (BED_MM.top + BED_MM.bottom) / 2;
  const [left, right] = [BED_MM.left, BED_MM.right].map(
    (xMm) => moved(beside, { xMm, yMm: middleMm }).xMm,
  );
  return {
    left: Math.min(BED_MM.left, left ?? BED_MM.left),
    right: Math.max(BED_MM.right, right ?? BED_MM.right),
  };
}

/** How far the second bed's ends lie above or below the first bed's line, mm. */
function askewOf({ beside }: Camera): number {
  if (!beside) return 0;
  const middleMm = (BED_MM.top + BED_MM.bottom) / 2;
  return Math.max(
    ...[BED_MM.left, BED_MM.right].map((xMm) =>
      Math.abs(moved(beside, { xMm, yMm: middleMm }).yMm - middleMm),
    ),
  );
}

/** Marker whose corners lie furthest off the sheet's plane, mm. */
export function worstMarker({ camera, markers }: SeenMat): {
  readonly offMm: number;
  readonly at: PicturePoint | undefined;
} {
  return markers
    .map(({ pairs }) => {
      const offs = pairs.map(({ mat, picture, beside }) => {
        const place = beside && camera.beside ? moved(camera.beside, mat) : mat;
        const shown = inPicture(camera, place);
        const { across, down } = pxPerMm(camera, place);
        return (
          Math.hypot(shown.xPx - picture.xPx, shown.yPx - picture.yPx) / Math.min(across, down)
        );
      });
      return { offMm: median(offs), at: pairs[0]?.picture };
    })
    .reduce((worst, each) => (each.offMm > worst.offMm ? each : worst), {
      offMm: 0,
      at: undefined,
    });
}

/**
 * How much further out the sides of the markers are seen than they are printed, mm: a camera's tones and its sharpening
 * move the edge of what is dark, the blade's as the markers'. The middle one of all; below zero where they are seen smaller.
 */
export function swellingMm({ camera, markers }: SeenMat): number {
  const apart = (a: PicturePoint, b: PicturePoint): number =>
    Math.hypot(a.xPx - b.xPx, a.yPx - b.yPx);
  return median(
    markers.flatMap(({ pairs }) =>
      pairs.flatMap(({ mat, picture, beside }, i) => {
        const next = pairs[(i + 1) % pairs.length];
        if (!next || beside) return [];
        const printed = apart(inPicture(camera, mat), inPicture(camera, next.mat));
        return [(MARKER_MM * (apart(picture, next.picture) / printed - 1)) / 2];
      }),
    ),
  );
}

/** What the camera makes of the sheet across its middle: how far it is tilted and how big a millimetre is. */
export function lookOf(camera: Camera): { readonly tiltDeg: number; readonly scale: number } {
  const at = { xMm: 129, yMm: 97 };
  const here = inPicture(camera, at);
  const right = inPicture(camera, { ...at, xMm: at.xMm + 1 });
  const below = inPicture(camera, { ...at, yMm: at.yMm + 1 });
  const [a, b, c, d] = [
    right.xPx - here.xPx,
    below.xPx - here.xPx,
    right.yPx - here.yPx,
    below.yPx - here.yPx,
  ];
  // Singular values of the small map: their ratio is the cosine of the tilt.
  const sum = (a * a + b * b + c * c + d * d) / 2;
  const apart = Math.sqrt(Math.max(0, sum * sum - (a * d - b * c) ** 2));
  const [large, small] = [Math.sqrt(sum + apart), Math.sqrt(Math.max(0, sum - apart))];
  return { tiltDeg: (Math.acos(Math.min(1, small / large)) * 180) / Math.PI, scale: small };
}
