import { ENDS, type End } from '../blade/shape.js';
import { acrossPerPassGmm, type Passes } from './forward.js';
import { isTrailing, zoneRadiusMm, type PlanInput, type Row } from './problem.js';
import type { RecessionCurve } from '../metal/recession.js';
import { straightnesses } from './straightness.js';

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

/**
 * Price of unbalance inside the held-back band, g per g·mm: a little above what moving it with metal at the
 * tip costs (1 g at 240 mm moves 240 g·mm), so that the band is honoured where metal can do it.
 */
export const SOFT_G_PER_GMM = 0.006;

/** Costs closer than this are the same, g: the plan with fewer passes is taken. */
const TIE_G = 1e-6;
/** Rounding in areas, mm², and in recessions, mm: finer than any caliper. */
const AREA_MM2 = 1e-9;
const STEP_MM = 1e-7;

interface Level {
  /** Where the zone stands in the input. */
  readonly zone: number;
  readonly grams: number;
  readonly momentGmm: number;
  readonly acrossGmm: number;
  readonly most: number;
}

/** Neighbouring stations at which the same passes always leave the same recession: one place of the edge. */
interface Band {
  readonly perPass: readonly number[];
  /** The largest floor and the smallest ceiling of its stations, mm². */
  readonly floor: number;
  readonly ceiling: number;
  readonly curve: RecessionCurve;
  /** The last level that reaches it; -1 where none does. */
  readonly lastLevel: number;
}

/** How far two bands' recessions may differ, outer less inner, mm. */
interface Link {
  readonly outer: number;
  readonly inner: number;
  readonly leastMm: number;
  readonly mostMm: number;
}

interface EndProblem {
  readonly levels: readonly Level[];
  /** From the tip inward. */
  readonly bands: readonly Band[];
  /** By level: the bands that no later level reaches, and the links between such. */
  readonly settledAt: readonly (readonly number[])[];
  readonly linksAt: readonly (readonly Link[])[];
  /** By band: how much more it may recede than the next one inward, mm. */
  readonly mostPastNextMm: readonly number[];
}

/** Whole passes of one end that keep every promise of that end. */
interface EndPlan {
  readonly counts: readonly number[];
  readonly metalG: number;
  readonly momentGmm: number;
  readonly acrossGmm: number;
  readonly share: number;
  /** Passes, and half a pass for each zone used. */
  readonly effort: number;
  /** What it costs at the prices it was listed by, g. */
  readonly reducedG: number;
}

/** Widest zone first, since it meets most floors; the trailing edge last, since it meets none. */
function levelsOf(input: PlanInput): Level[] {
  const order = input.zones
    .map((zone, i) => ({ zone, i }))
    .sort(
      (a, b) =>
        Number(isTrailing(a.zone)) - Number(isTrailing(b.zone)) ||
        b.zone.reachMm - a.zone.reachMm ||
        b.zone.gramsPerPass - a.zone.gramsPerPass,
    );
  return order.map(({ zone, i }) => ({
    zone: i,
    grams: zone.gramsPerPass,
    momentGmm: zone.gramsPerPass * zoneRadiusMm(zone, input.tipRadiusMm),
    acrossGmm: acrossPerPassGmm(zone),
    most: zone.mostPasses ?? input.rules.mostPassesPerZone,
  }));
}

const alike = (a: Row, b: Row): boolean =>
  a.station.bevelDeg === b.station.bevelDeg &&
  a.station.landMm === b.station.landMm &&
  a.station.section === undefined &&
  b.station.section === undefined &&
  a.perPassMm2.every((each, z) => each === b.perPassMm2[z]);

