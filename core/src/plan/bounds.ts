import { ENDS, type End } from '../blade/shape.js';
import { listEnd, type Budget, type EndPlan, type Prices } from './end-list.js';
import type { EndProblem } from './end-problem.js';
import type { PlanInput } from './problem.js';

/**
 * Price of unbalance inside the held-back band, g per g·mm: a little above what moving it with metal at the
 * tip costs (1 g at 240 mm moves 240 g·mm), so that the band is honoured where metal can do it.
 */
export const SOFT_G_PER_GMM = 0.006;

const reducedG = (plan: EndPlan, { alongG, acrossG, shareG }: Prices): number =>
  plan.metalG + alongG * plan.momentGmm + acrossG * plan.acrossGmm + shareG * plan.share;

/**
 * The cheapest passes of one end at some prices; nothing where no passes keep its promises. `seen` holds what was found
 * at other prices: the best of it is a limit to begin with.
 */
function cheapest(
  problem: EndProblem,
  prices: Prices,
  seen: EndPlan[],
  budget: Budget,
): EndPlan | undefined {
  let best: EndPlan | undefined;
  let leastG = Infinity;
  for (const each of seen) {
    const costG = reducedG(each, prices);
    if (costG < leastG) [leastG, best] = [costG, each];
  }
  best &&= { ...best, reducedG: leastG };
  listEnd(
    problem,
    prices,
    () => (best ? best.reducedG - 1e-10 : Infinity),
    (found) => {
      best = found.whole();
      seen.push(best);
    },
    budget,
  );
  // What was left out costs at least this much less than nothing: the bound stays below it.
  return best && { ...best, reducedG: best.reducedG - 1e-10 };
}

/** Multipliers of the ties between the ends. `theta` is the part of the share of wear that end A is held to. */
interface Multipliers {
  alongG: number;
  acrossG: number;
  theta: number;
}

export interface Ties {
  readonly unbalanceGmm: number;
  readonly acrossGmm: number | undefined;
  readonly permissibleGmm: number;
  readonly innerGmm: number;
}

export const tiesOf = ({ balance }: PlanInput): Ties | undefined =>
  balance && {
    unbalanceGmm: balance.unbalanceGmm,
    acrossGmm: balance.acrossGmm,
    permissibleGmm: balance.permissibleGmm,
    innerGmm: Math.max(0, balance.permissibleGmm - 2 * balance.uGmm),
  };

const softG = (leftGmm: number, { innerGmm }: Ties): number =>
  SOFT_G_PER_GMM * Math.max(0, Math.abs(leftGmm) - innerGmm);

/**
 * The most that unbalance inside the allowance can be worth at these prices, less its softness, g. With it, for every
 * unbalance (x, v) that may be left: softness ≥ along·x + across·v − this.
 */
function worthAtMost({ alongG, acrossG }: Multipliers, ties: Ties): number {
  const { permissibleGmm: most, innerGmm } = ties;
  const across = Math.abs(acrossG);
  /** The most over a stretch of x on which softness costs `slope` more for every g·mm further out: concave there. */
  const over = (slope: number, from: number, to: number): number => {
    const size = Math.hypot(slope, across);
    const x = Math.min(to, Math.max(from, size === 0 ? 0 : (most * slope) / size));
    return alongG * x - softG(x, ties) + across * Math.sqrt(Math.max(0, most * most - x * x));
  };
  return Math.max(
    over(alongG, -innerGmm, innerGmm),
    over(alongG - SOFT_G_PER_GMM, innerGmm, most),
    over(alongG + SOFT_G_PER_GMM, -most, -innerGmm),
  );
}

export const pricesOf = (
  input: PlanInput,
  { alongG, acrossG, theta }: Multipliers,
  end: End,
): Prices => {
  const side = end === 'A' ? -1 : 1;
  return {
    alongG: side * alongG,
    acrossG: side * acrossG,
    shareG: input.rules.wearWeightG * (end === 'A' ? theta : 1 - theta),
  };
};

/** What two ends cost together, g; nothing where they leave more unbalance than may be. */
export function together(input: PlanInput, ties: Ties | undefined, a: EndPlan, b: EndPlan): number {
  const metal = a.metalG + b.metalG + input.rules.wearWeightG * Math.max(a.share, b.share);
  if (!ties) return metal;
  const left = ties.unbalanceGmm - a.momentGmm + b.momentGmm;
  const across = ties.acrossGmm === undefined ? 0 : ties.acrossGmm - a.acrossGmm + b.acrossGmm;
  return left * left + across * across > (ties.permissibleGmm + 1e-6) ** 2
    ? Infinity
    : metal + softG(left, ties);
}

