import type { Disposal, RetireReason } from '@tally-stone/contract';

export const RETIRE_WORDS: Readonly<Record<RetireReason, string>> = {
  crack: 'Cracked',
  bend: 'Bent past its tolerance',
  'width-limit': 'Below its least width',
  'wing-limit': 'Lift wing too thin',
  'length-limit': 'Too short',
  'tip-rounding': 'Tip too rounded',
  'hole-wear': 'Centre hole worn',
  'mass-loss': 'Lost too much mass',
  'grind-count': 'Ground as often as allowed',
  'nick-beyond-saving': 'Damage beyond saving',
  'wont-hold-edge': 'No longer holds an edge',
  'not-worth-grinding': 'Not worth another grind',
  'no-mower-for-it': 'No mower takes it any more',
  'no-mate-in-a-set': 'Nothing left to pair it with',
  'shop-decision': 'Another reason of the shop’s',
};

export const DISPOSAL_WORDS: Readonly<Record<Disposal, string>> = {
  cut: 'Cut through',
  bent: 'Bent over',
  scrapped: 'In the scrap bin, marked',
};
