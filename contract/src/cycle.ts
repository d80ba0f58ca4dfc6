import type {
  BalanceDevice as Device,
  DamageKind as Kind,
  EdgeHeld,
  End as BladeEnd,
  Finding,
  Hand,
  HeavyEnd as Heavy,
  JudgedRules,
  LearnedZones,
  Measured,
  NickChoice,
  PlanZone,
  Section,
  Severity,
  Wheel,
  ZoneKey,
} from '@tally-stone/core';
import type { BalancerView, GrinderView, Schools, ShopRules } from './shop.js';
import type { PhotoEdge, PhotoMatView } from './photo.js';
import type { SpecFigures } from './specs.js';
import type { FindingView } from './views/common.js';
import type { WitnessView } from './views/cycle.js';
import type {
  Disposal,
  Entered,
  LeaveOutReason,
  Outcome,
  Phase,
  Quantity,
  RetireReason,
} from './basics.js';

/**
 * The shapes of a cycle. It is the fold of its events, in the server's order: each accepted command of a cycle leaves
 * exactly one event, the command with what was read out of it (SI values, uncertainties). What is done with them
 * stands in the room `cycle`, for server and screens alike.
 */
export interface TakenReading {
  readonly readingId: string;
  readonly phase: Phase;
  readonly quantity: Quantity;
  readonly end?: BladeEnd | undefined;
  readonly stationKey?: string | undefined;
  /** mm from the hole centre, where the reading has a place along the blade. */
  readonly radiusMm?: number | undefined;
  /** SI: mm, g, degrees. */
  readonly value: number;
  readonly u: number;
  readonly resolution: number;
  readonly entered: Entered;
  readonly repeat: boolean;
  readonly source: 'typed' | 'instrument' | 'carried';
  readonly instrument?: string | undefined;
  readonly at: string;
  /** The photo it was read from. */
  readonly edgeId?: string | undefined;
  /** It took the place of one that it agrees with: read twice. Worked out by the fold. */
  readonly confirmed?: boolean | undefined;
  /** The cycle's revision it made: what came before what. Worked out by the fold. */
  readonly revision?: number | undefined;
  readonly burr?: OverBurr | undefined;
}

/** Read or hung over the burr of the grind: it is on still, or came off after. Worked out by the fold. */
export type OverBurr = 'on' | 'gone';

/** One end's edge as a photo on the mat shows it. */
export interface TakenEdge extends PhotoEdge {
  readonly edgeId: string;
  readonly file: string;
  readonly end: BladeEnd;
  readonly phase: Phase;
  readonly at: string;
  /** The cycle's revision it made. Worked out by the fold. */
  readonly revision?: number | undefined;
  readonly burr?: OverBurr | undefined;
}

export interface MarkedDamage {
  readonly damageId: string;
  readonly kind: Kind;
  readonly end: BladeEnd;
  readonly fromTipMm: number;
  readonly radiusMm: number;
  readonly depthMm: number;
  /** Along the edge, mm, where it was measured. */
  readonly lengthMm?: number | undefined;
  /** What it was read with; nothing where it was typed. */
  readonly instrument?: string | undefined;
}

export interface CountedPasses {
  readonly passId: string;
  readonly end: BladeEnd;
  readonly zone: ZoneKey;
  readonly count: number;
  /** The tool they were counted on: what was set up then. */
  readonly grinderId?: string | undefined;
  readonly abrasiveId?: string | undefined;
  /** The cycle's revision they made. Worked out by the fold. */
  readonly revision?: number | undefined;
}

export interface TakenRound {
  readonly roundId: string;
  readonly phase: Phase;
  readonly device: Device;
  readonly heavyEnd: Heavy;
  readonly unbalanceGmm: number;
  readonly u: number;
  /** Passes counted in this cycle when the round was read: more since means it no longer speaks. */
  readonly passesBefore: number;
  readonly burr?: OverBurr | undefined;
  readonly weightG?: number | undefined;
  readonly radiusMm?: number | undefined;
  /** Drop times it was read by, s, and those left out as outliers. */
  readonly dropsS?: readonly number[] | undefined;
  readonly outliersS?: readonly number[] | undefined;
  /** Only which end hangs low is known; the amount says nothing. */
  readonly endOnly?: boolean | undefined;
  readonly balancerId?: string | undefined;
  readonly byTilt?: boolean | undefined;
  /** Both readings of a half turn, signed, and what they were the mean of; the balancer's own offset is half their difference. */
  readonly halfTurn?:
    | {
        readonly of: string;
        readonly firstGmm: number;
        readonly turnedGmm: number;
        readonly offsetGmm: number;
      }
    | undefined;
  /** What the balancer cannot see below, g·mm. */
  readonly leastVisibleGmm?: number | undefined;
}

