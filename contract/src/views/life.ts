import { DamageKind, End, Id, Instant, Outcome, RetireReason, Severity } from '../basics.js';
import { DueView } from '../fleet.js';
import { Counted } from '../shop.js';
import { SpecRevision } from '../specs.js';
import * as z from 'zod';
import '../zod.js';
import { EdgeSeen } from '../photo.js';
import { BladeRow } from './blade.js';
import { FindingView, PhotoView, Uncertain } from './common.js';
import { CycleView } from './cycle.js';

export const CycleSummary = z.object({
  cycleId: Id,
  openedAt: Instant,
  signedAt: Instant.optional(),
  signedBy: z.string().optional(),
  outcome: Outcome.optional(),
  retireReason: RetireReason.optional(),
  /** What was counted on each grinder, in the order they were taken up; none where it was not ground. */
  tools: z.array(
    z.object({
      /** Nothing where nobody said which. */
      name: z.string().optional(),
      counts: Counted,
      passes: z.object({ A: z.int(), B: z.int() }),
    }),
  ),
  /** By the scale, with what was corrected since; and as signed, where that was another figure. */
  removedG: Uncertain.optional(),
  removedSignedG: Uncertain.optional(),
  massAfterG: z.number().optional(),
  recessionMm: z.object({ A: z.number().optional(), B: z.number().optional() }),
  /** After the cycle, where it was read. */
  bevelDeg: z.object({ A: z.number().optional(), B: z.number().optional() }),
  unbalanceBeforeGmm: z.number().optional(),
  unbalanceAfterGmm: z.number().optional(),
  permissibleGmm: z.number().optional(),
  /** Width after the cycle (before it, where the blade was not ground), by `end:station`. */
  widthsMm: z.record(z.string(), z.number()),
  verdictWords: z.string(),
});
export type CycleSummary = z.infer<typeof CycleSummary>;

/** How forecasts of the shop's past came out: in their range, sooner, later, or still running inside it. */
export const PastCountView = z.object({
  held: z.int(),
  sooner: z.int(),
  later: z.int(),
  running: z.int(),
});

/** Grinds or hours to come: the middle and the 80 % range, and how such ranges of the shop's past came out. */
export const LifeSpanView = z.object({
  median: z.number(),
  low: z.number(),
  high: z.number(),
  past: PastCountView,
});
export type LifeSpanView = z.infer<typeof LifeSpanView>;

export const BladeView = z.object({
  blade: BladeRow,
  spec: SpecRevision,
  lengthMm: z.number(),
  widths: CycleView.shape.widths,
  cycles: z.array(CycleSummary),
  /** What is left above each limit by the last readings. */
  left: z.array(FindingView),
  fits: z.array(
    z.object({
      mowerName: z.string(),
      position: z.string(),
      from: Instant,
      to: Instant.optional(),
      hoursH: z.number().optional(),
    }),
  ),
  damage: CycleView.shape.damage,
  /** Every mark of its life, and whether it came back where an earlier one was. */
  marks: z.array(
    z.object({
      damageId: Id,
      kind: DamageKind,
      end: End,
      fromTipMm: z.number(),
      depthMm: z.number(),
      cycle: z.int(),
      returns: z.boolean(),
    }),
  ),
  /** Its last trimming, and whether that can still be taken back. */
  trimmed: z
    .object({ trimId: Id, fromMm: z.number(), toMm: z.number(), canTakeBack: z.boolean() })
    .optional(),
  /** Wing, length and mass after each cycle, by `wing:A`, `length`, `mass`. */
  series: z.record(z.string(), z.array(z.object({ cycle: z.int(), value: z.number() }))),
  /** Everything that happened to it, oldest first, in words. */
  timeline: z.array(
    z.object({
      at: Instant,
      kind: z.enum([
        'came',
        'fitted',
        'pulled',
        'ground',
        'looked-at',
        'retired',
        'held',
        'strike',
        'corrected',
        'trimmed',
      ]),
      words: z.string(),
      cycleId: Id.optional(),
    }),
  ),
  cost: z.object({
    currency: z.string(),
    blade: z.number(),
    bench: z.number(),
    abrasive: z.number(),
    total: z.number(),
    hours: z.number(),
    perHour: z.number().optional(),
  }),
  /** Of the set it is on with. */
  due: DueView.optional(),
  photos: z.array(PhotoView),
  /** Its edges by photo, oldest first. */
  edges: z.array(EdgeSeen),
  /** Median and 80 % interval until the first limit, and which it is. */
  forecast: z
    .object({
      grinds: LifeSpanView,
      hours: LifeSpanView,
      /** No blade of this spec has a history: what shops usually see, which promises nothing. */
      guess: z.boolean(),
      first: z.string(),
      firstWords: z.string(),
      /** Grinds until each place alone meets its limit, the middle, by the finding's id. */
      grindsAt: z.record(z.string(), z.number()),
    })
    .optional(),
  /** What is read of it at the bench now says already, before its cycle is signed off. */
  inHand: z.object({ cycleId: Id, verdict: Severity, words: z.string() }).optional(),
  /** Width's forecast fan at each limit's place, by `end:station`, per further grind. */
  fan: z.record(
    z.string(),
    z.array(
      z.object({ grinds: z.number(), low: z.number(), median: z.number(), high: z.number() }),
    ),
  ),
});
export type BladeView = z.infer<typeof BladeView>;
