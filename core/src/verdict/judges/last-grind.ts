import { worst, type Finding } from '../finding.js';
import { limitOf, type JudgeInput } from '../judged.js';

/** It needs a grind, and its count says it has had the last one: told before the work, not after it. */
export function judgeLastGrind(
  { spec, grinds, beforeGrind }: Pick<JudgeInput, 'spec' | 'grinds' | 'beforeGrind'>,
  found: readonly Finding[],
): Finding[] {
  const limit = limitOf(spec, 'grinds');
  if (!beforeGrind || !limit || grinds < limit.value || worst(found) !== 'grind') return [];
  return [
    {
      id: 'grinds:last',
      reason: 'last-grind',
      severity: 'retire',
      value: grinds,
      limit: limit.value,
      unit: 'grinds',
      margin: limit.value - grinds - 1,
      source: { by: limit.source, text: limit.sourceText },
    },
  ];
}
