import { BenchError, finite, notNegative, positive } from '../errors.js';

/** Paper a sheet of labels comes on, mm. */
export const PAPER = {
  A4: { widthMm: 210, heightMm: 297 },
  Letter: { widthMm: 215.9, heightMm: 279.4 },
} as const;

/** Where the labels of a sheet lie: the first one's corner, and from one to the next. */
export interface LabelSheet {
  readonly paper: keyof typeof PAPER;
  readonly columns: number;
  readonly rows: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly leftMm: number;
  readonly topMm: number;
  /** From the left side of one label to that of the next, mm. */
  readonly acrossMm: number;
  readonly downMm: number;
}

/** Sheets as they are sold, by their dimensions (common practice, no source). */
export const LABEL_SHEETS = {
  '3 × 8, 70 × 37 mm, A4': {
    paper: 'A4',
    columns: 3,
    rows: 8,
    widthMm: 70,
    heightMm: 37,
    leftMm: 0,
    topMm: 0.5,
    acrossMm: 70,
    downMm: 37,
  },
  '2 × 7, 99.1 × 38.1 mm, A4': {
    paper: 'A4',
    columns: 2,
    rows: 7,
    widthMm: 99.1,
    heightMm: 38.1,
    leftMm: 4.65,
    topMm: 15.15,
    acrossMm: 101.6,
    downMm: 38.1,
  },
  '5 × 13, 38.1 × 21.2 mm, A4': {
    paper: 'A4',
    columns: 5,
    rows: 13,
    widthMm: 38.1,
    heightMm: 21.2,
    leftMm: 4.75,
    topMm: 10.7,
    acrossMm: 40.6,
    downMm: 21.2,
  },
  '3 × 10, 66.7 × 25.4 mm, Letter': {
    paper: 'Letter',
    columns: 3,
    rows: 10,
    widthMm: 66.7,
    heightMm: 25.4,
    leftMm: 4.8,
    topMm: 12.7,
    acrossMm: 69.85,
    downMm: 25.4,
  },
} as const satisfies Readonly<Record<string, LabelSheet>>;
export type LabelSheetName = keyof typeof LABEL_SHEETS;
/** More labels than this are printed in parts. */
export const MOST_LABELS = 1000;

/**
 * Where label number `index` lies, counted along the rows from 0, mm from the upper left corner of its page.
 *
 * Errors: by name for a sheet whose labels overlap or leave the paper, for an index that is not a whole number from 0.
 * @example labelPlace(LABEL_SHEETS['3 × 8, 70 × 37 mm, A4'], 25) // { page: 1, xMm: 70, yMm: 0.5 }
 */
export function labelPlace(
  sheet: LabelSheet,
  index: number,
): { readonly page: number; readonly xMm: number; readonly yMm: number } {
  const { columns, rows, leftMm, topMm, acrossMm, downMm } = checked(sheet);
  if (!Number.isInteger(notNegative('index', index)))
    throw new BenchError('index', $localize`must be a whole number`, index);
  const onPage = index % (columns * rows);
  return {
    page: Math.floor(index / (columns * rows)),
    xMm: leftMm + (onPage % columns) * acrossMm,
    yMm: topMm + Math.floor(onPage / columns) * downMm,
  };
}

/** Printers feed a tenth of a millimetre askew; sheets are drawn to that. */
const TOLERANCE_MM = 0.1;

function checked(sheet: LabelSheet): LabelSheet {
  const { columns, rows, widthMm, heightMm, leftMm, topMm, acrossMm, downMm, paper } = sheet;
  for (const [name, count] of [
    ['columns', columns],
    ['rows', rows],
  ] as const)
    if (!Number.isInteger(positive(name, count)))
      throw new BenchError(name, $localize`must be a whole number`, count);
  if (columns > 1 && finite('acrossMm', acrossMm) < positive('widthMm', widthMm) - TOLERANCE_MM)
    throw new BenchError('acrossMm', $localize`makes labels overlap`, acrossMm);
  if (rows > 1 && finite('downMm', downMm) < positive('heightMm', heightMm) - TOLERANCE_MM)
    throw new BenchError('downMm', $localize`makes labels overlap`, downMm);
  const { widthMm: pageMm, heightMm: tallMm } = PAPER[paper];
  if (notNegative('leftMm', leftMm) + (columns - 1) * acrossMm + widthMm > pageMm + TOLERANCE_MM)
    throw new BenchError('columns', $localize`do not fit on the paper`, columns);
  if (notNegative('topMm', topMm) + (rows - 1) * downMm + heightMm > tallMm + TOLERANCE_MM)
    throw new BenchError('rows', $localize`do not fit on the paper`, rows);
  return sheet;
}
