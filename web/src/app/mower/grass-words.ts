import type { GrassLookView } from '@tally-stone/contract';

const percent = (share: number): string => (100 * share).toFixed(0);

/** `24 % torn (11 to 43)`. */
export const tornWords = ({ share, low, high }: GrassLookView['share']): string =>
  $localize`${percent(share)} % torn (${percent(low)} to ${percent(high)})`;
