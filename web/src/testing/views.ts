import type {
  BalanceView,
  BladeRow,
  CycleView,
  ReadingSlot,
  SpecRevision,
} from '@tally-stone/contract';
import { madeUpSpec } from '@tally-stone/contract/testing';

/** Made-up views for component tests. */
export const FIGURES = madeUpSpec({
  limits: [
    {
      kind: 'width',
      value: 48,
      unit: 'mm',
      stationKey: 'tip',
      source: 'maker',
      sourceText: 'manual',
    },
    ...madeUpSpec().limits,
  ],
});

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
  overBurr: false,
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

/** A balance reading before the grind, within its grade. */
export const balanceView = (change: Partial<BalanceView> = {}): BalanceView => ({
  roundId: '018f0000-0000-7000-8000-0000000000c1',
  phase: 'before',
  device: 'bearing-shaft',
  heavyEnd: 'A',
  unbalanceGmm: 120,
  expandedUncertaintyGmm: 45,
  permissibleGmm: 150,
  gradeMmPerS: 40,
  gradeSource: 'G 40',
  correctionRadiusMm: 225,
  correctionG: 0.53,
  correctionUG: 0.1,
  forceN: 12,
  speedRpm: 3000,
  within: true,
  tooCoarse: false,
  passesBefore: 0,
  ...change,
});