export interface AttachedPhoto {
  readonly photoId: string;
  readonly file: string;
  readonly damageId?: string | undefined;
}

export interface LeftOut {
  readonly phase: Phase;
  readonly quantity: Quantity;
  readonly end?: BladeEnd | undefined;
  readonly stationKey?: string | undefined;
  readonly reason: LeaveOutReason;
  /** The last reading of this place, taken over with a wider uncertainty; absent when there is none. */
  readonly carried?: TakenReading | undefined;
}

/** A grinder and what is on it. */
export interface ToolUsed {
  readonly grinderId: string;
  readonly abrasiveId: string;
}

/** The grinder a blade goes to. */
export interface SetUpAs extends ToolUsed {
  /** Why it went on without the day's pre-use check. */
  readonly withoutCheck?: string | undefined;
}

export type CycleEvent =
  | {
      readonly type: 'opened';
      readonly cycleId: string;
      readonly bladeId: string;
      readonly specRevisionId: string;
      readonly personId: string;
      readonly at: string;
    }
  | { readonly type: 'cleaned'; readonly done: boolean }
  | { readonly type: 'crack-judged'; readonly found: boolean; readonly where?: string | undefined }
  | { readonly type: 'reading-taken'; readonly reading: TakenReading }
  | { readonly type: 'reading-left-out'; readonly leftOut: LeftOut }
  | { readonly type: 'damage-marked'; readonly damage: MarkedDamage }
  | { readonly type: 'damage-erased'; readonly damageId: string }
  | { readonly type: 'photo-attached'; readonly photo: AttachedPhoto }
  | {
      readonly type: 'edge-read';
      readonly edge: TakenEdge;
      readonly readings: readonly TakenReading[];
    }
  | { readonly type: 'photo-removed'; readonly photoId: string }
  | {
      readonly type: 'passes-counted';
      /** Passes counted before there were zones went over the full edge. */
      readonly passes: Pick<CountedPasses, 'passId' | 'end' | 'count'> &
        Partial<Pick<CountedPasses, 'zone'>>;
    }
  | { readonly type: 'passes-undone'; readonly passId: string }
  | { readonly type: 'balance-read'; readonly round: Omit<TakenRound, 'passesBefore' | 'burr'> }
  | {
      readonly type: 'deburred';
      readonly done: boolean;
      /** It was off before anything was read or hung. */
      readonly alreadyOff?: boolean | undefined;
    }
  | {
      readonly type: 'set-up';
      readonly setUp: SetUpAs;
      /** Its mass between two tools, g. */
      readonly weighed?: Measured | undefined;
    }
  | { readonly type: 'finish-chosen'; readonly finishOn?: ToolUsed | undefined }
  | { readonly type: 'schools-chosen'; readonly schools: Partial<Schools> }
  | {
      readonly type: 'nick-chosen';
      readonly damageId: string;
      readonly choice: NickChoice | 'policy';
    }
  | { readonly type: 'full-look-asked'; readonly wanted: boolean }
  | { readonly type: 'light-tested'; readonly end: BladeEnd; readonly brightLine: boolean }
  | {
      readonly type: 'signed-off';
      readonly outcome: Outcome;
      readonly retireReason?: RetireReason | undefined;
      readonly disposal?: Disposal | undefined;
      readonly personId: string;
      readonly at: string;
    }
  | { readonly type: 'retirement-undone' };

export interface CycleState {
  readonly cycleId: string;
  readonly bladeId: string;
  readonly specRevisionId: string;
  readonly openedAt: string;
  readonly openedBy: string;
  /** Number of events after the opening. */
  readonly revision: number;
  readonly cleaned: boolean;
  readonly crack?: { readonly found: boolean; readonly where?: string | undefined } | undefined;
  readonly readings: readonly TakenReading[];
  readonly leftOut: readonly LeftOut[];
  readonly damage: readonly MarkedDamage[];
  readonly photos: readonly AttachedPhoto[];
  /** One of each end and phase. */
  readonly edges: readonly TakenEdge[];
  readonly passes: readonly CountedPasses[];
  readonly rounds: readonly TakenRound[];
  /** Passes counted when the burr was last taken off. */
  readonly deburredAfter?: number | undefined;
  readonly setUp?: SetUpAs | undefined;
  /** The tool it is finished on after the one it is set up on. */
  readonly finishOn?: ToolUsed | undefined;
  /** Its mass between two tools, g, and how many passes were counted by then. */
  readonly weighings?: readonly (Measured & { readonly passesBefore: number })[] | undefined;
  /** Where this blade differs from the shop's schools. */
  readonly schools: Partial<Schools>;
  readonly nickChoices: Readonly<Record<string, NickChoice>>;
  readonly fullLook: boolean;
  readonly lightTest: Readonly<Partial<Record<BladeEnd, boolean>>>;
  readonly signedOff?:
    | {
        readonly outcome: Outcome;
        readonly retireReason?: RetireReason | undefined;
        readonly disposal?: Disposal | undefined;
        readonly personId: string;
        readonly at: string;
      }
    | undefined;
}

