import { inPicture, type Camera } from './camera.js';
import { crossingIn, lightAlong } from './crossing.js';
import { BED_MM, type Lie, type MatPoint } from './mat.js';
import { lightAt, type Picture } from './picture.js';

/** A place on the steel's outline, and whether it can be believed. */
export interface OutlinePlace extends MatPoint {
  /** False where light on the steel, or dirt, hides where it ends. */
  readonly sure: boolean;
}

/** One side of the blade, column by column of the mat. */
export interface Traced {
  readonly edge: readonly OutlinePlace[];
  readonly trailing: readonly OutlinePlace[];
  /** The tip's end face, row by row, on its trailing half: the other half wears. */
  readonly tip: readonly OutlinePlace[];
}

export type TraceTrouble =
  | { readonly reason: 'no-blade' }
  | { readonly reason: 'two-blades'; readonly at: MatPoint }
  | { readonly reason: 'outside-bed'; readonly at: MatPoint }
  | { readonly reason: 'lies-as-other-end' }
  | { readonly reason: 'tip-not-seen' };

/** Columns every so far, and how finely each is looked through, mm. */
const COARSE_MM = 2;
const COLUMN_MM = 0.25;
const ROUGH_STEP_MM = 0.3;
const FINE_STEP_MM = 0.05;
/** What reaches out of the bed over so many columns is a blade, or something else that should not lie there. */
const WIDE_COLUMNS = 3;
/** Columns to either side whose steel tells where to begin looking. */
const AROUND = 8;
/** How far to either side of the edge light is compared, mm. */
const REACH_MM = 1.5;
/** Bare mat beside the edge, for comparison, mm from it. */
const NEAR_MM = 3;
const FAR_MM = 6;
/** Steel is darker than this share of the bare mat beside it. */
const STEEL_BELOW = 0.75;
/** Light this much over the bare mat's is a reflection, not paper. */
const GLARE_ABOVE = 1.12;
/** What is darker over less than this is a line or dirt, not a blade, mm. */
const LEAST_STEEL_MM = 8;
const PERSISTS_MM = 0.9;

/** Light along a column of the mat at even steps, from the bed's top to its bottom. */
function column(picture: Picture, camera: Camera, xMm: number): number[] {
  const count = Math.round((BED_MM.bottom - BED_MM.top) / ROUGH_STEP_MM);
  return Array.from({ length: count + 1 }, (_, i) => {
    const { xPx, yPx } = inPicture(camera, { xMm, yMm: BED_MM.top + i * ROUGH_STEP_MM });
    return lightAt(picture, xPx, yPx);
  });
}

interface Run {
  readonly from: number;
  readonly to: number;
}

/** Light of the bare mat down a column, by the index of its rough steps. */
type PaperAt = (index: number) => number;

interface Column {
  readonly xMm: number;
  readonly paperAt: PaperAt;
  readonly runs: readonly Run[];
  readonly touches: boolean;
}

/** Stretches darker than paper, each at least as long as a blade is wide; gaps that a reflection makes are closed. */
function darkRuns(values: readonly number[], paperAt: PaperAt): Run[] {
  const runs: { from: number; to: number }[] = [];
  values.forEach((value, i) => {
    if (!(value < STEEL_BELOW * paperAt(i))) return;
    const last = runs.at(-1);
    if (last && i - last.to <= 1) last.to = i;
    else runs.push({ from: i, to: i });
  });
  const solid = runs.filter(({ from, to }) => (to - from) * ROUGH_STEP_MM >= PERSISTS_MM);
  const joined: { from: number; to: number }[] = [];
  for (const run of solid) {
    const last = joined.at(-1);
    const between = last ? values.slice(last.to + 1, run.from) : [];
    // Paper between two dark stretches parts them; a reflection does not have the light of paper.
    const paperBetween = between.filter(
      (each, i) => Math.abs(each / paperAt((last?.to ?? 0) + 1 + i) - 1) < 0.12,
    ).length;
    if (last && paperBetween * ROUGH_STEP_MM < 6) last.to = run.to;
    else joined.push({ ...run });
  }
  return joined.filter(({ from, to }) => (to - from) * ROUGH_STEP_MM >= LEAST_STEEL_MM);
}

/** Bands at the top and the bottom of the bed that are bare when the blade lies as it should, mm. */
const BAND_MM = 6;
/** A band darker than this share of the other has something on it. */
const COVERED_BELOW = 0.45;

