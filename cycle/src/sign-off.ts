import type { CycleFacts, CycleState, Outcome, SignOffView } from '@tally-stone/contract';
import { retireReasonOf, SHOP_RETIRES_FOR, type Finding } from '@tally-stone/core';
import { assess, type Assessment } from './assess.js';

/** What retires the blade, before the grind or now. */
export const retiring = ({ before, now }: Assessment): Finding[] => {
  const byId = new Map(
    [...before.findings, ...now.findings]
      .filter(({ severity }) => severity === 'retire')
      .map((finding) => [finding.id, finding]),
  );
  return [...byId.values()];
};

/** How a cycle may be signed off: proposed, allowed, and what stands in the way. */
export function signOffFrom(assessment: Assessment): SignOffView {
  const reasons = retiring(assessment);
  if (reasons.length > 0) {
    return {
      proposed: 'retired',
      allowed: ['retired'],
      blocks: [],
      retireReasons: [...new Set(reasons.map(retireReasonOf))],
    };
  }
  const allowed: Outcome[] = ['hold', 'retired'];
  const ready = assessment.blocks.length === 0;
  return {
    proposed: ready ? 'ready' : assessment.now.verdict === 'hold' ? 'hold' : 'ready',
    allowed: ready ? ['ready', ...allowed] : allowed,
    blocks: [...assessment.blocks],
    retireReasons: [...SHOP_RETIRES_FOR],
  };
}

export const signOffOf = (state: CycleState, facts: CycleFacts): SignOffView =>
  signOffFrom(assess(state, facts));
