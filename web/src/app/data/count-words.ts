import type { Counted } from '@tally-stone/contract';

/** What is counted on a grinder, in words. */
export interface CountWords {
  readonly one: string;
  readonly many: string;
}

export const COUNT_WORDS: Readonly<Record<Counted, CountWords>> = {
  pass: { one: 'pass', many: 'passes' },
  stroke: { one: 'stroke', many: 'strokes' },
  second: { one: 'second', many: 'seconds' },
};

/** `1 pass`, `12 strokes`. */
export const counted = (count: number, { one, many }: CountWords): string =>
  `${count} ${count === 1 ? one : many}`;