function endProblem(input: PlanInput, rows: readonly Row[], end: End): EndProblem {
  const levels = levelsOf(input);
  const own = rows.flatMap((row, i) => (row.end === end ? [{ row, i }] : []));
  const bands: Band[] = [];
  const bandOf = new Map<number, number>();
  for (const [k, { row, i }] of own.entries()) {
    const perPass = levels.map(({ zone }) => row.perPassMm2[zone] ?? 0);
    const before = own[k - 1]?.row;
    const last = bands.at(-1);
    if (before && last && alike(before, row)) {
      const floor = Math.max(last.floor, row.floorMm2);
      const ceiling = Math.min(last.ceiling, row.ceilingMm2);
      bands[bands.length - 1] = { ...last, floor, ceiling };
    } else {
      const { floorMm2: floor, ceilingMm2: ceiling, curve } = row;
      const lastLevel = perPass.findLastIndex((each) => each > 0);
      bands.push({ perPass, floor, ceiling, curve, lastLevel });
    }
    bandOf.set(i, bands.length - 1);
  }
  const links = new Map<string, Link>();
  for (const link of straightnesses(input, rows)) {
    const [outer, inner] = [bandOf.get(link.outer), bandOf.get(link.inner)];
    // Within a band no passes bend the edge.
    if (link.end !== end || outer === undefined || inner === undefined || outer === inner) continue;
    const worn =
      (rows[link.outer] as Row).station.wornMm - (rows[link.inner] as Row).station.wornMm;
    const key = `${outer} ${inner}`;
    const { leastMm = -Infinity, mostMm = Infinity } = links.get(key) ?? {};
    links.set(key, {
      outer,
      inner,
      leastMm: link.oneSided ? leastMm : Math.max(leastMm, -link.mostMm - worn),
      mostMm: Math.min(mostMm, link.mostMm - worn),
    });
  }
  const settledWith = ({ outer, inner }: Link): number =>
    Math.max((bands[outer] as Band).lastLevel, (bands[inner] as Band).lastLevel);
  return {
    levels,
    bands,
    settledAt: levels.map((_, level) =>
      bands.flatMap(({ lastLevel }, i) => (lastLevel === level ? [i] : [])),
    ),
    linksAt: levels.map((_, level) =>
      [...links.values()].filter((link) => settledWith(link) === level),
    ),
    mostPastNextMm: bands.map((_, i) => links.get(`${i} ${i + 1}`)?.mostMm ?? Infinity),
  };
}

/** What a gram of metal, a g·mm along, a g·mm across and the share of wear are worth to one end. */
interface Prices {
  readonly alongG: number;
  readonly acrossG: number;
  readonly shareG: number;
}

interface Budget {
  nodes: number;
  readonly most: number;
}

/**
 * Every choice of passes of one end that keeps its promises and costs no more than `limit()` at the prices, told one by
 * one; the limit may fall while it runs. Answers whether that was all there are: whether nothing was left out for its cost.
 */
