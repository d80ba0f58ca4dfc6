import type {
  CycleCommand,
  CycleEvent,
  CycleFacts,
  CycleState,
  Entered,
} from '@tally-stone/contract';
import {
  BALANCE_DEVICES,
  barInertiaGmm2,
  BLADE_OVER_BAR,
  calibratedTilt,
  ENTERED_RANGE,
  CALIBRATED_INERTIA_RELATIVE_U,
  halfTurnMean,
  leastVisibleGmm,
  MOST_OFFSET_MM,
  propagate,
  resolutionUncertainty,
  rss,
  said,
  signedGmm,
  testWeightUnbalance,
  tiltTangentFromHeights,
  typedResolution,
  unbalanceFromDrops,
  USUAL_DRAG_PER_S,
  USUAL_FRICTION_GMM,
  type Measured,
} from '@tally-stone/core';
import { at, parsed } from './entered.js';
import { passesIn } from './fold.js';
import { wrongField } from './refusal.js';
import { valueAt } from './values.js';

type BalanceRound = Extract<CycleCommand, { type: 'balance-round' }>;
type Round = Extract<CycleEvent, { type: 'balance-read' }>['round'];

/** How the balancer in use sees: its calibration's figures, else what its kind usually does. */
interface Sight {
  readonly centringMm: number;
  readonly sensitivityGmm: number;
  readonly friction: Measured;
  readonly inertiaFactor: number;
  readonly inertiaRelativeU?: number;
}

function sightOf(command: BalanceRound, facts: CycleFacts): Sight {
  const usual = BALANCE_DEVICES[command.device];
  const balancer = facts.balancers.find(({ balancerId }) => balancerId === command.balancerId);
  if (command.balancerId && !balancer)
    throw wrongField('balancerId', $localize`is not a balancer of this shop`);
  if (balancer && balancer.device !== command.device) {
    throw wrongField('device', $localize`is not what ${balancer.name} is: pick the balancer again`);
  }
  const found = balancer?.calibration;
  if (!found) return { ...usual, friction: USUAL_FRICTION_GMM, inertiaFactor: BLADE_OVER_BAR };
  return {
    centringMm: found.centringMm ?? usual.centringMm,
    // What the bearing just holds may stand at either end: a rectangle of that half width.
    sensitivityGmm: found.frictionGmm / Math.sqrt(3),
    friction: { value: found.frictionGmm, u: found.frictionU },
    inertiaFactor: found.inertiaFactor,
    inertiaRelativeU: CALIBRATED_INERTIA_RELATIVE_U,
  };
}

const resolved = (entered: Entered): number =>
  resolutionUncertainty(typedResolution(entered.text, entered.unit, 'mm'));

/** Two heights read with a rule at the tips, each to its own division. */
function tiltOf(entered: Entered, apartMm: number, field: string): Measured {
  const difference = parsed(entered, 'mm', `${field}.text`, ENTERED_RANGE.tipHeightDifferenceMm);
  return at(`${field}.text`, () =>
    propagate(
      ([heights]) => tiltTangentFromHeights(heights, apartMm),
      [{ value: difference, u: Math.SQRT2 * resolved(entered) }],
    ),
  );
}

interface KnownWeight {
  readonly weightG: number;
  readonly radiusMm: number;
}

function knownWeight(
  { weight, radius }: BalanceRound,
  facts: CycleFacts,
  bladeMassG: number,
): KnownWeight & { readonly massG: Measured } {
  if (!weight) throw wrongField('weight', $localize`is missing: how heavy is the test weight`);
  if (!radius)
    throw wrongField('radius', $localize`is missing: how far from the hole centre it lies`);
  const weightG = parsed(weight, 'g', 'weight.text', ENTERED_RANGE.testWeightG);
  const radiusMm = parsed(radius, 'mm', 'radius.text', ENTERED_RANGE.testRadiusMm);
  if (weightG > bladeMassG)
    throw wrongField('weight.text', $localize`is heavier than the blade itself`);
  if (radiusMm > facts.spec.newLengthMm / 2) {
    throw wrongField(
      'radius.text',
      $localize`is beyond the tip, ${said(facts.spec.newLengthMm / 2, 'mm')} from the hole centre`,
    );
  }
  const u = resolutionUncertainty(typedResolution(weight.text, weight.unit, 'g'));
  return { weightG, radiusMm, massG: { value: weightG, u } };
}

