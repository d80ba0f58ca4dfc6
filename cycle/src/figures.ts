import type {
  CycleFacts,
  CycleFigures,
  CycleState,
  FindingView,
  JudgementView,
  WitnessView,
} from '@tally-stone/contract';
import { inWords, mayTeach, type Finding } from '@tally-stone/core';
import { assess } from './assess.js';
import { wheelOf } from './facts.js';
import { removedByTool } from './removed-by-tool.js';
import type { Witnesses } from './witnesses.js';

export const withoutEmpty = <T extends object>(value: T): T =>
  Object.fromEntries(Object.entries(value).filter(([, each]) => each !== undefined)) as T;

/** A finding as the screens show it; one that was signed in an older version's words keeps them. */
export const toFindingView = (finding: Finding | FindingView): FindingView =>
  withoutEmpty('words' in finding ? finding : { ...inWords(finding), rule: finding.source });

export const toJudgementView = ({ verdict, findings }: StoredJudgement): JudgementView => ({
  verdict,
  findings: findings.map(toFindingView),
});

type StoredJudgement = CycleFigures['judgement'];

/** The witnesses as the screens show them: kept figures where there are any, words as they are today. */
export const toWitnessView = (
  witnesses: Witnesses,
  kept?: CycleFigures['witnesses'],
): WitnessView => ({ ...witnesses, pairs: [...witnesses.pairs], ...kept }) as WitnessView;

/** The figures that a sign-off freezes, and that a correction works out again from the corrected readings. */
export function figuresOf(state: CycleState, facts: CycleFacts): CycleFigures {
  const { now, witnesses, rounds } = assess(state, facts);
  const byTool = removedByTool(state, facts);
  return {
    judgement: { verdict: now.verdict, findings: now.findings.map(withoutEmpty) },
    witnesses: {
      said: witnesses.said,
      pairs: [...witnesses.pairs],
      agree: witnesses.agree,
    } as NonNullable<CycleFigures['witnesses']>,
    removedG: witnesses.said.scale ?? null,
    ...(Object.keys(byTool).length > 0 ? { removedByTool: byTool } : {}),
    teaches: mayTeach(witnesses),
    permissibleGmm: rounds.at(-1)?.permissibleGmm ?? null,
    ...(state.passes.length > 0 ? { wheel: wheelOf(state, facts) } : {}),
  };
}
