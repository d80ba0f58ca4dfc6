import type {
  AttachedPhoto,
  CountedPasses,
  CycleEvent,
  CycleState,
  OverBurr,
  Phase,
  Quantity,
  TakenReading,
  TakenRound,
} from '@tally-stone/contract';
import {
  expanded,
  QUANTITIES,
  rss,
  type End as BladeEnd,
  type NickChoice,
  type ZoneKey,
} from '@tally-stone/core';

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
const sameQuestion = (quantity: Quantity): Quantity => QUANTITIES[quantity].insteadOf ?? quantity;

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
  const replaced = reading.repeat ? [] : readingsAt(state, reading);
  const confirmed = replaced.some(
    ({ value, u }) => Math.abs(value - reading.value) <= expanded(rss(u, reading.u)),
  );
  const placed = {
    ...reading,
    revision: state.revision + 1,
    ...overBurr(state, reading),
    ...(confirmed ? { confirmed } : {}),
  };
  return { readings: [...kept, placed], leftOut };
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
    case 'edge-read': {
      const { edge, readings } = event;
      const { edgeId, file, end, phase } = edge;
      const read = readings.reduce<CycleState>(
        (so, reading) => ({ ...so, ...afterReading(so, reading) }),
        state,
      );
      const others = state.edges.filter((each) => each.end !== end || each.phase !== phase);
      return {
        readings: read.readings,
        leftOut: read.leftOut,
        photos: [...withoutPhoto(state, edgeId), { photoId: edgeId, file }],
        edges: [...others, { ...edge, revision: state.revision + 1, ...overBurr(state, edge) }],
      };
    }
    case 'photo-attached':
      return { photos: [...withoutPhoto(state, event.photo.photoId), event.photo] };
    case 'photo-removed':
      return {
        photos: withoutPhoto(state, event.photoId),
        edges: state.edges.filter(({ edgeId }) => edgeId !== event.photoId),
        readings: state.readings.filter(({ edgeId }) => edgeId !== event.photoId),
      };
    case 'passes-counted':
      return {
        passes: [
          ...state.passes,
          {
            ...event.passes,
            zone: event.passes.zone ?? 'full',
            grinderId: state.setUp?.grinderId,
            abrasiveId: state.setUp?.abrasiveId,
            revision: state.revision + 1,
          },
        ],
        lightTest: {},
      };
    case 'passes-undone':
      return withoutPasses(state, event.passId);
    case 'balance-read':
      return {
        rounds: [
          ...state.rounds,
          { ...event.round, passesBefore: passesIn(state), ...overBurr(state, event.round) },
        ],
      };
    case 'deburred':
      return event.done
        ? { deburredAfter: passesIn(state), ...withoutBurr(state, event.alreadyOff ?? false) }
        : { deburredAfter: undefined };
    case 'set-up':
      return {
        setUp: event.setUp,
        ...(event.setUp.grinderId === state.finishOn?.grinderId ? { finishOn: undefined } : {}),
        ...(event.weighed
          ? {
              weighings: [
                ...(state.weighings ?? []),
                { ...event.weighed, passesBefore: passesIn(state) },
              ],
            }
          : {}),
      };
    case 'finish-chosen':
      return { finishOn: event.finishOn };
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

const overBurr = (
  state: CycleState,
  { phase }: { readonly phase: Phase },
): { readonly burr?: 'on' } => (phase === 'after' && hasBurr(state) ? { burr: 'on' } : {});

/** The burr comes off: what was made over it says no more how the blade is, unless it was off by then. */
function withoutBurr(state: CycleState, alreadyOff: boolean): Partial<CycleState> {
  if (!hasBurr(state)) return {};
  const burr = alreadyOff ? undefined : ('gone' as const);
  const since = <Made extends { readonly burr?: OverBurr | undefined }>(made: Made): Made =>
    made.burr === 'on' ? { ...made, burr } : made;
  return {
    readings: state.readings.map(since),
    edges: state.edges.map(since),
    rounds: state.rounds.map(since),
    ...(alreadyOff ? {} : { lightTest: {} }),
  };
}

