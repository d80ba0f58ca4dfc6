import { z } from './zod.js';
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
  Zone,
} from './basics.js';
import {
  Condition,
  CutSign,
  DeckFigures,
  MakeSafe,
  MeterReason,
  StrikeHard,
  StrikeWhat,
} from './fleet.js';
import { CalibrationDrops, CheckQuantity, GrinderFigures, Schools, ShopRules } from './shop.js';
import { LimitReason, LimitShape, SpecFigures } from './specs.js';
import { BladeSpeedRpm, CountedAtOnce, DropSeconds, MeterHours, wholeBetween } from './numbers.js';

const envelope = { id: Id, personId: Id, occurredAt: Instant };
/** Commands of one cycle carry the revision they were decided on; an older one is refused with 409. */
const ofCycle = {
  ...envelope,
  cycleId: Id,
  expectedRevision: wholeBetween(0, 1_000_000),
};

/** Where a reading belongs: a quantity, and the end and station where it can differ by them. */
export const ReadingPlace = z.object({
  phase: Phase,
  quantity: Quantity,
  end: End.optional(),
  stationKey: z.string().max(20).optional(),
});
export type ReadingPlace = z.infer<typeof ReadingPlace>;

const name = z
  .string()
  .trim()
  .min(1, 'is empty: give it a name')
  .max(60, 'is too long, 60 letters at most');

const knownZone = (zone: string): boolean => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
};

export const NameShop = z.object({
  ...envelope,
  type: z.literal('name-shop'),
  name,
  timeZone: z.string().refine(knownZone, 'is not a time zone: write it like Europe/London'),
});
export const AddPerson = z.object({
  ...envelope,
  type: z.literal('add-person'),
  newPersonId: Id,
  name,
  role: z.enum(['technician', 'manager', 'crew']),
});
const pin = z.string().regex(/^\d{4,8}$/, 'must be four to eight digits');
/**
 * A person's PIN, for acts that need a second person. One that stands already is changed with the old one, or
 * by a manager with theirs.
 */
