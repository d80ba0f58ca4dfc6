import type {
  CycleFacts,
  CycleCommand,
  CycleEvent,
  CycleState,
  RetireReason,
  TakenReading,
} from '@tally-stone/contract';
import {
  ENTERED_RANGE,
  DAMAGE,
  parseQuantity,
  QUANTITIES,
  rss,
  SHOP_RETIRES_FOR,
  typedResolution,
  typedUncertainty,
  type BenchQuantity,
  type Unit,
  said,
  BLADE_STATES,
} from '@tally-stone/core';
import { balanceRound } from './balance-round.js';
import { at, parsed, parsedReading } from './entered.js';
import { carriedToday, historyKey } from './facts.js';
import { placeKey, readingsAt } from './fold.js';
import { instrumentByKey } from './instruments.js';
import { readEdge } from './read-edge.js';
import { Refusal, wrongField } from './refusal.js';
import { finishOn, setUp } from './set-up.js';
import { signOffOf } from './sign-off.js';

type Of<Type extends CycleCommand['type']> = Extract<CycleCommand, { type: Type }>;

/** Whether the spec knows this place: a station that is not the spec's has no limit and no history. */
function checkPlace(
  facts: CycleFacts,
  quantity: BenchQuantity,
  stationKey: string | undefined,
): void {
  const needsStation = QUANTITIES[quantity].per === 'station';
  const known = facts.spec.stations.some(({ key }) => key === stationKey);
  if (needsStation !== (stationKey !== undefined) || (needsStation && !known)) {
    throw wrongField('place.stationKey', $localize`is not a station of this blade spec`);
  }
}

function takeReading(
  command: Of<'take-reading'>,
  state: CycleState,
  facts: CycleFacts,
): CycleEvent {
  const { quantity, end, stationKey, phase } = command.place;
  checkPlace(facts, quantity, stationKey);
  const perEnd = QUANTITIES[quantity].per !== 'blade';
  if (perEnd !== (end !== undefined)) {
    throw wrongField(
      'place.end',
      perEnd ? $localize`is missing: A or B` : $localize`does not belong here`,
    );
  }
  if (!state.cleaned) {
    throw new Refusal(
      'refused',
      $localize`Clean the blade first: dirt weighs and measures like metal.`,
    );
  }
  const base = QUANTITIES[quantity].unit;
  const value = parsedReading(command.entered, quantity, 'entered.text');
  const { text, unit } = command.entered;
  const unitTyped = at('entered.text', () => parseQuantity(text, unit, 'entered.text').unit);
  const instrument = command.instrument ? instrumentByKey(command.instrument) : undefined;
  if (command.instrument && !instrument?.reads.includes(quantity)) {
    throw wrongField('instrument', $localize`does not read this: take another, or type it`);
  }
  const resolution = instrument?.resolution ?? typedResolution(text, unitTyped as Unit, base);
  const radiusMm = facts.spec.stations.find(({ key }) => key === stationKey)?.radiusMm;
  if (quantity === 'land') {
    const thicknessMm = facts.spec.thicknessMm;
    if (value >= thicknessMm) {
      throw wrongField(
        'entered.text',
        $localize`is as thick as the blade, ${said(thicknessMm, 'mm', 2)}:ph0:: read it again`,
      );
    }
  }
  if (quantity === 'face' && value <= facts.spec.thicknessMm) {
    throw wrongField(
      'entered.text',
      $localize`must be wider than the steel it climbs, ${said(facts.spec.thicknessMm, 'mm', 2)}:ph0:: measure the sloping face`,
    );
  }
  return {
    type: 'reading-taken',
    reading: {
      readingId: command.readingId,
      phase,
      quantity,
      end,
      stationKey,
      radiusMm,
      value,
      u: instrument
        ? rss(instrument.u, QUANTITIES[quantity].handlingU)
        : typedUncertainty(quantity, resolution),
      resolution,
      entered: command.entered,
      // What was ground on since has nothing left to be the mean of.
      repeat: command.repeat && readingsAt(state, command.place).length > 0,
      source: instrument ? 'instrument' : 'typed',
      instrument: instrument?.key,
      at: command.occurredAt,
    },
  };
}

function leaveOut(
  command: Of<'leave-out-reading'>,
  _state: CycleState,
  facts: CycleFacts,
): CycleEvent {
  const { phase, quantity, end, stationKey } = command.place;
  if (quantity === 'tip-height') {
    throw wrongField('place', $localize`cannot be left out: a bend is looked for every time`);
  }
  if (phase === 'after') {
    throw wrongField('place', $localize`cannot be left out after a grind: it proves the work`);
  }
  const last = facts.last[historyKey(command.place)];
  if (!last) {
    throw wrongField(
      'place',
      $localize`cannot be left out: this blade has no earlier reading to carry forward`,
    );
  }
  const carried = carriedToday(quantity, last, facts.rules.recessionPerGrindMm);
  return {
    type: 'reading-left-out',
    leftOut: {
      phase,
      quantity,
      end,
      stationKey,
      reason: command.reason,
      carried: {
        readingId: command.id,
        phase,
        quantity,
        end,
        stationKey,
        radiusMm: last.radiusMm,
        value: carried.value,
        u: carried.u,
        resolution: last.resolution,
        entered: { text: String(last.value), unit: QUANTITIES[quantity].unit },
        repeat: false,
        source: 'carried',
        at: last.at,
      },
    },
  };
}

