import { intervalSeries, type Intervals, type KindWear, type MeanInterval } from './fleet-wear.js';
import { likelySpreads, SPEC_SD, USUAL_SPREAD } from './likely-spreads.js';
import { wearSeries, type BladeWear, type WearRates } from './wear.js';

/** Hours from grind to grind where nothing is known, counting as so many intervals. Common practice, no source. */
const USUAL_HOURS_PER_GRIND = 10;
const USUAL_WORTH = 4;

/** Mean hours from grind to grind of these blades, the usual ones counting as a few. */
export const meanHours = (blades: readonly BladeWear[], usual = USUAL_HOURS_PER_GRIND): number => {
  let [sum, count] = [usual * USUAL_WORTH, USUAL_WORTH];
  for (const { steps } of blades) {
    for (const { hours } of steps) {
      sum += hours;
      count += 1;
    }
  }
  return Math.max(0.1, sum / count);
};

/** The second half of a list against its first, relative to the whole. */
function halvesApart(values: readonly number[]): number {
  const half = values.length >> 1;
  const sum = (some: readonly number[]): number => some.reduce((all, each) => all + each, 0);
  return (
    (sum(values.slice(-half)) - sum(values.slice(0, half))) /
    half /
    (sum(values) / values.length || 1)
  );
}

/** Does a blade lose more in its longer intervals, over many grinds? Correlation of how its halves differ. */
function intervalsWithEdge(
  blades: readonly BladeWear[],
  rates: (specId: string) => WearRates,
): number {
  let [both, edge, interval] = [0, WITH_EDGE_WORTH, WITH_EDGE_WORTH];
  for (const blade of blades) {
    const { lost } = wearSeries(blade, 'edge', rates(blade.specId), 1);
    const read = lost.filter((each) => !Number.isNaN(each));
    if (read.length < 6 || read.length < lost.length) continue;
    const x = halvesApart(read.map((each, i) => each - (read[i - 1] ?? 0)));
    const y = halvesApart(blade.steps.map(({ hours }) => hours));
    both += x * y;
    edge += x * x;
    interval += y * y;
  }
  return both / Math.sqrt(edge * interval);
}
/** Counts as much as ten blades whose halves differ by a third. */
const WITH_EDGE_WORTH = 1;

/** How long the blades of each spec mow from grind to grind, and how that varies. */
export function learnIntervals(
  groups: ReadonlyMap<string, BladeWear[]>,
  hoursPerGrind: number,
  edge: KindWear,
): Intervals {
  const specs = new Map<string, MeanInterval>(
    [...groups].map(([specId, some]) => [
      specId,
      {
        hours: meanHours(some, hoursPerGrind),
        meanVariance: 1 / (1 / SPEC_SD ** 2 + some.length / USUAL_SPREAD.levelSd ** 2),
      },
    ]),
  );
  const series = [...groups].flatMap(([specId, some]) => {
    const { hours, meanVariance } = specs.get(specId) ?? { hours: hoursPerGrind, meanVariance: 0 };
    return some.map((blade) => ({
      of: intervalSeries(blade, hours),
      variance: meanVariance,
      fresh: 0,
    }));
  });
  return {
    specs,
    unknown: { hours: hoursPerGrind, meanVariance: SPEC_SD ** 2 },
    spreads: likelySpreads(series),
    withEdge: intervalsWithEdge(
      [...groups.values()].flat(),
      (specId) => edge.specs.get(specId)?.rates ?? edge.unknown.rates,
    ),
  };
}
