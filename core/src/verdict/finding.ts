import type { End } from '../blade/shape.js';
import { COVERAGE_K, type Measured } from '../reading/uncertainty.js';
import type { DamageKind } from '../vocabulary/damage.js';
import { LIMITS, type LimitKind } from '../vocabulary/limits.js';
import type { BenchQuantity } from '../vocabulary/quantities.js';

/** From worst to best; the verdict on a blade is its worst finding. */
export const SEVERITIES = ['retire', 'hold', 'grind', 'watch', 'fine'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** A wear limit of a blade spec, with where it comes from (the maker's manual wins over a shop rule). */
export interface Limit {
  readonly kind: LimitKind;
  /** Least value allowed, or largest: {@link LIMITS} says which. */
  readonly value: number;
  readonly unit: 'mm' | '%' | 'grinds';
  readonly stationKey?: string | undefined;
  readonly source: 'maker' | 'shop';
  readonly sourceText: string;
}

/** What a finding is about: the rule that made it. Its words are made from this and its numbers, in words.ts. */
export type FindingReason =
  | 'crack'
  | 'bend'
  | 'bend-gap'
  | 'width'
  | 'wing'
  | 'reading'
  | 'mass-loss'
  | 'grinds'
  | 'last-grind'
  | 'bevel'
  | 'land'
  | 'holds-edge'
  | 'not-balanced'
  | 'damage-limit'
  | 'damage-ground-out'
  | 'damage-beyond-saving'
  | 'damage-undecided'
  | 'damage-left'
  | 'damage-retires'
  | 'damage-in-sight'
  | 'damage-to-measure';

/** Where the rule of a finding comes from. */
export type FindingSource =
  | { readonly by: 'maker' | 'shop'; readonly text: string }
  | { readonly by: 'safety' | 'practice' | 'spec' | 'working-edge' | 'wont-hold' | 'seldom-hung' }
  | { readonly by: 'nick-policy'; readonly leaveToMm: number | undefined }
  | {
      readonly by: 'nick-choice';
      readonly choice: 'clear' | 'leave';
      readonly damage: DamageKind;
    };

/** One thing the inspection or the measuring says about the blade: a rule, a place and numbers, no words. */
export interface Finding {
  /** Stable name, for example `width:A:tip`. */
  readonly id: string;
  readonly reason: FindingReason;
  readonly severity: Severity;
  readonly end?: End | undefined;
  readonly stationKey?: string | undefined;
  /** The station's name as the spec has it. */
  readonly stationName?: string | undefined;
  readonly fromTipMm?: number | undefined;
  /** Where a crack was seen. */
  readonly where?: string | undefined;
  readonly damage?: DamageKind | undefined;
  /** The quantity of a reading that is held plainly against its limit. */
  readonly quantity?: BenchQuantity | undefined;
  readonly value?: number | undefined;
  readonly limit?: number | undefined;
  /** Half width of the band about the limit, where there is one. */
  readonly tolerance?: number | undefined;
  readonly unit?: string | undefined;
  /** Room left inside the limit, positive inside; same unit as value. */
  readonly margin?: number | undefined;
  /** Expanded uncertainty of the margin, k = 2. */
  readonly expandedUncertainty?: number | undefined;
  /** Of damage: width left above its limit at that place, mm, where it is known. */
  readonly roomMm?: number | undefined;
  /** What the value is compared with, where that is no limit: hours a spec usually holds. */
  readonly usual?: number | undefined;
  readonly source?: FindingSource | undefined;
  /** True when nobody measured it this time. */
  readonly carried?: boolean | undefined;
  readonly fromSpec?: boolean | undefined;
  /** Worked out from the counted passes rather than carried from an earlier cycle. */
  readonly predicted?: boolean | undefined;
  /** There were more before the blade came here, nobody knows how many. */
  readonly moreBefore?: boolean | undefined;
}

/**
 * @example severityRank('retire') // 0
 */
export const severityRank = (severity: Severity): number => SEVERITIES.indexOf(severity);

/**
 * The worst severity of a list; `fine` for an empty one.
 * @example worst([{ severity: 'watch' }, { severity: 'grind' }]) // 'grind'
 */
export function worst(findings: readonly Pick<Finding, 'severity'>[]): Severity {
  return findings.reduce<Severity>(
    (worstSoFar, { severity }) =>
      severityRank(severity) < severityRank(worstSoFar) ? severity : worstSoFar,
    'fine',
  );
}

/**
 * Room inside a limit: value − least, or largest − value.
 * @example marginOf({ kind: 'width', value: 50 }, 52) // 2
 */
export const marginOf = (limit: Pick<Limit, 'kind' | 'value'>, value: number): number =>
  LIMITS[limit.kind].least ? value - limit.value : limit.value - value;

/** Free of what adding up leaves in the last places: far finer than any instrument reads. */
const exact = (value: number): number => Math.round(value * 1e6) / 1e6;

/**
 * Where a margin m with expanded uncertainty U stands: m < −U over, |m| ≤ U undecided, else inside. After one
 * repeat the mean decides, and a mean that is just the limit is inside it; for a safety limit what is still
 * undecided then counts as over.
 * @example standing({ kind: 'width', value: 50 }, { value: 50.1, u: 0.1 }, false) // 'undecided'
 */
export function standing(
  limit: Pick<Limit, 'kind' | 'value'>,
  reading: Measured,
  repeated: boolean,
): 'over' | 'undecided' | 'inside' {
  const margin = exact(marginOf(limit, reading.value));
  const doubt = exact(COVERAGE_K * reading.u);
  if (margin < -doubt) return 'over';
  if (margin > doubt || (doubt === 0 && margin >= 0)) return 'inside';
  if (!repeated) return 'undecided';
  if (LIMITS[limit.kind].safety) return 'over';
  return margin < 0 ? 'over' : 'inside';
}
