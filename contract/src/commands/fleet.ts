import { UPKEEP, PLACES } from '@tally-stone/core/basics';
import { eachItsOwn, Entered, Id } from '../basics.js';
import {
  Condition,
  CutSign,
  DeckFigures,
  MakeSafe,
  MeterReason,
  SeenTips,
  StrikeHard,
  StrikeWhat,
  UpkeepFound,
  UpkeepKind,
} from '../fleet.js';
import { BladeLengthMm, BladeSpeedRpm, MeterHours, wholeBetween } from '../numbers.js';
import * as z from 'zod';
import '../zod.js';
import { ReadingPlace, envelope, name } from './base.js';

export const AddMower = z.object({
  ...envelope,
  type: z.literal('add-mower'),
  mowerId: Id,
  /** Its deck; a new id where the sender has no use for it. */
  deckId: Id.optional(),
  name,
  energy: z.enum(['petrol', 'diesel', 'battery']),
  site: z.string().trim().max(80),
  bladeSpeedRpm: BladeSpeedRpm,
  spindles: z
    .array(z.object({ spindleId: Id, position: z.string().trim().min(1).max(20) }))
    .min(1, { error: () => $localize`needs at least one spindle` })
    .max(11, { error: () => $localize`has more spindles than any deck` })
    .superRefine(
      eachItsOwn(
        'position',
        () => $localize`is the name of another spindle too: give each its own`,
      ),
    ),
  hoursH: MeterHours,
});

/** What was looked at on a mower while its blades were off. */
export const NoteUpkeep = z.object({
  ...envelope,
  type: z.literal('note-upkeep'),
  mowerId: Id,
  looked: z
    .array(
      z.object({
        upkeepId: Id,
        kind: UpkeepKind,
        found: UpkeepFound,
        note: z
          .string()
          .trim()
          .max(120, { error: () => $localize`is longer than 120 characters` })
          .optional(),
      }),
    )
    .min(1, { error: () => $localize`is empty: look at something first` })
    .max(UPKEEP.length, { error: () => $localize`are more than there are` })
    .superRefine(eachItsOwn('kind', () => $localize`is given twice`)),
});

export const RegisterBlades = z.object({
  ...envelope,
  type: z.literal('register-blades'),
  specId: Id,
  count: wholeBetween(1, 200, () => $localize`is more than can be stamped at once: 200 at most`),
  place: z.string().trim().max(40).default(PLACES.shelf),
  /** Used ones come in with their history unknown, and wait for the bench. */
  knownFrom: z.enum(['new', 'used']).default('new'),
});

/** First readings of blades that came in used: a sample of a heap, or each. */
export const FirstReadings = z.object({
  ...envelope,
  type: z.literal('first-readings'),
  readings: z
    .array(
      z.object({
        readingId: Id,
        bladeId: Id,
        place: ReadingPlace.omit({ phase: true }),
        entered: Entered,
      }),
    )
    .min(1, { error: () => $localize`are missing: measure at least one blade` })
    .max(2000, { error: () => $localize`are more than 2000 at once` }),
});

/** Used blades that were on a mower when the shop began its book. */
export const FoundOnMower = z.object({
  ...envelope,
  type: z.literal('found-on-mower'),
  deckId: Id,
  hoursH: MeterHours,
  blades: z
    .array(z.object({ fitId: Id, spindleId: Id, bladeId: Id }))
    .min(1, { error: () => $localize`are missing` })
    .max(11, { error: () => $localize`are more than any deck has spindles` }),
});

/**
 * A blade was trimmed at both ends, as its spec allows, and measured from the hole's centre to each tip. From now on it
 * is of a spec of the new length; the ids are used where no blade was trimmed to it before.
 */
export const TrimBlade = z.object({
  ...envelope,
  type: z.literal('trim-blade'),
  trimId: Id,
  bladeId: Id,
  specId: Id,
  specRevisionId: Id,
  toLengthMm: BladeLengthMm,
  halves: z.object({ A: Entered, B: Entered }),
});

