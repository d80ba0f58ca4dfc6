import { CommandAnswer } from './commands.js';
import type { CycleFacts, CycleState } from './cycle.js';
import { z } from './zod.js';
import {
  BalanceDevice,
  BladeState,
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
  Severity,
  StepKey,
  Zone,
} from './basics.js';
import type { PlanAnswer, PlanSituation } from '@tally-stone/core';
import { DueView, FleetMower, SetOffer } from './fleet.js';
import { BalancerView, CheckView, Counted, GrinderView, Schools, ShopRules } from './shop.js';
import { SpecRevision } from './specs.js';

/** What the server answers. Lengths mm, masses g, unbalance g·mm, angles degrees, speeds rpm. */
const Uncertain = z.object({ value: z.number(), u: z.number() });

export const Person = z.object({
  personId: Id,
  name: z.string(),
  role: z.string(),
  hasPin: z.boolean(),
});
/** A photo of a blade; its picture is under the photos' path by its file name. */
export const PhotoView = z.object({ photoId: Id, file: z.string(), damageId: Id.optional() });
export type PhotoView = z.infer<typeof PhotoView>;
export type Person = z.infer<typeof Person>;

export const SpindleView = z.object({
  spindleId: Id,
  position: z.string(),
  bladeId: Id.optional(),
  code: z.string().optional(),
});
export const MowerView = z.object({
  mowerId: Id,
  name: z.string(),
  energy: z.string(),
  site: z.string(),
  bladeSpeedRpm: z.number(),
  hoursH: z.number(),
  spindles: z.array(SpindleView),
});
export type MowerView = z.infer<typeof MowerView>;

export const BladeRow = z.object({
  bladeId: Id,
  code: z.string(),
  specName: z.string(),
  lengthMm: z.number(),
  widthMm: z.number(),
  state: BladeState,
  place: z.string(),
  mowerName: z.string().optional(),
  position: z.string().optional(),
  grinds: z.int(),
  cycleId: Id.optional(),
  waitingSince: Instant.optional(),
  /** Came into the book used: its grinds before are not known. */
  usedSince: Instant.optional(),
});
export type BladeRow = z.infer<typeof BladeRow>;

export const BenchView = z.object({
  atBench: z.array(BladeRow),
  waiting: z.array(BladeRow),
  onHold: z.array(BladeRow),
  counts: z.object({
    ready: z.int(),
    onMower: z.int(),
    retired: z.int(),
    all: z.int(),
  }),
});
export type BenchView = z.infer<typeof BenchView>;

export const BladeList = z.object({ blades: z.array(BladeRow), total: z.int() });
export type BladeList = z.infer<typeof BladeList>;

/** The register: every blade, found by any word its row shows, a page at a time. */
export const RegisterQuery = z.object({
  text: z.string().max(80, 'is too long to look for').default(''),
  state: BladeState.optional(),
  specId: Id.optional(),
  sort: z.enum(['code', 'spec', 'state', 'place', 'grinds', 'waiting']).default('code'),
  down: z.stringbool().default(false),
  offset: z.coerce.number().int().min(0, 'must not be negative').default(0),
  limit: z.coerce
    .number()
    .int()
    .min(1, 'must be at least 1')
    .max(500, 'is more than 500 rows at once')
    .default(100),
});
export type RegisterQuery = z.infer<typeof RegisterQuery>;
export const RegisterView = z.object({
  blades: z.array(BladeRow),
  /** All that were found, not only this page's. */
  total: z.int(),
  states: z.partialRecord(BladeState, z.int()),
});
export type RegisterView = z.infer<typeof RegisterView>;

export const BladeQuery = z.object({
  mowerId: Id.optional(),
  place: z.string().trim().max(40).optional(),
  lengthMm: z.coerce.number().positive('must be above zero').max(2000).optional(),
  state: BladeState.optional(),
});
export type BladeQuery = z.infer<typeof BladeQuery>;

export const FindingView = z.object({
  id: z.string(),
  severity: Severity,
  about: z.string().optional(),
  words: z.string(),
  end: End.optional(),
  stationKey: z.string().optional(),
  value: z.number().optional(),
  limit: z.number().optional(),
  unit: z.string().optional(),
  margin: z.number().optional(),
  expandedUncertainty: z.number().optional(),
  source: z.string().optional(),
  carried: z.boolean().optional(),
});
export type FindingView = z.infer<typeof FindingView>;
export const JudgementView = z.object({ verdict: Severity, findings: z.array(FindingView) });
export type JudgementView = z.infer<typeof JudgementView>;

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
});
export type ReadingSlot = z.infer<typeof ReadingSlot>;

/** Width of a blade at a station; worked out, where nobody read it this time. */
export const StationWidth = z.object({
  radiusMm: z.number(),
  widthMm: z.number(),
  worked: z.boolean().optional(),
});

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
});
export type BalanceView = z.infer<typeof BalanceView>;