function markDamage(command: Of<'mark-damage'>, _state: CycleState, facts: CycleFacts): CycleEvent {
  const { spec } = facts;
  const fromTipMm = parsed(command.fromTip, 'mm', 'fromTip.text', ENTERED_RANGE.fromTipMm);
  const depthMm = parsed(command.depth, 'mm', 'depth.text', ENTERED_RANGE.damageDepthMm);
  const reachMm = DAMAGE[command.kind].lies === 'edge' ? spec.edgeLengthMm : spec.newLengthMm / 2;
  if (fromTipMm > reachMm) {
    throw wrongField(
      'fromTip.text',
      reachMm === spec.edgeLengthMm
        ? $localize`is off the cutting edge: it runs ${said(spec.edgeLengthMm, 'mm', 0)} in from the tip`
        : $localize`is off this end: it is ${said(reachMm, 'mm', 0)} from the tip to the hole`,
    );
  }
  const lengthMm =
    command.length && parsed(command.length, 'mm', 'length.text', ENTERED_RANGE.damageLengthMm);
  const most = DAMAGE[command.kind].thinsWing ? spec.wingMm : spec.newWidthMm;
  if (depthMm >= most) {
    throw wrongField(
      'depth.text',
      $localize`is more than the ${said(most, 'mm')} of steel that was there`,
    );
  }
  return {
    type: 'damage-marked',
    damage: {
      damageId: command.damageId,
      kind: command.kind,
      end: command.end,
      fromTipMm,
      radiusMm: spec.newLengthMm / 2 - fromTipMm,
      depthMm,
      lengthMm,
      ...(command.instrument ? { instrument: command.instrument } : {}),
    },
  };
}

/** More than this is an album, not a record. */
const MOST_PHOTOS = 12;

function attachPhoto(command: Of<'attach-photo'>, state: CycleState): CycleEvent {
  const { photoId, file, damageId } = command;
  if (state.photos.length >= MOST_PHOTOS) {
    throw wrongField(
      'photoId',
      $localize`is one too many: ${MOST_PHOTOS} photos a cycle, take one away first`,
    );
  }
  if (damageId && !state.damage.some((mark) => mark.damageId === damageId)) {
    throw wrongField('damageId', $localize`is not marked on this blade`);
  }
  return { type: 'photo-attached', photo: { photoId, file, ...(damageId ? { damageId } : {}) } };
}

function signOff(command: Of<'sign-off'>, state: CycleState, facts: CycleFacts): CycleEvent {
  const view = signOffOf(state, facts);
  const { outcome, retireReason } = command;
  if (!view.allowed.includes(outcome)) {
    const detail =
      view.blocks.length > 0
        ? $localize`Not ready yet. ${view.blocks.map(({ words }) => words).join('. ')}.`
        : $localize`This blade cannot be signed off as ${BLADE_STATES[outcome].words}:ph0:: its verdict is to retire it.`;
    throw new Refusal('refused', detail, [{ field: 'outcome', message: detail }]);
  }
  if (outcome === 'retired' && (!retireReason || !view.retireReasons.includes(retireReason))) {
    throw wrongField(
      'retireReason',
      $localize`is missing: one of ${view.retireReasons.join(', ')}`,
    );
  }
  if (outcome === 'retired' && !command.disposal) {
    throw wrongField(
      'disposal',
      $localize`is missing: how was it made unusable, cut, bent or scrapped`,
    );
  }
  return {
    type: 'signed-off',
    outcome,
    retireReason: outcome === 'retired' ? retireReason : undefined,
    disposal: outcome === 'retired' ? command.disposal : undefined,
    personId: command.personId,
    at: command.occurredAt,
  };
}

/** Undone is only what the shop decided, and only at the bench; what a reading retired goes the way of corrections. */
function undoRetirement(state: CycleState, facts: CycleFacts): CycleEvent {
  const signed = state.signedOff;
  if (signed?.outcome !== 'retired') {
    throw new Refusal(
      'refused',
      $localize`This cycle has not retired its blade: there is nothing to undo.`,
    );
  }
  if (!mayUndo(state, facts)) {
    throw new Refusal(
      'refused',
      isShopsReason(signed.retireReason)
        ? $localize`This blade has left the bench since: two people may take it back, and it is inspected from the start.`
        : $localize`A reading retired this blade: correct the reading, then two people may take it back.`,
    );
  }
  return { type: 'retirement-undone' };
}