/** A trimming that was recorded by mistake, before the blade was taken up again. */
export const TakeBackTrim = z.object({
  ...envelope,
  type: z.literal('take-back-trim'),
  trimId: Id,
});

export const FitBlade = z.object({
  ...envelope,
  type: z.literal('fit-blade'),
  fitId: Id,
  bladeId: Id,
  spindleId: Id,
  hoursH: MeterHours,
});

export const BringIn = z.object({
  ...envelope,
  type: z.literal('bring-in'),
  bladeId: Id,
  place: z
    .string()
    .trim()
    .min(1, { error: () => $localize`is empty: say where the blade lies` })
    .max(40),
  hoursH: MeterHours.optional(),
});

/** A deck as measured and as its mower's manual says; from now on. */
export const SetDeck = z.object({
  ...envelope,
  type: z.literal('set-deck'),
  deckId: Id,
  figures: DeckFigures,
});

/** What the hour meter shows; a reading below the last one needs its reason. */
export const ReadHours = z.object({
  ...envelope,
  type: z.literal('read-hours'),
  mowerId: Id,
  hoursH: MeterHours,
  because: MeterReason.optional(),
});

export const ReportStrike = z.object({
  ...envelope,
  type: z.literal('report-strike'),
  strikeId: Id,
  mowerId: Id,
  what: StrikeWhat,
  hard: StrikeHard,
  vibration: z.boolean(),
});

/** After a strike: blades, spindle and mount looked at. What is not sound keeps the mower out of use. */
export const ClearStrike = z.object({
  ...envelope,
  type: z.literal('clear-strike'),
  strikeId: Id,
  spindleSound: z.boolean(),
  mountSound: z.boolean(),
});

export const ReportCut = z.object({
  ...envelope,
  type: z.literal('report-cut'),
  reportId: Id,
  mowerId: Id,
  signs: z
    .array(CutSign)
    .min(1, { error: () => $localize`are missing: say what the grass shows` })
    .max(5),
});

/**
 * Cut tips looked at close, on a picture or under a glass: the proof of the edge that cut them. Of the set that is on,
 * at the hours the meter shows.
 */
export const LookAtGrass = z.object({
  ...envelope,
  type: z.literal('look-at-grass'),
  lookId: Id,
  mowerId: Id,
  seen: SeenTips,
  /** The picture, sent before it; empty where the tips were counted without one. */
  file: z.string().max(40),
  hoursH: MeterHours.optional(),
});

/** A look that was recorded by mistake. */
export const TakeBackLook = z.object({
  ...envelope,
  type: z.literal('take-back-look'),
  lookId: Id,
});

/** The whole set comes off: made safe, the meter read, bolt and mount looked at. */
export const PullSet = z.object({
  ...envelope,
  type: z.literal('pull-set'),
  deckId: Id,
  hoursH: MeterHours,
  place: z
    .string()
    .trim()
    .min(1, { error: () => $localize`is empty: say where the blades lie` })
    .max(40),
  madeSafe: z.array(MakeSafe).max(20),
  found: z
    .array(z.object({ spindleId: Id, bolt: Condition, mount: Condition }))
    .max(11, { error: () => $localize`are more than any deck has spindles` }),
});

/** A whole set goes on: every spindle its blade, wings to the deck, washers in order, bolts to torque. */
export const FitSet = z.object({
  ...envelope,
  type: z.literal('fit-set'),
  deckId: Id,
  hoursH: MeterHours,
  madeSafe: z.array(MakeSafe).max(20),
  blades: z
    .array(z.object({ fitId: Id, spindleId: Id, bladeId: Id }))
    .min(1, { error: () => $localize`are missing` })
    .max(11, { error: () => $localize`are more than any deck has spindles` }),
  wingsToDeck: z.boolean(),
  stackInOrder: z.boolean(),
  torqued: z.boolean(),
});
