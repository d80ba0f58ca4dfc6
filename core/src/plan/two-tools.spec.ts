import { blade, leastOfAll } from '../testing/grind-problems.js';
import { situation } from '../testing/examples.js';
import { answerPlan, askPlan, type Schools } from './ask.js';
import { brokenPromises, planGrind, type GrindPlan } from './plan.js';
import { planRows, type PlanInput } from './problem.js';
import { searchPasses } from './search.js';
import { finishingZones, type FinishingTool } from './two-tools.js';
import { usualZones } from './zones.js';

const SCHOOLS: Schools = {
  finish: 'working',
  bevel: 'spec',
  fixedBevelDeg: 30,
  nicks: { kind: 'leave-to', depthMm: 0.8 },
  balancePlace: 'cutting',
};
const file = (edgeLengthMm: number): FinishingTool => ({
  tool: 'file',
  counts: 'stroke',
  zones: usualZones(edgeLengthMm, 0.06),
});
const fineBelt = (edgeLengthMm: number, grams: number): FinishingTool => ({
  tool: 'fine belt',
  counts: 'pass',
  zones: usualZones(edgeLengthMm, grams),
});
const withFinish = (input: PlanInput, then: FinishingTool): PlanInput => ({
  ...input,
  zones: [...input.zones, ...finishingZones(then, input.zones)],
});
const planOf = (input: PlanInput): GrindPlan => {
  const plan = planGrind(input);
  if (plan.kind !== 'plan') throw new Error(plan.obstacles.map(({ words }) => words).join());
  return plan;
};

describe('a blade ground on two tools', () => {
  it('is planned as cheaply as every choice of passes tried one by one', () => {
    let tried = 0;
    for (let seed = 0; tried < 12; seed++) {
      const plain = blade(seed);
      const [coarse] = plain.zones;
      if (!coarse || coarse.gramsPerPass < 0.6 || plain.stations.A[0]!.roomMm > 3.5) continue;
      const input = withFinish(
        { ...plain, zones: [coarse] },
        fineBelt(plain.edgeLengthMm, coarse.gramsPerPass / 2.5),
      );
      const rows = planRows(input);
      const { objectiveG, proven } = searchPasses(input, rows);
      expect(proven).toBeTrue();
      expect(objectiveG ?? Infinity)
        .withContext(`seed ${seed}`)
        .toBeCloseTo(leastOfAll(input, rows), 6);
      tried += 1;
    }
  });

  it('is finished over the whole of both edges, also where the first tool alone would do', () => {
    for (let seed = 0; seed < 12; seed++) {
      const input = withFinish(blade(seed), file(blade(seed).edgeLengthMm));
      const plan = planGrind(input);
      if (plan.kind !== 'plan') continue;
      const at = input.zones.findIndex(({ tool, key }) => tool === 'file' && key === 'full');
      expect(plan.passes.A[at]).toBeGreaterThanOrEqual(5);
      expect(plan.passes.B[at]).toBeGreaterThanOrEqual(5);
      expect(brokenPromises(input, plan.passes)).toEqual([]);
    }
  });

  it('keeps what was made with the tool that is laid down, and plans only the rest', () => {
    const input = blade(3);
    const alone = planOf(input);
    const made = (z: number) => ({ A: alone.passes.A[z] ?? 0, B: (alone.passes.B[z] ?? 0) + 1 });
    const after: PlanInput = {
      ...input,
      zones: [
        ...input.zones.map((zone, z) => ({ ...zone, tool: 'belt', made: made(z) })),
        ...usualZones(input.edgeLengthMm, 0.06),
      ],
    };
    const plan = planOf(after);
    input.zones.forEach((_, z) => {
      expect([plan.passes.A[z], plan.passes.B[z]]).toEqual([made(z).A, made(z).B]);
    });
    expect(brokenPromises(after, plan.passes)).toEqual([]);
    expect(brokenPromises(after, { A: plan.passes.A.map(() => 0), B: plan.passes.B })).toContain(
      'passes A belt full',
    );
  });

  it('is offered a finer tool where the one in hand is too coarse for the balance', () => {
    const coarse = {
      ...situation,
      zones: usualZones(situation.edgeLengthMm, 4),
      balance: { unbalanceGmm: 420, uGmm: 8 },
      finer: [file(situation.edgeLengthMm)],
    };
    const strict = { ...SCHOOLS, gradeMmPerS: 16 };
    const { plan, choices } = answerPlan(askPlan(coarse, strict));
    expect(plan.kind).toBe('no-plan');
    const finish = choices.find(({ kind }) => kind === 'finish-on');
    expect(finish?.tool).toBe('file');
    const { then, ...taken } = { ...coarse, then: file(situation.edgeLengthMm) };
    const after = answerPlan(askPlan({ ...taken, finer: [], then }, strict));
    expect(after.plan.kind).toBe('plan');
    expect(after.plan.kind === 'plan' && after.plan.forward.metalG).toBeCloseTo(
      finish?.metalG ?? 0,
      9,
    );
  });

  it('is offered a finer tool where that saves metal, and none where it does not', () => {
    const kept = { ...situation, balance: { unbalanceGmm: 300, uGmm: 8 } };
    const finer = [file(situation.edgeLengthMm)];
    const coarse = { ...kept, zones: usualZones(situation.edgeLengthMm, 2.6), finer };
    const { plan, finishOn } = answerPlan(askPlan(coarse, SCHOOLS));
    const alone = plan.kind === 'plan' ? plan.forward.metalG : 0;
    expect(finishOn?.kind).toBe('finish-on');
    expect(alone - (finishOn?.metalG ?? alone)).toBeGreaterThan(1);
    const fine = { ...kept, zones: usualZones(situation.edgeLengthMm, 0.12), finer };
    expect(answerPlan(askPlan(fine, SCHOOLS)).finishOn).toBeUndefined();
  });
});
