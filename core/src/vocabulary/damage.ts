import type { LimitKind } from './limits.js';

/** A kind of damage that can be marked on the steel, and what it does to the blade. */
export interface DamageRow {
  /** Its name where it stands alone, and within a sentence. */
  readonly words: string;
  readonly noun: string;
  /** What is measured of it, as its field is named, and what that is until somebody measures it, mm. */
  readonly depthWords: string;
  readonly usualDepthMm: number;
  /** Only on the cutting edge, or anywhere on its end. */
  readonly lies: 'edge' | 'end';
  /** Taken out of the edge by grinding; only such damage asks for metal. */
  readonly groundOut?: true;
  /** Retires the blade by itself, with no override. */
  readonly retires?: true;
  /** Its depth is held against this limit of the spec. */
  readonly limit?: LimitKind;
  /** The lift wing is thinner by its depth. */
  readonly thinsWing?: true;
  /** A width read so near to it, mm along the blade, may be too small by its depth. */
  readonly spoilsWidthWithinMm?: number;
  /** Kept in sight, or on hold until somebody measures what it is about. */
  readonly keptInSight?: true;
  readonly heldUntilRead?: 'hole-wear';
}

/** Depths and distances: common practice, no source. */
const ROWS = {
  nick: {
    get words() {
      return $localize`Nick`;
    },
    get noun() {
      return $localize`nick`;
    },
    get depthWords() {
      return $localize`Depth`;
    },
    usualDepthMm: 0.5,
    lies: 'edge',
    groundOut: true,
  },
  chip: {
    get words() {
      return $localize`Chip`;
    },
    get noun() {
      return $localize`chip`;
    },
    get depthWords() {
      return $localize`Depth`;
    },
    usualDepthMm: 1.5,
    lies: 'edge',
    groundOut: true,
  },
  roll: {
    get words() {
      return $localize`Rolled edge`;
    },
    get noun() {
      return $localize`rolled edge`;
    },
    get depthWords() {
      return $localize`Depth`;
    },
    usualDepthMm: 0.4,
    lies: 'edge',
    groundOut: true,
  },
  crack: {
    get words() {
      return $localize`Crack`;
    },
    get noun() {
      return $localize`crack`;
    },
    get depthWords() {
      return $localize`Length`;
    },
    usualDepthMm: 5,
    lies: 'end',
    retires: true,
  },
  'rounded-tip': {
    get words() {
      return $localize`Rounded tip`;
    },
    get noun() {
      return $localize`rounded tip`;
    },
    get depthWords() {
      return $localize`Rounded by`;
    },
    usualDepthMm: 3,
    lies: 'edge',
    limit: 'tip-rounding',
  },
  'thin-wing': {
    get words() {
      return $localize`Thin wing`;
    },
    get noun() {
      return $localize`thin wing`;
    },
    get depthWords() {
      return $localize`Worn away`;
    },
    usualDepthMm: 1,
    lies: 'end',
    thinsWing: true,
  },
  'rust-pitting': {
    get words() {
      return $localize`Rust pitting`;
    },
    get noun() {
      return $localize`rust pitting`;
    },
    get depthWords() {
      return $localize`Depth`;
    },
    usualDepthMm: 0.3,
    lies: 'end',
    thinsWing: true,
    spoilsWidthWithinMm: 15,
    keptInSight: true,
  },
  burnt: {
    get words() {
      return $localize`Blued`;
    },
    get noun() {
      return $localize`blued spot`;
    },
    get depthWords() {
      return $localize`Depth`;
    },
    usualDepthMm: 1,
    lies: 'edge',
    keptInSight: true,
  },
  'worn-hole': {
    get words() {
      return $localize`Worn hole`;
    },
    get noun() {
      return $localize`worn hole`;
    },
    get depthWords() {
      return $localize`Wider by`;
    },
    usualDepthMm: 0.5,
    lies: 'end',
    heldUntilRead: 'hole-wear',
  },
} as const satisfies Readonly<Record<string, DamageRow>>;

export type DamageKind = keyof typeof ROWS;
/** Every kind of damage, by its key. */
export const DAMAGE: Readonly<Record<DamageKind, DamageRow>> = ROWS;
export const DAMAGE_KINDS = Object.keys(ROWS) as [DamageKind, ...DamageKind[]];
/** Nicks, chips and rolled edges: what a grind takes out. */
export const GROUND_OUT: readonly DamageKind[] = DAMAGE_KINDS.filter(
  (kind) => DAMAGE[kind].groundOut,
);
