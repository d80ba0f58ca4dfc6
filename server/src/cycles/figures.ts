import type { CycleState, FindingView, JudgementView, WitnessView } from '@tally-stone/contract';
import { mayTeach, type Finding, type Judgement } from '@tally-stone/core';
import type { CycleFigures } from '../db/rows.js';
import { wheelOf, type CycleFacts } from './facts.js';
import type { Witnesses } from './judge.js';
import { assess } from './sign-off.js';

const withoutEmpty = <T extends object>(value: T): T =>
  Object.fromEntries(Object.entries(value).filter(([, each]) => each !== undefined)) as T;

export const toFindingView = (finding: Finding): FindingView =>
  withoutEmpty(finding) as FindingView;

export const toJudgementView = (judgement: Judgement): JudgementView => ({
  verdict: judgement.verdict,
  findings: judgement.findings.map(toFindingView),
});

export const toWitnessView = (witnesses: Witnesses): WitnessView =>
  ({ ...witnesses, pairs: [...witnesses.pairs] }) as WitnessView;

/** The figures that a sign-off freezes, and that a correction works out again from the corrected readings. */
export function figuresOf(state: CycleState, facts: CycleFacts): CycleFigures {
  const { now, witnesses, rounds } = assess(state, facts);
  return {
    judgement: toJudgementView(now),
    witnesses: toWitnessView(witnesses),
    removedG: witnesses.said.scale ?? null,
    teaches: mayTeach(witnesses),
    permissibleGmm: rounds.at(-1)?.permissibleGmm ?? null,
    ...(state.passes.length > 0 ? { wheel: wheelOf(state, facts) } : {}),
  };
}