/** Where the weight lies is known so well, mm. Common practice, no source. */
const PLACE_U_MM = 1;

type Amount = Pick<
  Round,
  'unbalanceGmm' | 'u' | 'weightG' | 'radiusMm' | 'dropsS' | 'outliersS' | 'byTilt'
>;

function byDrops(
  command: BalanceRound,
  drops: readonly number[],
  sight: Sight,
  facts: CycleFacts,
  bladeMassG: number,
): Amount {
  const { spec } = facts;
  if (command.device !== 'bearing-shaft') {
    throw wrongField('device', $localize`does not turn freely: drops are timed on a bearing shaft`);
  }
  const bar = barInertiaGmm2(bladeMassG, spec.newLengthMm, spec.newWidthMm);
  const found = at('drops', () =>
    unbalanceFromDrops(
      drops,
      {
        inertiaGmm2: sight.inertiaFactor * bar,
        markDeg: command.markDeg,
        frictionGmm: sight.friction.value,
        dragPerS: USUAL_DRAG_PER_S.value,
      },
      {
        bladeMassG,
        centringMm: sight.centringMm,
        frictionU: sight.friction.u,
        dragU: USUAL_DRAG_PER_S.u,
        ...(sight.inertiaRelativeU ? { inertiaRelativeU: sight.inertiaRelativeU } : {}),
      },
    ),
  );
  return {
    unbalanceGmm: signedGmm(command.heavyEnd, found.unbalance.value),
    u: found.unbalance.u,
    dropsS: drops,
    outliersS: found.outliersS,
  };
}

function byTilt(
  command: BalanceRound & { readonly tilt: NonNullable<BalanceRound['tilt']> },
  sight: Sight,
  facts: CycleFacts,
  bladeMassG: number,
): Amount {
  if (command.device !== 'cone-point') {
    throw wrongField(
      'device',
      $localize`does not rest tilted: heights are read on a cone on a point`,
    );
  }
  const { alone, withWeight, belowPoint } = command.tilt;
  const apartMm = facts.spec.newLengthMm;
  const { weightG, radiusMm, massG } = knownWeight(command, facts, bladeMassG);
  const found = at('tilt.withWeight.text', () =>
    calibratedTilt({
      tiltAlone: tiltOf(alone, apartMm, 'tilt.alone'),
      tiltWithMass: tiltOf(withWeight, apartMm, 'tilt.withWeight'),
      massG,
      radiusMm: { value: radiusMm, u: PLACE_U_MM },
      belowPivotMm: belowPoint
        ? parsed(belowPoint, 'mm', 'tilt.belowPoint.text', ENTERED_RANGE.belowPointMm)
        : 0,
    }),
  );
  return {
    unbalanceGmm: signedGmm(command.heavyEnd, found.value),
    u: rss(found.u, bladeMassG * sight.centringMm),
    weightG,
    radiusMm,
    byTilt: true,
  };
}

function byWeight(
  command: BalanceRound,
  sight: Sight,
  facts: CycleFacts,
  bladeMassG: number,
): Amount {
  const { weightG, radiusMm, massG } = knownWeight(command, facts, bladeMassG);
  const { centringMm, sensitivityGmm } = sight;
  const found = testWeightUnbalance({
    massG,
    radiusMm: { value: radiusMm, u: PLACE_U_MM },
    bladeMassG,
    centringMm,
    sensitivityGmm,
  });
  return {
    unbalanceGmm: signedGmm(command.heavyEnd, found.value),
    u: found.u,
    weightG,
    radiusMm,
  };
}

function amountOf(
  command: BalanceRound,
  sight: Sight,
  facts: CycleFacts,
  bladeMassG: number,
): Amount {
  if (command.heavyEnd === 'level') {
    return { unbalanceGmm: 0, u: rss(bladeMassG * sight.centringMm, sight.sensitivityGmm) };
  }
  const { drops, tilt } = command;
  if (drops && drops.length > 0) return byDrops(command, drops, sight, facts, bladeMassG);
  if (tilt) return byTilt({ ...command, tilt }, sight, facts, bladeMassG);
  return byWeight(command, sight, facts, bladeMassG);
}

