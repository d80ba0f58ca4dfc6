import { blade } from '../testing/grind-problems.js';
import { nearestChoices, worthFinishingOn, WORTH_CHANGING_G, type FinishedOn } from './choices.js';
import { planGrind, type GrindPlan } from './plan.js';
import type { PlanInput } from './problem.js';
import { finishingZones } from './two-tools.js';
import { usualZones } from './zones.js';

const planOf = (input: PlanInput): GrindPlan | undefined => {
  const plan = planGrind(input);
  return plan.kind === 'plan' ? plan : undefined;
};
/** A file and a fine belt after the tool in hand, as a shop has them. */
const finerFor = (input: PlanInput): FinishedOn[] =>
  (
    [
      ['file', 'stroke', 0.06],
      ['fine belt', 'pass', 0.2],
    ] as const
  ).map(([tool, counts, grams]) => ({
    tool,
    zones: [
      ...input.zones,
      ...finishingZones(
        { tool, counts, zones: usualZones(input.edgeLengthMm, grams) },
        input.zones,
      ),
    ],
  }));

describe('A finer tool for the finish', () => {
  it('is worth a change where it saves a gram, or makes the balance sure that was not; the one that takes least', () => {
    const seen = { saves: 0, steadies: 0, neither: 0 };
    for (let seed = 0; seed < 70; seed++) {
      const input = blade(seed);
      const { balance } = input;
      const plan = planOf(input);
      if (!plan || !balance) continue;
      const finished = finerFor(input);
      const most = balance.permissibleGmm - 2 * balance.uGmm;
      const unsure = Math.abs(plan.forward.unbalanceGmm ?? 0) > most;
      const ways = finished.flatMap(({ tool, zones }) => {
        const other = planOf({ ...input, zones });
        if (!other) return [];
        const saves = plan.forward.metalG - other.forward.metalG >= WORTH_CHANGING_G;
        const steadies = unsure && Math.abs(other.forward.unbalanceGmm ?? 0) <= most;
        return saves || steadies ? [{ tool, saves, metalG: other.forward.metalG }] : [];
      });
      const [least] = ways.sort((a, b) => a.metalG - b.metalG);
      const found = worthFinishingOn(input, plan, finished);
      expect(found?.tool).withContext(`blade ${seed}`).toBe(least?.tool);
      if (found) expect(found.metalG).toBeCloseTo(least?.metalG ?? 0, 9);
      seen[least === undefined ? 'neither' : least.saves ? 'saves' : 'steadies'] += 1;
    }
    // The blades tried have all three among them.
    expect(Math.min(...Object.values(seen))).toBeGreaterThan(0);
  });

  it('is no matter where nothing is balanced, unless it saves metal', () => {
    const { balance, ...unbalanced } = blade(3);
    expect(balance).toBeDefined();
    const plan = planOf(unbalanced);
    const found = plan && worthFinishingOn(unbalanced, plan, finerFor(unbalanced));
    if (found && plan)
      expect(plan.forward.metalG - found.metalG).toBeGreaterThanOrEqual(WORTH_CHANGING_G);
    expect(plan).toBeDefined();
  });
});

describe('Ways on where no plan fits', () => {
  it('give on a grade only to a looser one, and each is a plan at the price it says', () => {
    let offered = 0;
    for (let seed = 0; seed < 40; seed++) {
      const given = blade(seed);
      if (!given.balance) continue;
      // So tight that few blades have a plan.
      const permissibleGmm = 6;
      const input = { ...given, balance: { ...given.balance, permissibleGmm, uGmm: 1 } };
      const none = planGrind(input);
      if (none.kind === 'plan') continue;
      const grades = [
        { name: 'tighter', gradeMmPerS: 1, permissibleGmm: 4 },
        { name: 'looser', gradeMmPerS: 40, permissibleGmm: 400 },
      ];
      for (const choice of nearestChoices(input, none, grades)) {
        if (choice.kind !== 'grade') continue;
        offered += 1;
        expect(choice.grade?.name).toBe('looser');
        const plan = planOf({ ...input, balance: { ...input.balance, permissibleGmm: 400 } });
        if (choice.nickIds.length === 0)
          expect(choice.metalG).toBeCloseTo(plan?.forward.metalG ?? -1, 6);
        expect(Math.abs(choice.unbalanceAfterGmm ?? 0)).toBeLessThanOrEqual(400 + 1e-6);
      }
    }
    expect(offered).toBeGreaterThan(5);
  });
});
