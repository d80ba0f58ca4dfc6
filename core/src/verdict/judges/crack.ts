import type { Finding } from '../finding.js';
import type { JudgeInput } from '../judged.js';

/** A crack retires whatever else is said: no override. */
export const judgeCrack = ({ crack }: Pick<JudgeInput, 'crack'>): Finding[] =>
  crack?.found
    ? [
        {
          id: 'crack',
          reason: 'crack',
          severity: 'retire',
          where: crack.where,
          source: { by: 'safety' },
        },
      ]
    : [];
