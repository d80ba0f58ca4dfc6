import { type CycleAct, type CycleView, type ReadingSlot } from '@tally-stone/contract';
import { passesIn, placeKey } from '@tally-stone/cycle';
import {
  BALANCE_DEVICES,
  barInertiaGmm2,
  QUANTITIES,
  BenchError,
  calibratedTilt,
  COVERAGE_K,
  halfTurnMean,
  judgeBalance,
  outer50RadiusMm,
  parseQuantity,
  rss,
  signedGmm,
  testWeightUnbalance,
  tiltTangentFromHeights,
  typedResolution,
  typedUncertainty,
  unbalanceFromDrops,
  USUAL_DRAG_PER_S,
  USUAL_FRICTION_GMM,
  type Measured,
  type Unit,
} from '@tally-stone/core';

/**
 * The run while the server is away: what was done here, put over what the server last said, so that the work
 * goes on. Only what a screen shows; verdict and sign-off wait for the server.
 */
export function withActs(view: CycleView, acts: readonly CycleAct[]): CycleView {
  return acts.reduce(withAct, view);
}

type Act<Type extends CycleAct['type']> = Extract<CycleAct, { type: Type }>;

function withAct(view: CycleView, act: CycleAct): CycleView {
  switch (act.type) {
    case 'clean':
      return { ...view, cleaned: act.done };
    case 'judge-crack':
      return {
        ...view,
        crack: { found: act.found, ...(act.where ? { where: act.where } : {}) },
      };
    case 'take-reading':
      return { ...view, slots: view.slots.map((slot) => withReading(slot, act)) };
    case 'erase-damage':
      return { ...view, damage: view.damage.filter(({ damageId }) => damageId !== act.damageId) };
    case 'mark-damage':
      return withMark(view, act);
    case 'count-passes': {
      const { passId, end, zone = 'full', count } = act;
      return { ...view, burr: true, passes: [...view.passes, { passId, end, zone, count }] };
    }
    case 'undo-passes':
      return { ...view, passes: view.passes.filter(({ passId }) => passId !== act.passId) };
    case 'deburr':
      return { ...view, burr: !act.done };
    case 'light-test':
      return { ...view, lightTest: { ...view.lightTest, [act.end]: act.brightLine } };
    case 'set-up':
      return { ...view, setUp: { grinderId: act.grinderId, abrasiveId: act.grinderId } };
    case 'ask-full-look':
      return { ...view, fullLook: act.wanted };
    case 'balance-round':
      return withRound(view, act);
    case 'remove-photo':
      return { ...view, photos: view.photos.filter(({ photoId }) => photoId !== act.photoId) };
    case 'attach-photo':
    case 'leave-out-reading':
    case 'choose-schools':
    case 'choose-nick':
    case 'sign-off':
    case 'undo-retirement':
      return view;
  }
}

/** What the core cannot make sense of is left as it was: the server says what is wrong with it. */
const attempt = <T>(work: () => T): T | undefined => {
  try {
    return work();
  } catch (error) {
    if (error instanceof BenchError) return undefined;
    throw error;
  }
};
const parsed = (text: string, unit: Unit): number | undefined =>
  attempt(() => parseQuantity(text, unit).value);

function withReading(slot: ReadingSlot, act: Act<'take-reading'>): ReadingSlot {
  if (placeKey(act.place) !== slot.key) return slot;
  const value = parsed(act.entered.text, act.entered.unit);
  if (value === undefined) return slot;
  const { quantity } = act.place;
  const resolution = typedResolution(act.entered.text, act.entered.unit, QUANTITIES[quantity].unit);
  return {
    ...slot,
    taken: {
      readingId: act.readingId,
      ...act.place,
      value,
      u: typedUncertainty(quantity, resolution),
      resolution,
      entered: act.entered,
      repeat: act.repeat ?? false,
      source: act.instrument ? 'instrument' : 'typed',
      ...(act.instrument ? { instrument: act.instrument } : {}),
      at: new Date().toISOString(),
    },
    repeats: slot.repeats + 1,
  };
}

function withMark(view: CycleView, act: Act<'mark-damage'>): CycleView {
  const fromTipMm = parsed(act.fromTip.text, act.fromTip.unit);
  const depthMm = parsed(act.depth.text, act.depth.unit);
  if (fromTipMm === undefined || depthMm === undefined) return view;
  const { damageId, kind, end } = act;
  const radiusMm = view.spec.figures.newLengthMm / 2 - fromTipMm;
  return {
    ...view,
    damage: [
      ...view.damage.filter((mark) => mark.damageId !== damageId),
      { damageId, kind, end, fromTipMm, radiusMm, depthMm },
    ],
  };
}

