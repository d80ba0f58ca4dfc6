import { askPlan, trailingZone, usualZones, type PlanSituation } from '@tally-stone/core';
import { firstValueFrom } from 'rxjs';
import { Planner } from './planner';

const station = (radiusMm: number) => ({
  radiusMm,
  bevelDeg: 30,
  landMm: 0.5,
  wornMm: 0,
  roomMm: 6,
});
const along = [248, 220, 190, 160].map(station);
const situation: PlanSituation = {
  thicknessMm: 5,
  tipRadiusMm: 250,
  edgeLengthMm: 100,
  stations: { A: along, B: along },
  nicks: [],
  zones: usualZones(100, 0.5),
  trailing: trailingZone(100, 0.5),
  specBevelDeg: 30,
  measuredBevelsDeg: [30, 30],
  massG: 1150,
  speedRpm: 3000,
  specGradeMmPerS: 40,
  balance: { unbalanceGmm: 500, uGmm: 20 },
  shape: { straightness: 0.02, wearWeightG: 6, mostPassesPerZone: 80 },
};

describe('Planner', () => {
  it('solves a plan in a web worker, and tells what it cannot solve', async () => {
    const planner = new Planner();
    const question = askPlan(situation, {
      finish: 'working',
      bevel: 'spec',
      fixedBevelDeg: 30,
      nicks: { kind: 'clear-all' },
      balancePlace: 'cutting',
    });
    const { plan } = await firstValueFrom(planner.plan(question));
    expect(plan.kind).toBe('plan');
    expect(plan.kind === 'plan' && plan.order).toEqual(['B', 'A']);
    const wrong = { ...question, input: { ...question.input, thicknessMm: -1 } };
    await expectAsync(firstValueFrom(planner.plan(wrong))).toBeRejectedWithError(/thicknessMm/);
    planner.ngOnDestroy();
  });
});
