import { ENDS, type End } from '../blade/shape.js';
import { bestBound, pricesOf, tiesOf, together } from './bounds.js';
import { listEnd, type Budget, type EndPlan } from './end-list.js';
import { endProblem, type EndProblem } from './end-problem.js';
import type { Passes } from './forward.js';
import type { PlanInput, Row } from './problem.js';

/**
 * The grind plan exactly, without a solver. Whole passes of one end are listed depth first; the two ends are tied by the
 * unbalance they leave and by the larger share of wear either uses. Prices on these two ties split the problem: with any
 * prices, what a pair costs is at least the sum of what each end costs by itself at those prices, so all pairs that cost
 * no more than a target are found among the ends that are cheap enough. Poor prices cost time, never correctness.
 */
export interface Searched {
  readonly passes: Passes | undefined;
  /** Metal, share and softness together, g; nothing without a plan. */
  readonly objectiveG: number | undefined;
  /** Nothing costs less, or there is no plan at all. */
  readonly proven: boolean;
  /** Nothing was found that costs less than the plan by more than this, g; 0 where it is proven. */
  readonly gapG: number;
  /** Choices of passes that were looked at. */
  readonly nodes: number;
}

/** Costs closer than this are the same, g: the plan with fewer passes is taken. */
const TIE_G = 1e-6;

interface Pair {
  readonly a: EndPlan;
  readonly b: EndPlan;
  readonly costG: number;
}

/**
 * The cheapest pair of what was listed; of those that cost the same the one with the fewest passes. A pair costs no less
 * than its ends at their prices and `constantG` together: what cannot be cheaper than the cheapest so far is passed over.
 */
function bestPair(
  input: PlanInput,
  listed: Readonly<Record<End, EndPlan[]>>,
  { targetG, constantG }: { readonly targetG: number; readonly constantG: number },
  budget: Budget,
): Pair | undefined {
  const ties = tiesOf(input);
  const [outer, inner]: readonly [End, End] =
    listed.A.length <= listed.B.length ? ['A', 'B'] : ['B', 'A'];
  // In place: an end that is listed whole comes again in this order, and is sorted in no time.
  const few = listed[outer].sort((a, b) => a.reducedG - b.reducedG);
  const many = listed[inner].sort((a, b) => a.momentGmm - b.momentGmm);
  const least = many.reduce((low, { reducedG }) => Math.min(low, reducedG), Infinity);
  const firstFrom = (momentGmm: number): number => {
    let [low, high] = [0, many.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((many[middle] as EndPlan).momentGmm < momentGmm) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  const reach = ties ? ties.permissibleGmm + 1e-6 : Infinity;
  const apart = (outer === 'A' ? -1 : 1) * (ties?.unbalanceGmm ?? 0);
  let leastG = Infinity;
  const most = (): number => Math.min(targetG, leastG) + 2 * TIE_G - constantG;
  const scan = (take: (a: EndPlan, b: EndPlan, costG: number) => void): void => {
    for (const one of few) {
      if (one.reducedG + least > most()) break;
      const middle = one.momentGmm + apart;
      for (let i = ties ? firstFrom(middle - reach) : 0; i < many.length; i++) {
        const other = many[i] as EndPlan;
        if (ties && other.momentGmm > middle + reach) break;
        if (++budget.nodes > budget.most) return;
        if (one.reducedG + other.reducedG > most()) continue;
        const [a, b] = outer === 'A' ? [one, other] : [other, one];
        take(a, b, together(input, ties, a, b));
      }
    }
  };
  scan((_a, _b, costG) => {
    leastG = Math.min(leastG, costG);
  });
  let best: Pair | undefined;
  if (leastG === Infinity) return undefined;
  scan((a, b, costG) => {
    if (costG > leastG + TIE_G) return;
    if (!best || a.effort + b.effort < best.a.effort + best.b.effort) best = { a, b, costG };
  });
  return best;
}

/** So many choices of passes are looked at before the search is cut off: about half a second. */
const MOST_NODES = 1_500_000;
/** And so many pairs of what was found of both ends are put together. */
const MOST_JOINS = 4_000_000;
const FIRST_GAP_G = 0.1;

/**
 * The cheapest whole passes, proven. The target starts just above the bound and is raised until the best pair found costs
 * no more than it: then every pair that costs as little was listed, because an end that is left out costs so much that
 * with the cheapest other end the pair is above the target. Where nothing is left out at all there is no plan. Cut off after
 * `mostNodes` choices it answers with the best pair it saw and how much cheaper another could be.
 *
 * Checked against every choice tried on small blades and against a mixed-integer solver where recession is linear.
 * @example searchPasses(plan, planRows(plan)).proven // true
 */
export function searchPasses(
  input: PlanInput,
  rows: readonly Row[],
  mostNodes: number = MOST_NODES,
): Searched {
  const budget: Budget = { nodes: 0, most: mostNodes };
  const problems = { A: endProblem(input, rows, 'A'), B: endProblem(input, rows, 'B') };
  const bound = bestBound(input, problems, budget);
  const nothing = { passes: undefined, objectiveG: undefined, gapG: 0 };
  if (!bound) return { ...nothing, proven: budget.nodes < mostNodes, nodes: budget.nodes };
  const least = { A: bound.a.reducedG, B: bound.b.reducedG };
  /** Ends of which nothing was left out: a higher target lists no more of them. */
  const all: Partial<Record<End, EndPlan[]>> = {};
  for (let gapG = FIRST_GAP_G; ; gapG *= 2.5) {
    const targetG = bound.totalG + gapG;
    const listed: Record<End, EndPlan[]> = { A: all.A ?? [], B: all.B ?? [] };
    for (const end of ENDS) {
      if (all[end]) continue;
      const other = end === 'A' ? 'B' : 'A';
      const limit = targetG + 2 * TIE_G - bound.constantG - least[other];
      const whole = listEnd(
        problems[end],
        pricesOf(input, bound.multipliers, end),
        () => limit,
        (plan) => listed[end].push(plan),
        budget,
      );
      if (whole) all[end] = listed[end];
    }
    const everything = all.A !== undefined && all.B !== undefined;
    const joins: Budget = { nodes: 0, most: MOST_JOINS };
    const pair = bestPair(input, listed, { targetG, constantG: bound.constantG }, joins);
    const cutOff = budget.nodes >= mostNodes || joins.nodes > MOST_JOINS;
    const proven = !cutOff && (everything || (pair !== undefined && pair.costG <= targetG + TIE_G));
    if (!proven && !cutOff) continue;
    if (!pair) return { ...nothing, proven, nodes: budget.nodes };
    return {
      passes: { A: inOrder(problems.A, pair.a), B: inOrder(problems.B, pair.b) },
      objectiveG: pair.costG,
      proven,
      gapG: proven ? 0 : pair.costG - bound.totalG,
      nodes: budget.nodes,
    };
  }
}

/** Passes in the order the input gives its zones. */
function inOrder({ levels }: EndProblem, { counts }: EndPlan): number[] {
  const passes = levels.map(() => 0);
  levels.forEach(({ zone }, i) => {
    passes[zone] = counts[i] ?? 0;
  });
  return passes;
}
