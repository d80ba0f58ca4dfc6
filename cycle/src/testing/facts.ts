import { DEFAULT_RULES, type CycleEvent, type CycleFacts } from '@tally-stone/contract';
import { madeUpSpec } from '@tally-stone/contract/testing';

/** Made-up facts of a blade that was never at the bench before. */
const grinder = (n: number): CycleFacts['grinders'][number] => ({
  grinderId: `grinder ${n}`,
  abrasiveId: `belt ${n}`,
  figures: {
    name: `Belt ${n}`,
    kind: 'belt',
    counts: 'pass',
    abrasive: 'Grit 60',
    aim: 'mean',
    table: 'flat',
  },
  checkedToday: true,
});

export const facts = (change: Partial<CycleFacts> = {}): CycleFacts => ({
  blade: { id: 'blade', grinds: 2, knownFrom: 'new' },
  spec: madeUpSpec(),
  last: {},
  takenBack: false,
  faces: {},
  rules: { leaveNicksToMm: 0.8, dullLandMm: 0.25, recessionPerGrindMm: 0.6 },
  shopRules: DEFAULT_RULES,
  grinders: [grinder(1), grinder(2)],
  balancers: [],
  mats: [],
  lastEdges: {},
  removals: {},
  sinceFullLook: { cycles: 0, days: 0 },
  stillAtBench: false,
  speedRpm: 3000,
  ...change,
});

export const opened: CycleEvent = {
  type: 'opened',
  cycleId: 'cycle',
  bladeId: 'blade',
  specRevisionId: 'revision',
  personId: 'p1',
  at: '2026-05-01T08:00:00Z',
};
