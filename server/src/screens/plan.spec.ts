import type { CycleView, PlanView } from '@tally-stone/contract';
import { permissibleGmm, type End } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { TestShop, type TestCycle } from '../testing/shop.js';

describe('the plan of a blade', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());

  const planOf = async (cycle: TestCycle): Promise<PlanView> =>
    (await shop.get<PlanView>(`/api/v1/cycles/${cycle.cycleId}/plan`)).body;
  const planned = async (cycle: TestCycle) => {
    const view = await planOf(cycle);
    if (view.kind !== 'asked' || view.answer.plan.kind !== 'plan')
      throw new Error(JSON.stringify(view));
    const { plan, nicks } = view.answer;
    const sum = (end: End): number => plan.passes[end].reduce((all, each) => all + each, 0);
    return { ...view, plan, nicks, passes: { A: sum('A'), B: sum('B') } };
  };
  const measured = async (): Promise<TestCycle> => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    return cycle;
  };
  const mark = (cycle: TestCycle, depth: string) =>
    cycle.do({
      type: 'mark-damage',
      damageId: uuidv7(),
      kind: 'nick',
      end: 'B',
      fromTip: { text: '20', unit: 'mm' },
      depth: { text: depth, unit: 'mm' },
    });

  it('waits until both ends are measured', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    expect(await planOf(cycle)).toEqual(jasmine.objectContaining({ kind: 'not-yet' }));
  });

  it('is not made from a width that is asked about, nor is that drawn; read again, it is', async () => {
    const cycle = await measured();
    const tip = { end: 'A', stationKey: 'tip' } as const;
    const drawn = async () => (await cycle.view()).widths.A.map(({ widthMm }) => widthMm);
    expect(await drawn()).toContain(62);
    await cycle.read('before', 'width', '40.0', tip);
    expect((await planOf(cycle)).kind).toBe('not-yet');
    expect(await drawn()).not.toContain(40);
    await cycle.read('before', 'width', '61.9', tip);
    expect((await planOf(cycle)).kind).toBe('asked');
    expect(await drawn()).toContain(61.9);
  });

  it('is not drawn over a length, thickness or mass that is asked about: what was known stands', async () => {
    const cycle = await measured();
    const before = await planned(cycle);
    await cycle.read('before', 'length', '160.0');
    await cycle.read('before', 'thickness', '1.2');
    await cycle.read('before', 'mass', '55.2');
    const { situation } = await planned(cycle);
    expect([situation.tipRadiusMm, situation.thicknessMm]).toEqual([
      before.situation.tipRadiusMm,
      before.situation.thicknessMm,
    ]);
    expect(situation.massG).toBeGreaterThan(1500);
    expect((await cycle.view()).lengthMm).toBe(2 * before.situation.tipRadiusMm);
  });

  it('says of readings that are possible each but not together which to read again', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before', { land: '1.40' });
    for (const text of ['1.3', '1.3']) await cycle.read('before', 'thickness', text);
    const view = await planOf(cycle);
    expect(view.kind === 'not-yet' ? view.words : view.situation.thicknessMm).toContain(
      'The flat is read as wide',
    );
  });

  it('takes no metal for an amount that a coarse balancer cannot tell, but knows which end', async () => {
    const cycle = await measured();
    const onANail = {
      type: 'balance-round',
      phase: 'before',
      device: 'nail',
      heavyEnd: 'A',
      weight: { text: '2', unit: 'g' },
      radius: { text: '240', unit: 'mm' },
    } as const;
    await cycle.do({ ...onANail, roundId: uuidv7() });
    const plan = await planned(cycle);
    expect(plan.situation.balance).toBeUndefined();
    expect(plan.situation.heavyEnd).toBe('A');
    expect(plan.passes.A).toBe(plan.passes.B);
    const { body } = await shop.get<CycleView>(`/api/v1/cycles/${cycle.cycleId}`);
    const round = body.rounds.at(-1);
    // What to take next is the search's step, as where only the end is known.
    expect(round?.tooCoarse).toBeTrue();
    expect(round?.correctionG).not.toBeCloseTo(480 / (round?.correctionRadiusMm ?? 1), 2);
    await cycle.hang('2');
    expect((await planned(cycle)).situation.balance?.unbalanceGmm).toBeCloseTo(480, 0);
  });

  it('sharpens both ends alike while no heavy end is known', async () => {
    const plan = await planned(await measured());
    expect(plan.passes.A).toBe(plan.passes.B);
    expect(plan.passes.A).toBeGreaterThan(2);
    expect(plan.plan.forward.metalG).toBeGreaterThan(2);
    expect(plan.plan.forward.unbalanceGmm).toBeUndefined();
  });

  it('spends the rest on the heavy end, light end first, and ends within its grade', async () => {
    const cycle = await measured();
    await cycle.hang('2.5');
    const plan = await planned(cycle);
    expect(plan.plan.order).toEqual(['B', 'A']);
    expect(plan.passes.A).toBeGreaterThan(plan.passes.B);
    const allowed = permissibleGmm(1600, 3000, 40);
    expect(Math.abs(plan.plan.forward.unbalanceGmm ?? NaN)).toBeLessThanOrEqual(allowed);
  });

  it('stands while passes are counted, and starts again from the next balance reading', async () => {
    const cycle = await measured();
    await cycle.hang('2.5');
    const first = await planned(cycle);
    await cycle.grind(3);
    expect((await planned(cycle)).passes).toEqual(first.passes);
    await cycle.hang('1.6');
    const next = await planned(cycle);
    expect(next.behind).toEqual({ A: { 'none full': 3 }, B: { 'none full': 3 } });
    expect(next.passes.A).toBeGreaterThan(0);
    expect(next.passes.B).toBe(0);
  });

  it('dresses a deep nick to what may stay, and says what turning the switch costs', async () => {
    const cycle = await measured();
    const plain = await planned(cycle);
    await mark(cycle, '1.6');
    const dressed = await planned(cycle);
    expect(dressed.passes.B).toBeGreaterThan(plain.passes.B);
    expect(dressed.nicks[0]?.impossible).toBeFalse();
    expect(dressed.nicks[0]?.metalG).toBeGreaterThan(0);
    expect(dressed.nicks[0]?.grinds).toBeGreaterThan(0.5);
  });

  it('says that a blade to be retired is not ground again', async () => {
    const cycle = await shop.openCycle();
    await cycle.do({ type: 'clean', done: true });
    await cycle.do({ type: 'judge-crack', found: true, where: 'near-tip' });
    const plan = await planOf(cycle);
    expect(plan.kind === 'not-yet' && plan.words).toContain('must be retired');
  });

  it('explains itself when the width limit leaves no room for the nick', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before', { width: '57.5' });
    await cycle.read('before', 'width', '53.6', { end: 'B', stationKey: 'tip' });
    await cycle.read('before', 'width', '55.2', { end: 'B', stationKey: 'middle' });
    await mark(cycle, '3.2');
    const plan = await planOf(cycle);
    if (plan.kind !== 'asked' || plan.answer.plan.kind !== 'no-plan')
      throw new Error(JSON.stringify(plan));
    expect(plan.answer.plan.obstacles.map(({ words }) => words).join()).toContain('End B');
    expect(plan.answer.choices[0]?.kind).toBe('leave-nick');
  });
});
