import type { LimitKind } from './limits.js';

/** How far a reading can fall: so much at least, or a share of what it was, whichever is more. */
export interface MostFall {
  readonly least: number;
  readonly share: number;
}

/** A quantity the bench reads, and everything about it that is no rule of its own. */
export interface QuantityRow {
  /** Its name where it stands alone: `Hole wear`. */
  readonly words: string;
  /** The unit it is held in. */
  readonly unit: 'mm' | 'g' | 'deg';
  /** Digits behind the point that its reading is shown with. */
  readonly digits: number;
  /** Read once for the blade, at each end, or at each station of each end. */
  readonly per: 'blade' | 'end' | 'station';
  /**
   * Range outside which a figure cannot be that quantity of any mower blade and is refused. Wide on purpose: what is
   * only unlikely is questioned, not refused.
   */
  readonly possible: readonly [least: number, most: number];
  /** What handling adds to a typed reading beyond the display's last digit; standard uncertainty. */
  readonly handlingU: number;
  /** What one cycle of mowing usually changes. */
  readonly changePerCycle: number;
  /** Only ever gets smaller by use and grinding; and what was done wrongly where it seems to grow. */
  readonly shrinksUnless?: string;
  /** It falls no further by a cycle of mowing, or by one grind, without being read again. */
  readonly mostFall?: { readonly mown: MostFall; readonly ground: MostFall };
  /** What does not only shrink moves no further in a cycle without being read again. */
  readonly mostRise?: number;
  /** Of a new blade, where that is the same for all of them, and how sure it is. */
  readonly whenNew?: { readonly value: number; readonly u: number };
  /** The limit it is held against. */
  readonly limit?: LimitKind;
  /**
   * Held against its limit as it was read, with nothing else to be weighed: how the verdict says it (`Centre hole: 0.90
   * mm worn`), and below which room it is watched.
   */
  readonly plainly?: { readonly about: string; readonly how: string; readonly watchBelow: number };
  /** Read again after the grind: it proves the work. */
  readonly proves?: true;
  /** A strike shows in it. */
  readonly showsStrike?: true;
  /** The instrument that reads it. */
  readonly instrument: 'scale' | 'caliper' | 'angle-gauge' | 'tip-gauge';
  /** Another way to answer the question of this quantity: one of them fills the place. */
  readonly insteadOf?: 'bevel';
}