const isShopsReason = (reason: RetireReason | undefined): boolean =>
  SHOP_RETIRES_FOR.some((each) => each === reason);

/** May the retirement that was just signed be undone by whoever stands at the bench? */
export const mayUndo = ({ signedOff }: CycleState, { stillAtBench }: CycleFacts): boolean =>
  signedOff?.outcome === 'retired' && isShopsReason(signedOff.retireReason) && stillAtBench;

/** Only what was said: a school left open is not a school chosen. */
const given = <T extends object>(some: T): { [K in keyof T]: NonNullable<T[K]> } =>
  Object.fromEntries(Object.entries(some).filter(([, value]) => value !== undefined)) as {
    [K in keyof T]: NonNullable<T[K]>;
  };

/** Two devices' clocks may differ by so much. */
const CLOCKS_APART_MS = 10 * 60_000;

/** Turns a cycle's command into its event, or refuses it with the field and what to do. Pure. */
export function decide(command: CycleCommand, state: CycleState, facts: CycleFacts): CycleEvent {
  if (Date.parse(command.occurredAt) < Date.parse(state.openedAt) - CLOCKS_APART_MS) {
    throw wrongField(
      'occurredAt',
      $localize`lies before this blade was started: set the clock of this device`,
    );
  }
  if (command.type === 'undo-retirement') return undoRetirement(state, facts);
  if (state.signedOff) {
    throw new Refusal(
      'signedOff',
      $localize`This cycle was signed off as ${BLADE_STATES[state.signedOff.outcome].words} and is not edited any more.`,
    );
  }
  switch (command.type) {
    case 'clean':
      return { type: 'cleaned', done: command.done };
    case 'judge-crack':
      return {
        type: 'crack-judged',
        found: command.found,
        where: command.found ? command.where : undefined,
      };
    case 'take-reading':
      return takeReading(command, state, facts);
    case 'leave-out-reading':
      return leaveOut(command, state, facts);
    case 'mark-damage':
      return markDamage(command, state, facts);
    case 'erase-damage':
      if (!state.damage.some(({ damageId }) => damageId === command.damageId)) {
        throw wrongField('damageId', $localize`is not marked on this blade`);
      }
      return { type: 'damage-erased', damageId: command.damageId };
    case 'attach-photo':
      return attachPhoto(command, state);
    case 'read-edge':
      return readEdge(command, state, facts);
    case 'remove-photo':
      if (!state.photos.some(({ photoId }) => photoId === command.photoId)) {
        throw wrongField('photoId', $localize`is not on this blade`);
      }
      return { type: 'photo-removed', photoId: command.photoId };
    case 'count-passes': {
      const { passId, end, count, zone } = command;
      return { type: 'passes-counted', passes: { passId, end, count, zone } };
    }
    case 'undo-passes':
      if (!state.passes.some(({ passId }) => passId === command.passId)) {
        throw wrongField('passId', $localize`was not counted in this cycle`);
      }
      return { type: 'passes-undone', passId: command.passId };
    case 'balance-round':
      return balanceRound(command, state, facts);
    case 'deburr':
      return { type: 'deburred', done: command.done, alreadyOff: command.alreadyOff };
    case 'set-up':
      return setUp(command, state, facts);
    case 'finish-on':
      return finishOn(command, state, facts);
    case 'choose-schools':
      return {
        type: 'schools-chosen',
        schools: given(command.schools),
      };
    case 'choose-nick':
      if (!state.damage.some(({ damageId }) => damageId === command.damageId)) {
        throw wrongField('damageId', $localize`is not marked on this blade`);
      }
      return { type: 'nick-chosen', damageId: command.damageId, choice: command.choice };
    case 'ask-full-look':
      return { type: 'full-look-asked', wanted: command.wanted };
    case 'light-test':
      return { type: 'light-tested', end: command.end, brightLine: command.brightLine };
    case 'sign-off':
      return signOff(command, state, facts);
  }
}

/**
 * Readings of the same places that are already there: new ones replace them, unless they repeat them, and what is left out
 * was not read.
 */
export const replacesEarlier = (event: CycleEvent, state: CycleState): readonly string[] =>
  (event.type === 'reading-left-out'
    ? [event.leftOut]
    : readingsOf(event).filter(({ repeat }) => !repeat)
  )
    .flatMap((taken) => state.readings.filter((reading) => placeKey(reading) === placeKey(taken)))
    .map(({ readingId }) => readingId);

/** The readings an event brings. */
export const readingsOf = (event: CycleEvent): readonly TakenReading[] => {
  if (event.type === 'reading-taken') return [event.reading];
  return event.type === 'edge-read' ? event.readings : [];
};
