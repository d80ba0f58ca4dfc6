import type {
  BladeRow,
  CycleView,
  ReadingSlot,
  SpecFigures,
  SpecRevision,
} from '@tally-stone/contract';
import { usualLimits, usualReadings, usualStations } from '@tally-stone/core';

/** Made-up views for component tests. */
const stations = usualStations(500);
export const FIGURES: SpecFigures = {
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
  limits: [
    {
      kind: 'width',
      value: 48,
      unit: 'mm',
      stationKey: 'tip',
      source: 'maker',
      sourceText: 'manual',
    },
    ...usualLimits({ newLengthMm: 500, wingMm: 5 }),
  ],
};

const id = '018f0000-0000-7000-8000-000000000001';

export const SPEC: SpecRevision = { specRevisionId: id, specId: id, revision: 1, figures: FIGURES };

export const BLADE: BladeRow = {
  bladeId: id,
  code: '4447M',
  specName: 'Test 500',
  lengthMm: 500,
  widthMm: 60,
  state: 'at-bench',
  place: 'Bench',
  grinds: 7,
  cycleId: id,
};

export const slot = (change: Partial<ReadingSlot> = {}): ReadingSlot => ({
  key: 'before:mass:-:-',
  phase: 'before',
  quantity: 'mass',
  label: 'Mass',
  unit: 'g',
  when: 'routine',
  needed: true,
  repeats: 0,
  newValue: 1150,
  ...change,
});

export const cycleView = (change: Partial<CycleView> = {}): CycleView => ({
  cycleId: id,
  revision: 3,
  blade: BLADE,
  spec: SPEC,
  openedAt: '2026-05-01T08:00:00Z',
  openedBy: 'Ash',
  cleaned: true,
  slots: [slot()],
  damage: [],
  photos: [],
  earlierDamage: [],
  corrections: [],
  passes: [],
  counts: 'pass',
  rounds: [],
  lightTest: {},
  before: { verdict: 'grind', findings: [] },
  now: { verdict: 'grind', findings: [] },
  lengthMm: 500,
  widths: { A: [{ radiusMm: 240, widthMm: 50 }], B: [] },
  witnesses: { said: {}, pairs: [], agree: true },
  fullLook: false,
  weighedNow: false,
  burr: false,
  bevelAimDeg: 30,
  steps: [],
  nextStep: 'measure',
  signOff: {
    proposed: 'ready',
    allowed: ['hold', 'retired'],
    blocks: [],
    retireReasons: ['shop-decision'],
  },
  ...change,
});
