import type { CycleFacts, CycleState } from '@tally-stone/contract';

/** A question asked many times of one state: worked out once, forgotten with the state. */
export function oncePerState<Answer extends object>(
  work: (state: CycleState, facts: CycleFacts) => Answer,
): (state: CycleState, facts: CycleFacts) => Answer {
  const known = new WeakMap<CycleState, { facts: CycleFacts; answer: Answer }>();
  return (state, facts) => {
    const found = known.get(state);
    if (found?.facts === facts) return found.answer;
    const answer = work(state, facts);
    known.set(state, { facts, answer });
    return answer;
  };
}
