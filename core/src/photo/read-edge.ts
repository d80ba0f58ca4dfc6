import { median } from '../math/median.js';
import type { End } from '../blade/shape.js';
import { inPicture, lengthUMm } from './camera.js';
import { seenDamage, seenTip, smoothEdge, type SeenDamage, type SeenTip } from './features.js';
import { everyHalfMm } from './kept-edge.js';
import { BED_MM, lieOf, ONE_MAT_HOLDS_MM, type PrintScale } from './mat.js';
import type { PhotoRefused } from './photo-trouble.js';
import type { Picture, PicturePoint } from './picture.js';
import { framed, type ProfilePlace } from './profile.js';
import { lookOf, seeMat, swellingMm, worstMarker, type SeenMarker } from './seen-mat.js';
import { traceBlade } from './trace.js';

/** What is known of the blade before the picture is looked at. */
export interface EdgeExpected {
  readonly end: End;
  readonly hand: 'right' | 'left';
  readonly lengthMm: number;
  readonly newWidthMm: number;
  readonly edgeLengthMm: number;
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
const BLUR_SHARE = 0.03;

/**
 * Reads the edge of one end from a picture of it on the mat: the markers give the camera, light across the edge its
 * places on the mat, the trailing side and the tip the blade's own frame. Either the edge, with its doubt, or why the
 * picture is not used and where.
 *
 * u of a width: places' own scatter; and in common the print's scale, the camera's fit, the trailing line, how flat the
 * blade lies, a burr, the blur of both sides, and by how much this camera swells what is dark (JCGM 100:2008).
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
  const mat = seeMat(picture, seen, expected.end, scaleOf);
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
  const worst = worstMarker(mat);
  if (misfitMm > MOST_MISFIT_MM || worst.offMm > MOST_MARKER_OFF_MM) {
    return {
      refused: 'mat-not-flat',
      found: Math.max(misfitMm, worst.offMm),
      ...(worst.at && { at: worst.at }),
    };
  }

  if (expected.edgeLengthMm > ONE_MAT_HOLDS_MM && !camera.beside)
    return { refused: 'needs-two-mats', found: expected.edgeLengthMm };

  const lie = lieOf(expected.end, expected.hand);
  const traced = traceBlade(picture, camera, lie, mat.bed);
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
    2 * swellingMm(mat),
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
