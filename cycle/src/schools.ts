import type { CycleFacts, CycleState, Schools } from '@tally-stone/contract';

/** The schools of this blade: the shop's, with its own choices over them. */
export const schoolsOf = (state: CycleState, facts: CycleFacts): Schools => ({
  ...facts.shopRules.schools,
  ...state.schools,
});
