/** Where a blade is in its life. */
export interface BladeStateRow {
  /** After its code, `4447M, at the bench`; and what it is looked for by. */
  readonly words: string;
  /** By itself, at the head of its page. */
  readonly heading: string;
  /** Why it cannot be taken up at the bench; nothing where it can. */
  readonly notTakenUp?: string;
  /** Why it cannot be fitted on a mower; nothing where it can. */
  readonly notFitted?: string;
}

const ROWS = {
  new: {
    words: 'new',
    heading: 'New, not yet through the bench',
    notFitted: 'is new and has not been through the bench',
  },
  'on-mower': {
    words: 'on mower',
    heading: 'On its mower',
    notTakenUp: 'is on a mower: bring it in first',
    notFitted: 'is on a mower already',
  },
  waiting: {
    words: 'waiting',
    heading: 'Waiting for the bench',
    notFitted: 'waits for the bench: it is not signed off',
  },
  'at-bench': {
    words: 'at the bench',
    heading: 'In hand at the bench',
    notTakenUp: 'is at the bench already',
    notFitted: 'is at the bench: sign its cycle off first',
  },
  ready: { words: 'ready', heading: 'Ready, in the rack' },
  hold: {
    words: 'on hold',
    heading: 'On hold',
    notFitted: 'is on hold: it has to be looked at again first',
  },
  retired: {
    words: 'retired',
    heading: 'Retired',
    notTakenUp: 'is retired: it is never opened for grinding again',
    notFitted: 'is retired and is never fitted again',
  },
} as const satisfies Readonly<Record<string, BladeStateRow>>;

export type BladeState = keyof typeof ROWS;
/** Every state of a blade, by its key. */
export const BLADE_STATES: Readonly<Record<BladeState, BladeStateRow>> = ROWS;
export const BLADE_STATE_KEYS = Object.keys(ROWS) as [BladeState, ...BladeState[]];
