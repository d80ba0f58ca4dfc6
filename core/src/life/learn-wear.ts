import { freshVariance, type FleetWear, type KindWear, type WearFigures } from './fleet-wear.js';
import { futureTables } from './future.js';
import { learnIntervals, meanHours } from './learn-intervals.js';
import { likelySpreads, SPEC_SD, USUAL_SPREAD } from './likely-spreads.js';
import { stepLibrary } from './step-library.js';
import {
  placeOf,
  rateAt,
  WEAR_KINDS,
  wearSeries,
  type BladeWear,
  type WearKind,
  type WearRates,
} from './wear.js';

/** Usual wear before a shop has its own figures: mm a grind for the edge, mm an hour for the wing. Common practice, no source. */
const USUAL_RATE: Readonly<Record<WearKind, number>> = { edge: 0.6, wing: 0.008 };
/** A usual or a shop's rate counts as so many grinds of one blade beside a spec's own. */
const RATE_WORTH = 4;

interface Sum {
  lost: number;
  over: number;
}

/** Loss and exposure by family: the last reading of each place against all that was run until it. */
function losses(blades: readonly BladeWear[], kind: WearKind): Map<string, Sum> {
  const sums = new Map<string, Sum>();
  for (const { steps } of blades) {
    const last = new Map<string, Sum>();
    let over = 0;
    for (const step of steps) {
      over += kind === 'edge' ? 1 : step.hours;
      for (const key in step.lostMm) last.set(key, { lost: step.lostMm[key] ?? 0, over });
    }
    for (const [key, { lost, over: run }] of last) {
      const place = placeOf(key);
      if (place.kind !== kind) continue;
      const sum = sums.get(place.family) ?? { lost: 0, over: 0 };
      sums.set(place.family, { lost: sum.lost + Math.max(0, lost), over: sum.over + run });
    }
  }
  return sums;
}

const groupBySpec = (blades: readonly BladeWear[]): Map<string, BladeWear[]> => {
  const groups = new Map<string, BladeWear[]>();
  for (const blade of blades)
    groups.set(blade.specId, [...(groups.get(blade.specId) ?? []), blade]);
  return groups;
};

/** Rates by family, shrunk toward others. */
function shrunk(sums: ReadonlyMap<string, Sum>, toward: WearRates, worth: number): WearRates {
  const seen = new Map(toward.seen);
  for (const [family, { lost, over }] of sums) {
    const usual = rateAt(toward, family);
    seen.set(family, Math.max(usual * 0.05, (usual * worth + lost) / (worth + over)));
  }
  return { seen, elsewhere: toward.elsewhere };
}

const times = ({ seen, elsewhere }: WearRates, factor: number): WearRates => ({
  seen: new Map([...seen].map(([family, rate]) => [family, rate * factor])),
  elsewhere: elsewhere * factor,
});

/** A spec's mean level among its *new* blades, and its variance: slow wearers run longer and must not count for more. */
function meanLevel(
  blades: readonly BladeWear[],
  kind: WearKind,
  rates: WearRates,
  hoursPerGrind: number,
): { mean: number; variance: number } {
  let weights = 1 / SPEC_SD ** 2;
  let sum = weights;
  for (const blade of blades) {
    const { exposure, lost, noise } = wearSeries(blade, kind, rates, hoursPerGrind);
    const at = lost.findLastIndex((each) => !Number.isNaN(each));
    const over = exposure.slice(0, at + 1).reduce((all, each) => all + each, 0);
    if (at < 0 || over <= 0) continue;
    const { levelSd, scatterSd } = USUAL_SPREAD;
    const doubt = levelSd ** 2 + scatterSd ** 2 / over + (2 * (noise[at] ?? 0)) / over ** 2;
    weights += 1 / doubt;
    sum += (lost[at] ?? 0) / over / doubt;
  }
  return { mean: Math.max(0.1, sum / weights), variance: 1 / weights };
}

function kindWear(
  groups: ReadonlyMap<string, BladeWear[]>,
  kind: WearKind,
  hoursPerGrind: number,
): KindWear {
  const all = [...groups.values()].flat();
  const unit = kind === 'edge' ? 1 : hoursPerGrind;
  const worth = RATE_WORTH * unit;
  const shop = shrunk(losses(all, kind), { seen: new Map(), elsewhere: USUAL_RATE[kind] }, worth);
  const rated = new Map(
    [...groups].map(([specId, blades]) => {
      const raw = times(shrunk(losses(blades, kind), shop, worth), unit);
      const { mean, variance } = meanLevel(blades, kind, raw, hoursPerGrind);
      return [specId, { rates: times(raw, mean), variance, blades }] as const;
    }),
  );
  const series = [...rated.values()].flatMap(({ rates, variance, blades }) =>
    blades.map((blade) => ({
      of: wearSeries(blade, kind, rates, hoursPerGrind),
      variance,
      fresh: freshVariance(kind, rates),
    })),
  );
  const spreads = likelySpreads(series);
  return {
    spreads,
    specs: new Map(
      [...rated].map(([specId, { rates, variance, blades }]) => [
        specId,
        { rates, meanVariance: variance, blades: blades.length },
      ]),
    ),
    unknown: { rates: times(shop, unit), meanVariance: SPEC_SD ** 2, blades: 0 },
  };
}

/**
 * What a shop's histories say about wear: rates by spec and place shrunk to the shop's, and the shop's to the
 * usual ones; how much blades, months and single grinds differ, as the spreads that make the histories
 * likely; and the library of steps seen.
 *
 * Records of blades that damage ended belong in: what they lost was seen, only their end was not wear's.
 */
export function learnWear(blades: readonly BladeWear[]): FleetWear {
  const groups = groupBySpec(blades);
  const hoursPerGrind = meanHours(blades);
  const [edge, wing] = WEAR_KINDS.map((kind) => kindWear(groups, kind, hoursPerGrind));
  if (!edge || !wing) throw new RangeError('two kinds of wear');
  const figures: WearFigures = {
    kinds: { edge, wing },
    hoursPerGrind,
    intervals: learnIntervals(groups, hoursPerGrind, edge),
    blades: blades.length,
  };
  return { ...figures, tables: futureTables(figures, stepLibrary(blades, figures)) };
}
