import { finite } from '../errors.js';
import { COVERAGE_K } from '../reading/uncertainty.js';
import { marginOf, standing, type Finding, type Limit, type Severity } from './finding.js';
import type { JudgedReading } from './judged.js';

/**
 * A reading held against its limit: over it retires, too close to call holds, and less room than `watchBelow` is
 * watched. Errors: by the finding's name when the reading is not a number.
 * @example againstLimit({ id: 'length', reason: 'length' }, { kind: 'length', value: 521, unit: 'mm', source: 'shop', sourceText: 'rule' }, { value: 520, u: 0.1, repeated: false, carried: false }, 2).severity // 'retire'
 */
export function againstLimit(
  about: Pick<Finding, 'id' | 'reason'> & Partial<Finding>,
  limit: Limit,
  reading: JudgedReading,
  watchBelow: number,
): Finding {
  const margin = marginOf(limit, finite(about.id, reading.value));
  const stands = standing(limit, reading, reading.repeated);
  const severity: Severity =
    stands === 'over'
      ? 'retire'
      : stands === 'undecided'
        ? 'hold'
        : margin < watchBelow
          ? 'watch'
          : 'fine';
  return {
    ...about,
    severity,
    value: reading.value,
    limit: limit.value,
    unit: limit.unit,
    margin,
    expandedUncertainty: COVERAGE_K * reading.u,
    source: { by: limit.source, text: limit.sourceText },
    carried: reading.carried,
    ...(reading.fromSpec ? { fromSpec: true } : {}),
    predicted: reading.predicted,
  };
}
