import type { StepKey } from '@tally-stone/contract';

/** The steps of the run as the rail names them. */
export const STEP_NAMES: Readonly<Record<StepKey, string>> = {
  clean: $localize`Clean`,
  inspect: $localize`Inspect`,
  measure: $localize`Measure`,
  verdict: $localize`Verdict`,
  'set-up': $localize`Set up`,
  grind: $localize`Grind`,
  balance: $localize`Balance`,
  prove: $localize`Prove`,
  'sign-off': $localize`Sign off`,
};

/** How a step stands, for those who hear the rail. */
export const stateWords = (state: string): string =>
  state === 'done'
    ? $localize`done`
    : state === 'attention'
      ? $localize`needs a look`
      : $localize`to do`;
