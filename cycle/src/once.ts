import type { CycleFacts, CycleState } from '@tally-stone/contract';
import type { Place } from './place.js';

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

/** The same for a question asked of many places, each worked out once. */
export function oncePerPlace<Asked extends Omit<Place, 'phase'> & Partial<Place>, Answer>(
  work: (state: CycleState, facts: CycleFacts, place: Asked) => Answer,
): (state: CycleState, facts: CycleFacts, place: Asked) => Answer {
  const answersOf = oncePerState(() => new Map<string, { readonly answer: Answer }>());
  return (state, facts, place) => {
    const answers = answersOf(state, facts);
    const { phase = '', quantity, end = '', stationKey = '' } = place;
    const key = `${phase}:${quantity}:${end}:${stationKey}`;
    const known = answers.get(key);
    if (known) return known.answer;
    const answer = work(state, facts, place);
    answers.set(key, { answer });
    return answer;
  };
}
