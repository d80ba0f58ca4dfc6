import type { BalanceView, CycleFacts, CycleState, TakenRound } from '@tally-stone/contract';
import {
  BALANCE_GRADES,
  COVERAGE_K,
  expectedAfterTaking,
  hangingsAgree,
  judgeBalance,
  nextSearchStepGmm,
  outer50RadiusMm,
  permissibleGmm,
  predictRemoval,
  tellsAmount,
  USUAL_PASS_G,
  zoneRadiusMm,
  type End,
  type Measured,
} from '@tally-stone/core';
import { removalOf, zonesOfTool } from './facts.js';
import { passesIn } from './fold.js';
import { predictedAt } from './predicted.js';
import { schoolsOf } from './schools.js';
import { believedAt, nowAt } from './values.js';

/** What the passes after the first `from` and not after the first `to` took from each end, as moments, g·mm. */
function takenBetween(
  state: CycleState,
  facts: CycleFacts,
  from: number,
  to: number,
): Record<End, Measured[]> {
  const taken: Record<End, Measured[]> = { A: [], B: [] };
  let counted = 0;
  for (const passes of state.passes) {
    const { end, zone, count } = passes;
    const within = Math.max(0, Math.min(counted + count, to) - Math.max(counted, from));
    counted += count;
    if (within === 0) continue;
    const removal = removalOf(passes, facts);
    const found = removal && zonesOfTool(removal).find(({ key }) => key === zone);
    const grams = within * (found?.gramsPerPass ?? USUAL_PASS_G);
    const radiusMm = found
      ? zoneRadiusMm(found, facts.spec.newLengthMm / 2)
      : outer50RadiusMm(facts.spec.newLengthMm / 2);
    const foretold = removal && predictRemoval(removal.learned, { [zone]: within });
    // Learned of both ends together; one end's alone scatters up to √2 times as much.
    const relativeU =
      foretold && foretold.value > 0 ? (Math.SQRT2 * foretold.u) / foretold.value : UNKNOWN_TAKEN;
    taken[end].push({ value: grams * radiusMm, u: relativeU * grams * radiusMm });
  }
  return taken;
}

/** How well anybody knows what a tool takes that was never weighed after. Common practice, no source. */
const UNKNOWN_TAKEN = 0.5;

/** What one round's passes took from the end that was heavy before it, less what they took from the other. */
function takenSince(
  state: CycleState,
  facts: CycleFacts,
  heavyEnd: End,
  from: number,
  to: number,
): number {
  const taken = takenBetween(state, facts, from, to);
  const moved = (end: End): number => taken[end].reduce((sum, { value }) => sum + value, 0);
  return Math.max(0, heavyEnd === 'A' ? moved('A') - moved('B') : moved('B') - moved('A'));
}

/** What a round should have found by the round before it, where the two do not fit together. */
function unlikeBefore(
  state: CycleState,
  facts: CycleFacts,
  index: number,
): Pick<BalanceView, 'expected'> {
  // What is signed is not asked again.
  if (state.signedOff) return {};
  const round = state.rounds[index];
  const before = state.rounds
    .slice(0, index)
    .findLast(({ endOnly, burr }) => !endOnly && burr !== 'gone');
  if (!round || !before || round.endOnly) return {};
  const taken = takenBetween(state, facts, before.passesBefore, round.passesBefore);
  const expected = expectedAfterTaking({ value: before.unbalanceGmm, u: before.u }, taken);
  if (hangingsAgree(expected, { value: round.unbalanceGmm, u: round.u })) return {};
  return {
    expected: {
      unbalanceGmm: expected.value,
      expandedUncertaintyGmm: COVERAGE_K * expected.u,
    },
  };
}

/**
 * What the blade weighs now, g: ground and not weighed since, the least it can weigh. The unbalance it may have goes with
 * its mass: in balance at the stand, it must be so on the scale.
 */
function massNow(state: CycleState, facts: CycleFacts): number {
  const known = nowAt(state, facts, { quantity: 'mass' })?.value ?? facts.spec.newMassG;
  if (passesIn(state) === 0 || believedAt(state, facts, { phase: 'after', quantity: 'mass' }))
    return known;
  const left = predictedAt(state, facts, { phase: 'after', quantity: 'mass' });
  return left ? Math.min(known, left.value - COVERAGE_K * left.u) : known;
}

/** The grade the blade is balanced to, and its mass now: what the permissible unbalance is worked out from. */
const balancedTo = (state: CycleState, facts: CycleFacts) => ({
  gradeMmPerS: schoolsOf(state, facts).gradeMmPerS ?? facts.spec.gradeMmPerS,
  massG: massNow(state, facts),
});

