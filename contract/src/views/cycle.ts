import {
  BalanceDevice,
  DamageKind,
  Disposal,
  End,
  Entered,
  HeavyEnd,
  Id,
  Instant,
  LeaveOutReason,
  Outcome,
  Phase,
  Quantity,
  RetireReason,
  StepKey,
  Zone,
} from '../basics.js';
import { CommandAnswer } from '../commands/command.js';
import type { CycleFacts, CycleState } from '../cycle.js';
import { Counted } from '../shop.js';
import { SpecRevision } from '../specs.js';
import { WITNESSES } from '@tally-stone/core/basics';
import * as z from 'zod';
import '../zod.js';
import { BladeRow } from './blade.js';
import { JudgementView, PhotoView, StationWidth, Uncertain } from './common.js';

export const ReadingView = z.object({
  readingId: Id,
  phase: Phase,
  quantity: Quantity,
  end: End.optional(),
  stationKey: z.string().optional(),
  radiusMm: z.number().optional(),
  value: z.number(),
  u: z.number(),
  resolution: z.number(),
  entered: Entered,
  repeat: z.boolean(),
  source: z.enum(['typed', 'instrument', 'carried']),
  instrument: z.string().optional(),
  at: Instant,
});

/** One reading field of the run: what to read, what stands there now, and what is doubtful about it. */
export const ReadingSlot = z.object({
  key: z.string(),
  phase: Phase,
  quantity: Quantity,
  end: End.optional(),
  stationKey: z.string().optional(),
  radiusMm: z.number().optional(),
  label: z.string(),
  unit: z.enum(['mm', 'g', 'deg']),
  when: z.enum(['routine', 'full-look']),
  needed: z.boolean(),
  /** Why it is worth taking now; absent where it is carried forward instead. */
  why: z.string().optional(),
  /** What stands for it where it is not worth taking. */
  standsIn: Uncertain.optional(),
  taken: ReadingView.optional(),
  repeats: z.int(),
  leftOut: LeaveOutReason.optional(),
  carried: Uncertain.extend({ at: Instant }).optional(),
  last: Uncertain.optional(),
  newValue: z.number().optional(),
  limit: z.number().optional(),
  limitSource: z.string().optional(),
  /** Why the reading is doubted, with the likely cause; sign-off waits for a new one. */
  question: z.string().optional(),
  /** What was probably meant, SI, where unit or decimal place slipped. */
  meant: z.number().optional(),
});
export type ReadingSlot = z.infer<typeof ReadingSlot>;

export const BalanceView = z.object({
  roundId: Id,
  phase: Phase,
  device: BalanceDevice,
  heavyEnd: HeavyEnd,
  unbalanceGmm: z.number(),
  expandedUncertaintyGmm: z.number(),
  permissibleGmm: z.number(),
  gradeMmPerS: z.number(),
  gradeSource: z.string(),
  correctionRadiusMm: z.number(),
  correctionG: z.number(),
  /** Standard uncertainty of the grams to take off. */
  correctionUG: z.number(),
  forceN: z.number(),
  speedRpm: z.number(),
  within: z.boolean(),
  tooCoarse: z.boolean(),
  /** Passes counted when it was hung: the reading is of the blade as it was then. */
  passesBefore: z.int(),
  /** Hung over the burr of the grind, and that is on still or came off after. */
  burr: z.enum(['on', 'gone']).optional(),
  dropsS: z.array(z.number()).optional(),
  outliersS: z.array(z.number()).optional(),
  /** Only the heavy end is known: the grams are the next step of a search, no measurement. */
  endOnly: z.boolean().optional(),
  /** Name of the shop's balancer it was read on. */
  balancer: z.string().optional(),
  /** The mean of two readings with the blade turned half way round between them, signed, g·mm. */
  halfTurn: z
    .object({ firstGmm: z.number(), turnedGmm: z.number(), offsetGmm: z.number() })
    .optional(),
  byTilt: z.boolean().optional(),
  /** What this balancer cannot see below, g·mm, where the reading is under it. */
  belowSightGmm: z.number().optional(),
  /** What it should be by the hanging before and the metal taken since, signed, where this one does not fit it. */
  expected: z.object({ unbalanceGmm: z.number(), expandedUncertaintyGmm: z.number() }).optional(),
});
export type BalanceView = z.infer<typeof BalanceView>;
const WitnessName = z.enum(WITNESSES);

export const WitnessView = z.object({
  said: z.object({
    scale: Uncertain.optional(),
    caliper: Uncertain.optional(),
    photo: Uncertain.optional(),
    passes: Uncertain.optional(),
  }),
  caliperAbstains: z.string().optional(),
  pairs: z.array(z.object({ a: WitnessName, b: WitnessName, en: z.number(), agree: z.boolean() })),
  agree: z.boolean(),
  repeat: z.object({ witness: WitnessName, sure: z.boolean(), cause: z.string() }).optional(),
});
export type WitnessView = z.infer<typeof WitnessView>;

export const StepView = z.object({
  key: StepKey,
  state: z.enum(['todo', 'done', 'attention']),
  words: z.string(),
});
export type StepView = z.infer<typeof StepView>;

export const SignOffView = z.object({
  /** What the readings say the blade should be signed off as. */
  proposed: Outcome,
  allowed: z.array(Outcome),
  /** What still stands in the way of "ready", and at which step it is put right. */
  blocks: z.array(z.object({ step: StepKey, words: z.string() })),
  retireReasons: z.array(RetireReason),
});
export type SignOffView = z.infer<typeof SignOffView>;

