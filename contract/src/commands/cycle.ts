import { CRACK_CORRECTED_FOR, READING_CORRECTED_FOR } from '@tally-stone/core/basics';
import {
  BalanceDevice,
  DamageKind,
  Disposal,
  End,
  Entered,
  HeavyEnd,
  Id,
  LeaveOutReason,
  Outcome,
  Phase,
  RetireReason,
  Zone,
  TypedSecret,
} from '../basics.js';
import { CountedAtOnce, DropSeconds } from '../numbers.js';
import { PhotoEdge } from '../photo.js';
import { Schools } from '../shop.js';
import * as z from 'zod';
import '../zod.js';
import { ReadingPlace, envelope, ofCycle } from './base.js';

export const OpenCycle = z.object({
  ...envelope,
  type: z.literal('open-cycle'),
  cycleId: Id,
  bladeId: Id,
});

export const Clean = z.object({ ...ofCycle, type: z.literal('clean'), done: z.boolean() });

export const JudgeCrack = z.object({
  ...ofCycle,
  type: z.literal('judge-crack'),
  found: z.boolean(),
  where: z.enum(['near-tip', 'wing-root', 'centre-hole', 'elsewhere']).optional(),
});

export const TakeReading = z.object({
  ...ofCycle,
  type: z.literal('take-reading'),
  readingId: Id,
  place: ReadingPlace,
  entered: Entered,
  /** The instrument it came from; without one it was typed. */
  instrument: z.string().max(40).optional(),
  /** True when the same place is read once more to settle a doubt: then the mean of both counts. */
  repeat: z.boolean().default(false),
});

export const LeaveOutReading = z.object({
  ...ofCycle,
  type: z.literal('leave-out-reading'),
  place: ReadingPlace,
  reason: LeaveOutReason,
});

export const MarkDamage = z.object({
  ...ofCycle,
  type: z.literal('mark-damage'),
  damageId: Id,
  kind: DamageKind,
  end: End,
  fromTip: Entered,
  depth: Entered,
  /** Along the edge; the usual length where nobody measured it. */
  length: Entered.optional(),
  /** What depth or length was read with last; nothing where both were typed. */
  instrument: z.string().max(40).optional(),
});

export const EraseDamage = z.object({ ...ofCycle, type: z.literal('erase-damage'), damageId: Id });

/** A photo that was sent before, put on this blade; on one mark of it where that is named. */
export const AttachPhoto = z.object({
  ...ofCycle,
  type: z.literal('attach-photo'),
  photoId: Id,
  file: z.string().max(60),
  damageId: Id.optional(),
});

/**
 * The edge of one end as a photo on the mat shows it. The photo was sent before; the stations named get their widths from
 * it, the others keep what they have.
 */
export const ReadEdge = z.object({
  ...ofCycle,
  type: z.literal('read-edge'),
  edgeId: Id,
  file: z.string().max(60),
  end: End,
  phase: Phase,
  edge: PhotoEdge,
  readings: z
    .array(z.object({ readingId: Id, stationKey: z.string().max(20) }))
    .max(12, { error: () => $localize`are more than twelve` }),
});

export const RemovePhoto = z.object({ ...ofCycle, type: z.literal('remove-photo'), photoId: Id });

export const CountPasses = z.object({
  ...ofCycle,
  type: z.literal('count-passes'),
  passId: Id,
  end: End,
  zone: Zone.default('full'),
  count: CountedAtOnce,
});

export const UndoPasses = z.object({ ...ofCycle, type: z.literal('undo-passes'), passId: Id });

export const BalanceRound = z.object({
  ...ofCycle,
  type: z.literal('balance-round'),
  roundId: Id,
  phase: Phase,
  device: BalanceDevice,
  heavyEnd: HeavyEnd,
  weight: Entered.optional(),
  radius: Entered.optional(),
  /** Drop times from level to the mark instead of a weight, s; the blade may be turned half way between. */
  drops: z
    .array(DropSeconds)
    .max(12, { error: () => $localize`are more than twelve` })
    .optional(),
  markDeg: z.union([z.literal(30), z.literal(90)]).default(90),
  /** Hung for the heavy end alone: nobody measured how much. */
  endOnly: z.boolean().optional(),
  /** On a point: how much lower the heavy tip stands, alone and with the weight on the heavy end. */
  tilt: z
    .object({ alone: Entered, withWeight: Entered, belowPoint: Entered.optional() })
    .optional(),
  /** Which of the shop's balancers; its calibration counts. */
  balancerId: Id.optional(),
  /** The round just before, since when the blade was turned half way round on its adapter. */
  halfTurnOf: Id.optional(),
});

