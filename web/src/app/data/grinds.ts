import { counted } from '@tally-stone/core';

/** `1 grind`, `4 grinds`. */
export const grindsWords = (count: number): string =>
  counted(count, { one: $localize`grind`, many: $localize`grinds` });