/** A reading of an earlier cycle. */
export interface LastReading extends Measured {
  readonly at: string;
  readonly radiusMm: number | undefined;
  readonly resolution: number;
  /** Grinds that were signed off since it was read; none where that is not said. */
  readonly grindsSince?: number | undefined;
}

/** What is worked out of a cycle once, and kept: at its sign-off, and again by each correction. */
export interface CycleFigures {
  /** The verdict and its findings, without words; those of older cycles hold the words they were signed with. */
  readonly judgement: {
    readonly verdict: Severity;
    readonly findings: readonly (Finding | FindingView)[];
  };
  /** What each witness said was taken off, in figures; cycles signed before it was kept have none. */
  readonly witnesses?: Pick<WitnessView, 'said' | 'pairs' | 'agree'> | undefined;
  /** The wheel it was ground with; a belt or a file leaves none. */
  readonly wheel?: Wheel | undefined;
  readonly removedG: Measured | null;
  /** What each tool took, by its key, of a blade ground on several; only of those it was weighed between. */
  readonly removedByTool?: Readonly<Record<string, Measured>> | undefined;
  /** Whether another witness confirmed the scale, so that the tool may learn from it. */
  readonly teaches: boolean;
  readonly permissibleGmm: number | null;
}

/** What a tool takes, zone by zone, and where that knowledge comes from. */
export interface ToolRemoval {
  readonly learned: LearnedZones;
  readonly zones: readonly PlanZone[];
  readonly trailing: PlanZone;
  /** The inner half by itself and the whole edge upright; older versions of this app told neither. */
  readonly special?: readonly PlanZone[] | undefined;
  /** How well the count has foretold the scale over this tool's last grinds. */
  readonly agreement?: Agreement | undefined;
  /** How the technician's hand compares, where one was asked about. */
  readonly hand?: Hand | undefined;
}

export interface Agreement {
  readonly grinds: number;
  /** Mean of count − scale, g: above zero the count promises too much. */
  readonly biasG: number;
  readonly rmsG: number;
}

/** Everything that is known about a cycle besides its own events. Plain: it crosses the wire as it is. */
export interface CycleFacts {
  /** Its figures as they were signed. */
  readonly frozen?: CycleFigures | undefined;
  /** The blade; of a signed cycle its grinds are those before it. */
  readonly blade: {
    readonly id: string;
    readonly grinds: number;
    readonly knownFrom: 'new' | 'used';
    /** It was trimmed: what was read of its old length does not count. */
    readonly trimmed?: boolean | undefined;
  };
  /** Its spec with the limits that stand under the shop's school and every reading that is planned. */
  readonly spec: SpecFigures;
  /** The newest reading of each place in earlier cycles, by its history key: `width:A:tip`. */
  readonly last: Readonly<Record<string, LastReading>>;
  /** It was retired and taken back: everything is looked at anew. */
  readonly takenBack: boolean;
  /** The face each end was left with, where it is no single plane. */
  readonly faces: Readonly<Partial<Record<BladeEnd, Section>>>;
  readonly rules: JudgedRules;
  /** Only in the school that retires what no longer holds an edge. */
  readonly edgeHeld?: EdgeHeld | undefined;
  readonly shopRules: ShopRules;
  readonly grinders: readonly GrinderView[];
  readonly balancers: readonly BalancerView[];
  readonly mats: readonly PhotoMatView[];
  /** The newest photo of each end's edge in earlier cycles. */
  readonly lastEdges: Readonly<Partial<Record<BladeEnd, TakenEdge>>>;
  /** What tools take, by their tool key. */
  readonly removals: Readonly<Record<string, ToolRemoval>>;
  /** Cycles and days since everything was read. */
  readonly sinceFullLook: { readonly cycles: number; readonly days: number };
  /** Retired a moment ago and not yet carried off: the same person has taken up no other blade since. */
  readonly stillAtBench: boolean;
  /** Speed of the deck the blade is on or last came off; the spec's where it was never fitted. */
  readonly speedRpm: number;
}
