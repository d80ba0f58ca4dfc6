import type { CycleFacts, CycleState, CycleView } from '@tally-stone/contract';
import type { ENDS } from '@tally-stone/core';
import { assess } from './assess.js';
import { carriedAt } from './carried.js';
import { mayUndo } from './decide.js';
import { historyKey, removalOf, toolOf } from './facts.js';
import { toJudgementView, toWitnessView, withoutEmpty } from './figures.js';
import { hasBurr, isOutdated, passesIn } from './fold.js';
import { bevelAimDeg, leftOf } from './predicted.js';
import { signOffFrom } from './sign-off.js';
import { nextStepOf, stepsOf } from './steps.js';
import { onEachTool } from './tools-used.js';
import { believedAt, nowAt } from './values.js';

/** What of a cycle's view follows from its events and its facts: all but names, places and earlier cycles. */
export type CycleStanding = Omit<
  CycleView,
  | 'blade'
  | 'spec'
  | 'openedBy'
  | 'earlierDamage'
  | 'corrections'
  | 'corrected'
  | 'takeBack'
  | 'bench'
>;

/** The widths as they stand, station by station, to be drawn. */
export function widthsOf(state: CycleState, facts: CycleFacts): CycleView['widths'] {
  const at = (end: (typeof ENDS)[number]): CycleView['widths']['A'] =>
    facts.spec.stations.flatMap(({ radiusMm, key: stationKey }) => {
      const place = { quantity: 'width', end, stationKey } as const;
      // What is asked about is not drawn: it stands for nothing until it is read again.
      const now =
        believedAt(state, facts, { ...place, phase: 'after' }) ??
        believedAt(state, facts, { ...place, phase: 'before' });
      // Read once and asked for again: what it should be by now, until it is.
      const known = now ?? (facts.last[historyKey(place)] ? carriedAt(facts, place) : undefined);
      if (!known) return [];
      return [
        { radiusMm, widthMm: known.value, ...(now?.carried === false ? {} : { worked: true }) },
      ];
    });
  return { A: at('A'), B: at('B') };
}

function agreementOf(state: CycleState, facts: CycleFacts): Pick<CycleView, 'agreement'> {
  // On several tools what the count foretold is of them all: no one tool's agreement is beside it.
  const [used, ...others] = onEachTool(state);
  const agreement = used && others.length === 0 && removalOf(used, facts)?.agreement;
  if (!agreement) return {};
  const tool = facts.grinders.find(({ grinderId }) => grinderId === used.grinderId);
  return { agreement: { ...agreement, tool: tool?.figures.name ?? $localize`This shop` } };
}

/**
 * How a cycle stands, as the run shows it; a signed one with the verdict and the figures frozen then. The server says
 * it, and a browser that is alone works it out the same way from what waits in its outbox.
 */
/** Something that still speaks of the blade was made over its burr. */
const madeOverBurr = (state: CycleState): boolean =>
  state.rounds.at(-1)?.burr === 'on' ||
  Object.keys(state.lightTest).length > 0 ||
  [...state.readings, ...state.edges].some(
    (made) => made.burr === 'on' && !isOutdated(state, made),
  );

export function standingOf(state: CycleState, facts: CycleFacts): CycleStanding {
  const assessment = assess(state, facts);
  const steps = stepsOf(state, assessment, facts);
  const { frozen } = facts;
  return {
    cycleId: state.cycleId,
    revision: state.revision,
    openedAt: state.openedAt,
    cleaned: state.cleaned,
    ...(state.crack
      ? { crack: withoutEmpty(state.crack) as { found: boolean; where?: string } }
      : {}),
    slots: assessment.slots,
    damage: state.damage.map((mark) =>
      withoutEmpty({ ...mark, left: leftOf(state, facts, mark) }),
    ) as CycleView['damage'],
    photos: state.photos.map(withoutEmpty) as CycleView['photos'],
    passes: state.passes.map((each) =>
      withoutEmpty({ ...each, revision: undefined }),
    ) as CycleView['passes'],
    counts: toolOf(state, facts)?.figures.counts ?? 'pass',
    ...(state.setUp ? { setUp: withoutEmpty(state.setUp) as NonNullable<CycleView['setUp']> } : {}),
    ...(state.finishOn ? { finishOn: state.finishOn } : {}),
    weighedNow: state.weighings?.at(-1)?.passesBefore === passesIn(state),
    fullLook: state.fullLook,
    burr: hasBurr(state),
    overBurr: hasBurr(state) && madeOverBurr(state),
    bevelAimDeg: bevelAimDeg(state, facts),
    rounds: assessment.rounds,
    lightTest: withoutEmpty({ ...state.lightTest }) as CycleView['lightTest'],
    before: toJudgementView(assessment.before),
    now: toJudgementView(frozen?.judgement ?? assessment.now),
    lengthMm:
      nowAt(state, facts, { quantity: 'length' })?.value ??
      facts.last['length:-:-']?.value ??
      facts.spec.newLengthMm,
    widths: widthsOf(state, facts),
    // Signed, what was foretold and found stays what it was then, whatever the tool teaches later.
    witnesses: toWitnessView(assessment.witnesses, frozen?.witnesses),
    ...agreementOf(state, facts),
    steps,
    nextStep: nextStepOf(steps, assessment),
    signOff: signOffFrom(assessment),
    ...(state.signedOff
      ? {
          signedOff: {
            ...(withoutEmpty(state.signedOff) as NonNullable<CycleView['signedOff']>),
            ...(mayUndo(state, facts) ? { undoable: true } : {}),
          },
        }
      : {}),
  };
}
