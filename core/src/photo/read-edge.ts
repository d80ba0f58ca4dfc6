import { median } from '../math/median.js';
import type { End } from '../blade/shape.js';
import {
  distorted,
  fitCamera,
  inPicture,
  lengthUMm,
  pxPerMm,
  undistorted,
  type Camera,
  type Pair,
} from './camera.js';
import { fineCorners, type FineCorners, type FourCorners } from './corners.js';
import { seenDamage, seenTip, smoothEdge, type SeenDamage, type SeenTip } from './features.js';
import {
  BED_MM,
  lieOf,
  MARKERS_A_MAT,
  MARKERS_A_ROW,
  matMarkers,
  matOfMarker,
  type MatPoint,
  type PrintScale,
} from './mat.js';
import { everyHalfMm } from './kept-edge.js';
import type { Picture, PicturePoint } from './picture.js';
import { framed, type ProfilePlace } from './profile.js';
import { traceBlade } from './trace.js';

/** A marker as the detector found it. */
export interface SeenMarker {
  readonly id: number;
  /** Clockwise from the marker's own upper left. */
  readonly corners: FourCorners;
}

/** What is known of the blade before the picture is looked at. */
export interface EdgeExpected {
  readonly end: End;
  readonly hand: 'right' | 'left';
  readonly lengthMm: number;
  readonly newWidthMm: number;
  readonly edgeLengthMm: number;
}

/** Why a picture is not used. */
export type PhotoTrouble =
  | 'few-markers'
  | 'unknown-mat'
  | 'mat-not-flat'
  | 'too-far'
  | 'too-slanted'
  | 'blurred'
  | 'too-bright'
  | 'too-dark'
  | 'no-blade'
  | 'two-blades'
  | 'outside-bed'
  | 'lies-as-other-end'
  | 'tip-not-seen'
  | 'glare'
  | 'wrong-size';

export interface PhotoRefused {
  readonly refused: PhotoTrouble;
  /** Where on the picture, if it is somewhere. */
  readonly at?: PicturePoint;
  /** What was found, where the sentence tells a number: markers seen, mm, per cent. */
  readonly found?: number;
}

export interface PhotoQuality {
  readonly matNumber: number;
  readonly markersSeen: number;
  readonly pxPerMm: number;
  /** What the markers' corners miss the camera by, mm. */
  readonly misfitMm: number;
  /** Standard deviation of the blur, mm. */
  readonly blurMm: number;
  readonly tiltDeg: number;
  /** Share of the edge that reflections or dirt hide. */
  readonly hidden: number;
}

/** The edge of one end, read from a picture. */
export interface EdgePhoto {
  readonly end: End;
  /** Widths every half millimetre from the tip inward; null where the edge is hidden. */
  readonly widthsMm: readonly (number | null)[];
  /** Standard uncertainty of one place for itself, and what all places share, mm. */
  readonly placeU: number;
  readonly sharedU: number;
  readonly bodyWidthMm?: number;
  readonly damage: readonly (SeenDamage & { readonly at: PicturePoint })[];
  readonly tip: SeenTip;
  /** The edge as it was found on the picture, every millimetre or so, from the tip inward. */
  readonly outline: readonly (PicturePoint & { readonly sure: boolean })[];
  readonly quality: PhotoQuality;
}

/** Limits of a picture that is used. Found with the pictures of the tests. */
const LEAST_ROW = 3;
const LEAST_SPAN = 4;
const LEAST_PX_PER_MM = 6;
const MOST_BLUR_MM = 0.32;
const MOST_TILT_DEG = 33;
const MOST_MISFIT_MM = 0.09;
const MOST_MARKER_OFF_MM = 0.3;
const BURNT_OUT = 0.985;
const TOO_DARK = 0.035;
const MOST_HIDDEN = 0.12;
const MOST_HIDDEN_RUN_MM = 8;
const MOST_BODY_OFF = 0.012;
/** Shown of the bar beyond the edge, mm. */
const OUTLINE_BEYOND_MM = 10;
/** A change from a quarter to three quarters is 1.349 deviations of a Gaussian blur [M]. */
const RISE_TO_BLUR = 1.349;
/** A burr or grit on the edge, mm: standard, one-sided shifts included. From memory. */
const BURR_U_MM = 0.015;
/** How high above the mat an edge may lie and how far away the camera is, mm: a length reads so much larger. */
const LIE_U_MM = 0.15;
const CAMERA_FAR_MM = 350;
/** The edge of a blurred step, uncertain by this share of its blur at each side. Found with the pictures of the tests. */
const BLUR_SHARE = 0.05;

const scaled = (scale: PrintScale, { xMm, yMm }: MatPoint): MatPoint => ({
  xMm: xMm * scale.across,
  yMm: yMm * scale.down,
});

interface Fine {
  readonly id: number;
  readonly fine: FineCorners;
  readonly pairs: readonly Pair[];
}