/** Light of the paper down a column: straight between what its two ends have. */
function paperDown(values: readonly number[]): PaperAt {
  const band = Math.round(BAND_MM / ROUGH_STEP_MM);
  const lightOf = (part: readonly number[]): number =>
    [...part].sort((a, b) => a - b)[Math.floor(0.7 * part.length)] ?? NaN;
  let [top, bottom] = [lightOf(values.slice(0, band)), lightOf(values.slice(-band))];
  if (top < COVERED_BELOW * bottom) top = bottom;
  if (bottom < COVERED_BELOW * top) bottom = top;
  return (index) => top + ((bottom - top) * index) / (values.length - 1);
}

function lookAt(picture: Picture, camera: Camera, xMm: number): Column {
  const values = column(picture, camera, xMm);
  const paperAt = paperDown(values);
  const runs = darkRuns(values, paperAt);
  const touches = runs.some(({ from, to }) => from <= 2 || to >= values.length - 3);
  return { xMm, paperAt, runs, touches };
}

const yOf = (index: number): number => BED_MM.top + index * ROUGH_STEP_MM;

/** The edge near a rough place: looked for across it, from the paper into the steel. */
function fine(
  picture: Picture,
  camera: Camera,
  rough: MatPoint,
  into: { readonly x: number; readonly y: number },
): OutlinePlace | undefined {
  const at = (off: number): MatPoint => ({
    xMm: rough.xMm + off * into.x,
    yMm: rough.yMm + off * into.y,
  });
  const steps = Math.round((2 * REACH_MM) / FINE_STEP_MM);
  const crossing = crossingIn(
    lightAlong(picture, inPicture(camera, at(-REACH_MM)), inPicture(camera, at(REACH_MM)), steps),
  );
  if (!crossing || crossing.after > crossing.before) return undefined;
  const place = at(crossing.at * FINE_STEP_MM - REACH_MM);
  const beside = lightAlong(
    picture,
    inPicture(camera, at(-FAR_MM)),
    inPicture(camera, at(-NEAR_MM)),
    8,
  ).sort((a, b) => a - b);
  const paper = beside[4] ?? NaN;
  const sure =
    crossing.before < GLARE_ABOVE * paper &&
    crossing.before > paper / GLARE_ABOVE &&
    crossing.after < STEEL_BELOW * paper;
  return { ...place, sure };
}

/** Where steel begins in a column, and whether something darker than paper was passed before it. */
interface FirstSteel {
  readonly yMm: number;
  readonly passedDark: boolean;
}

const LOOK_MM = 0.1;
/** Paper is never so much darker than its surround over three looks; a thin line of steel before a reflection is. */
const DARKER_THAN_PAPER = 0.87;
/** Blur makes the edge itself darker this far ahead of it, mm. */
const AHEAD_MM = 0.8;

/**
 * The first place where a column, gone through from one side, stays darker than paper. Where a reflection lies on the
 * edge, only a thin dark line is left in front of it and the steel seems to begin behind: that line is told.
 */
function firstSteel(
  picture: Picture,
  camera: Camera,
  xMm: number,
  fromMm: number,
  toMm: number,
  paperAt: PaperAt,
): FirstSteel | undefined {
  const sign = Math.sign(toMm - fromMm);
  const needed = Math.ceil(PERSISTS_MM / 2 / LOOK_MM);
  let dark = 0;
  let darkLineMm = Infinity;
  let [before, last] = [1, 1];
  for (let off = 0; off <= Math.abs(toMm - fromMm); off += LOOK_MM) {
    const yMm = fromMm + sign * off;
    const { xPx, yPx } = inPicture(camera, { xMm, yMm });
    const share = lightAt(picture, xPx, yPx) / paperAt((yMm - BED_MM.top) / ROUGH_STEP_MM);
    if ((before + last + share) / 3 < DARKER_THAN_PAPER && darkLineMm === Infinity)
      darkLineMm = off;
    [before, last] = [last, share];
    dark = share < STEEL_BELOW ? dark + 1 : 0;
    if (dark >= needed) {
      const beginsMm = off - (needed - 1) * LOOK_MM;
      return { yMm: fromMm + sign * beginsMm, passedDark: darkLineMm < beginsMm - AHEAD_MM };
    }
  }
  return undefined;
}

/**
 * The outline of the blade that lies in the bed, on the mat in millimetres: its cutting edge, its trailing side and
 * its tip, each where light passes the middle between paper and steel.
 */
