import {
  answerPlan,
  askPlan,
  correctionPasses,
  trailingZone,
  usualZones,
  type PlanSituation,
  type PlanStation,
  type Schools,
} from '../index.js';

const stations: PlanStation[] = Array.from({ length: 6 }, (_, i) => ({
  radiusMm: 256 - i * 18,
  bevelDeg: 33,
  landMm: 0.5,
  wornMm: 0,
  roomMm: 4,
}));
const situation: PlanSituation = {
  thicknessMm: 6,
  tipRadiusMm: 260,
  edgeLengthMm: 110,
  stations: { A: stations, B: stations },
  nicks: [{ id: 'n', end: 'A', radiusMm: 238, lengthMm: 6, depthMm: 1.6 }],
  zones: usualZones(110, 0.6),
  trailing: trailingZone(110, 0.6),
  specBevelDeg: 30,
  measuredBevelsDeg: [33, 33],
  massG: 1600,
  speedRpm: 3000,
  specGradeMmPerS: 40,
  balance: { unbalanceGmm: 500, uGmm: 40 },
  shape: { straightness: 0.02, wearWeightG: 6, mostPassesPerZone: 80 },
};
const schools: Schools = {
  finish: 'working',
  bevel: 'spec',
  fixedBevelDeg: 30,
  nicks: { kind: 'leave-to', depthMm: 0.8 },
  balancePlace: 'cutting',
};

describe('usualZones', () => {
  it('give a short stroke its share of the full edge’s grams, or what was learned', () => {
    const [full, half] = usualZones(100, 0.6);
    expect([full?.gramsPerPass, half?.gramsPerPass]).toEqual([0.6, 0.3]);
    expect(
      usualZones(100, 0.6, (key) => (key === 'outer-half' ? 0.4 : undefined))[1]?.gramsPerPass,
    ).toBe(0.4);
    expect(usualZones(100, 0.6).length).toBe(2);
    expect(usualZones(150, 0.6).map(({ key }) => key)).toEqual(['full', 'outer-half', 'outer-50']);
  });
});

describe('correctionPasses', () => {
  it('is the unbalance over what one pass of the zone moves', () => {
    const [, half] = usualZones(100, 0.6);
    if (!half) throw new Error('no zone');
    expect(correctionPasses(130, half, 255)).toBe(2);
    expect(correctionPasses(-10, half, 255)).toBe(1);
    expect(correctionPasses(0, half, 255)).toBe(0);
    expect(() => correctionPasses(NaN, half, 255)).toThrowError(/unbalanceGmm/);
  });
});

describe('askPlan', () => {
  it('puts each school into the problem', () => {
    const ask = (change: Partial<Schools>) => askPlan(situation, { ...schools, ...change }).input;
    expect(ask({}).nicks[0]?.recessMm).toBeCloseTo(0.8, 12);
    expect(ask({ nicks: { kind: 'clear-all' } }).nicks[0]?.recessMm).toBe(1.6);
    expect(ask({ bevel: 'follow' }).rules.newBevelDeg).toBe(33);
    expect(ask({ finish: 'razor' }).rules.finishLandMm).toBe(0);
    expect(ask({ balancePlace: 'cutting-and-trailing' }).zones.at(-1)?.edge).toBe('trailing');
    expect(ask({ gradeMmPerS: 16 }).balance?.permissibleGmm).toBeCloseTo(
      ((ask({}).balance?.permissibleGmm ?? 0) * 16) / 40,
      6,
    );
  });
  it('lets one nick be cleared or left by itself, and knows what turning the switch does', () => {
    expect(askPlan(situation, schools, { n: 'clear' }).input.nicks[0]?.recessMm).toBe(1.6);
    expect(askPlan(situation, schools, { n: 'clear' }).turned['n']).toBe(0);
    expect(askPlan(situation, schools, { n: 'leave' }).turned['n']).toBe(1.6);
  });
  it('grinds the arc of the wheel as worn today', () => {
    const wheel = askPlan({ ...situation, wheel: { radiusMm: 101.6, aim: 'mean' } }, schools);
    expect(wheel.input.rules.wheel?.centreHeightMm).toBeCloseTo(91.2, 0);
  });
});

describe('answerPlan', () => {
  it('gives the plan and each nick’s price, or the nearest choices', () => {
    const answer = answerPlan(askPlan(situation, schools));
    expect(answer.plan.kind).toBe('plan');
    expect(answer.nicks[0]?.metalG).toBeGreaterThan(0);
    const tight = {
      ...situation,
      stations: { A: stations.map((s) => ({ ...s, roomMm: 1 })), B: stations },
    };
    const none = answerPlan(askPlan(tight, { ...schools, nicks: { kind: 'clear-all' } }));
    expect(none.plan.kind).toBe('no-plan');
    expect(none.choices.map(({ kind }) => kind)).toContain('leave-nick');
  });

  it('offers a step in the edge that a blade may take for its own, and then has a plan', () => {
    // A deep nick at the tip, and hardly any room behind it: the edge cannot follow.
    const clear: Schools = { ...schools, nicks: { kind: 'clear-all' } };
    const bent = {
      ...situation,
      nicks: [{ id: 'n', end: 'A' as const, radiusMm: 238, lengthMm: 4, depthMm: 2 }],
      stations: {
        A: stations.map((each, i) => ({ ...each, roomMm: i <= 2 ? 4 : 1 })),
        B: stations,
      },
      balance: { unbalanceGmm: 0, uGmm: 10 },
      specGradeMmPerS: 200,
    };
    const none = answerPlan(askPlan(bent, clear));
    expect(none.plan.kind).toBe('no-plan');
    const step = none.choices.find(({ kind }) => kind === 'allow-step')?.stepMm ?? 0;
    expect(step).toBeGreaterThan(0);
    const stepMm = Math.ceil(step * 100) / 100;
    expect(answerPlan(askPlan(bent, { ...clear, stepMm })).plan.kind).toBe('plan');
    expect(answerPlan(askPlan(bent, { ...clear, stepMm: step / 2 })).plan.kind).toBe('no-plan');
  });
});
