/** Why a blade was retired. */
export interface RetireReasonRow {
  readonly words: string;
  /** A reading or a look retires it, or the shop decides so. */
  readonly by: 'reading' | 'shop';
  /** It was spoilt rather than used up: no wear foretold it. */
  readonly damage?: true;
}

const ROWS = {
  crack: {
    get words() {
      return $localize`Cracked`;
    },
    by: 'reading',
    damage: true,
  },
  bend: {
    get words() {
      return $localize`Bent past its tolerance`;
    },
    by: 'reading',
    damage: true,
  },
  'width-limit': {
    get words() {
      return $localize`Below its least width`;
    },
    by: 'reading',
  },
  'wing-limit': {
    get words() {
      return $localize`Lift wing too thin`;
    },
    by: 'reading',
  },
  'lift-lost': {
    get words() {
      return $localize`Lift wing worn too low`;
    },
    by: 'reading',
  },
  'length-limit': {
    get words() {
      return $localize`Too short`;
    },
    by: 'reading',
  },
  'tip-rounding': {
    get words() {
      return $localize`Tip too rounded`;
    },
    by: 'reading',
    damage: true,
  },
  'hole-wear': {
    get words() {
      return $localize`Centre hole worn`;
    },
    by: 'reading',
  },
  'mass-loss': {
    get words() {
      return $localize`Lost too much mass`;
    },
    by: 'reading',
  },
  'grind-count': {
    get words() {
      return $localize`Ground as often as allowed`;
    },
    by: 'reading',
  },
  'nick-beyond-saving': {
    get words() {
      return $localize`Damage beyond saving`;
    },
    by: 'reading',
    damage: true,
  },
  'wont-hold-edge': {
    get words() {
      return $localize`No longer holds an edge`;
    },
    by: 'shop',
  },
  'not-worth-grinding': {
    get words() {
      return $localize`Not worth another grind`;
    },
    by: 'shop',
  },
  'no-mower-for-it': {
    get words() {
      return $localize`No mower takes it any more`;
    },
    by: 'shop',
  },
  'no-mate-in-a-set': {
    get words() {
      return $localize`Nothing left to pair it with`;
    },
    by: 'shop',
  },
  'shop-decision': {
    get words() {
      return $localize`Another reason of the shop’s`;
    },
    by: 'shop',
  },
} as const satisfies Readonly<Record<string, RetireReasonRow>>;

export type RetireReason = keyof typeof ROWS;
/** Every reason to retire a blade, by its key. */
export const RETIRE_REASONS: Readonly<Record<RetireReason, RetireReasonRow>> = ROWS;
export const RETIRE_REASON_KEYS = Object.keys(ROWS) as [RetireReason, ...RetireReason[]];
/** Why a shop retires a blade that no reading retires, in the order they are offered. */
export const SHOP_RETIRES_FOR: readonly RetireReason[] = RETIRE_REASON_KEYS.filter(
  (key) => RETIRE_REASONS[key].by === 'shop',
);
/** Reasons no wear foretells. */
export const RETIRED_BY_DAMAGE: readonly RetireReason[] = RETIRE_REASON_KEYS.filter(
  (key) => RETIRE_REASONS[key].damage,
);
