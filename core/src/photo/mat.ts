import { edgeSide } from '../blade/outline.js';
import type { End } from '../blade/shape.js';
import { between, BenchError } from '../errors.js';
import { MARKERS_A_MAT, MARKERS_A_ROW, MOST_MATS } from './limits.js';

/**
 * The photo mat: a printed sheet with square markers in two rows, above and below the bed a blade's end lies in.
 * Millimetres from the upper left corner of its upper left marker, x to the right, y down the sheet.
 */
export interface MatPoint {
  readonly xMm: number;
  readonly yMm: number;
}

export interface MatMarker {
  /** Its number in the published dictionary the mat is printed from. */
  readonly id: number;
  /** Clockwise from the upper left. */
  readonly corners: readonly [MatPoint, MatPoint, MatPoint, MatPoint];
}

/** Sheets the mat fits on, lying down, mm. */
export const MAT_PAPERS = {
  a4: { widthMm: 297, heightMm: 210 },
  letter: { widthMm: 279.4, heightMm: 215.9 },
} as const;
export type MatPaper = keyof typeof MAT_PAPERS;

/** The published dictionary of 250 square markers of 6 by 6 cells, any two of which differ in twelve or more. */
export const MARKER_DICTIONARY = 'ARUCO_MIP_36h12';
export const MARKER_MM = 18;
const MARKER_PITCH_MM = 40;
const LOWER_ROW_MM = 176;
/** What is printed, edge to edge; it fits on A4 and on Letter lying down. */
export const MAT_SIZE_MM = {
  width: (MARKERS_A_ROW - 1) * MARKER_PITCH_MM + MARKER_MM,
  height: LOWER_ROW_MM + MARKER_MM,
} as const;
/** Where the blade lies. */
export const BED_MM = { left: 4, right: 254, top: 27, bottom: 167 } as const;
/** Where the tip of each end comes to lie: end A to the left, end B to the right. */
export const TIP_MARK_MM = { A: 24, B: 234 } as const satisfies Record<End, number>;
/** The bars that tell the true size of the print, each from its middle to middle of its end lines. */
export const SCALE_BAR_MM = 140;
export const SCALE_BARS = {
  across: { from: { xMm: 59, yMm: 171 }, to: { xMm: 59 + SCALE_BAR_MM, yMm: 171 } },
  down: { from: { xMm: 251, yMm: 27 }, to: { xMm: 251, yMm: 27 + SCALE_BAR_MM } },
} as const;

/** An edge longer than this needs a second mat beside the first: the tip at its line, and some bar beyond the edge. */
export const ONE_MAT_HOLDS_MM = 210;

/**
 * The markers of a mat by its number, 1 to 17, so that a picture tells which mat it was taken on.
 *
 * Errors: `matNumber`.
 * @example matMarkers(2).length // 14
 */
export function matMarkers(matNumber: number): MatMarker[] {
  between('matNumber', matNumber, 1, MOST_MATS);
  return Array.from({ length: MARKERS_A_MAT }, (_, i) => {
    const left = (i % MARKERS_A_ROW) * MARKER_PITCH_MM;
    const top = i < MARKERS_A_ROW ? 0 : LOWER_ROW_MM;
    return {
      id: (matNumber - 1) * MARKERS_A_MAT + i,
      corners: [
        { xMm: left, yMm: top },
        { xMm: left + MARKER_MM, yMm: top },
        { xMm: left + MARKER_MM, yMm: top + MARKER_MM },
        { xMm: left, yMm: top + MARKER_MM },
      ],
    };
  });
}

/**
 * Which mat a marker belongs to; nothing where no mat has it.
 * @example matOfMarker(14) // 2
 */
export function matOfMarker(id: number): number | undefined {
  const matNumber = Math.floor(id / MARKERS_A_MAT) + 1;
  return Number.isInteger(id) && id >= 0 && matNumber <= MOST_MATS ? matNumber : undefined;
}

/** True size of a print over its drawn size, each way, and how sure both are. */
export interface PrintScale {
  readonly across: number;
  readonly down: number;
  /** Standard uncertainty of each. */
  readonly u: number;
}

/** A mat further off than this was printed "to fit": print it again. Common practice, no source. */
const MOST_OFF = 0.02;
/** Reading a printed line with a caliper: half the line's blur, mm. From memory. */
const LINE_READING_U_MM = 0.08;

/**
 * A print's scale from its two bars, measured once with the caliper (`caliperU` mm, standard). u of each is that of
 * two line ends over the bar.
 *
 * Errors: `acrossMm`, `downMm` when more than 2 % off: then the sheet was not printed at its own size.
 * @example printScale({ acrossMm: 139.72, downMm: 140.14, caliperU: 0.03 }).across // 0.998
 */
export function printScale(measured: {
  readonly acrossMm: number;
  readonly downMm: number;
  readonly caliperU: number;
}): PrintScale {
  const scale = (field: 'acrossMm' | 'downMm'): number => {
    const share = measured[field] / SCALE_BAR_MM;
    if (!(Math.abs(share - 1) <= MOST_OFF)) {
      throw new BenchError(
        field,
        $localize`must be within 2 % of ${SCALE_BAR_MM} mm: print the mat again at 100 %, not to fit the page`,
        measured[field],
      );
    }
    return share;
  };
  return {
    across: scale('acrossMm'),
    down: scale('downMm'),
    u: Math.hypot(measured.caliperU, LINE_READING_U_MM) / SCALE_BAR_MM,
  };
}

/** How an end lies in the bed: which way is inward from the tip, and which way from the trailing side to the edge. */
export interface Lie {
  readonly inward: 1 | -1;
  readonly toEdge: 1 | -1;
}

/**
 * End A lies with its tip to the left, end B to the right, top side up: as on the bench drawing.
 * @example lieOf('A', 'right') // { inward: 1, toEdge: 1 }
 */
export const lieOf = (end: End, hand: 'right' | 'left'): Lie => ({
  inward: end === 'A' ? 1 : -1,
  toEdge: edgeSide(end, hand),
});
