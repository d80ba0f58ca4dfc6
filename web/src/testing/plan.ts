import { DEFAULT_RULES, type AskedPlan } from '@tally-stone/contract';
import {
  trailingZone,
  usualZones,
  type End,
  type GrindPlan,
  type PlanStation,
} from '@tally-stone/core';

const ALONG: PlanStation[] = [245, 220, 190, 165].map((radiusMm) => ({
  radiusMm,
  bevelDeg: 30,
  landMm: 0.3,
  wornMm: 0,
  roomMm: 6,
}));

const station = (end: End, radiusMm: number, roomLeftMm: number) => ({
  end,
  radiusMm,
  areaMm2: 3,
  recessionMm: 0.5,
  roomLeftMm,
});
export const GRIND: GrindPlan = {
  kind: 'plan',
  passes: { A: [9, 3], B: [6, 0] },
  order: ['B', 'A'],
  uncertaintyExceedsAllowance: false,
  gapG: 0,
  outOfReach: [],
  forward: {
    metalG: 7.86,
    momentGmm: { A: 900, B: 600 },
    unbalanceGmm: 36,
    share: 0.2,
    stations: [station('A', 162, 5.2), station('B', 220, 7)],
  },
};
/** A plan as the server answers it, over a short edge. */
export const ASKED: AskedPlan = {
  kind: 'asked',
  situation: {
    thicknessMm: 5,
    tipRadiusMm: 250,
    edgeLengthMm: 100,
    stations: { A: ALONG, B: ALONG },
    nicks: [{ id: 'n', end: 'A', radiusMm: 220, lengthMm: 6, depthMm: 1.2 }],
    zones: usualZones(100, 0.52),
    trailing: trailingZone(100, 0.52),
    specBevelDeg: 30,
    measuredBevelsDeg: [30, 30],
    massG: 1150,
    speedRpm: 3000,
    specGradeMmPerS: 40,
    balance: { unbalanceGmm: 300, uGmm: 20 },
    shape: { straightness: 0.02, wearWeightG: 6, mostPassesPerZone: 80 },
  },
  answer: {
    plan: GRIND,
    nicks: [{ id: 'n', metalG: 2.5, recessionMm: 0.8, grinds: 1.3, impossible: false }],
    choices: [],
  },
  schools: DEFAULT_RULES.schools,
  nickChoices: {},
  behind: { A: {}, B: {} },
  tools: { none: { name: 'Long belt', counts: 'pass' } },
  gramsPerPass: { value: 0.52, u: 0.17, grinds: 31 },
  tool: 'Long belt, grit 60',
};
