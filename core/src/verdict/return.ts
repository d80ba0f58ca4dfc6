import type { Finding } from './finding.js';
import { inWords } from './words.js';

/** Who wants to take a retired blade back, and what stands on record about it now. */
export interface ReturnRequest {
  /** Every finding again, with the corrections made since. */
  readonly findings: readonly Finding[];
  /** Was a reading of the cycle that retired it corrected at all? */
  readonly corrected: boolean;
  readonly by: string;
  readonly second: string;
  /** The blade is in the hand, neither cut nor bent nor scrapped. */
  readonly whole: boolean;
}

/** What stands in the way, by field. */
export interface ReturnBlock {
  readonly field: 'reading' | 'secondPersonId' | 'whole';
  readonly words: string;
}

/**
 * May a retired blade come back? Only where the reading that retired it has been corrected and nothing retires
 * it any more, with a second person beside the first, and with the blade itself unspoilt. It then comes back to
 * be inspected from the start, never straight to the rack. Common practice, no source.
 *
 * Shapes: findings of both looks (before and now), two persons' ids. Empty when nothing is in the way.
 * Example: a crack that was a scratch, corrected by one person alone, is blocked for the second person.
 * @example backFromRetirement({ findings: [], corrected: true, by: 'ash', second: 'ash', whole: true })[0].field // 'secondPersonId'
 */
export function backFromRetirement(request: ReturnRequest): readonly ReturnBlock[] {
  const still = request.findings.find(({ severity }) => severity === 'retire');
  return [
    ...(request.corrected
      ? []
      : [
          {
            field: 'reading' as const,
            words: $localize`that retired it has not been corrected: correct it first`,
          },
        ]),
    ...(still
      ? [{ field: 'reading' as const, words: $localize`still retires it: ${inWords(still).words}` }]
      : []),
    ...(request.second === '' || request.second === request.by
      ? [
          {
            field: 'secondPersonId' as const,
            words: $localize`must be somebody else, who has looked at the blade too`,
          },
        ]
      : []),
    ...(request.whole
      ? []
      : [
          {
            field: 'whole' as const,
            words: $localize`is not confirmed: a blade that was cut, bent or scrapped never comes back`,
          },
        ]),
  ];
}
