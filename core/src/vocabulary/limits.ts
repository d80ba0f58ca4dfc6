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
  /**
   * Between what its value can lie, in its unit or, with `of`, as a share of that size of the new blade. Generous: it
   * catches a decimal point in the wrong place and a figure from another line of the manual. Common practice, no source.
   */
  readonly holds: {
    readonly from: number;
    readonly to: number;
    readonly of?: 'newWidthMm' | 'newLengthMm' | 'wingMm';
  };
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
    holds: { from: 1 / 3, to: 1, of: 'newWidthMm' },
    retires: 'width-limit',
  },
  wing: {
    get words() {
      return $localize`Wing at least`;
    },
    unit: 'mm',
    least: true,
    safety: true,
    holds: { from: 0.2, to: 1, of: 'wingMm' },
    retires: 'wing-limit',
  },
  'wing-height': {
    get words() {
      return $localize`Wing height at least`;
    },
    unit: 'mm',
    least: true,
    safety: false,
    holds: { from: 1, to: 60 },
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
    holds: { from: 0.5, to: 1, of: 'newLengthMm' },
    retires: 'length-limit',
  },
  'tip-rounding': {
    get words() {
      return $localize`Tip rounding at most`;
    },
    unit: 'mm',
    least: false,
    safety: false,
    holds: { from: 0.5, to: 50 },
    retires: 'tip-rounding',
  },
  bend: {
    get words() {
      return $localize`Bend at most`;
    },
    unit: 'mm',
    least: false,
    safety: true,
    holds: { from: 0.2, to: 20 },
    retires: 'bend',
  },
  'hole-wear': {
    get words() {
      return $localize`Hole wear at most`;
    },
    unit: 'mm',
    least: false,
    safety: true,
    holds: { from: 0.05, to: 5 },
    retires: 'hole-wear',
  },
  grinds: {
    get words() {
      return $localize`Grinds at most`;
    },
    unit: 'grinds',
    least: false,
    safety: false,
    holds: { from: 1, to: 200 },
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
    holds: { from: 0.5, to: 60 },
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

/**
 * Between what a limit of this kind can lie on a blade of these sizes, in the limit's unit.
 * @example limitHolds('width', { newWidthMm: 60, newLengthMm: 500, wingMm: 6 }).from // 20
 */
export function limitHolds(
  kind: LimitKind,
  size: { readonly newWidthMm: number; readonly newLengthMm: number; readonly wingMm: number },
): { readonly from: number; readonly to: number; readonly ofNewMm?: number } {
  const { from, to, of } = LIMITS[kind].holds;
  if (!of) return { from, to };
  const ofNewMm = size[of];
  return { from: from * ofNewMm, to: to * ofNewMm, ofNewMm };
}

/**
 * What is wrong with a limit's value on a blade of these sizes, if anything: new ones are past it already, grinds are
 * counted whole, or no blade could wear so far.
 * @example limitFault('width', 5.3, { newWidthMm: 60, newLengthMm: 500, wingMm: 6 }) // 'outside'
 */
export function limitFault(
  kind: LimitKind,
  value: number,
  size: Parameters<typeof limitHolds>[1],
): 'not-below-new' | 'not-whole' | 'outside' | undefined {
  const { from, to, ofNewMm } = limitHolds(kind, size);
  if (ofNewMm !== undefined && value >= to) return 'not-below-new';
  if (LIMITS[kind].unit === 'grinds' && !Number.isInteger(value)) return 'not-whole';
  return value < from || value > to ? 'outside' : undefined;
}
