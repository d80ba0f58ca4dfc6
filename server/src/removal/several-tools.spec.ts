import type { GrinderFigures, PlanView } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop, type TestCycle } from '../testing/shop.js';

const FIGURES: GrinderFigures = {
  name: 'Long belt',
  kind: 'belt',
  counts: 'pass',
  abrasive: 'Grit 60',
  aim: 'mean',
  table: 'flat',
};

describe('a blade on several tools', () => {
  let shop: TestShop;
  let [belt, file] = ['', ''];
  beforeEach(async () => {
    shop = await TestShop.open();
    [belt, file] = [uuidv7(), uuidv7()];
    const add = (grinderId: string, figures: GrinderFigures) =>
      shop.send({ type: 'add-grinder', grinderId, abrasiveId: uuidv7(), figures });
    await add(belt, FIGURES);
    await add(file, { ...FIGURES, name: 'Mill file', kind: 'file', counts: 'stroke' });
  });
  afterEach(() => shop.close());

  const measured = async (): Promise<TestCycle> => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    return cycle;
  };
  const setUp = (cycle: TestCycle, grinderId: string, grams?: string) =>
    cycle.do({
      type: 'set-up',
      grinderId,
      withoutCheck: 'checked-on-paper',
      ...(grams ? { mass: { text: grams, unit: 'g' } } : {}),
    });
  const count = (cycle: TestCycle, end: 'A' | 'B', n: number) =>
    cycle.do({ type: 'count-passes', passId: uuidv7(), end, count: n });
  const planned = async ({ cycleId }: TestCycle) => {
    const { body } = await shop.get<PlanView>(`/api/v1/cycles/${cycleId}/plan`);
    if (body.kind !== 'asked' || body.answer.plan.kind !== 'plan')
      throw new Error(JSON.stringify(body).slice(0, 400));
    return { ...body, plan: body.answer.plan };
  };
  const finished = async (grams: { between?: string; after: string }): Promise<void> => {
    const cycle = await measured();
    await setUp(cycle, belt);
    await count(cycle, 'A', 6);
    await count(cycle, 'B', 6);
    await setUp(cycle, file, grams.between);
    await count(cycle, 'A', 10);
    await count(cycle, 'B', 10);
    await cycle.balance();
    await cycle.measure('after', { mass: grams.after, width: '61.5', land: '0.15' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
  };
  const learnedOn = async (grinderId: string) => {
    const cycle = await measured();
    await setUp(cycle, grinderId);
    return (await planned(cycle)).gramsPerPass;
  };

  it('teaches each what it took, where it was weighed between them', async () => {
    // 12 passes of the belt took 9.0 g, 20 strokes of the file 0.8 g.
    await finished({ between: '1591.0', after: '1590.2' });
    const [passes, strokes] = [await learnedOn(belt), await learnedOn(file)];
    expect([passes.grinds, strokes.grinds]).toEqual([1, 1]);
    expect(passes.value).toBeGreaterThan(0.65);
    expect(passes.value).toBeLessThan(0.75);
    // Two weighings to 0.1 g say little of 0.8 g: it has moved from 0.06 towards 0.04, not onto it.
    expect(strokes.value).toBeLessThan(0.059);
    expect(strokes.value).toBeGreaterThan(0.04);
  });

  it('teaches the coarse one what is left when the fine one’s part is taken off, and the fine one nothing', async () => {
    await finished({ after: '1590.2' });
    const [passes, strokes] = [await learnedOn(belt), await learnedOn(file)];
    expect([passes.grinds, strokes.grinds]).toEqual([1, 0]);
    // 9.8 g less the 1.2 g that twenty strokes usually take, over twelve passes: 0.72 g.
    expect(passes.value).toBeGreaterThan(0.63);
    expect(passes.value).toBeLessThan(0.75);
    expect(strokes.value).toBeCloseTo(0.06, 6);
  });

  it('is planned to the end: the belt first, the file over both edges, and what was made stays', async () => {
    const cycle = await measured();
    await cycle.hang('2.5');
    await setUp(cycle, belt);
    await cycle.do({ type: 'finish-on', grinderId: file });
    const first = await planned(cycle);
    const keyOf = (grinderId: string): string =>
      Object.entries(first.tools).find(([, tool]) => tool.grinderId === grinderId)?.[0] ?? '';
    expect(first.tools[keyOf(file)]).toEqual({
      grinderId: file,
      name: 'Mill file',
      counts: 'stroke',
    });
    const [beltFull, fileFull] = [0, first.situation.zones.length];
    for (const end of ['A', 'B'] as const) {
      expect(first.plan.passes[end][fileFull]).toBeGreaterThanOrEqual(5);
    }
    // One pass fewer than planned at end A: the file has to make up for it.
    const made = {
      A: (first.plan.passes.A[beltFull] ?? 0) - 1,
      B: first.plan.passes.B[beltFull] ?? 0,
    };
    await count(cycle, 'A', made.A);
    await count(cycle, 'B', made.B);
    await setUp(cycle, file);
    const then = await planned(cycle);
    expect(then.situation.made?.map((zone) => [zone.tool, zone.key, zone.made])).toEqual([
      [keyOf(belt), 'full', made],
    ]);
    expect(then.plan.passes.A[0]).toBe(made.A);
    const strokes = then.plan.passes.A.slice(1).reduce((sum, each) => sum + each, 0);
    expect(strokes).toBeGreaterThan(first.plan.passes.A[fileFull] ?? 0);
    expect((await cycle.view()).finishOn).toBeUndefined();
  });
});