const WitnessName = z.enum(['scale', 'caliper', 'passes']);
export const WitnessView = z.object({
  said: z.object({
    scale: Uncertain.optional(),
    caliper: Uncertain.optional(),
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
  passes: z.array(z.object({ passId: Id, end: End, zone: Zone, count: z.int() })),
  /** What is counted on the grinder in use: what a pass stands for. */
  counts: Counted,
  setUp: z
    .object({ grinderId: Id, abrasiveId: Id, withoutCheck: z.string().optional() })
    .optional(),
  fullLook: z.boolean(),
  /** Ground and not deburred since. */
  burr: z.boolean(),
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
  corrected: z.object({ witnesses: WitnessView, now: JudgementView }).optional(),
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

const isObject = (value: unknown): boolean => typeof value === 'object' && value !== null;

/**
 * What to grind. The server sends the blade's situation with its own answer, so that the screen can ask its
 * worker the same question under another school without going back.
 */
export const PlanView = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('not-yet'), words: z.string() }),
  z.object({
    kind: z.literal('asked'),
    situation: z.custom<PlanSituation>(isObject),
    answer: z.custom<PlanAnswer>(isObject),
    schools: Schools,
    nickChoices: z.record(z.string(), z.enum(['clear', 'leave'])),
    /** Passes of each zone counted before the balance reading the plan starts from: these come on top. */
    behind: z.object({ A: z.record(z.string(), z.int()), B: z.record(z.string(), z.int()) }),
    gramsPerPass: z.object({ value: z.number(), u: z.number(), grinds: z.number() }),
    /** How this technician's hand compares with the tool's usual one, where that is known. */
    hand: z.object({ factor: z.number(), grinds: z.number() }).optional(),
    /** On which tool it was learned. */
    tool: z.string(),
  }),
]);
export type PlanView = z.infer<typeof PlanView>;
export type AskedPlan = Extract<PlanView, { kind: 'asked' }>;

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

/** What the next bench day should grind, in set-up order with its minutes. */
export const ShiftView = z.object({
  /** The shop day; absent where the shop has no bench day ahead. */
  day: z.string().optional(),
  capacity: z.int(),
  /** Sets due now that are still on their mowers. */
  pull: z.array(z.object({ mowerId: Id, name: z.string(), bladeIds: z.array(Id) })),
  runs: z.array(
    z.object({
      bevelDeg: z.number(),
      hand: z.enum(['right', 'left']),
      table: z.enum(['flat', 'rounded']),
      changeMinutes: z.number(),
      blades: z.array(BladeRow),
    }),
  ),
  grindMinutes: z.number(),
  changeMinutes: z.number(),
  /** Blades waiting for which the day has no room. */
  left: z.int(),
});
export type ShiftView = z.infer<typeof ShiftView>;

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

/** What wears out in the coming months: blades to buy by spec, sets that break. */
export const AheadView = z.object({
  /** Calendar months of the shop, `2026-11`, this one first. */
  months: z.array(z.string()),
  total: z.array(Need),
  currency: z.string(),
  specs: z.array(
    z.object({
      specId: Id,
      name: z.string(),
      blades: z.int(),
      /** One of them, in the shop's money. */
      price: z.number(),
      need: z.array(Need),
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
  damagePerThousandHours: z.number(),
});
export type AheadView = z.infer<typeof AheadView>;

/** Where every blade is. Retired ones are the last few. */
export const RackView = z.object({
  waiting: z.array(BladeRow),
  atBench: z.array(BladeRow),
  ready: z.array(BladeRow),
  hold: z.array(BladeRow),
  retired: z.array(BladeRow),
  /** The most alike of the ready blades for each measured deck, soonest due first; none is promised twice. */
  sets: z.array(SetOffer.extend({ mowerId: Id, mowerName: z.string() })),
  mowers: z.array(FleetMower),
});
export type RackView = z.infer<typeof RackView>;

/** A signed-off (or open) cycle on the blade's page. */
/** The answer to an accepted command; one of a cycle carries its new view, so that nobody need ask for it. */
export const AcceptedCommand = CommandAnswer.extend({ view: CycleView.optional() });
export type AcceptedCommand = z.infer<typeof AcceptedCommand>;

export const CycleSummary = z.object({
  cycleId: Id,
  openedAt: Instant,
  signedAt: Instant.optional(),
  signedBy: z.string().optional(),
  outcome: Outcome.optional(),
  retireReason: RetireReason.optional(),
  passes: z.object({ A: z.int(), B: z.int() }),
  counts: Counted,
  /** By the scale, with what was corrected since; and as signed, where that was another figure. */
  removedG: Uncertain.optional(),
  removedSignedG: Uncertain.optional(),
  massAfterG: z.number().optional(),
  recessionMm: z.object({ A: z.number().optional(), B: z.number().optional() }),
  unbalanceBeforeGmm: z.number().optional(),
  unbalanceAfterGmm: z.number().optional(),
  permissibleGmm: z.number().optional(),
  /** Width after the cycle (before it, where the blade was not ground), by `end:station`. */
  widthsMm: z.record(z.string(), z.number()),
  verdictWords: z.string(),
});
export type CycleSummary = z.infer<typeof CycleSummary>;

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
  /** Median and 80 % interval until the first limit, and which it is. */
  forecast: z
    .object({
      grinds: z.object({ median: z.number(), low: z.number(), high: z.number() }),
      hours: z.object({ median: z.number(), low: z.number(), high: z.number() }).optional(),
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

export const CodeAnswer = z.object({ blade: BladeRow });
export type CodeAnswer = z.infer<typeof CodeAnswer>;

export const Health = z.object({
  status: z.literal('ok'),
  shop: z.string(),
  timeZone: z.string(),
  blades: z.int(),
});
export type Health = z.infer<typeof Health>;

/** The shop's own page: schools and machines. */
export const ShopView = z.object({
  name: z.string(),
  timeZone: z.string(),
  rules: ShopRules,
  grinders: z.array(GrinderView),
  balancers: z.array(BalancerView),
  checks: z.array(CheckView),
});
export type ShopView = z.infer<typeof ShopView>;

/** One line of the event stream: what changed, so that screens ask again. */
export const StreamEvent = z.object({
  sequence: z.int(),
  what: z.string(),
  subjectKind: z.enum(['cycle', 'blade', 'mower', 'spec', 'person', 'shop', 'grinder']),
  subjectId: z.string(),
});
export type StreamEvent = z.infer<typeof StreamEvent>;
