import { Id, Instant, Outcome, StepKey } from '../basics.js';
import { HoursAssumption } from '../season.js';
import * as z from 'zod';
import '../zod.js';
import { BladeRow } from './blade.js';
import { PastCountView } from './life.js';

const Need = z.object({
  expected: z.number(),
  /** Not more than so many with 80 %. */
  enough: z.int(),
});

/** The open batch: set-ups in working order, the change-overs between, how far each blade is. */
export const BatchBlade = z.object({
  blade: BladeRow,
  /** The step to do next; nothing once it is signed off. */
  step: StepKey.optional(),
  outcome: Outcome.optional(),
  setName: z.string().optional(),
});
export type BatchBlade = z.infer<typeof BatchBlade>;

export const BatchView = z.object({
  batch: z
    .object({
      batchId: Id,
      madeAt: Instant,
      changeMinutes: z.number(),
      runs: z.array(
        z.object({
          bevelDeg: z.number(),
          hand: z.enum(['right', 'left']),
          table: z.enum(['flat', 'rounded']),
          changeMinutes: z.number(),
          blades: z.array(BatchBlade),
        }),
      ),
      /** Blades of one deck, judged together once all are signed off as ready. */
      sets: z.array(
        z.object({
          name: z.string(),
          codes: z.array(z.string()),
          ready: z.int(),
          spread: z
            .object({ lengthMm: z.number(), widthMm: z.number(), massG: z.number() })
            .optional(),
          over: z.array(z.enum(['lengthMm', 'widthMm', 'massG'])),
          oddCode: z.string().optional(),
        }),
      ),
    })
    .optional(),
});
export type BatchView = z.infer<typeof BatchView>;

/** Blades ground one after the other on one set-up, and the minutes to change over to it. */
const BenchRun = z.object({
  bevelDeg: z.number(),
  hand: z.enum(['right', 'left']),
  table: z.enum(['flat', 'rounded']),
  changeMinutes: z.number(),
  blades: z.array(BladeRow),
});

/** What the next bench day should grind, in set-up order with its minutes. */
export const ShiftView = z.object({
  /** The shop day; absent where the shop has no bench day ahead. */
  day: z.string().optional(),
  capacity: z.int(),
  /** Sets due now that are still on their mowers. */
  pull: z.array(z.object({ mowerId: Id, name: z.string(), bladeIds: z.array(Id) })),
  runs: z.array(BenchRun),
  /** Everything that waits or is in hand, in the order in which a batch of it would be worked. */
  heap: z.array(BenchRun),
  grindMinutes: z.number(),
  changeMinutes: z.number(),
  /** Blades waiting for which the day has no room. */
  left: z.int(),
});
export type ShiftView = z.infer<typeof ShiftView>;

/** When so many blades of a spec are gone, in months from the start of the first; 0 is now. */
const NextToGo = z.object({
  /** The chance that so many are gone within the year. */
  chance: z.number(),
  tenthAt: z.number().optional(),
  evenAt: z.number().optional(),
  nineTenthsAt: z.number().optional(),
  /** The blade that is likely the next. */
  code: z.string(),
  bladeId: Id,
});

/** So many months the next to go are told for. */
export const NEXT_TO_GO_MONTHS = 12;

/** What is used up in the coming months, under one assumption about how long sets stay on. */
export const AheadOutlook = z.object({
  total: z.array(Need),
  specs: z.array(
    z.object({
      specId: Id,
      name: z.string(),
      blades: z.int(),
      /** One of them, in the shop's money. */
      price: z.number(),
      need: z.array(Need),
      /** One after the other, those that are gone within a year with one chance in ten or more. */
      next: z.array(NextToGo),
      /** Mowing hours a blade of it is taken to run in each month. */
      hoursPerBlade: z.array(z.number()),
    }),
  ),
  setsBreaking: z.array(Need),
  /** The sets on the mowers now, and the chance that each is still whole at a month's end. */
  sets: z.array(
    z.object({
      deckId: Id,
      mowerName: z.string(),
      blades: z.int(),
      whole: z.array(z.number()),
      /** The month in which it is more likely broken than whole. */
      breaksIn: z.int().optional(),
    }),
  ),
  /** Hours a set stays on, on the mean of the blades in use. */
  changedAfterH: z.number(),
});
export type AheadOutlook = z.infer<typeof AheadOutlook>;

/** What wears out in the coming months: blades to buy by spec, sets that break. */
export const AheadView = z.object({
  /** Calendar months of the shop, `2026-11`, this one first. */
  months: z.array(z.string()),
  currency: z.string(),
  outlooks: z.record(HoursAssumption, AheadOutlook),
  damagePerThousandHours: z.number(),
  /** Since when hours are on record, where that is less than a year; `null` where none are. */
  recordSince: Instant.nullable().optional(),
  /** Forecasts of hours left from the shop's past. */
  past: PastCountView,
});
export type AheadView = z.infer<typeof AheadView>;