/** How much, by the usual figures of the balancer's kind: the shop's own calibration waits for the server. */
function amountAway(
  view: CycleView,
  act: Act<'balance-round'>,
  bladeMassG: number,
): Measured | undefined {
  const { newLengthMm, newWidthMm } = view.spec.figures;
  const { centringMm, sensitivityGmm } = BALANCE_DEVICES[act.device];
  const level = rss(bladeMassG * centringMm, sensitivityGmm);
  if (act.heavyEnd === 'level' || act.endOnly) return { value: 0, u: level };
  if (act.drops && act.drops.length > 0) {
    return unbalanceFromDrops(
      act.drops,
      {
        inertiaGmm2: barInertiaGmm2(bladeMassG, newLengthMm, newWidthMm),
        markDeg: act.markDeg ?? 90,
        frictionGmm: USUAL_FRICTION_GMM.value,
        dragPerS: USUAL_DRAG_PER_S.value,
      },
      { bladeMassG, centringMm, frictionU: USUAL_FRICTION_GMM.u, dragU: USUAL_DRAG_PER_S.u },
    ).unbalance;
  }
  const weightG = act.weight && parsed(act.weight.text, act.weight.unit);
  const radiusMm = act.radius && parsed(act.radius.text, act.radius.unit);
  if (!weightG || !radiusMm) return undefined;
  const known = { massG: { value: weightG, u: 0.03 }, radiusMm: { value: radiusMm, u: 1 } };
  if (!act.tilt) return testWeightUnbalance({ ...known, bladeMassG, centringMm, sensitivityGmm });
  const alone = parsed(act.tilt.alone.text, act.tilt.alone.unit);
  const withWeight = parsed(act.tilt.withWeight.text, act.tilt.withWeight.unit);
  if (alone === undefined || withWeight === undefined) return undefined;
  const tilt = (differenceMm: number): Measured => ({
    value: tiltTangentFromHeights(differenceMm, newLengthMm),
    u: HEIGHT_U_MM / newLengthMm,
  });
  const found = calibratedTilt({
    ...known,
    tiltAlone: tilt(alone),
    tiltWithMass: tilt(withWeight),
    belowPivotMm: 0,
  });
  return { value: found.value, u: rss(found.u, bladeMassG * centringMm) };
}
/** Two heights read with a rule to the millimetre. */
const HEIGHT_U_MM = 0.4;

/** The signed mean with the round before the half turn, where that one is known here. */
function withHalfTurn(
  view: CycleView,
  act: Act<'balance-round'>,
  signed: Measured,
  offsetU: number,
): { unbalance: Measured; halfTurn?: CycleView['rounds'][number]['halfTurn'] } {
  const first = view.rounds.find(({ roundId }) => roundId === act.halfTurnOf);
  if (!first || first.endOnly || first.halfTurn) return { unbalance: signed };
  const alone = (u: number): number => Math.sqrt(Math.max(0, u ** 2 - offsetU ** 2));
  const { blade, balancerGmm } = halfTurnMean(
    { value: first.unbalanceGmm, u: alone(first.expandedUncertaintyGmm / COVERAGE_K) },
    { value: signed.value, u: alone(signed.u) },
  );
  return {
    unbalance: blade,
    halfTurn: {
      firstGmm: first.unbalanceGmm,
      turnedGmm: signed.value,
      offsetGmm: balancerGmm,
    },
  };
}

/** A round as far as it can be worked out here. */
function withRound(view: CycleView, act: Act<'balance-round'>): CycleView {
  const { figures } = view.spec;
  const massG =
    view.slots.findLast(({ quantity, taken }) => quantity === 'mass' && taken)?.taken?.value ??
    figures.newMassG;
  const found = attempt(() => amountAway(view, act, massG));
  if (!found) return view;
  const signed = { value: signedGmm(act.heavyEnd, found.value), u: found.u };
  const offsetU = massG * BALANCE_DEVICES[act.device].centringMm;
  const mean = withHalfTurn(view, act, signed, offsetU);
  const { unbalance, ...result } = judgeBalance({
    unbalance: mean.unbalance,
    bladeMassG: massG,
    speedRpm: figures.bladeSpeedRpm,
    gradeMmPerS: figures.gradeMmPerS,
    correctionRadiusMm: outer50RadiusMm(view.lengthMm / 2),
  });
  return {
    ...view,
    rounds: [
      ...view.rounds,
      {
        ...result,
        ...(act.endOnly ? { endOnly: true } : {}),
        ...(act.drops ? { dropsS: [...act.drops] } : {}),
        ...(act.tilt ? { byTilt: true } : {}),
        ...(mean.halfTurn ? { halfTurn: mean.halfTurn } : {}),
        roundId: act.roundId,
        phase: act.phase,
        passesBefore: passesIn(view),
        device: act.device,
        unbalanceGmm: unbalance.value,
        expandedUncertaintyGmm: 2 * unbalance.u,
        gradeSource: 'worked out here; the server judges it when it is back',
        speedRpm: figures.bladeSpeedRpm,
      },
    ],
  };
}
