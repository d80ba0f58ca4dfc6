import { ownWear, type WearSpread } from './own-wear.js';
import type { WearSeries } from './wear.js';

/** How blades, months and grinds differ before a shop has figures of its own, relative. Common practice, no source. */
export const USUAL_SPREAD: WearSpread = {
  levelSd: 0.25,
  scatterSd: 0.4,
  dutySd: 0.15,
  memory: 0.6,
};
/** Spread of the specs' means about the shop's, and of shops about the usual figure, relative. */
export const SPEC_SD = 0.3;

/** Nodes of the spreads: every blend of these is weighed by how likely it makes the shop's histories. */
const LEVEL_SD = [0.06, 0.14, 0.25, 0.4, 0.6];
const SCATTER_SD = [0.12, 0.22, 0.35, 0.55, 0.85, 1.3];
const DUTY: readonly Pick<WearSpread, 'dutySd' | 'memory'>[] = [
  { dutySd: 0, memory: 0 },
  ...[0.15, 0.28, 0.5].flatMap((dutySd) => [0.5, 0.85].map((memory) => ({ dutySd, memory }))),
];
/** How far, in logarithm, a spread may lie from the usual one before anything is seen. */
const SPREAD_DOUBT = 0.7;
/** Forecasts are drawn from so many of the nodes. */
const SPREADS_KEPT = 4;

const lnBeside = (value: number, usual: number): number =>
  -0.5 * (Math.log(value / usual) / SPREAD_DOUBT) ** 2;

interface Weighed {
  readonly spread: WearSpread;
  readonly weight: number;
}

/** Every node with its weight: its prior by the likelihood of all histories (Bayes over a grid). */
function weighSpreads(logLikelihood: (spread: WearSpread) => number): Weighed[] {
  const all = LEVEL_SD.flatMap((levelSd) =>
    SCATTER_SD.flatMap((scatterSd) =>
      DUTY.map((duty) => {
        const spread = { levelSd, scatterSd, ...duty };
        const prior =
          lnBeside(levelSd, USUAL_SPREAD.levelSd) +
          lnBeside(scatterSd, USUAL_SPREAD.scatterSd) +
          lnBeside(Math.max(0.05, duty.dutySd), USUAL_SPREAD.dutySd);
        return { spread, weight: prior + logLikelihood(spread) };
      }),
    ),
  );
  const most = Math.max(...all.map(({ weight }) => weight));
  const raw = all.map(({ spread, weight }) => ({ spread, weight: Math.exp(weight - most) }));
  const total = raw.reduce((sum, { weight }) => sum + weight, 0);
  return raw.map(({ spread, weight }) => ({ spread, weight: weight / total }));
}

/** So many nodes at even steps of the weight, in order of the blades' spread. */
function evenly(weighed: readonly Weighed[], count: number): WearSpread[] {
  const sorted = [...weighed].sort((a, b) => a.spread.levelSd - b.spread.levelSd);
  const kept: WearSpread[] = [];
  let sum = 0;
  for (const { spread, weight } of sorted) {
    sum += weight;
    while (kept.length < count && sum >= (kept.length + 0.5) / count) kept.push(spread);
  }
  return kept.length > 0 ? kept : [USUAL_SPREAD];
}

/** The spreads that make these series likely, a few of them in proportion to how likely. */
export const likelySpreads = (
  series: readonly { readonly of: WearSeries; readonly variance: number; readonly fresh: number }[],
): WearSpread[] =>
  evenly(
    weighSpreads((spread) =>
      series.reduce(
        (sum, { of, variance, fresh }) =>
          sum + ownWear(of, spread, spread.levelSd ** 2 + variance, fresh).logLikelihood,
        0,
      ),
    ),
    SPREADS_KEPT,
  );
