import type { CycleState, Schools } from '@tally-stone/contract';
import type { CycleFacts } from './facts.js';

/** The schools of this blade: the shop's, with its own choices over them. */
export const schoolsOf = (state: CycleState, facts: CycleFacts): Schools => ({
  ...facts.shopRules.schools,
  ...state.schools,
});
