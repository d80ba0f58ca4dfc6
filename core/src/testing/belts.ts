import { learnZones, predictRemoval, type ZoneGrind } from '../index.js';
import { normal, seeded } from './dice.js';

/** How a made tool behaves: its belt fades so much a grind, is renewed after so many, and grinds scatter. */
export interface RemovalCase {
  readonly fade: number;
  /** 0: never. */
  readonly renewedAfter: number;
  readonly scatter: number;
}

const PRIORS = [
  { key: 'full', gramsPerPass: 0.6 },
  { key: 'outer-half', gramsPerPass: 0.3 },
];
const GRINDS = 60;
const FIRST_ASKED = 5;

/** Mean errors in grams, ours and those of its three rivals; the share held by ±2u; the mean error against the truth. */
export interface RemovalScore {
  readonly ours: number;
  readonly prior: number;
  readonly last: number;
  readonly five: number;
  readonly inside: number;
  readonly bias: number;
}

/** Foretells grind after grind of made tools, each from those before it. */
export function replayRemoval(wear: RemovalCase, tools: number): RemovalScore {
  const dice = seeded(91);
  const sum = { ours: 0, prior: 0, last: 0, five: 0, inside: 0, bias: 0 };
  let asked = 0;
  const worthOf = (passes: ZoneGrind['passes']): number =>
    (passes['full'] ?? 0) + 0.5 * (passes['outer-half'] ?? 0);
  const rate = ({ passes, removedG }: ZoneGrind): number => removedG / worthOf(passes);
  for (let tool = 0; tool < tools; tool++) {
    const keen = 0.6 * Math.exp(0.3 * normal(dice));
    const grinds: ZoneGrind[] = [];
    let [age, belt, bite] = [0, 0, Math.exp(0.06 * normal(dice))];
    for (let i = 0; i < GRINDS; i++) {
      if (wear.renewedAfter > 0 && age >= wear.renewedAfter) {
        [age, belt, bite] = [0, belt + 1, Math.exp(0.06 * normal(dice))];
      }
      const passes = { full: 6 + Math.floor(8 * dice()), 'outer-half': Math.floor(6 * dice()) };
      const worth = worthOf(passes);
      const due = keen * bite * Math.exp(-wear.fade * age) * worth;
      const removedG = due * Math.exp(wear.scatter * normal(dice));
      if (i >= FIRST_ASKED) {
        const foretold = predictRemoval(learnZones(grinds, PRIORS, String(belt)), passes);
        const five = grinds.slice(-5).reduce((all, each) => all + rate(each), 0) / 5;
        const lastOne = grinds.at(-1);
        sum.ours += Math.abs(foretold.value - removedG);
        sum.prior += Math.abs(0.6 * worth - removedG);
        sum.last += Math.abs((lastOne ? rate(lastOne) : 0) * worth - removedG);
        sum.five += Math.abs(five * worth - removedG);
        sum.inside += Math.abs(foretold.value - removedG) <= 2 * foretold.u ? 1 : 0;
        sum.bias += foretold.value / due - 1;
        asked += 1;
      }
      grinds.push({ passes, removedG, abrasive: String(belt) });
      age += 1;
    }
  }
  const mean = (of: keyof typeof sum): number => sum[of] / asked;
  return {
    ours: mean('ours'),
    prior: mean('prior'),
    last: mean('last'),
    five: mean('five'),
    inside: mean('inside'),
    bias: mean('bias'),
  };
}
