import type { StepKey } from '@tally-stone/contract';

/** The steps of the run as the rail names them. */
export const STEP_NAMES: Readonly<Record<StepKey, string>> = {
  clean: 'Clean',
  inspect: 'Inspect',
  measure: 'Measure',
  verdict: 'Verdict',
  'set-up': 'Set up',
  grind: 'Grind',
  balance: 'Balance',
  prove: 'Prove',
  'sign-off': 'Sign off',
};
