import type { Disposal } from '@tally-stone/contract';

export const DISPOSAL_WORDS: Readonly<Record<Disposal, string>> = {
  cut: 'Cut through',
  bent: 'Bent over',
  scrapped: 'In the scrap bin, marked',
};
