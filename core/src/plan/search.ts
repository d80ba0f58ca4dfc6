import type { End } from '../blade/shape.js';
import { bestBound, pricesOf, tiesOf, together, type Ties } from './bounds.js';
import { listEnd, type Budget, type EndPlan, type Found } from './end-list.js';
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

/** Choices of one end by their moment, and what the cheapest costs of each block of neighbours. */
interface ByMoment {
  readonly ends: readonly EndPlan[];
  readonly momentsGmm: Float64Array;
  readonly blockLeastG: Float64Array;
}

const BLOCK = 32;

function byMoment(listed: readonly EndPlan[]): ByMoment {
  const ends = [...listed].sort((a, b) => a.momentGmm - b.momentGmm);
  const blockLeastG = new Float64Array(Math.ceil(ends.length / BLOCK)).fill(Infinity);
  ends.forEach(({ reducedG }, i) => {
    const block = Math.floor(i / BLOCK);
    blockLeastG[block] = Math.min(blockLeastG[block] as number, reducedG);
  });
  return { ends, momentsGmm: Float64Array.from(ends, ({ momentGmm }) => momentGmm), blockLeastG };
}

/** The place of the first that moves no less than this. */
function firstFrom({ momentsGmm }: ByMoment, momentGmm: number): number {
  let [low, high] = [0, momentsGmm.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((momentsGmm[middle] as number) < momentGmm) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * Puts each choice of end B as it is found beside those of end A that leave no more unbalance than may be. A pair costs no
 * less than its ends at their prices and `constantG` together: what cannot cost less than the target, or than the cheapest
 * pair so far, is passed over, a block at a time.
 */
class Pairs {
  /** The cheapest pairs so far, as many as cost the same. */
  private cheapest: Pair[] = [];
  private leastG = Infinity;
  private readonly ties: Ties | undefined;

  constructor(
    private readonly input: PlanInput,
    private readonly a: ByMoment,
    private readonly targetG: number,
    private readonly constantG: number,
    private readonly budget: Budget,
  ) {
    this.ties = tiesOf(input);
  }

  /** Two ends that cost more at their prices are no pair that is looked for. */
  mostG(): number {
    return Math.min(this.targetG, this.leastG) + 2 * TIE_G - this.constantG;
  }

  add({ momentGmm, reducedG, whole }: Found): void {
    const { a, ties, budget } = this;
    const middle = momentGmm + (ties?.unbalanceGmm ?? 0);
    const reach = (ties?.permissibleGmm ?? 0) + 1e-6;
    const to = ties ? firstFrom(a, middle + reach) : a.ends.length;
    let b: EndPlan | undefined;
    for (let i = ties ? firstFrom(a, middle - reach) : 0; i < to; i++) {
      if (++budget.nodes > budget.most) return;
      const block = Math.floor(i / BLOCK);
      if (reducedG + (a.blockLeastG[block] as number) > this.mostG()) {
        i = (block + 1) * BLOCK - 1;
        continue;
      }
      const one = a.ends[i] as EndPlan;
      if (reducedG + one.reducedG > this.mostG()) continue;
      b ??= whole();
      const costG = together(this.input, ties, one, b);
      if (costG > this.leastG + TIE_G) continue;
      if (costG < this.leastG) {
        this.leastG = costG;
        this.cheapest = this.cheapest.filter((pair) => pair.costG <= costG + TIE_G);
      }
      if (costG < Infinity) this.cheapest.push({ a: one, b, costG });
    }
  }

  /** The cheapest pair; of those that cost the same the one with the fewest passes. */
  best(): Pair | undefined {
    const effort = ({ a, b }: Pair): number => a.effort + b.effort;
    return this.cheapest.reduce<Pair | undefined>(
      (best, pair) => (!best || effort(pair) < effort(best) ? pair : best),
      undefined,
    );
  }
}

/** The cheapest pair of the ends that were seen while the bound was looked for. */
function cheapestSeen(
  input: PlanInput,
  seen: Readonly<Record<End, readonly EndPlan[]>>,
): Pair | undefined {
  const ties = tiesOf(input);
  let cheapest: Pair | undefined;
  for (const a of seen.A)
    for (const b of seen.B) {
      const costG = together(input, ties, a, b);
      if (costG < (cheapest?.costG ?? Infinity)) cheapest = { a, b, costG };
    }
  return cheapest;
}

/** So many choices of passes are looked at before the search is cut off: about half a second. */
const MOST_NODES = 1_500_000;
/** And so many pairs of what was found of both ends are put together. */
const MOST_JOINS = 12_000_000;

/**
 * The cheapest whole passes, proven: every pair that costs no more than one that was seen already is put together, because
 * an end that is left out costs so much that with the cheapest other end the pair would cost more. Where none was seen and
 * none is found there is no plan. Cut off after `mostNodes` choices it answers with the best pair it found and how much
 * cheaper another could be.
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
  // Nothing dearer than a pair that was seen on the way to the bound is looked for. None was seen: all there is.
  const seen = cheapestSeen(input, bound.seen);
  const targetG = seen?.costG ?? Infinity;
  const ofA: EndPlan[] = [];
  listEnd(
    problems.A,
    pricesOf(input, bound.multipliers, 'A'),
    () => targetG + 2 * TIE_G - bound.constantG - bound.b.reducedG,
    (found) => ofA.push(found.whole()),
    budget,
  );
  const joins: Budget = { nodes: 0, most: MOST_JOINS };
  const pairs = new Pairs(input, byMoment(ofA), targetG, bound.constantG, joins);
  listEnd(
    problems.B,
    pricesOf(input, bound.multipliers, 'B'),
    () => pairs.mostG() - bound.a.reducedG,
    (found) => {
      pairs.add(found);
    },
    budget,
  );
  const pair = pairs.best() ?? seen;
  const proven = budget.nodes < mostNodes && joins.nodes <= MOST_JOINS;
  if (!pair) return { ...nothing, proven, nodes: budget.nodes };
  return {
    passes: { A: inOrder(problems.A, pair.a), B: inOrder(problems.B, pair.b) },
    objectiveG: pair.costG,
    proven,
    gapG: proven ? 0 : pair.costG - bound.totalG,
    nodes: budget.nodes,
  };
}

/** Passes in the order the input gives its zones. */
function inOrder({ levels }: EndProblem, { counts }: EndPlan): number[] {
  const passes = levels.map(() => 0);
  levels.forEach(({ zone }, i) => {
    passes[zone] = counts[i] ?? 0;
  });
  return passes;
}