/** All figures: common practice, no source. */
const ROWS = {
  mass: {
    get words() {
      return $localize`Mass`;
    },
    unit: 'g',
    digits: 1,
    per: 'blade',
    possible: [50, 20_000],
    handlingU: 0.1,
    changePerCycle: 1.5,
    get shrinksUnless() {
      return $localize`weighed dirty, scale not zeroed, or another blade`;
    },
    mostFall: { mown: { least: 12, share: 0.012 }, ground: { least: 30, share: 0.035 } },
    proves: true,
    instrument: 'scale',
  },
  length: {
    get words() {
      return $localize`Length`;
    },
    unit: 'mm',
    digits: 1,
    per: 'blade',
    possible: [150, 2_000],
    handlingU: 0.4,
    changePerCycle: 0.5,
    get shrinksUnless() {
      return $localize`tape not on the axis, or another blade`;
    },
    mostFall: { mown: { least: 4, share: 0.005 }, ground: { least: 4, share: 0.005 } },
    limit: 'length',
    plainly: {
      get about() {
        return $localize`Overall length`;
      },
      get how() {
        return $localize`tip to tip`;
      },
      watchBelow: 2,
    },
    instrument: 'caliper',
  },
  thickness: {
    get words() {
      return $localize`Thickness`;
    },
    unit: 'mm',
    digits: 1,
    per: 'blade',
    possible: [1, 12],
    handlingU: 0.03,
    changePerCycle: 0.05,
    get shrinksUnless() {
      return $localize`caliper over a burr or dirt`;
    },
    mostFall: { mown: { least: 0.6, share: 0.1 }, ground: { least: 0.6, share: 0.1 } },
    instrument: 'caliper',
  },
  width: {
    get words() {
      return $localize`Width`;
    },
    unit: 'mm',
    digits: 1,
    per: 'station',
    possible: [5, 200],
    handlingU: 0.08,
    changePerCycle: 0.4,
    get shrinksUnless() {
      return $localize`caliper at the wrong station or end, or over a burr`;
    },
    mostFall: { mown: { least: 2.5, share: 0 }, ground: { least: 5, share: 0 } },
    limit: 'width',
    proves: true,
    instrument: 'caliper',
  },
  bevel: {
    get words() {
      return $localize`Bevel`;
    },
    unit: 'deg',
    digits: 1,
    per: 'end',
    possible: [10, 60],
    handlingU: 0.4,
    changePerCycle: 1,
    mostRise: 15,
    proves: true,
    instrument: 'angle-gauge',
  },
  face: {
    get words() {
      return $localize`Bevel face`;
    },
    unit: 'mm',
    digits: 1,
    per: 'end',
    possible: [1, 60],
    handlingU: 0.15,
    changePerCycle: 0.5,
    insteadOf: 'bevel',
    instrument: 'caliper',
  },
  land: {
    get words() {
      return $localize`Land`;
    },
    unit: 'mm',
    digits: 2,
    per: 'end',
    possible: [0, 5],
    handlingU: 0.04,
    changePerCycle: 0.2,
    mostRise: 2,
    proves: true,
    instrument: 'caliper',
  },
  wing: {
    get words() {
      return $localize`Lift wing`;
    },
    unit: 'mm',
    digits: 2,
    per: 'end',
    possible: [0, 12],
    handlingU: 0.05,
    changePerCycle: 0.15,
    get shrinksUnless() {
      return $localize`caliper beside the thinnest place`;
    },
    mostFall: { mown: { least: 1, share: 0.2 }, ground: { least: 1, share: 0.2 } },
    limit: 'wing',
    instrument: 'caliper',
  },
  'wing-height': {
    get words() {
      return $localize`Wing height at the tip`;
    },
    unit: 'mm',
    digits: 1,
    per: 'end',
    possible: [0, 120],
    handlingU: 0.3,
    changePerCycle: 0.3,
    get shrinksUnless() {
      return $localize`blade not flat on the table, or read at another place of the wing`;
    },
    mostFall: { mown: { least: 5, share: 0.2 }, ground: { least: 5, share: 0.2 } },
    whenNew: { value: 22, u: 5 },
    limit: 'wing-height',
    plainly: {
      get about() {
        return $localize`lift wing at the tip`;
      },
      how: 'high',
      watchBelow: 2,
    },
    instrument: 'caliper',
  },
  'hole-wear': {
    get words() {
      return $localize`Hole wear`;
    },
    unit: 'mm',
    digits: 2,
    per: 'blade',
    possible: [0, 20],
    handlingU: 0.03,
    changePerCycle: 0.05,
    mostRise: 1.5,
    whenNew: { value: 0, u: 0.1 },
    limit: 'hole-wear',
    plainly: {
      get about() {
        return $localize`Centre hole`;
      },
      how: 'worn',
      watchBelow: 0.1,
    },
    showsStrike: true,
    instrument: 'caliper',
  },
  'tip-height': {
    get words() {
      return $localize`Tip height`;
    },
    unit: 'mm',
    digits: 1,
    per: 'end',
    possible: [0, 300],
    handlingU: 0.25,
    changePerCycle: 1,
    showsStrike: true,
    instrument: 'tip-gauge',
  },
  'straightedge-gap': {
    get words() {
      return $localize`Gap under a straightedge`;
    },
    unit: 'mm',
    digits: 1,
    per: 'blade',
    possible: [0, 60],
    handlingU: 0.2,
    changePerCycle: 0.5,
    mostRise: 12,
    whenNew: { value: 0, u: 0.5 },
    limit: 'bend',
    showsStrike: true,
    instrument: 'caliper',
  },
} as const satisfies Readonly<Record<string, QuantityRow>>;

export type BenchQuantity = keyof typeof ROWS;
/** Every quantity the bench reads, by its key. */
export const QUANTITIES: Readonly<Record<BenchQuantity, QuantityRow>> = ROWS;
export const QUANTITY_KEYS = Object.keys(ROWS) as [BenchQuantity, ...BenchQuantity[]];