export const SetPin = z.object({
  ...envelope,
  type: z.literal('set-pin'),
  ofPersonId: Id,
  pin,
  byPin: z.string().max(8).optional(),
});
export const AddSpec = z.object({
  ...envelope,
  type: z.literal('add-spec'),
  specId: Id,
  specRevisionId: Id,
  figures: SpecFigures,
});
/** Other limits of a spec, from now on, with the reason. */
export const ChangeLimits = z.object({
  ...envelope,
  type: z.literal('change-limits'),
  specId: Id,
  specRevisionId: Id,
  limits: z.array(LimitShape).max(40),
  reason: LimitReason,
});
/** Other sizes of a spec, from now on, with the reason; its limits come with it. */
export const ChangeSpec = z.object({
  ...envelope,
  type: z.literal('change-spec'),
  specId: Id,
  specRevisionId: Id,
  figures: SpecFigures,
  reason: LimitReason,
});
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
    .min(1, 'needs at least one spindle')
    .max(11, 'has more spindles than any deck'),
  hoursH: MeterHours,
});
export const RegisterBlades = z.object({
  ...envelope,
  type: z.literal('register-blades'),
  specId: Id,
  count: wholeBetween(1, 200, 'is more than can be stamped at once: 200 at most'),
  place: z.string().trim().max(40).default('New on the shelf'),
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
    .min(1, 'are missing: measure at least one blade')
    .max(2000, 'are more than 2000 at once'),
});
/** Used blades that were on a mower when the shop began its book. */
export const FoundOnMower = z.object({
  ...envelope,
  type: z.literal('found-on-mower'),
  deckId: Id,
  hoursH: MeterHours,
  blades: z
    .array(z.object({ fitId: Id, spindleId: Id, bladeId: Id }))
    .min(1, 'are missing')
    .max(11, 'are more than any deck has spindles'),
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
  place: z.string().trim().min(1, 'is empty: say where the blade lies').max(40),
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
  signs: z.array(CutSign).min(1, 'are missing: say what the grass shows').max(5),
});
/** The whole set comes off: made safe, the meter read, bolt and mount looked at. */
export const PullSet = z.object({
  ...envelope,
  type: z.literal('pull-set'),
  deckId: Id,
  hoursH: MeterHours,
  place: z.string().trim().min(1, 'is empty: say where the blades lie').max(40),
  madeSafe: z.array(MakeSafe).max(20),
  found: z
    .array(z.object({ spindleId: Id, bolt: Condition, mount: Condition }))
    .max(11, 'are more than any deck has spindles'),
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
    .min(1, 'are missing')
    .max(11, 'are more than any deck has spindles'),
  wingsToDeck: z.boolean(),
  stackInOrder: z.boolean(),
  torqued: z.boolean(),
});
export const OpenCycle = z.object({
  ...envelope,
  type: z.literal('open-cycle'),
  cycleId: Id,
  bladeId: Id,
});
export const SetRules = z.object({ ...envelope, type: z.literal('set-rules'), rules: ShopRules });
export const AddGrinder = z.object({
  ...envelope,
  type: z.literal('add-grinder'),
  grinderId: Id,
  abrasiveId: Id,
  figures: GrinderFigures,
});
/** A new wheel or belt, a dressed or worn wheel's new diameter, another table: what is on the machine now. */
export const ChangeGrinder = z.object({
  ...envelope,
  type: z.literal('change-grinder'),
  grinderId: Id,
  /** The same id keeps what was learned of the abrasive; a new wheel or belt has a new one. */
  abrasiveId: Id,
  figures: GrinderFigures,
});
export const PRE_USE_CHECKS = [
  'guards',
  'gaps',
  'ring-test',
  'abrasive-whole',
  'speed',
  'clamped',
  'fuel-and-flame',
  'extinguisher',
  'protection',
] as const;
export const CheckGrinder = z.object({
  ...envelope,
  type: z.literal('check-grinder'),
  checkId: Id,
  grinderId: Id,
  checked: z.array(z.enum(PRE_USE_CHECKS)),
});
export const AddBalancer = z.object({
  ...envelope,
  type: z.literal('add-balancer'),
  balancerId: Id,
  name,
  device: BalanceDevice,
});
/** The check blade timed with a light and a heavy known weight at each end, and turned half way round. */
export const CalibrateBalancer = z.object({
  ...envelope,
  type: z.literal('calibrate-balancer'),
  calibrationId: Id,
  balancerId: Id,
  blade: z.object({ mass: Entered, length: Entered, width: Entered }),
  light: Entered,
  heavy: Entered,
  radius: Entered,
  drops: z.array(CalibrationDrops).min(1, 'are missing').max(8, 'are more than eight groups'),
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
  drops: z.array(DropSeconds).max(12, 'are more than twelve').optional(),
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
export const Deburr = z.object({ ...ofCycle, type: z.literal('deburr'), done: z.boolean() });
/** Which grinder the blade goes to. Going on without the day's check asks for a reason. */
export const SetUp = z.object({
  ...ofCycle,
  type: z.literal('set-up'),
  grinderId: Id,
  withoutCheck: z
    .enum(['checked-on-paper', 'somebody-else-checked', 'not-used-for-grinding'])
    .optional(),
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
  reason: z.enum(['misread', 'wrong-place', 'wrong-unit', 'wrong-blade', 'instrument-off']),
});

/** What was called a crack was none: a new record, and the blade stays retired until it is taken back. */
export const CorrectCrack = z.object({
  ...envelope,
  type: z.literal('correct-crack'),
  correctionId: Id,
  cycleId: Id,
  reason: z.enum(['scratch', 'paint-or-rust', 'wrong-blade']),
});
/** Blades to be worked through as one batch; a batch that was open is closed by it. */
export const MakeBatch = z.object({
  ...envelope,
  type: z.literal('make-batch'),
  batchId: Id,
  bladeIds: z
    .array(Id)
    .min(1, 'is empty: pick at least one blade')
    .max(60, 'are more than sixty: make two batches'),
});
export const CloseBatch = z.object({ ...envelope, type: z.literal('close-batch'), batchId: Id });
/** A morning's reading of the check blade on one instrument. */
export const ReadCheckBlade = z.object({
  ...envelope,
  type: z.literal('read-check-blade'),
  checkId: Id,
  quantity: CheckQuantity,
  entered: Entered,
  /** The instrument it came from; without one it was typed. */
  instrument: z.string().max(40).optional(),
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
  secondPin: z.string().max(8),
  whole: z.boolean(),
});

export const CycleCommand = z.discriminatedUnion('type', [
  Clean,
  JudgeCrack,
  TakeReading,
  LeaveOutReading,
  MarkDamage,
  EraseDamage,
  AttachPhoto,
  RemovePhoto,
  CountPasses,
  UndoPasses,
  BalanceRound,
  Deburr,
  SetUp,
  ChooseSchools,
  ChooseNick,
  AskFullLook,
  LightTest,
  SignOff,
  UndoRetirement,
]);
export type CycleCommand = z.infer<typeof CycleCommand>;

export const ShopCommand = z.discriminatedUnion('type', [
  NameShop,
  AddPerson,
  SetPin,
  AddSpec,
  ChangeLimits,
  ChangeSpec,
  AddMower,
  RegisterBlades,
  FirstReadings,
  FoundOnMower,
  FitBlade,
  BringIn,
  SetDeck,
  ReadHours,
  ReportStrike,
  ClearStrike,
  ReportCut,
  PullSet,
  FitSet,
  OpenCycle,
  SetRules,
  AddGrinder,
  ChangeGrinder,
  CheckGrinder,
  AddBalancer,
  CalibrateBalancer,
  CorrectReading,
  CorrectCrack,
  TakeBack,
  TakeOver,
  ReadCheckBlade,
  MakeBatch,
  CloseBatch,
]);
export type ShopCommand = z.infer<typeof ShopCommand>;

export const Command = z.discriminatedUnion('type', [
  ...ShopCommand.options,
  ...CycleCommand.options,
]);
export type Command = z.infer<typeof Command>;
export type CommandInput = z.input<typeof Command>;

/** What a client writes for one cycle; the envelope is added by whoever sends it. */
type WithoutEnvelope<T> = T extends unknown
  ? Omit<T, 'id' | 'personId' | 'occurredAt' | 'cycleId' | 'expectedRevision'>
  : never;
export type CycleAct = WithoutEnvelope<z.input<typeof CycleCommand>>;

type WithoutShopEnvelope<T> = T extends unknown ? Omit<T, 'id' | 'personId' | 'occurredAt'> : never;
export type ShopAct = WithoutShopEnvelope<z.input<typeof ShopCommand>>;

/** The answer to an accepted command; the same again when the command is repeated. */
export const CommandAnswer = z.object({
  commandId: Id,
  /** The server's order of all writes. */
  sequence: z.int(),
  cycleId: Id.optional(),
  revision: z.int().optional(),
  blades: z.array(z.object({ bladeId: Id, code: z.string() })).optional(),
});
export type CommandAnswer = z.infer<typeof CommandAnswer>;
