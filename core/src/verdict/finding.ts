import type { End } from '../blade/shape.js';
import { COVERAGE_K, type Measured } from '../reading/uncertainty.js';

/** From worst to best; the verdict on a blade is its worst finding. */
export const SEVERITIES = ['retire', 'hold', 'grind', 'watch', 'fine'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** What a limit is about. */
export type LimitKind =
  'width' | 'wing' | 'length' | 'tip-rounding' | 'bend' | 'hole-wear' | 'grinds' | 'mass-loss';

/** Limits that guard people: what stays inside their band after one repeat counts as over. */
export const SAFETY_LIMITS: readonly LimitKind[] = ['wing', 'bend', 'hole-wear'];

/** A wear limit of a blade spec, with where it comes from (the maker's manual wins over a shop rule). */
export interface Limit {
  readonly kind: LimitKind;
  /** Least value allowed for width, wing and length; largest for the rest. */
  readonly value: number;
  readonly unit: 'mm' | '%' | 'grinds';
  readonly stationKey?: string | undefined;
  readonly source: 'maker' | 'shop';
  readonly sourceText: string;
}

/** One thing the inspection or the measuring says about the blade. */
export interface Finding {
  /** Stable name, for example `width:A:tip`. */
  readonly id: string;
  readonly severity: Severity;
  /** The place and quantity alone, for tables: `End B, tip, 10 mm from the tip`. */
  readonly about?: string | undefined;
  /** The reason first, in words to show. */
  readonly words: string;
  readonly end?: End | undefined;
  readonly stationKey?: string | undefined;
  readonly value?: number | undefined;
  readonly limit?: number | undefined;
  readonly unit?: string | undefined;
  /** Room left inside the limit, positive inside; same unit as value. */
  readonly margin?: number | undefined;
  /** Expanded uncertainty of the margin, k = 2. */
  readonly expandedUncertainty?: number | undefined;
  readonly source?: string | undefined;
  /** True when nobody measured it this time. */
  readonly carried?: boolean | undefined;
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
export function marginOf(limit: Pick<Limit, 'kind' | 'value'>, value: number): number {
  return ['width', 'wing', 'length'].includes(limit.kind)
    ? value - limit.value
    : limit.value - value;
}

/**
 * Where a margin m with expanded uncertainty U stands: m < −U over, |m| ≤ U undecided, else inside. After one
 * repeat the mean decides; for a safety limit what is still undecided then counts as over.
 * @example standing({ kind: 'width', value: 50 }, { value: 50.1, u: 0.1 }, false) // 'undecided'
 */
export function standing(
  limit: Pick<Limit, 'kind' | 'value'>,
  reading: Measured,
  repeated: boolean,
): 'over' | 'undecided' | 'inside' {
  const margin = marginOf(limit, reading.value);
  const doubt = COVERAGE_K * reading.u;
  if (margin < -doubt) return 'over';
  if (margin > doubt || (doubt === 0 && margin >= 0)) return 'inside';
  if (!repeated) return 'undecided';
  if (SAFETY_LIMITS.includes(limit.kind)) return 'over';
  return margin < 0 ? 'over' : 'inside';
}

/**
 * The source of a limit in words.
 * @example sourceWords({ source: 'shop', sourceText: 'two thirds of new' }) // 'shop rule: two thirds of new'
 */
export const sourceWords = (limit: Pick<Limit, 'source' | 'sourceText'>): string =>
  `${limit.source === 'maker' ? 'maker' : 'shop rule'}: ${limit.sourceText}`;