export function traceBlade(
  picture: Picture,
  camera: Camera,
  lie: Lie,
  bed: { readonly left: number; readonly right: number } = BED_MM,
): Traced | { readonly trouble: TraceTrouble } {
  const columns: Column[] = [];
  for (let xMm = bed.left; xMm <= bed.right; xMm += COARSE_MM)
    columns.push(lookAt(picture, camera, xMm));
  if (lie.inward < 0) columns.reverse();
  const steel = columns.filter(({ runs }) => runs.length > 0);
  const [firstColumn] = steel;
  if (!firstColumn || steel.length * COARSE_MM < 40) return { trouble: { reason: 'no-blade' } };
  const double = columns.filter(({ runs }) => runs.length > 1);
  if (double.length * COARSE_MM > 12) {
    const [at] = double;
    return {
      trouble: {
        reason: 'two-blades',
        at: { xMm: at?.xMm ?? 0, yMm: yOf(at?.runs[1]?.from ?? 0) },
      },
    };
  }
  // Over a single column it is the joint of two sheets, or a line: no blade is so narrow.
  const outside = columns
    .slice(0, 1 - WIDE_COLUMNS)
    .find((_, i) => columns.slice(i, i + WIDE_COLUMNS).every(({ touches }) => touches));
  if (outside) {
    return {
      trouble: {
        reason: 'outside-bed',
        at: { xMm: outside.xMm, yMm: yOf(outside.runs[0]?.from ?? 0) },
      },
    };
  }
  const bareBefore = Math.abs(firstColumn.xMm - (columns[0]?.xMm ?? 0));
  const bareAfter = Math.abs((columns.at(-1)?.xMm ?? 0) - (steel.at(-1)?.xMm ?? 0));
  if (bareBefore < 2 * COARSE_MM) {
    return {
      trouble: { reason: bareAfter > 3 * COARSE_MM ? 'lies-as-other-end' : 'tip-not-seen' },
    };
  }

  const edge: OutlinePlace[] = [];
  const trailing: OutlinePlace[] = [];
  const inBed = steel.filter(({ touches }) => !touches).slice(0, -1);
  for (let i = 0; i + 1 < inBed.length; i++) {
    const here = inBed[i];
    const next = inBed[i + 1];
    const run = here?.runs[0];
    const nextRun = next?.runs[0];
    if (!here || !next || !run || !nextRun) continue;
    if (Math.abs(next.xMm - here.xMm) > COARSE_MM) continue;
    // From well outside: a reflection may hide where a single column's steel begins.
    const around = inBed.slice(Math.max(0, i - AROUND), i + AROUND + 2).flatMap(({ runs }) => runs);
    const top = Math.max(BED_MM.top, yOf(Math.min(...around.map((each) => each.from))) - 4);
    const bottom = Math.min(BED_MM.bottom, yOf(Math.max(...around.map((each) => each.to))) + 4);
    const within = (top + bottom) / 2;
    // The tip lies somewhere before the first column that shows steel.
    for (let off = i === 0 ? -COARSE_MM : 0; off < COARSE_MM; off += COLUMN_MM) {
      const xMm = here.xMm + lie.inward * off;
      for (const [into, from] of [
        [1, top],
        [-1, bottom],
      ] as const) {
        const side = into === lie.toEdge ? trailing : edge;
        const steelAt = firstSteel(picture, camera, xMm, from, within, here.paperAt);
        const place =
          steelAt && fine(picture, camera, { xMm, yMm: steelAt.yMm }, { x: 0, y: into });
        if (place) side.push({ ...place, sure: place.sure && !steelAt.passedDark });
      }
    }
  }

  // Where the blade is whole: a little way in from the tip.
  const sample = steel[Math.min(steel.length - 1, 8)];
  const run = sample?.runs[0];
  const tip: OutlinePlace[] = [];
  if (sample && run) {
    const [from, to] = [yOf(run.from), yOf(run.to)];
    const trailingY = lie.toEdge > 0 ? from : to;
    const width = to - from;
    for (let share = 0.12; share <= 0.5; share += 0.5 / width) {
      const yMm = trailingY + lie.toEdge * share * width;
      const outsideMm = firstColumn.xMm - lie.inward * 6;
      let rough: number | undefined;
      for (let off = 0; off < 20; off += 0.1) {
        const xMm = outsideMm + lie.inward * off;
        const { xPx, yPx } = inPicture(camera, { xMm, yMm });
        if (
          lightAt(picture, xPx, yPx) <
          STEEL_BELOW * firstColumn.paperAt((yMm - BED_MM.top) / ROUGH_STEP_MM)
        ) {
          rough = xMm;
          break;
        }
      }
      const place =
        rough === undefined
          ? undefined
          : fine(picture, camera, { xMm: rough, yMm }, { x: lie.inward, y: 0 });
      if (place) tip.push(place);
    }
  }
  if (tip.length < 8) return { trouble: { reason: 'tip-not-seen' } };
  return { edge, trailing, tip };
}
