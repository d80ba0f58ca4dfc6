import type { RetireReason } from './retire-reasons.js';

/** What a wear limit of a spec can be about. */
export interface LimitRow {
  /** As its field is named: `Width at least`. */
  readonly words: string;
  readonly unit: 'mm' | '%' | 'grinds';
  /** The value is the least allowed; otherwise the largest. */
  readonly least: boolean;
  /** Guards people: what is still too close to call after one repeat counts as over. */
  readonly safety: boolean;
  /** Why a blade past it is retired. */
  readonly retires: RetireReason;
  /** A spec may do without it; then this is what it would usually be. */
  readonly usual?: { readonly value: number; readonly sourceText: string };
}

/** The usual values of limits that a spec may do without: common practice, no source. */
const ROWS = {
  width: {
    get words() {
      return $localize`Width at least`;
    },
    unit: 'mm',
    least: true,
    safety: false,
    retires: 'width-limit',
  },
  wing: {
    get words() {
      return $localize`Wing at least`;
    },
    unit: 'mm',
    least: true,
    safety: true,
    retires: 'wing-limit',
  },
  'wing-height': {
    get words() {
      return $localize`Wing height at least`;
    },
    unit: 'mm',
    least: true,
    safety: false,
    retires: 'lift-lost',
    usual: {
      value: 15,
      get sourceText() {
        return $localize`less lift leaves the cut on the lawn`;
      },
    },
  },
  length: {
    get words() {
      return $localize`Length at least`;
    },
    unit: 'mm',
    least: true,
    safety: false,
    retires: 'length-limit',
  },
  'tip-rounding': {
    get words() {
      return $localize`Tip rounding at most`;
    },
    unit: 'mm',
    least: false,
    safety: false,
    retires: 'tip-rounding',
  },
  bend: {
    get words() {
      return $localize`Bend at most`;
    },
    unit: 'mm',
    least: false,
    safety: true,
    retires: 'bend',
  },
  'hole-wear': {
    get words() {
      return $localize`Hole wear at most`;
    },
    unit: 'mm',
    least: false,
    safety: true,
    retires: 'hole-wear',
  },
  grinds: {
    get words() {
      return $localize`Grinds at most`;
    },
    unit: 'grinds',
    least: false,
    safety: false,
    retires: 'grind-count',
    usual: {
      value: 8,
      get sourceText() {
        return $localize`a count of grinds`;
      },
    },
  },
  'mass-loss': {
    get words() {
      return $localize`Mass lost at most`;
    },
    unit: '%',
    least: false,
    safety: false,
    retires: 'mass-loss',
    usual: {
      value: 12,
      get sourceText() {
        return $localize`of the new mass`;
      },
    },
  },
} as const satisfies Readonly<Record<string, LimitRow>>;

export type LimitKind = keyof typeof ROWS;
/** Every kind of limit, by its key. */
export const LIMITS: Readonly<Record<LimitKind, LimitRow>> = ROWS;
export const LIMIT_KINDS = Object.keys(ROWS) as [LimitKind, ...LimitKind[]];