function listEnd(
  { levels, bands, settledAt, linksAt, mostPastNextMm }: EndProblem,
  prices: Prices,
  limit: () => number,
  tell: (plan: EndPlan) => void,
  budget: Budget,
): boolean {
  const cost = levels.map(
    ({ grams, momentGmm, acrossGmm }) =>
      grams + prices.alongG * momentGmm + prices.acrossG * acrossGmm,
  );
  const counts = levels.map(() => 0);
  const area = bands.map(() => 0);
  const floorShare = Math.max(
    0,
    ...bands.map(({ floor, ceiling, lastLevel }) =>
      ceiling > 0 && lastLevel >= 0 ? Math.min(1, floor / ceiling) : 0,
    ),
  );
  /** What a mm² costs at the least at a place, bought at this level or a later one. */
  const priceOfArea = [...levels, undefined].map((_, from) =>
    bands.map(({ perPass }) =>
      perPass.reduce(
        (least, each, level) =>
          level >= from && each > 0 ? Math.min(least, (cost[level] as number) / each) : least,
        Infinity,
      ),
    ),
  );
  /** What one pass of a level can spare the later ones at the most. */
  const spared = levels.map((_, level) =>
    bands.reduce((most, { perPass }, i) => {
      const each = (priceOfArea[level + 1] as number[])[i] as number;
      return each < Infinity ? Math.max(most, each * (perPass[level] as number)) : most;
    }, 0),
  );
  let everything = true;

  /**
   * Areas no band may pass from a level on: its own ceiling, and what straightness allows it past the bands inward of it
   * that no later level moves. Each band may recede so much more than its neighbour, and no more than that is counted on.
   */
  const ceilingsFrom = (level: number, into: number[]): void => {
    let most = Infinity;
    for (let i = bands.length - 1; i >= 0; i--) {
      const { ceiling, curve, lastLevel } = bands[i] as Band;
      most += mostPastNextMm[i] as number;
      into[i] = ceiling;
      if (lastLevel < level) most = Math.min(most, curve.recessionMm(area[i] as number));
      else if (most < Infinity)
        into[i] = Math.min(ceiling, curve.areaMm2(Math.max(0, most) + 2 * STEP_MM * bands.length));
    }
  };
  const ceilings = levels.map(() => bands.map(() => 0));

  /** Most passes of a level that every ceiling allows, on top of what is there. */
  const mostAt = (level: number, most: readonly number[]): number => {
    let passes = levels[level]?.most ?? 0;
    for (let i = 0; i < bands.length; i++) {
      const each = (bands[i] as Band).perPass[level] ?? 0;
      if (each > 0)
        passes = Math.min(
          passes,
          Math.floor(((most[i] as number) - (area[i] as number) + AREA_MM2) / each),
        );
    }
    return passes;
  };

  /** What a mm² at the tip earns at the most at this level or a later one, as a cost: nothing or below. */
  const tipEarns = [...levels, undefined].map((_, from) =>
    levels.reduce((least, _level, level) => {
      const each = (bands[0] as Band).perPass[level] as number;
      return level >= from && each > 0 ? Math.min(least, (cost[level] as number) / each) : least;
    }, 0),
  );

  /**
   * What levels that are paid for (their cost is below zero) earn at the most, as a cost. Those that reach the tip share
   * what its ceiling leaves there, each mm² at the best of their prices; past the share of wear that is used anyway, every
   * mm² there costs its share as well. The others earn no more than their most passes.
   */
  const earnedAtMost = (from: number): number => {
    const most = ceilings[from] as number[];
    ceilingsFrom(from, most);
    const { perPass, ceiling } = bands[0] as Band;
    const price = tipEarns[from] as number;
    const taken = area[0] as number;
    const free = Math.max(0, (most[0] as number) - taken);
    const used = Math.min(free, Math.max(0, shareNow() * ceiling - taken));
    const sharePrice = ceiling > 0 ? prices.shareG / ceiling : 0;
    let earned = price * used + Math.min(0, price + sharePrice) * (free - used);
    for (let level = from; level < levels.length; level++) {
      const each = cost[level] as number;
      if (each < 0 && !((perPass[level] as number) > 0))
        earned += each * Math.max(0, mostAt(level, most));
    }
    return earned;
  };

  /**
   * What the levels from here on cost at least, besides the share of wear used so far. What a floor still needs is bought
   * no cheaper than at the level that gives most of it for its cost; where a level earns, that part counts for nothing.
   * Both hold whatever passes follow.
   */
  const earns = levels.map((_, from) => cost.some((each, level) => level >= from && each < 0));
  const restAtLeast = (from: number): number => {
    const earned = earns[from] ? earnedAtMost(from) : 0;
    if (earned < 0) return earned;
    let needed = 0;
    for (let i = 0; i < bands.length; i++) {
      const short = (bands[i] as Band).floor - (area[i] as number);
      const each = (priceOfArea[from] as number[])[i] as number;
      if (short > AREA_MM2 && each < Infinity) needed = Math.max(needed, each * short);
    }
    return needed;
  };

  const bends = ({ outer, inner, leastMm, mostMm }: Link): boolean => {
    const step =
      (bands[outer] as Band).curve.recessionMm(area[outer] as number) -
      (bands[inner] as Band).curve.recessionMm(area[inner] as number);
    return step > mostMm + STEP_MM || step < leastMm - STEP_MM;
  };

  /** The share of wear that is used at least, by what was taken and by the floors still to be met. */
  const shareNow = (): number => {
    let share = floorShare;
    for (let i = 0; i < bands.length; i++) {
      const { ceiling } = bands[i] as Band;
      if (ceiling > 0) share = Math.max(share, (area[i] as number) / ceiling);
    }
    return share;
  };

  const visit = (level: number, spentG: number): void => {
    if (level === levels.length) {
      const share = shareNow();
      const reducedG = spentG + prices.shareG * share;
      if (reducedG > limit()) {
        everything = false;
        return;
      }
      const sum = (of: (level: Level) => number): number =>
        levels.reduce((total, each, i) => total + (counts[i] as number) * of(each), 0);
      tell({
        counts: [...counts],
        metalG: sum(({ grams }) => grams),
        momentGmm: sum(({ momentGmm }) => momentGmm),
        acrossGmm: sum(({ acrossGmm }) => acrossGmm),
        share,
        effort: counts.reduce((total, n) => total + n + (n > 0 ? 0.5 : 0), 0),
        reducedG,
      });
      return;
    }
    let least = 0;
    for (const i of settledAt[level] ?? []) {
      const { perPass, floor } = bands[i] as Band;
      const short = floor - (area[i] as number) - AREA_MM2;
      if (short > 0) least = Math.max(least, Math.ceil(short / (perPass[level] as number)));
    }
    ceilingsFrom(level, ceilings[level] as number[]);
    const most = mostAt(level, ceilings[level] as number[]);
    const before = [...area];
    for (let n = least; n <= most && budget.nodes < budget.most; n++) {
      budget.nodes += 1;
      counts[level] = n;
      for (let i = 0; i < bands.length; i++)
        area[i] = (before[i] as number) + n * ((bands[i] as Band).perPass[level] as number);
      const spent = spentG + n * (cost[level] as number);
      const rest = restAtLeast(level + 1);
      const over = spent + prices.shareG * shareNow() + rest - limit();
      if (over > 0) {
        everything = false;
        // Each further pass costs so much and spares the later levels no more than that.
        const each = cost[level] as number;
        if (each < 0) continue;
        const gain = rest > 0 ? (spared[level] as number) - each : 0;
        if (gain <= 0) break;
        n += Math.max(0, Math.floor(over / gain) - 1);
        continue;
      }
      if (!(linksAt[level] ?? []).some(bends)) visit(level + 1, spent);
    }
    counts[level] = 0;
    for (let i = 0; i < bands.length; i++) area[i] = before[i] as number;
  };
  visit(0, 0);
  return everything;
}