/** What the camera makes of the sheet across its middle: how far it is tilted and how big a millimetre is. */
function lookOf(camera: Camera): { readonly tiltDeg: number; readonly scale: number } {
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

/** Markers of one mat, their corners made fine, and the camera they give; or why not. */
function seeMat(
  picture: Picture,
  seen: readonly SeenMarker[],
  scaleOf: (matNumber: number) => PrintScale | undefined,
):
  | {
      readonly camera: Camera;
      readonly markers: readonly Fine[];
      readonly matNumber: number;
      readonly scale: PrintScale;
    }
  | PhotoRefused {
  const counts = new Map<number, number>();
  for (const { id } of seen) {
    const matNumber = matOfMarker(id);
    if (matNumber !== undefined) counts.set(matNumber, (counts.get(matNumber) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  if (!most || most[1] < 4) return { refused: 'few-markers', found: most?.[1] ?? 0 };
  const [matNumber] = most;
  const scale = scaleOf(matNumber);
  if (!scale) return { refused: 'unknown-mat', found: matNumber };
  const drawn = new Map(matMarkers(matNumber).map(({ id, corners }) => [id, corners]));
  const rough = largestOfEach(seen.filter(({ id }) => drawn.has(id)));
  const refine = (camera?: Camera): Fine[] =>
    rough.flatMap(({ id, corners }) => {
      const fine = camera
        ? fineCorners(
            picture,
            corners,
            (point) => undistorted(camera, point),
            (point) => distorted(camera, point),
          )
        : fineCorners(picture, corners);
      const places = drawn.get(id);
      if (!fine || !places) return [];
      const pairs = places.flatMap((mat, i) => {
        const corner = fine.corners[i];
        return corner ? [{ mat: scaled(scale, mat), picture: corner }] : [];
      });
      return [{ id, fine, pairs }];
    });
  const wellSpread = (markers: readonly Fine[]): boolean =>
    [0, 1].every((row) => {
      const places = markers
        .map(({ id }) => id - (matNumber - 1) * MARKERS_A_MAT - row * MARKERS_A_ROW)
        .filter((place) => place >= 0 && place < MARKERS_A_ROW);
      return places.length >= LEAST_ROW && Math.max(...places) - Math.min(...places) >= LEAST_SPAN;
    });
  const first = refine();
  if (!wellSpread(first)) return { refused: 'few-markers', found: first.length };
  const about = fitCamera(
    first.map(({ pairs }) => pairs),
    picture,
  );
  if (!about) return { refused: 'few-markers', found: first.length };
  const markers = refine(about);
  const camera = fitCamera(
    markers.map(({ pairs }) => pairs),
    picture,
  );
  if (!camera || !wellSpread(markers)) return { refused: 'few-markers', found: markers.length };
  return { camera, markers, matNumber, scale };
}

/** Marker whose corners lie furthest off the sheet's plane, mm. */
function worstMarker(
  camera: Camera,
  markers: readonly Fine[],
): { readonly offMm: number; readonly at: PicturePoint | undefined } {
  return markers
    .map(({ pairs }) => {
      const offs = pairs.map(({ mat, picture }) => {
        const shown = inPicture(camera, mat);
        const { across, down } = pxPerMm(camera, mat);
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
 * Reads the edge of one end from a picture of it on the mat: the markers give the camera, light across the edge its
 * places on the mat, the trailing side and the tip the blade's own frame. Either the edge, with its doubt, or why the
 * picture is not used and where.
 *
 * u of a width: places' own scatter; and in common the print's scale, the camera's fit, the trailing line, how flat the
 * blade lies, a burr, and the blur of both sides (JCGM 100:2008).
 * @param scaleOf the calibrated print scale of a mat by its number; nothing for a mat nobody measured
 * @param progress told the share that is done, 0 to 1
 * @example readEdge({ width: 1, height: 1, grey: new Uint8Array(1) }, [], { end: 'A', hand: 'right', lengthMm: 530, newWidthMm: 60, edgeLengthMm: 100 }, () => undefined) // { refused: 'few-markers', found: 0 }
 */
export function readEdge(
  picture: Picture,
  seen: readonly SeenMarker[],
  expected: EdgeExpected,
  scaleOf: (matNumber: number) => PrintScale | undefined,
  progress: (share: number) => void = () => undefined,
): EdgePhoto | PhotoRefused {
  progress(0.1);
  const mat = seeMat(picture, seen, scaleOf);
  if ('refused' in mat) return mat;
  progress(0.4);
  const { camera, markers, matNumber, scale } = mat;
  const look = lookOf(camera);
  const blurMm = median(markers.map(({ fine }) => fine.risePx)) / RISE_TO_BLUR / look.scale;
  const white = median(markers.map(({ fine }) => fine.white));
  const misfitMm = camera.misfitPx / look.scale;
  if (look.tiltDeg > MOST_TILT_DEG) return { refused: 'too-slanted', found: look.tiltDeg };
  if (white > BURNT_OUT) return { refused: 'too-bright' };
  if (white < TOO_DARK) return { refused: 'too-dark' };
  if (blurMm > MOST_BLUR_MM) return { refused: 'blurred', found: blurMm };
  if (look.scale < LEAST_PX_PER_MM) return { refused: 'too-far', found: look.scale };
  const worst = worstMarker(camera, markers);
  if (misfitMm > MOST_MISFIT_MM || worst.offMm > MOST_MARKER_OFF_MM) {
    return {
      refused: 'mat-not-flat',
      found: Math.max(misfitMm, worst.offMm),
      ...(worst.at && { at: worst.at }),
    };
  }

  const lie = lieOf(expected.end, expected.hand);
  const traced = traceBlade(picture, camera, lie);
  if ('trouble' in traced) {
    const { trouble } = traced;
    return {
      refused: trouble.reason,
      ...('at' in trouble && { at: inPicture(camera, trouble.at) }),
    };
  }
  progress(0.8);
  const frame = framed(traced, lie, expected.edgeLengthMm);
  if (!frame) return { refused: 'tip-not-seen' };
  const onEdge = frame.places.filter(
    ({ fromTipMm }) => fromTipMm > 1 && fromTipMm < expected.edgeLengthMm,
  );
  const hidden = hiddenOf(onEdge, expected.edgeLengthMm);
  if (hidden.share > MOST_HIDDEN || hidden.longestMm > MOST_HIDDEN_RUN_MM) {
    const place = traced.edge.find(({ sure }) => !sure) ?? traced.edge[0];
    return {
      refused: 'glare',
      found: hidden.share,
      ...(place && { at: inPicture(camera, place) }),
    };
  }
  const { bodyWidthMm } = frame;
  if (bodyWidthMm !== undefined) {
    const off = bodyWidthMm / expected.newWidthMm - 1;
    if (Math.abs(off) > MOST_BODY_OFF) return { refused: 'wrong-size', found: off };
  }

  const bed = (BED_MM.top + BED_MM.bottom) / 2;
  const middleOfEdge = onEdge[Math.floor(onEdge.length / 2)];
  const widthMm = middleOfEdge?.widthMm ?? expected.newWidthMm;
  const at = traced.edge[Math.floor(traced.edge.length / 2)] ?? { xMm: 129, yMm: bed };
  const fitU = lengthUMm(camera, { xMm: at.xMm, yMm: at.yMm - lie.toEdge * widthMm }, at);
  const placeU = Math.max(0.004, frame.scatterMm);
  const sharedU = Math.hypot(
    widthMm * scale.u,
    fitU,
    frame.trailingOffMm / Math.sqrt(Math.max(1, traced.trailing.length / 20)),
    (widthMm * LIE_U_MM) / CAMERA_FAR_MM,
    BURR_U_MM,
    Math.SQRT2 * BLUR_SHARE * blurMm,
  );
  const smooth = smoothEdge(frame.places, expected.edgeLengthMm);
  const tip = seenTip(frame.places, smooth, placeU);
  const found = seenDamage(frame.places, smooth, {
    edgeLengthMm: expected.edgeLengthMm,
    roundedByMm: tip.roundedByMm,
    placeU,
    blurMm,
  });
  const onPicture = (fromTipMm: number): PicturePoint => {
    const nearest = frame.places.reduce((best, place) =>
      Math.abs(place.fromTipMm - fromTipMm) < Math.abs(best.fromTipMm - fromTipMm) ? place : best,
    );
    return inPicture(camera, nearest.mat);
  };
  progress(1);
  return {
    end: expected.end,
    widthsMm: everyHalfMm(frame.places),
    placeU,
    sharedU,
    ...(bodyWidthMm !== undefined && { bodyWidthMm }),
    damage: found.map((each) => ({ ...each, at: onPicture(each.fromTipMm) })),
    tip,
    outline: frame.places
      .filter(({ fromTipMm }) => fromTipMm < expected.edgeLengthMm + OUTLINE_BEYOND_MM)
      .filter((_, i) => i % 4 === 0)
      .map(({ mat: place, sure }) => ({ ...inPicture(camera, place), sure })),
    quality: {
      matNumber,
      markersSeen: markers.length,
      pxPerMm: look.scale,
      misfitMm,
      blurMm,
      tiltDeg: look.tiltDeg,
      hidden: hidden.share,
    },
  };
}

/** Share of the edge with no place to be believed, and the longest stretch of it, mm. */
function hiddenOf(
  places: readonly ProfilePlace[],
  edgeLengthMm: number,
): { readonly share: number; readonly longestMm: number } {
  let longestMm = 0;
  let hiddenMm = 0;
  let lastSure = 1;
  for (const { fromTipMm, sure } of [...places, { fromTipMm: edgeLengthMm, sure: true }]) {
    if (!sure) continue;
    const gap = fromTipMm - lastSure;
    if (gap > 1) hiddenMm += gap;
    longestMm = Math.max(longestMm, gap);
    lastSure = fromTipMm;
  }
  return { share: hiddenMm / edgeLengthMm, longestMm };
}
