import type { Disposal } from '@tally-stone/contract';

export const DISPOSAL_WORDS: Readonly<Record<Disposal, string>> = {
  cut: $localize`Cut through`,
  bent: $localize`Bent over`,
  scrapped: $localize`In the scrap bin, marked`,
};
