/** Why a blade was retired. */
export interface RetireReasonRow {
  readonly words: string;
  /** A reading or a look retires it, or the shop decides so. */
  readonly by: 'reading' | 'shop';
  /** It was spoilt rather than used up: no wear foretold it. */
  readonly damage?: true;
}

const ROWS = {
  crack: { words: 'Cracked', by: 'reading', damage: true },
  bend: { words: 'Bent past its tolerance', by: 'reading', damage: true },
  'width-limit': { words: 'Below its least width', by: 'reading' },
  'wing-limit': { words: 'Lift wing too thin', by: 'reading' },
  'lift-lost': { words: 'Lift wing worn too low', by: 'reading' },
  'length-limit': { words: 'Too short', by: 'reading' },
  'tip-rounding': { words: 'Tip too rounded', by: 'reading', damage: true },
  'hole-wear': { words: 'Centre hole worn', by: 'reading' },
  'mass-loss': { words: 'Lost too much mass', by: 'reading' },
  'grind-count': { words: 'Ground as often as allowed', by: 'reading' },
  'nick-beyond-saving': { words: 'Damage beyond saving', by: 'reading', damage: true },
  'wont-hold-edge': { words: 'No longer holds an edge', by: 'shop' },
  'not-worth-grinding': { words: 'Not worth another grind', by: 'shop' },
  'no-mower-for-it': { words: 'No mower takes it any more', by: 'shop' },
  'no-mate-in-a-set': { words: 'Nothing left to pair it with', by: 'shop' },
  'shop-decision': { words: 'Another reason of the shop’s', by: 'shop' },
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
