import { againstLimit } from '../against-limit.js';
import type { Finding } from '../finding.js';
import { limitOf, type JudgedReading, type JudgeInput } from '../judged.js';

/** Less room than this is worth watching, % of the new mass. Common practice, no source. */
const WATCH_MASS_PERCENT = 1;

function judgeMassLoss({ spec, read }: JudgeInput): Finding[] {
  const mass = read('mass');
  const limit = limitOf(spec, 'mass-loss');
  if (!mass || !limit) return [];
  const lost: JudgedReading = {
    ...mass,
    value: (100 * (spec.newMassG - mass.value)) / spec.newMassG,
    u: (100 * mass.u) / spec.newMassG,
  };
  return [againstLimit({ id: 'mass-loss', reason: 'mass-loss' }, limit, lost, WATCH_MASS_PERCENT)];
}

function judgeGrinds({ spec, grinds, cameUsed }: JudgeInput): Finding[] {
  const limit = limitOf(spec, 'grinds');
  const counted: JudgedReading = { value: grinds, u: 0, repeated: true, carried: false };
  const about = {
    id: 'grinds',
    reason: 'grinds',
    ...(cameUsed ? { moreBefore: true } : {}),
  } as const;
  return limit ? [againstLimit(about, limit, counted, 1)] : [];
}

/** What is reckoned for the whole blade: mass lost, grinds so far. */
export const judgeWholeBlade = (input: JudgeInput): Finding[] => [
  ...judgeMassLoss(input),
  ...judgeGrinds(input),
];