/** The signed mean with the round before the half turn: the balancer's own offset goes, the rest of the doubt halves. */
function meanOfHalfTurn(
  { halfTurnOf, phase }: BalanceRound,
  round: Round,
  state: CycleState,
  offsetU: number,
): Round {
  if (!halfTurnOf) return round;
  const first = state.rounds.find(({ roundId }) => roundId === halfTurnOf);
  if (!first) throw wrongField('halfTurnOf', $localize`is not a balance round of this blade`);
  if (first.endOnly) {
    throw wrongField(
      'halfTurnOf',
      $localize`was hung for the heavy end alone: measure how much it is first`,
    );
  }
  if (first.halfTurn) throw wrongField('halfTurnOf', $localize`is a mean of two already`);
  if (first.phase !== phase || first.passesBefore !== passesIn(state)) {
    throw wrongField(
      'halfTurnOf',
      $localize`was before the last grinding: hang it both ways round again`,
    );
  }
  const alone = (u: number): number => Math.sqrt(Math.max(0, u ** 2 - offsetU ** 2));
  const { blade, balancerGmm } = halfTurnMean(
    { value: first.unbalanceGmm, u: alone(first.u) },
    { value: round.unbalanceGmm, u: alone(round.u) },
  );
  return {
    ...round,
    heavyEnd: blade.value === 0 ? 'level' : blade.value > 0 ? 'A' : 'B',
    unbalanceGmm: blade.value,
    u: blade.u,
    halfTurn: {
      of: halfTurnOf,
      firstGmm: first.unbalanceGmm,
      turnedGmm: round.unbalanceGmm,
      offsetGmm: balancerGmm,
    },
  };
}

/** No blade is so far out of balance: the clock was stopped too early, or the weight is mistyped. */
function refuseAbsurd(
  { drops, tilt }: BalanceRound,
  { unbalanceGmm }: Round,
  bladeMassG: number,
): void {
  if (Math.abs(unbalanceGmm) <= MOST_OFFSET_MM * bladeMassG) return;
  const most = said(MOST_OFFSET_MM * bladeMassG, 'g·mm', 0);
  throw wrongField(
    drops && drops.length > 0 ? 'drops' : tilt ? 'tilt.withWeight.text' : 'weight.text',
    $localize`would make it ${said(Math.abs(unbalanceGmm), 'g·mm', 0)} heavy; no blade of this mass is more than ${most} out: read it again`,
  );
}

/** One hanging of the blade: which end is heavy, by how much, and how sure that is. */
export function balanceRound(
  command: BalanceRound,
  state: CycleState,
  facts: CycleFacts,
): CycleEvent {
  const { device, heavyEnd, phase, roundId, balancerId } = command;
  const sight = sightOf(command, facts);
  const bladeMassG =
    valueAt(state, facts, { phase: 'after', quantity: 'mass' })?.value ??
    valueAt(state, facts, { phase: 'before', quantity: 'mass' })?.value ??
    facts.spec.newMassG;
  const hung = { roundId, phase, device, heavyEnd, ...(balancerId ? { balancerId } : {}) };
  if (command.endOnly && heavyEnd !== 'level') {
    if (command.halfTurnOf) {
      throw wrongField('halfTurnOf', $localize`needs an amount: an end alone has no mean`);
    }
    return { type: 'balance-read', round: { ...hung, unbalanceGmm: 0, u: 0, endOnly: true } };
  }
  const round: Round = { ...hung, ...amountOf(command, sight, facts, bladeMassG) };
  refuseAbsurd(command, round, bladeMassG);
  const seen =
    device === 'bearing-shaft'
      ? {
          leastVisibleGmm: leastVisibleGmm({
            markDeg: command.markDeg,
            frictionGmm: sight.friction.value,
          }),
        }
      : {};
  const offsetU = bladeMassG * sight.centringMm;
  return {
    type: 'balance-read',
    round: meanOfHalfTurn(command, { ...round, ...seen }, state, offsetU),
  };
}
