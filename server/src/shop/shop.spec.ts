import type { PlanView, ShopView } from '@tally-stone/contract';
import { preUseChecks, type PreUseCheck } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { TestShop, type TestCycle } from '../testing/shop.js';
import { shopDay } from './day.js';

const BELT = {
  name: 'Belt',
  kind: 'belt',
  counts: 'pass',
  abrasive: 'Grit 60',
  aim: 'mean',
  table: 'flat',
} as const;

describe('a shop’s rules and grinders', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());
  const view = async (): Promise<ShopView> => (await shop.get<ShopView>('/api/v1/shop')).body;

  it('judges by the school that is chosen, from now on', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    await cycle.do({
      type: 'mark-damage',
      damageId: uuidv7(),
      kind: 'nick',
      end: 'A',
      fromTip: { text: '20', unit: 'mm' },
      depth: { text: '0.6', unit: 'mm' },
    });
    const words = async (): Promise<string> =>
      (await cycle.view()).before.findings.find(({ id }) => id.startsWith('damage'))?.words ?? '';
    expect(await words()).toContain('not worth chasing');
    const { rules } = await view();
    await shop.send({
      type: 'set-rules',
      rules: { ...rules, schools: { ...rules.schools, nicks: { kind: 'clear-all' } } },
    });
    expect(await words()).toContain('take it all out');
    await cycle.do({ type: 'choose-schools', schools: { nicks: { kind: 'leave-all' } } });
    expect(await words()).toContain('leave all nicks');
    await shop.send({ type: 'set-rules', rules });
  });

  it('lets a nick be told by itself what to do, and takes it back', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    const damageId = uuidv7();
    const choose = (choice: 'clear' | 'policy') =>
      cycle.act({ type: 'choose-nick', damageId, choice });
    expect((await choose('clear')).body.errors?.[0]?.field).toBe('damageId');
    await cycle.do({
      type: 'mark-damage',
      damageId,
      kind: 'nick',
      end: 'B',
      fromTip: { text: '30', unit: 'mm' },
      depth: { text: '0.5', unit: 'mm' },
    });
    await choose('clear');
    expect(
      (await cycle.view()).before.findings.some(({ words }) => words.includes('take it all out')),
    ).toBeTrue();
    await choose('policy');
    expect(
      (await cycle.view()).before.findings.some(({ words }) => words.includes('not worth chasing')),
    ).toBeTrue();
  });

  it('sets up only on a machine checked that day, or for a reason', async () => {
    const grinderId = uuidv7();
    await shop.send({ type: 'add-grinder', grinderId, abrasiveId: uuidv7(), figures: BELT });
    const cycle = await shop.openCycle();
    const refused = await cycle.act({ type: 'set-up', grinderId });
    expect(refused.body.errors?.[0]?.field).toBe('withoutCheck');
    expect(
      (await cycle.act({ type: 'set-up', grinderId, withoutCheck: 'checked-on-paper' })).status,
    ).toBe(200);
    const check = (checked: readonly PreUseCheck[]) =>
      shop.post({
        ...shop.envelope(),
        type: 'check-grinder',
        checkId: uuidv7(),
        grinderId,
        checked,
      });
    expect((await check(['guards'])).status).toBe(422);
    expect((await check(preUseChecks('belt'))).status).toBe(200);
    const other = await shop.openCycle();
    await other.do({ type: 'set-up', grinderId });
    expect((await other.view()).setUp?.withoutCheck).toBeUndefined();
    // A new belt is looked over again.
    await shop.send({ type: 'change-grinder', grinderId, abrasiveId: uuidv7(), figures: BELT });
    const { grinders } = await view();
    expect(grinders.find((each) => each.grinderId === grinderId)?.checkedToday).toBeFalse();
  });

  it('plans in what a tool counts, and learns nothing of a file from a belt', async () => {
    const machines = { belt: BELT, file: { ...BELT, kind: 'file', counts: 'stroke' } as const };
    const ids = { belt: uuidv7(), file: uuidv7() };
    for (const key of ['belt', 'file'] as const) {
      const grinderId = ids[key];
      const figures = machines[key];
      await shop.send({ type: 'add-grinder', grinderId, abrasiveId: uuidv7(), figures });
    }
    const measured = async (grinderId: string): Promise<TestCycle> => {
      const cycle = await shop.openCycle();
      await cycle.inspectClean();
      await cycle.measure('before');
      await cycle.do({ type: 'set-up', grinderId, withoutCheck: 'checked-on-paper' });
      return cycle;
    };
    const planned = async ({ cycleId }: TestCycle) => {
      const { body } = await shop.get<PlanView>(`/api/v1/cycles/${cycleId}/plan`);
      if (body.kind !== 'asked' || body.answer.plan.kind !== 'plan') throw new Error('no plan');
      const { passes, forward } = body.answer.plan;
      const [A = 0] = passes.A;
      return { perCount: body.gramsPerPass.value, A, metalG: forward.metalG };
    };
    // A belt that takes more than is usual says so of belts alone.
    const ground = await measured(ids.belt);
    await ground.grind(6);
    await ground.balance();
    await ground.measure('after', { mass: '1591.0', width: '61.5', land: '0.15' });
    await ground.lightTests();
    await ground.do({ type: 'sign-off', outcome: 'ready' });

    const byFile = await measured(ids.file);
    const strokes = await planned(byFile);
    expect((await byFile.view()).counts).toBe('stroke');
    expect(strokes.perCount).toBeCloseTo(0.06, 9);
    expect(strokes.A).toBeGreaterThan(20);
    const byBelt = await measured(ids.belt);
    const passes = await planned(byBelt);
    expect((await byBelt.view()).counts).toBe('pass');
    expect(passes.perCount).toBeGreaterThan(0.63);
    // The same blade, the same metal, finer told.
    expect(Math.abs(strokes.metalG - passes.metalG)).toBeLessThan(2 * passes.perCount + 0.1);
  });

  it('keeps what a grinder counts: its grinds so far were counted so', async () => {
    const grinderId = uuidv7();
    const abrasiveId = uuidv7();
    await shop.send({ type: 'add-grinder', grinderId, abrasiveId, figures: BELT });
    for (const change of [{ counts: 'second' }, { kind: 'file' }] as const) {
      const figures = { ...BELT, ...change };
      const refused = await shop.post({
        ...shop.envelope(),
        ...{ type: 'change-grinder', grinderId, abrasiveId, figures },
      });
      expect(refused.body.errors?.[0]?.field).toBe(`figures.${Object.keys(change)[0] ?? ''}`);
      expect(refused.body.detail).toContain('add another grinder');
    }
  });

  it('never mounts a wheel marked for less than the machine turns', async () => {
    const refused = await shop.post({
      ...shop.envelope(),
      type: 'add-grinder',
      grinderId: uuidv7(),
      abrasiveId: uuidv7(),
      figures: { ...BELT, kind: 'wheel', wheelDiameterMm: 200, ratedRpm: 2000, spindleRpm: 2850 },
    });
    expect(refused.status).toBe(422);
    expect(JSON.stringify(refused.body)).toContain('never mount it');
  });

  it('counts days in the shop’s own time zone, over a change of clocks', () => {
    expect(shopDay('2026-03-29T00:30:00Z', 'Europe/London')).toBe('2026-03-29');
    expect(shopDay('2026-06-30T23:30:00Z', 'Europe/London')).toBe('2026-07-01');
    expect(shopDay('2026-10-25T23:30:00Z', 'Europe/London')).toBe('2026-10-25');
    expect(shopDay('2026-07-01T03:30:00Z', 'America/New_York')).toBe('2026-06-30');
  });
});
