import type {
  BalanceDevice as Device,
  DamageKind as Kind,
  End as BladeEnd,
  HeavyEnd as Heavy,
  NickChoice,
  ZoneKey,
} from '@tally-stone/core';
import type { Schools } from './shop.js';
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
 * A cycle is the fold of its events, in the server's order. Each accepted command of a cycle leaves exactly
 * one event: the command with what the server read out of it (SI values, uncertainties). The same fold
 * serves the server's rules and the screens.
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

/** The grinder a blade goes to, and what is on it. */
export interface SetUpAs {
  readonly grinderId: string;
  readonly abrasiveId: string;
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
  | { readonly type: 'photo-removed'; readonly photoId: string }
  | {
      readonly type: 'passes-counted';
      /** Passes counted before there were zones went over the full edge. */
      readonly passes: Omit<CountedPasses, 'zone'> & Partial<Pick<CountedPasses, 'zone'>>;
    }
  | { readonly type: 'passes-undone'; readonly passId: string }
  | { readonly type: 'balance-read'; readonly round: Omit<TakenRound, 'passesBefore'> }
  | { readonly type: 'deburred'; readonly done: boolean }
  | { readonly type: 'set-up'; readonly setUp: SetUpAs }
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
  readonly passes: readonly CountedPasses[];
  readonly rounds: readonly TakenRound[];
  /** Passes counted when the burr was last taken off. */
  readonly deburredAfter?: number | undefined;
  readonly setUp?: SetUpAs | undefined;
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

interface Placed {
  readonly phase: Phase;
  readonly quantity: Quantity;
  readonly end?: BladeEnd | undefined;
  readonly stationKey?: string | undefined;
}

/** One name for a place a reading can have, for example `before:width:A:tip`. */
export const placeKey = ({ phase, quantity, end, stationKey }: Placed): string =>
  [phase, sameQuestion(quantity), end ?? '-', stationKey ?? '-'].join(':');

/** The bevel can be read by gauge or from its face's width: two ways to fill one place. */
const sameQuestion = (quantity: Quantity): Quantity => (quantity === 'face' ? 'bevel' : quantity);

/** Two readings of one place, compared without making its name: asked thousands of times for one cycle. */
const samePlace = (a: Placed, b: Placed): boolean =>
  a.phase === b.phase &&
  sameQuestion(a.quantity) === sameQuestion(b.quantity) &&
  (a.end ?? '-') === (b.end ?? '-') &&
  (a.stationKey ?? '-') === (b.stationKey ?? '-');

const elsewhere =
  (place: Placed) =>
  (other: Placed): boolean =>
    !samePlace(other, place);

function afterReading(state: CycleState, reading: TakenReading): Partial<CycleState> {
  const leftOut = state.leftOut.filter(elsewhere(reading));
  const kept = reading.repeat ? state.readings : state.readings.filter(elsewhere(reading));
  return { readings: [...kept, reading], leftOut };
}

function change(state: CycleState, event: CycleEvent): Partial<CycleState> {
  switch (event.type) {
    case 'opened':
      return {};
    case 'cleaned':
      return { cleaned: event.done };
    case 'crack-judged':
      return { crack: { found: event.found, where: event.where } };
    case 'reading-taken':
      return afterReading(state, event.reading);
    case 'reading-left-out':
      return {
        readings: state.readings.filter(elsewhere(event.leftOut)),
        leftOut: [...state.leftOut.filter(elsewhere(event.leftOut)), event.leftOut],
      };
    case 'damage-marked':
      return {
        damage: [
          ...state.damage.filter(({ damageId }) => damageId !== event.damage.damageId),
          event.damage,
        ],
      };
    case 'damage-erased':
      return { damage: state.damage.filter(({ damageId }) => damageId !== event.damageId) };
    case 'photo-attached':
      return { photos: [...withoutPhoto(state, event.photo.photoId), event.photo] };
    case 'photo-removed':
      return { photos: withoutPhoto(state, event.photoId) };
    case 'passes-counted':
      return {
        passes: [...state.passes, { ...event.passes, zone: event.passes.zone ?? 'full' }],
        lightTest: {},
      };
    case 'passes-undone':
      return { passes: state.passes.filter(({ passId }) => passId !== event.passId) };
    case 'balance-read':
      return { rounds: [...state.rounds, { ...event.round, passesBefore: passesIn(state) }] };
    case 'deburred':
      return { deburredAfter: event.done ? passesIn(state) : undefined };
    case 'set-up':
      return { setUp: event.setUp };
    case 'schools-chosen':
      return { schools: { ...state.schools, ...event.schools } };
    case 'nick-chosen': {
      return { nickChoices: withNickChoice(state.nickChoices, event.damageId, event.choice) };
    }
    case 'full-look-asked':
      return { fullLook: event.wanted };
    case 'light-tested':
      return { lightTest: { ...state.lightTest, [event.end]: event.brightLine } };
    case 'signed-off': {
      const { outcome, retireReason, disposal, personId, at } = event;
      return { signedOff: { outcome, retireReason, disposal, personId, at } };
    }
    case 'retirement-undone':
      return { signedOff: undefined };
  }
}

const withoutPhoto = (state: CycleState, photoId: string): AttachedPhoto[] =>
  state.photos.filter((photo) => photo.photoId !== photoId);

/** One nick's choice set, or given back to the policy. */
export function withNickChoice(
  choices: Readonly<Record<string, NickChoice>>,
  damageId: string,
  choice: NickChoice | 'policy',
): Record<string, NickChoice> {
  const others = Object.fromEntries(Object.entries(choices).filter(([id]) => id !== damageId));
  return choice === 'policy' ? others : { ...others, [damageId]: choice };
}

/** Folds events into the cycle's state. Errors: when the first event does not open the cycle. */
export function foldCycle(events: readonly CycleEvent[]): CycleState {
  const [first, ...rest] = events;
  if (first?.type !== 'opened') throw new Error('A cycle starts with its opening.');
  const opened: CycleState = {
    cycleId: first.cycleId,
    bladeId: first.bladeId,
    specRevisionId: first.specRevisionId,
    openedAt: first.at,
    openedBy: first.personId,
    revision: 0,
    cleaned: false,
    readings: [],
    leftOut: [],
    damage: [],
    photos: [],
    passes: [],
    rounds: [],
    schools: {},
    nickChoices: {},
    fullLook: false,
    lightTest: {},
  };
  return rest.reduce(foldOn, opened);
}

/** The state after one more event. */
export const foldOn = (state: CycleState, event: CycleEvent): CycleState => ({
  ...state,
  ...change(state, event),
  revision: state.revision + 1,
});

/** Passes counted at an end. */
export const passesAt = (state: Pick<CycleState, 'passes'>, end: BladeEnd): number =>
  state.passes.filter((passes) => passes.end === end).reduce((sum, { count }) => sum + count, 0);

/** Passes counted at an end, zone by zone. */
export const zonePassesAt = (
  state: Pick<CycleState, 'passes'>,
  end: BladeEnd,
  zone: ZoneKey,
): number =>
  state.passes
    .filter((passes) => passes.end === end && passes.zone === zone)
    .reduce((sum, { count }) => sum + count, 0);

/** Passes counted at both ends. */
export const passesIn = (state: Pick<CycleState, 'passes'>): number =>
  state.passes.reduce((sum, { count }) => sum + count, 0);

/** All readings of a place, oldest first: more than one only where a reading was repeated. */
export const readingsAt = (state: Pick<CycleState, 'readings'>, place: Placed): TakenReading[] =>
  state.readings.filter((reading) => samePlace(reading, place));
