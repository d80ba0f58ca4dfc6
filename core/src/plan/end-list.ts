import type { Band, EndProblem, Level, Link } from './end-problem.js';

/** Rounding in areas, mm², and in recessions, mm: finer than any caliper. */
const AREA_MM2 = 1e-9;
const STEP_MM = 1e-7;

/** Whole passes of one end that keep every promise of that end. */
export interface EndPlan {
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

/** What a gram of metal, a g·mm along, a g·mm across and the share of wear are worth to one end. */
export interface Prices {
  readonly alongG: number;
  readonly acrossG: number;
  readonly shareG: number;
}

export interface Budget {
  nodes: number;
  readonly most: number;
}

/** A choice that was found. It is the same object each time: what is to be kept of it is asked for as a whole. */
export interface Found {
  readonly momentGmm: number;
  readonly reducedG: number;
  readonly whole: () => EndPlan;
}

/**
 * Every choice of passes of one end that keeps its promises and costs no more than `limit()` at the prices, told one by
 * one; the limit may fall while it runs. Answers whether that was all there are: whether nothing was left out for its cost.
 */
export function listEnd(
  { levels, bands, settledAt, linksAt, mostPastNextMm }: EndProblem,
  prices: Prices,
  limit: () => number,
  tell: (found: Found) => void,
  budget: Budget,
): boolean {
  const cost = levels.map(
    ({ grams, momentGmm, acrossGmm }) =>
      grams + prices.alongG * momentGmm + prices.acrossG * acrossGmm,
  );
  const counts = levels.map(() => 0);
  // Flat numbers: this is gone through a million times where a file takes 0.06 g a stroke.
  const area = new Float64Array(bands.length);
  const areaBefore = levels.map(() => new Float64Array(bands.length));
  const floorOf = Float64Array.from(bands, ({ floor }) => floor);
  const ceilingOf = Float64Array.from(bands, ({ ceiling }) => ceiling);
  const perPassAt = levels.map((_, level) =>
    Float64Array.from(bands, ({ perPass }) => perPass[level] as number),
  );
  const floorShare = Math.max(
    0,
    ...bands.map(({ floor, ceiling, lastLevel }) =>
      ceiling > 0 && lastLevel >= 0 ? Math.min(1, floor / ceiling) : 0,
    ),
  );
  /** What a mm² costs at the least at a place, bought at this level or a later one. */
  const priceOfArea = [...levels, undefined].map((_, from) =>
    Float64Array.from(bands, ({ perPass }) =>
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
      const each = priceOfArea[level + 1]?.[i] as number;
      return each < Infinity ? Math.max(most, each * (perPass[level] as number)) : most;
    }, 0),
  );
  let everything = true;