/** Passes taken back are taken back everywhere: what was hung, weighed or deburred after them has so many fewer behind it. */
function withoutPasses(state: CycleState, passId: string): Partial<CycleState> {
  const at = state.passes.findIndex((each) => each.passId === passId);
  const count = state.passes[at]?.count ?? 0;
  const from = passesIn({ passes: state.passes.slice(0, Math.max(0, at)) });
  const stillOf = (passes: number): number =>
    passes - Math.max(0, Math.min(from + count, passes) - from);
  const still = <Done extends { readonly passesBefore: number }>(done: Done): Done => ({
    ...done,
    passesBefore: stillOf(done.passesBefore),
  });
  const { weighings, deburredAfter } = state;
  return {
    passes: state.passes.filter((each) => each.passId !== passId),
    rounds: state.rounds.map(still),
    ...(weighings ? { weighings: weighings.map(still) } : {}),
    ...(deburredAfter === undefined ? {} : { deburredAfter: stillOf(deburredAfter) }),
  };
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
  if (first?.type !== 'opened') throw new RangeError('A cycle starts with its opening.');
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
    edges: [],
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
export const passesAt = (
  state: { readonly passes: readonly Pick<CountedPasses, 'end' | 'count'>[] },
  end: BladeEnd,
): number =>
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
export const passesIn = (state: {
  readonly passes: readonly { readonly count: number }[];
}): number => state.passes.reduce((sum, { count }) => sum + count, 0);

/** Ground and not deburred since. */
export const hasBurr = (state: Pick<CycleState, 'passes' | 'deburredAfter'>): boolean =>
  passesIn(state) > 0 && state.deburredAfter !== passesIn(state);

/** Hung as the blade is now: no pass was counted since, and no burr has come off. */
export function isHungAsItStands(state: {
  readonly passes: readonly { readonly count: number }[];
  readonly rounds: readonly Pick<TakenRound, 'passesBefore' | 'burr'>[];
}): boolean {
  const newest = state.rounds.at(-1);
  return newest?.passesBefore === passesIn(state) && newest.burr !== 'gone';
}

type Ground = Pick<CycleState, 'passes' | 'signedOff'>;

/** Signed ready it was proved as it is, and stays as it was read. Held or retired it may have been ground on after. */
const isProved = ({ signedOff }: Ground): boolean => signedOff?.outcome === 'ready';

/**
 * Ground on since it was read: what was read after the grind then speaks of an edge that is no more, and is read again.
 * Where every pass was taken back it speaks of none.
 */
export const isGroundSince = (
  ground: Ground,
  { phase, end, revision = 0 }: Pick<TakenReading, 'phase' | 'end' | 'revision'>,
): boolean =>
  phase === 'after' &&
  !isProved(ground) &&
  (ground.passes.length === 0 ||
    ground.passes.some((each) => (!end || each.end === end) && (each.revision ?? 0) > revision));

/** Ground on since it was read, or read over a burr that has come off since: it does not say how the blade is. */
export const isOutdated = (
  state: Ground,
  made: Pick<TakenReading, 'phase' | 'end' | 'revision' | 'burr'>,
): boolean => isGroundSince(state, made) || (made.burr === 'gone' && !isProved(state));

/** All readings of a place that still speak of the blade, oldest first: more than one only where a reading was repeated. */
export const readingsAt = (
  state: Ground & Pick<CycleState, 'readings'>,
  place: Placed,
): TakenReading[] =>
  state.readings.filter((reading) => samePlace(reading, place) && !isOutdated(state, reading));

/** What was read at a place and says no more how the blade is: asked for again. */
export const readBefore = (
  state: Ground & Pick<CycleState, 'readings'>,
  place: Placed,
): TakenReading | undefined =>
  state.readings.findLast((reading) => samePlace(reading, place) && isOutdated(state, reading));

/** The photographed edges that still speak of the blade. */
export const edgesOf = (state: Ground & Pick<CycleState, 'edges'>): CycleState['edges'] =>
  state.edges.filter((edge) => !isOutdated(state, edge));