const atPrices = (plan: EndPlan, { alongG, acrossG, shareG }: Prices): EndPlan => ({
  ...plan,
  reducedG: plan.metalG + alongG * plan.momentGmm + acrossG * plan.acrossGmm + shareG * plan.share,
});

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
  for (const each of seen) {
    const plan = atPrices(each, prices);
    if (!best || plan.reducedG < best.reducedG) best = plan;
  }
  listEnd(
    problem,
    prices,
    () => (best ? best.reducedG - 1e-10 : Infinity),
    (plan) => {
      best = plan;
      seen.push(plan);
    },
    budget,
  );
  // What was left out costs at least this much less than nothing: the bound stays below it.
  return best && { ...best, reducedG: best.reducedG - 1e-10 };
}

/** Multipliers of the ties between the ends. `theta` is the part of the share of wear that end A is held to. */
interface Multipliers {
  readonly alongG: number;
  readonly acrossG: number;
  readonly theta: number;
}

interface Ties {
  readonly unbalanceGmm: number;
  readonly acrossGmm: number | undefined;
  readonly permissibleGmm: number;
  readonly innerGmm: number;
}

const tiesOf = ({ balance }: PlanInput): Ties | undefined =>
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

const pricesOf = (input: PlanInput, { alongG, acrossG, theta }: Multipliers, end: End): Prices => {
  const side = end === 'A' ? -1 : 1;
  return {
    alongG: side * alongG,
    acrossG: side * acrossG,
    shareG: input.rules.wearWeightG * (end === 'A' ? theta : 1 - theta),
  };
};

/** What two ends cost together, g; nothing where they leave more unbalance than may be. */
function together(input: PlanInput, ties: Ties | undefined, a: EndPlan, b: EndPlan): number {
  const metal = a.metalG + b.metalG + input.rules.wearWeightG * Math.max(a.share, b.share);
  if (!ties) return metal;
  const left = ties.unbalanceGmm - a.momentGmm + b.momentGmm;
  const across = ties.acrossGmm === undefined ? 0 : ties.acrossGmm - a.acrossGmm + b.acrossGmm;
  return Math.hypot(left, across) > ties.permissibleGmm + 1e-6
    ? Infinity
    : metal + softG(left, ties);
}