/** Unbalance that may be left in the blade as it is now, g·mm. */
export function permissibleNow(state: CycleState, facts: CycleFacts): number {
  const { gradeMmPerS, massG } = balancedTo(state, facts);
  return permissibleGmm(massG, facts.speedRpm, gradeMmPerS);
}

/** How far a step of the search may miss what it was meant to take. Common practice, no source. */
const STEP_ERROR = 0.25;

/** Where only the heavy end is known: what to take next, by the bracketing search over the rounds so far. */
function searchStep(
  state: CycleState,
  facts: CycleFacts,
  index: number,
): Pick<BalanceView, 'correctionG' | 'correctionUG' | 'within'> {
  const { spec } = facts;
  const earlier = state.rounds.slice(0, index).flatMap((round, i) => {
    const next = state.rounds[i + 1];
    if (!next || round.heavyEnd === 'level') return [];
    const takenGmm = takenSince(
      state,
      facts,
      round.heavyEnd,
      round.passesBefore,
      next.passesBefore,
    );
    return takenGmm > 0 ? [{ heavyEnd: round.heavyEnd, takenGmm }] : [];
  });
  const stepGmm = nextSearchStepGmm(state.rounds[index]?.heavyEnd ?? 'level', earlier, {
    toleranceGmm: permissibleNow(state, facts),
    stepRelativeError: STEP_ERROR,
  });
  const correctionG = stepGmm / outer50RadiusMm(spec.newLengthMm / 2);
  return { correctionG, correctionUG: STEP_ERROR * correctionG, within: false };
}

/** On what a round was read, and what stands beside its figure. */
function balancerWords(
  { balancerId, byTilt, halfTurn, leastVisibleGmm, unbalanceGmm, endOnly }: TakenRound,
  { balancers }: CycleFacts,
): Pick<BalanceView, 'balancer' | 'byTilt' | 'halfTurn' | 'belowSightGmm'> {
  const balancer = balancers.find((each) => each.balancerId === balancerId);
  const unseen = !endOnly && leastVisibleGmm && Math.abs(unbalanceGmm) < leastVisibleGmm;
  return {
    ...(balancer ? { balancer: balancer.name } : {}),
    ...(byTilt ? { byTilt } : {}),
    ...(halfTurn
      ? {
          halfTurn: {
            firstGmm: halfTurn.firstGmm,
            turnedGmm: halfTurn.turnedGmm,
            offsetGmm: halfTurn.offsetGmm,
          },
        }
      : {}),
    ...(unseen ? { belowSightGmm: leastVisibleGmm } : {}),
  };
}

/** What each balance round means for this blade. */
export function balanceViews(state: CycleState, facts: CycleFacts): BalanceView[] {
  const { spec } = facts;
  const { gradeMmPerS, massG } = balancedTo(state, facts);
  const lengthMm = nowAt(state, facts, { quantity: 'length' })?.value ?? spec.newLengthMm;
  return state.rounds.map((round, index) => {
    const result = judgeBalance({
      unbalance: { value: round.unbalanceGmm, u: round.u },
      bladeMassG: massG,
      speedRpm: facts.speedRpm,
      gradeMmPerS,
      correctionRadiusMm: outer50RadiusMm(lengthMm / 2),
    });
    return {
      roundId: round.roundId,
      phase: round.phase,
      device: round.device,
      heavyEnd: round.endOnly ? round.heavyEnd : result.heavyEnd,
      unbalanceGmm: result.unbalance.value,
      expandedUncertaintyGmm: COVERAGE_K * result.unbalance.u,
      permissibleGmm: result.permissibleGmm,
      gradeMmPerS: result.gradeMmPerS,
      gradeSource:
        BALANCE_GRADES[gradeMmPerS as keyof typeof BALANCE_GRADES] ??
        $localize`G ${gradeMmPerS}:ph0:: the blade spec's grade`,
      correctionRadiusMm: result.correctionRadiusMm,
      correctionG: result.correctionG,
      correctionUG: result.correctionUG,
      forceN: result.forceN,
      speedRpm: facts.speedRpm,
      within: result.within,
      tooCoarse: result.tooCoarse,
      passesBefore: round.passesBefore,
      ...(round.burr ? { burr: round.burr } : {}),
      ...(round.endOnly ? { ...searchStep(state, facts, index), endOnly: true } : {}),
      ...(round.endOnly || tellsAmount(result.unbalance, result.permissibleGmm)
        ? {}
        : { ...searchStep(state, facts, index), within: result.within }),
      ...balancerWords(round, facts),
      ...unlikeBefore(state, facts, index),
      ...(round.dropsS ? { dropsS: [...round.dropsS] } : {}),
      ...(round.outliersS ? { outliersS: [...round.outliersS] } : {}),
    };
  });
}