  /**
   * Areas no band may pass from a level on: its own ceiling, and what straightness allows it past the bands inward of it
   * that no later level moves. Each band may recede so much more than its neighbour, and no more than that is counted on.
   */
  const ceilingsFrom = (level: number, into: Float64Array): void => {
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
  const ceilings = levels.map(() => new Float64Array(bands.length));

  /** Most passes of a level that every ceiling allows, on top of what is there. */
  const mostAt = (level: number, most: Float64Array): number => {
    let passes = levels[level]?.most ?? 0;
    const perPass = perPassAt[level] as Float64Array;
    for (let i = 0; i < bands.length; i++) {
      const each = perPass[i] as number;
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
    const most = ceilings[from] as Float64Array;
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

  /** What the levels from here on could earn at the most with nothing taken yet and no straightness to keep, as a cost. */
  const earnedEver = [...levels, undefined].map((_, from) =>
    levels.reduce(
      (sum, { most }, level) => {
        const atTip = (bands[0] as Band).perPass[level] as number;
        return level >= from && atTip === 0
          ? sum + Math.min(0, most * (cost[level] as number))
          : sum;
      },
      (tipEarns[from] as number) * (bands[0] as Band).ceiling,
    ),
  );

  /**
   * What the levels from here on cost at least, besides the share of wear used so far. What a floor still needs is bought
   * no cheaper than at the level that gives most of it for its cost; where a level earns, that part counts for nothing.
   * Both hold whatever passes follow.
   */
  const earns = levels.map((_, from) => cost.some((each, level) => level >= from && each < 0));
  const restAtLeast = (from: number): number => {
    if (from === levels.length) return 0;
    const earned = earns[from] ? earnedAtMost(from) : 0;
    if (earned < 0) return earned;
    const prices = priceOfArea[from] as Float64Array;
    let needed = 0;
    for (let i = 0; i < bands.length; i++) {
      const short = (floorOf[i] as number) - (area[i] as number);
      const each = prices[i] as number;
      if (short > AREA_MM2 && each < Infinity) needed = Math.max(needed, each * short);
    }
    return needed;
  };

  const back = new Float64Array(bands.length);
  const backAtNode = new Float64Array(bands.length).fill(-1);
  /** A band's recession at the node that is looked at; most bands are the end of two links. */
  const backOf = (i: number): number => {
    if (backAtNode[i] !== budget.nodes) {
      back[i] = (bands[i] as Band).curve.recessionMm(area[i] as number);
      backAtNode[i] = budget.nodes;
    }
    return back[i] as number;
  };
  const bends = ({ outer, inner, leastMm, mostMm }: Link): boolean => {
    const step = backOf(outer) - backOf(inner);
    return step > mostMm + STEP_MM || step < leastMm - STEP_MM;
  };

  /** The share of wear that is used at least, by what was taken and by the floors still to be met. */
  const shareNow = (): number => {
    let share = floorShare;
    for (let i = 0; i < bands.length; i++) {
      const ceiling = ceilingOf[i] as number;
      if (ceiling > 0) share = Math.max(share, (area[i] as number) / ceiling);
    }
    return share;
  };

  const found = {
    momentGmm: 0,
    reducedG: 0,
    share: 0,
    whole(): EndPlan {
      let [metalG, acrossGmm, effort] = [0, 0, 0];
      for (let i = 0; i < levels.length; i++) {
        const n = counts[i] as number;
        const of = levels[i] as Level;
        metalG += n * of.grams;
        acrossGmm += n * of.acrossGmm;
        effort += n > 0 ? n + 0.5 : 0;
      }
      const { momentGmm, reducedG, share } = found;
      return { counts: counts.slice(), metalG, momentGmm, acrossGmm, share, effort, reducedG };
    },
  };
  const tellCounts = (share: number, reducedG: number): void => {
    found.momentGmm = 0;
    for (let i = 0; i < levels.length; i++)
      found.momentGmm += (counts[i] as number) * (levels[i] as Level).momentGmm;
    found.share = share;
    found.reducedG = reducedG;
    tell(found);
  };

  const visit = (level: number, spentG: number): void => {
    const isLast = level + 1 === levels.length;
    let least = (levels[level] as Level).least;
    for (const i of settledAt[level] ?? []) {
      const { perPass, floor } = bands[i] as Band;
      const short = floor - (area[i] as number) - AREA_MM2;
      if (short > 0) least = Math.max(least, Math.ceil(short / (perPass[level] as number)));
    }
    const ceiling = ceilings[level] as Float64Array;
    ceilingsFrom(level, ceiling);
    const most = mostAt(level, ceiling);
    const before = areaBefore[level] as Float64Array;
    before.set(area);
    const perPass = perPassAt[level] as Float64Array;
    for (let n = least; n <= most && budget.nodes < budget.most; n++) {
      budget.nodes += 1;
      counts[level] = n;
      for (let i = 0; i < bands.length; i++)
        area[i] = (before[i] as number) + n * (perPass[i] as number);
      const spent = spentG + n * (cost[level] as number);
      const rest = isLast ? 0 : restAtLeast(level + 1);
      const share = shareNow();
      const soFarG = spent + prices.shareG * share;
      const over = soFarG + rest - limit();
      if (over > 0) {
        everything = false;
        // Each further pass costs so much and spares the later levels no more than that.
        const each = cost[level] as number;
        if (each < 0) continue;
        if (earns[level + 1]) {
          // But it may let later levels earn more: what they could earn at all decides.
          if (spent + prices.shareG * floorShare + (earnedEver[level + 1] as number) > limit())
            break;
          continue;
        }
        const gain = rest > 0 ? (spared[level] as number) - each : 0;
        if (gain <= 0) break;
        n += Math.max(0, Math.floor(over / gain) - 1);
        continue;
      }
      if ((linksAt[level] ?? []).some(bends)) continue;
      if (isLast) tellCounts(share, soFarG);
      else visit(level + 1, spent);
    }
    counts[level] = 0;
    area.set(before);
  };
  visit(0, 0);
  return everything;
}