/** What a browser needs to go on with a cycle by itself: the fold of its events and all that is known besides. */
const CycleBench = z.custom<{ readonly state: CycleState; readonly facts: CycleFacts }>();

export const CycleView = z.object({
  cycleId: Id,
  revision: z.int(),
  blade: BladeRow,
  spec: SpecRevision,
  openedAt: Instant,
  openedBy: z.string(),
  cleaned: z.boolean(),
  crack: z.object({ found: z.boolean(), where: z.string().optional() }).optional(),
  slots: z.array(ReadingSlot),
  photos: z.array(PhotoView),
  damage: z.array(
    z.object({
      damageId: Id,
      kind: DamageKind,
      end: End,
      fromTipMm: z.number(),
      radiusMm: z.number(),
      depthMm: z.number(),
      lengthMm: z.number().optional(),
      instrument: z.string().optional(),
      /** Of its depth, once its end was ground: by a photo after, else by the counted passes. */
      left: Uncertain.extend({ by: z.enum(['photo', 'count']).optional() }).optional(),
    }),
  ),
  /** Marks of this blade's earlier cycles, for what comes back at the same place. */
  earlierDamage: z.array(
    z.object({
      damageId: Id,
      kind: DamageKind,
      end: End,
      fromTipMm: z.number(),
      depthMm: z.number(),
    }),
  ),
  passes: z.array(
    z.object({
      passId: Id,
      end: End,
      zone: Zone,
      count: z.int(),
      /** The tool they were made with; nothing where nobody said. */
      grinderId: Id.optional(),
      abrasiveId: Id.optional(),
    }),
  ),
  /** What is counted on the grinder in use: what a pass stands for. */
  counts: Counted,
  setUp: z
    .object({ grinderId: Id, abrasiveId: Id, withoutCheck: z.string().optional() })
    .optional(),
  /** The tool it is finished on after that one. */
  finishOn: z.object({ grinderId: Id, abrasiveId: Id }).optional(),
  /** Weighed since the last pass: nothing to weigh before the tool is changed. */
  weighedNow: z.boolean(),
  fullLook: z.boolean(),
  /** Ground and not deburred since. */
  burr: z.boolean(),
  /** Something was read or hung over that burr: it will be asked for again. */
  overBurr: z.boolean(),
  /** The bevel to grind, by this blade's own school. */
  bevelAimDeg: z.number(),
  rounds: z.array(BalanceView),
  lightTest: z.object({ A: z.boolean().optional(), B: z.boolean().optional() }),
  before: JudgementView,
  /** The blade as it stands now: after-readings where there are any, the rest as before. */
  now: JudgementView,
  lengthMm: z.number(),
  widths: z.object({ A: z.array(StationWidth), B: z.array(StationWidth) }),
  witnesses: WitnessView,
  bench: CycleBench.optional(),
  /** A signed cycle's figures worked out again with what was corrected since; beside the signed ones. */
  corrected: z
    .object({
      witnesses: WitnessView,
      now: JudgementView,
      widths: z.object({ A: z.array(StationWidth), B: z.array(StationWidth) }),
    })
    .optional(),
  /** How well the count has foretold the scale on this tool lately. */
  agreement: z
    .object({ tool: z.string(), grinds: z.int(), biasG: z.number(), rmsG: z.number() })
    .optional(),
  steps: z.array(StepView),
  nextStep: StepKey,
  signOff: SignOffView,
  signedOff: z
    .object({
      outcome: Outcome,
      retireReason: RetireReason.optional(),
      disposal: Disposal.optional(),
      personId: Id,
      at: Instant,
      /** Retired for a reason of the shop's own, and still at the bench. */
      undoable: z.boolean().optional(),
    })
    .optional(),
  corrections: z.array(
    z.object({
      correctionId: Id,
      what: z.enum(['reading', 'crack', 'taken-back']),
      /** Of a reading: its place, unit and both values. */
      label: z.string(),
      unit: z.enum(['mm', 'g', 'deg']).optional(),
      was: z.number().optional(),
      value: z.number().optional(),
      reason: z.string(),
      by: z.string(),
      second: z.string().optional(),
      at: Instant,
    }),
  ),
  /** A retired blade with a corrected reading: what still stands in the way of taking it back. */
  takeBack: z.object({ blocks: z.array(z.string()) }).optional(),
});
export type CycleView = z.infer<typeof CycleView>;

/** Who has a blade in hand. One screen works, others watch. */
export const LeaseAct = z.object({
  /** The screen: one name a browser tab. */
  holder: z.string().min(1).max(60),
  personId: Id,
  /** Id for the journal's entry when the blade is taken over. */
  takeOver: Id.optional(),
  letGo: z.boolean().optional(),
});
export type LeaseAct = z.infer<typeof LeaseAct>;

export const LeaseView = z.object({
  mine: z.boolean(),
  name: z.string(),
  personId: Id,
  since: Instant,
});
export type LeaseView = z.infer<typeof LeaseView>;

/** A signed-off (or open) cycle on the blade's page. */
/** The answer to an accepted command; one of a cycle carries its new view, so that nobody need ask for it. */
export const AcceptedCommand = CommandAnswer.extend({ view: CycleView.optional() });
export type AcceptedCommand = z.infer<typeof AcceptedCommand>;
