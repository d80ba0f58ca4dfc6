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
    get words() {
      return $localize`new`;
    },
    get heading() {
      return $localize`New, not yet through the bench`;
    },
    get notFitted() {
      return $localize`is new and has not been through the bench`;
    },
  },
  'on-mower': {
    get words() {
      return $localize`on mower`;
    },
    get heading() {
      return $localize`On its mower`;
    },
    get notTakenUp() {
      return $localize`is on a mower: bring it in first`;
    },
    get notFitted() {
      return $localize`is on a mower already`;
    },
  },
  waiting: {
    get words() {
      return $localize`waiting`;
    },
    get heading() {
      return $localize`Waiting for the bench`;
    },
    get notFitted() {
      return $localize`waits for the bench: it is not signed off`;
    },
  },
  'at-bench': {
    get words() {
      return $localize`at the bench`;
    },
    get heading() {
      return $localize`In hand at the bench`;
    },
    get notTakenUp() {
      return $localize`is at the bench already`;
    },
    get notFitted() {
      return $localize`is at the bench: sign its cycle off first`;
    },
  },
  ready: {
    get words() {
      return $localize`ready`;
    },
    get heading() {
      return $localize`Ready, in the rack`;
    },
  },
  hold: {
    get words() {
      return $localize`on hold`;
    },
    get heading() {
      return $localize`On hold`;
    },
    get notFitted() {
      return $localize`is on hold: it has to be looked at again first`;
    },
  },
  retired: {
    get words() {
      return $localize`retired`;
    },
    get heading() {
      return $localize`Retired`;
    },
    get notTakenUp() {
      return $localize`is retired: it is never opened for grinding again`;
    },
    get notFitted() {
      return $localize`is retired and is never fitted again`;
    },
  },
} as const satisfies Readonly<Record<string, BladeStateRow>>;

export type BladeState = keyof typeof ROWS;
/** Every state of a blade, by its key. */
export const BLADE_STATES: Readonly<Record<BladeState, BladeStateRow>> = ROWS;
export const BLADE_STATE_KEYS = Object.keys(ROWS) as [BladeState, ...BladeState[]];
