import { BENCH_PHOTO_LIMITS, MOST_MATS, QUANTITIES } from '@tally-stone/core/basics';
import * as z from 'zod';
import './zod.js';
import { End, Id, Instant, Phase } from './basics.js';
import { between, wholeBetween } from './numbers.js';

export const MatNumber = wholeBetween(
  1,
  MOST_MATS,
  () => $localize`is not a mat number: they go up to ${MOST_MATS}`,
);

/** A printed photo mat whose bars somebody has measured. */
export const PhotoMatView = z.object({
  matNumber: MatNumber,
  /** True size over drawn size, across and down the sheet, and the standard uncertainty of each. */
  across: z.number(),
  down: z.number(),
  u: z.number(),
  measuredAt: Instant,
});
export type PhotoMatView = z.infer<typeof PhotoMatView>;

const { placesMost, uMostMm, placeULeastMm, sharedULeastMm } = BENCH_PHOTO_LIMITS;

/** An edge as it was read from a picture: widths every half millimetre from the tip inward, mm. */
export const PhotoEdge = z.object({
  matNumber: MatNumber,
  /** Nothing where a reflection or dirt hid the edge. */
  widthsMm: z
    .array(between(...QUANTITIES.width.possible, 'mm').nullable())
    .min(20, { error: () => $localize`are too few for an edge` })
    .max(placesMost, { error: () => $localize`are more than ${placesMost}` }),
  /** Standard uncertainty of one place for itself, and what all places share, mm. */
  placeU: between(placeULeastMm, uMostMm, 'mm'),
  sharedU: between(sharedULeastMm, uMostMm, 'mm'),
  bodyWidthMm: between(...QUANTITIES.width.possible, 'mm').optional(),
  /** Pixels a millimetre, misfit of the mat's corners and blur, mm. */
  pxPerMm: between(0, 1000),
  misfitMm: between(0, 10, 'mm'),
  blurMm: between(0, 10, 'mm'),
});
export type PhotoEdge = z.infer<typeof PhotoEdge>;

/** A photographed edge as the blade's story shows it. */
export const EdgeSeen = z.object({
  end: End,
  phase: Phase,
  at: Instant,
  widthsMm: z.array(z.number().nullable()),
});
export type EdgeSeen = z.infer<typeof EdgeSeen>;

/** How the simulated photo stand holds the camera: well, or as it goes wrong by hand. */
export const StandPose = z.enum([
  'well',
  'moved',
  'slanted',
  'glare',
  'printed-small',
  'other-end',
  'covered',
  'creased',
  'two-blades',
]);
export type StandPose = z.infer<typeof StandPose>;

/** What is asked of the simulated stand. */
export const StandQuery = z.object({
  cycle: Id,
  end: End,
  mat: z.coerce.number().pipe(MatNumber),
  pose: StandPose.default('well'),
});
export type StandAsked = z.output<typeof StandQuery>;
