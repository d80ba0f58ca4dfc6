import { rss } from '../../reading/uncertainty.js';
import { againstLimit } from '../against-limit.js';
import type { Finding } from '../finding.js';
import { limitOf, type JudgeInput } from '../judged.js';

/** Bend by the difference of the tips, and by the gap under a straightedge where both tips are bent alike. */
export function judgeBend({ spec, read }: Pick<JudgeInput, 'spec' | 'read'>): Finding[] {
  const limit = limitOf(spec, 'bend');
  if (!limit) return [];
  const [A, B] = [read('tip-height', 'A'), read('tip-height', 'B')];
  const straightedgeGap = read('straightedge-gap');
  const watchBelow = limit.value / 3;
  const apart = A &&
    B && {
      value: Math.abs(A.value - B.value),
      u: rss(A.u, B.u),
      repeated: A.repeated && B.repeated,
      carried: A.carried || B.carried,
    };
  return [
    ...(apart ? [againstLimit({ id: 'bend', reason: 'bend' }, limit, apart, watchBelow)] : []),
    ...(straightedgeGap
      ? [againstLimit({ id: 'bend:gap', reason: 'bend-gap' }, limit, straightedgeGap, watchBelow)]
      : []),
  ];
}
