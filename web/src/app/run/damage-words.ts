import type { DamageKind } from '@tally-stone/contract';

export const DAMAGE_WORDS: Readonly<Record<DamageKind, string>> = {
  nick: 'Nick',
  chip: 'Chip',
  roll: 'Rolled edge',
  crack: 'Crack',
  'rounded-tip': 'Rounded tip',
  'thin-wing': 'Thin wing',
  burnt: 'Burnt (blued)',
  'worn-hole': 'Worn hole',
};

/** What is measured of each, as its field is named. */
export const DEPTH_WORDS: Readonly<Record<DamageKind, string>> = {
  nick: 'Depth',
  chip: 'Depth',
  roll: 'Depth',
  crack: 'Length',
  'rounded-tip': 'Rounded by',
  'thin-wing': 'Worn away',
  burnt: 'Depth',
  'worn-hole': 'Wider by',
};