interface Bound {
  readonly multipliers: Multipliers;
  readonly a: EndPlan;
  readonly b: EndPlan;
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
  return { multipliers, a, b, constantG, totalG: a.reducedG + b.reducedG + constantG };
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
function bestBound(
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
      const { alongG, acrossG, shareG } = pricesOf(input, multipliers, end);
      let least = Infinity;
      for (const { metalG, momentGmm, acrossGmm, share } of seen[end])
        least = Math.min(least, metalG + alongG * momentGmm + acrossG * acrossGmm + shareG * share);
      total += least;
    }
    return total;
  };
  let multipliers = from;
  for (let turn = 0; turn < 3; turn++) {
    for (const key of free) {
      let [low, high] = WIDEST[key];
      for (let i = 0; i < 24; i++) {
        const [a, b] = [low + 0.382 * (high - low), high - 0.382 * (high - low)];
        const rises =
          boundBySeen({ ...multipliers, [key]: a }) < boundBySeen({ ...multipliers, [key]: b });
        if (rises) low = a;
        else high = b;
      }
      multipliers = { ...multipliers, [key]: (low + high) / 2 };
    }
  }
  return { multipliers, totalG: boundBySeen(multipliers) };
}

interface Pair {
  readonly a: EndPlan;
  readonly b: EndPlan;
  readonly costG: number;
}

/** The cheapest pair of what was listed; of those that cost the same the one with the fewest passes. */
function bestPair(
  input: PlanInput,
  listed: Readonly<Record<End, readonly EndPlan[]>>,
  mostReducedG: number,
  budget: Budget,
): Pair | undefined {
  const ties = tiesOf(input);
  const byMoment = [...listed.B].sort((a, b) => a.momentGmm - b.momentGmm);
  const least = byMoment.reduce((low, { reducedG }) => Math.min(low, reducedG), Infinity);
  const firstFrom = (momentGmm: number): number => {
    let [low, high] = [0, byMoment.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((byMoment[middle] as EndPlan).momentGmm < momentGmm) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  const reach = ties ? ties.permissibleGmm + 1e-6 : Infinity;
  const scan = (
    take: (a: EndPlan, b: EndPlan, costG: number) => void,
    most: () => number,
  ): void => {
    for (const a of listed.A) {
      if (a.reducedG + least > most()) continue;
      const middle = ties ? a.momentGmm - ties.unbalanceGmm : 0;
      for (let i = ties ? firstFrom(middle - reach) : 0; i < byMoment.length; i++) {
        const b = byMoment[i] as EndPlan;
        if (b.momentGmm > middle + reach) break;
        if (++budget.nodes > budget.most) return;
        if (a.reducedG + b.reducedG > most()) continue;
        take(a, b, together(input, ties, a, b));
      }
    }
  };
  let leastG = Infinity;
  scan(
    (_a, _b, costG) => {
      leastG = Math.min(leastG, costG);
    },
    () => mostReducedG,
  );
  let best: Pair | undefined;
  if (leastG === Infinity) return undefined;
  scan(
    (a, b, costG) => {
      if (costG > leastG + TIE_G) return;
      if (!best || a.effort + b.effort < best.a.effort + best.b.effort) best = { a, b, costG };
    },
    () => mostReducedG,
  );
  return best;
}

/** So many choices of passes are looked at before the search is cut off: about half a second. */
const MOST_NODES = 1_500_000;
/** And so many pairs of what was found of both ends are put together. */
const MOST_JOINS = 4_000_000;
const FIRST_GAP_G = 0.05;

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
  for (let gapG = FIRST_GAP_G; ; gapG *= 2.5) {
    const targetG = bound.totalG + gapG;
    const listed: Record<End, EndPlan[]> = { A: [], B: [] };
    let everything = true;
    for (const end of ENDS) {
      const other = end === 'A' ? 'B' : 'A';
      const limit = targetG + 2 * TIE_G - bound.constantG - least[other];
      const whole = listEnd(
        problems[end],
        pricesOf(input, bound.multipliers, end),
        () => limit,
        (plan) => listed[end].push(plan),
        budget,
      );
      everything &&= whole;
    }
    const joins: Budget = { nodes: 0, most: MOST_JOINS };
    const pair = bestPair(input, listed, targetG + 2 * TIE_G - bound.constantG, joins);
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
