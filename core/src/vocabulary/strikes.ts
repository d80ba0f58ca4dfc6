/** What a mower struck, and how hard, in words; the key is what is stored. */
export const STRUCK = {
  get stone() {
    return $localize`a stone`;
  },
  get 'root-or-stump'() {
    return $localize`a root or stump`;
  },
  get 'kerb-or-edging'() {
    return $localize`a kerb or edging`;
  },
  get metal() {
    return $localize`metal`;
  },
  get something() {
    return $localize`something unseen`;
  },
} as const;
export type Struck = keyof typeof STRUCK;
export const STRUCK_KEYS = Object.keys(STRUCK) as [Struck, ...Struck[]];

export const STRUCK_HOW = {
  get glanced() {
    return $localize`It glanced off`;
  },
  get hard() {
    return $localize`A hard knock`;
  },
  get stopped() {
    return $localize`It stopped the blade`;
  },
} as const;
export type StruckHow = keyof typeof STRUCK_HOW;
export const STRUCK_HOW_KEYS = Object.keys(STRUCK_HOW) as [StruckHow, ...StruckHow[]];

/**
 * A strike in a blade's story.
 * @example strikeTold('Kestrel', 'stone', 'hard') // 'Kestrel struck a stone hard'
 */
export function strikeTold(mower: string, what: Struck, how: StruckHow): string {
  switch (how) {
    case 'glanced':
      return $localize`${mower}:mower: grazed ${STRUCK[what]}:what:`;
    case 'hard':
      return $localize`${mower}:mower: struck ${STRUCK[what]}:what: hard`;
    case 'stopped':
      return $localize`${mower}:mower: was stopped by ${STRUCK[what]}:what:`;
  }
}