export interface Bound {
  readonly multipliers: Readonly<Multipliers>;
  readonly a: EndPlan;
  readonly b: EndPlan;
  /** Ends that were found on the way to it. */
  readonly seen: Readonly<Record<End, readonly EndPlan[]>>;
  /** The part of the bound that belongs to neither end. */
  readonly constantG: number;
  readonly totalG: number;
}

const constantOf = (multipliers: Multipliers, ties: Ties | undefined): number =>
  ties
    ? multipliers.alongG * ties.unbalanceGmm +
      multipliers.acrossG * (ties.acrossGmm ?? 0) -
      worthAtMost(multipliers, ties)
    : 0;

/** No pair costs less than this, by what each end costs at the least. */
function boundAt(
  input: PlanInput,
  problems: Readonly<Record<End, EndProblem>>,
  ties: Ties | undefined,
  multipliers: Multipliers,
  seen: Readonly<Record<End, EndPlan[]>>,
  budget: Budget,
): Bound | undefined {
  const a = cheapest(problems.A, pricesOf(input, multipliers, 'A'), seen.A, budget);
  const b = a && cheapest(problems.B, pricesOf(input, multipliers, 'B'), seen.B, budget);
  if (!a || !b) return undefined;
  const constantG = constantOf(multipliers, ties);
  return { multipliers, a, b, seen, constantG, totalG: a.reducedG + b.reducedG + constantG };
}

const WIDEST: Readonly<Record<keyof Multipliers, readonly [number, number]>> = {
  alongG: [-0.012, 0.012],
  acrossG: [-0.06, 0.06],
  theta: [0, 1],
};
const MOST_ROUNDS = 14;
/** Closer than this to the best that any prices can give, another round costs more than it saves, g. */
const CLOSE_G = 0.01;

/**
 * Prices for which the bound is about as high as it goes. What was found of the ends so far says where it may be highest,
 * since with more of them it can only fall; there it is worked out, which finds more of them, until the two agree.
 */
export function bestBound(
  input: PlanInput,
  problems: Readonly<Record<End, EndProblem>>,
  budget: Budget,
): Bound | undefined {
  const ties = tiesOf(input);
  const seen = { A: [], B: [] };
  const free: (keyof Multipliers)[] = ties
    ? ties.acrossGmm === undefined
      ? ['alongG', 'theta']
      : ['alongG', 'acrossG', 'theta']
    : ['theta'];
  let best = boundAt(input, problems, ties, { alongG: 0, acrossG: 0, theta: 0.5 }, seen, budget);
  for (let round = 0; best && round < MOST_ROUNDS; round++) {
    const { multipliers, totalG } = highest(input, ties, seen, free, best.multipliers);
    if (totalG - best.totalG < CLOSE_G) break;
    const bound = boundAt(input, problems, ties, multipliers, seen, budget);
    if (bound && bound.totalG > best.totalG) best = bound;
  }
  return best;
}

/** The inner points of a golden section: each stretch keeps one of the two. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;
const SECTIONS = 18;

/** Where a function with one hill is highest, to a six-thousandth of the stretch. */
function highestAt(of: (x: number) => number, from: number, to: number): number {
  let [low, high] = [from, to];
  let [a, b] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
  let [atA, atB] = [of(a), of(b)];
  for (let i = 0; i < SECTIONS; i++) {
    if (atA < atB) {
      [low, a, atA] = [a, b, atB];
      b = low + GOLDEN * (high - low);
      atB = of(b);
    } else {
      [high, b, atB] = [b, a, atA];
      a = high - GOLDEN * (high - low);
      atA = of(a);
    }
  }
  return (low + high) / 2;
}

/** Where the bound by what was seen of the ends is highest: price by price, each time over its whole span. */
function highest(
  input: PlanInput,
  ties: Ties | undefined,
  seen: Readonly<Record<End, readonly EndPlan[]>>,
  free: readonly (keyof Multipliers)[],
  from: Multipliers,
): { readonly multipliers: Multipliers; readonly totalG: number } {
  const boundBySeen = (multipliers: Multipliers): number => {
    let total = constantOf(multipliers, ties);
    for (const end of ENDS) {
      const prices = pricesOf(input, multipliers, end);
      let least = Infinity;
      for (const plan of seen[end]) least = Math.min(least, reducedG(plan, prices));
      total += least;
    }
    return total;
  };
  let multipliers = from;
  for (let turn = 0; turn < 3; turn++) {
    for (const key of free) {
      const at = { ...multipliers };
      const boundWith = (price: number): number => {
        at[key] = price;
        return boundBySeen(at);
      };
      const [low, high] = WIDEST[key];
      multipliers = { ...multipliers, [key]: highestAt(boundWith, low, high) };
    }
  }
  return { multipliers, totalG: boundBySeen(multipliers) };
}
