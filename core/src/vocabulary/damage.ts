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
    words: 'Nick',
    noun: 'nick',
    depthWords: 'Depth',
    usualDepthMm: 0.5,
    lies: 'edge',
    groundOut: true,
  },
  chip: {
    words: 'Chip',
    noun: 'chip',
    depthWords: 'Depth',
    usualDepthMm: 1.5,
    lies: 'edge',
    groundOut: true,
  },
  roll: {
    words: 'Rolled edge',
    noun: 'rolled edge',
    depthWords: 'Depth',
    usualDepthMm: 0.4,
    lies: 'edge',
    groundOut: true,
  },
  crack: {
    words: 'Crack',
    noun: 'crack',
    depthWords: 'Length',
    usualDepthMm: 5,
    lies: 'end',
    retires: true,
  },
  'rounded-tip': {
    words: 'Rounded tip',
    noun: 'rounded tip',
    depthWords: 'Rounded by',
    usualDepthMm: 3,
    lies: 'edge',
    limit: 'tip-rounding',
  },
  'thin-wing': {
    words: 'Thin wing',
    noun: 'thin wing',
    depthWords: 'Worn away',
    usualDepthMm: 1,
    lies: 'end',
    thinsWing: true,
  },
  'rust-pitting': {
    words: 'Rust pitting',
    noun: 'rust pitting',
    depthWords: 'Depth',
    usualDepthMm: 0.3,
    lies: 'end',
    thinsWing: true,
    spoilsWidthWithinMm: 15,
    keptInSight: true,
  },
  burnt: {
    words: 'Blued',
    noun: 'blued spot',
    depthWords: 'Depth',
    usualDepthMm: 1,
    lies: 'edge',
    keptInSight: true,
  },
  'worn-hole': {
    words: 'Worn hole',
    noun: 'worn hole',
    depthWords: 'Wider by',
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
