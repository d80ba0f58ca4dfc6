import { DEFAULT_RULES, type CycleEvent, type CycleFacts } from '@tally-stone/contract';
import { usualLimits, usualReadings, usualStations } from '@tally-stone/core';

/** Made-up facts of a blade that was never at the bench before. */
const stations = usualStations(500);
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
  spec: {
    name: 'Test 500',
    kind: 'low-lift',
    hand: 'right',
    hole: 'round',
    holeMm: 16,
    newLengthMm: 500,
    newWidthMm: 60,
    thicknessMm: 5,
    wingMm: 5,
    newMassG: 1150,
    bevelDeg: 30,
    bevelToleranceDeg: 3,
    edgeLengthMm: 100,
    bladeSpeedRpm: 3000,
    gradeMmPerS: 40,
    stations,
    readings: usualReadings(stations),
    limits: usualLimits({ newLengthMm: 500, wingMm: 5 }),
  },
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
