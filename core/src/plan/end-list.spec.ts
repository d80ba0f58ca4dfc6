import { ENDS } from '../blade/shape.js';
import { blade } from '../testing/grind-problems.js';
import { pricesOf } from './bounds.js';
import { listEnd, type EndPlan } from './end-list.js';
import { endProblem } from './end-problem.js';
import { planRows } from './problem.js';

/** Prices along, across and of the share of wear: where zones near the tip earn, and where they do not. */
const PRICES = [
  { alongG: 0.0056, acrossG: 0, theta: 0.0001 },
  { alongG: -0.0056, acrossG: 0, theta: 0.9 },
  { alongG: -0.003, acrossG: 0.001, theta: 0.5 },
];

describe('Listing an end', () => {
  it('leaves out nothing that costs no more than the limit', () => {
    let looked = 0;
    const kinds = [{}, { trailing: true, across: true }, { file: true }];
    for (const [seed, kind] of [
      ...Array.from({ length: 12 }, (_, i) => [i, kinds[i % 3] ?? {}] as const),
      // In these a further pass at one level lets a later one earn more, which was once left out.
      ...([
        [9, { file: true }],
        [12, { file: true }],
        [88, {}],
        [88, { trailing: true, across: true }],
      ] as const),
    ]) {
      const input = blade(seed, kind);
      const rows = planRows(input);
      for (const end of ENDS) {
        const problem = endProblem(input, rows, end);
        for (const multipliers of PRICES) {
          const prices = pricesOf(input, multipliers, end);
          const listed = (limitG: number): EndPlan[] => {
            const plans: EndPlan[] = [];
            const budget = { nodes: 0, most: 3e6 };
            listEnd(
              problem,
              prices,
              () => limitG,
              (found) => plans.push(found.whole()),
              budget,
            );
            return plans;
          };
          const all = listed(Infinity).sort((a, b) => a.reducedG - b.reducedG);
          for (const at of [0, Math.floor(all.length / 1000), Math.floor(all.length / 50)]) {
            const limitG = (all[at]?.reducedG ?? 0) + 1e-7;
            const within = all.filter(({ reducedG }) => reducedG <= limitG).length;
            looked += 1;
            expect(listed(limitG).length)
              .withContext(`blade ${seed}, end ${end}, ${limitG} g`)
              .toBe(within);
          }
        }
      }
    }
    expect(looked).toBeGreaterThan(250);
  });

  it('prices what it lists as its metal, moments and share say', () => {
    const input = blade(3, { trailing: true, across: true });
    const prices = pricesOf(input, PRICES[2]!, 'B');
    const problem = endProblem(input, planRows(input), 'B');
    let listed = 0;
    listEnd(
      problem,
      prices,
      () => Infinity,
      (found) => {
        const { metalG, momentGmm, acrossGmm, share, reducedG } = found.whole();
        listed += 1;
        expect(reducedG).toBeCloseTo(
          metalG + prices.alongG * momentGmm + prices.acrossG * acrossGmm + prices.shareG * share,
          9,
        );
      },
      { nodes: 0, most: 20_000 },
    );
    expect(listed).toBeGreaterThan(100);
  });
});