/** One or two flat passes on the underside, and wiped: a burr is neither measured nor balanced. */
export const Deburr = z.object({
  ...ofCycle,
  type: z.literal('deburr'),
  done: z.boolean(),
  /** It was off before anything was read or hung, and only said after. */
  alreadyOff: z.boolean().optional(),
});

/** Which grinder the blade goes to. Going on without the day's check asks for a reason. */
export const SetUp = z.object({
  ...ofCycle,
  type: z.literal('set-up'),
  grinderId: Id,
  withoutCheck: z
    .enum(['checked-on-paper', 'somebody-else-checked', 'not-used-for-grinding'])
    .optional(),
  /** Weighed between two tools, so that each learns from what it took itself. */
  mass: Entered.optional(),
  instrument: z.string().max(40).optional(),
});

/** The tool a blade is finished on after the one it is set up on; without one, none. */
export const FinishOn = z.object({
  ...ofCycle,
  type: z.literal('finish-on'),
  grinderId: Id.optional(),
});

/** This blade's own schools, where they differ from the shop's. */
export const ChooseSchools = z.object({
  ...ofCycle,
  type: z.literal('choose-schools'),
  schools: Schools.partial(),
});

/** One nick by itself: clear it, leave it, or as the policy says. */
export const ChooseNick = z.object({
  ...ofCycle,
  type: z.literal('choose-nick'),
  damageId: Id,
  choice: z.enum(['clear', 'leave', 'policy']),
});

export const AskFullLook = z.object({
  ...ofCycle,
  type: z.literal('ask-full-look'),
  wanted: z.boolean(),
});

export const LightTest = z.object({
  ...ofCycle,
  type: z.literal('light-test'),
  end: End,
  brightLine: z.boolean(),
});

export const SignOff = z.object({
  ...ofCycle,
  type: z.literal('sign-off'),
  outcome: Outcome,
  retireReason: RetireReason.optional(),
  disposal: Disposal.optional(),
});

/**
 * Takes back a retirement that no reading asked for, as long as the blade has not left the bench: the cycle goes on
 * where it stood before the sign-off. Both stay in the record.
 */
export const UndoRetirement = z.object({ ...ofCycle, type: z.literal('undo-retirement') });

/**
 * A correction of a signed-off cycle: a new record that points at the reading it corrects. What was signed
 * stays; both are shown. A worse verdict puts the blade on hold.
 */
export const CorrectReading = z.object({
  ...envelope,
  type: z.literal('correct-reading'),
  correctionId: Id,
  cycleId: Id,
  readingId: Id,
  entered: Entered,
  reason: z.enum(READING_CORRECTED_FOR),
});

/** What was called a crack was none: a new record, and the blade stays retired until it is taken back. */
export const CorrectCrack = z.object({
  ...envelope,
  type: z.literal('correct-crack'),
  correctionId: Id,
  cycleId: Id,
  reason: z.enum(CRACK_CORRECTED_FOR),
});

/** Somebody takes a blade over that is open at another screen. */
export const TakeOver = z.object({
  ...envelope,
  type: z.literal('take-over'),
  cycleId: Id,
  fromPersonId: Id.optional(),
});

/**
 * Takes a retired blade back after the reading that retired it was corrected: a second person has looked, the
 * blade is whole, and it is inspected anew from the start.
 */
export const TakeBack = z.object({
  ...envelope,
  type: z.literal('take-back'),
  correctionId: Id,
  cycleId: Id,
  secondPersonId: Id,
  secondPin: TypedSecret,
  whole: z.boolean(),
});
