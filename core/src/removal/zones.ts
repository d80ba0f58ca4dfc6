import { BenchError, notNegative, positive } from '../errors.js';
import type { Measured } from '../reading/uncertainty.js';

/** One finished grind on one tool: passes zone by zone, and what the scale says came off. */
export interface ZoneGrind {
  readonly passes: Readonly<Record<string, number>>;
  readonly removedG: number;
  /** How unsure that is besides the grind's own scatter, g: where another tool's part was only worked out. */
  readonly uG?: number | undefined;
  /** Which belt or wheel it was ground on; a new one has a new key. All alike where it is not said. */
  readonly abrasive?: string | undefined;
}

export interface ZonePrior {
  readonly key: string;
  readonly gramsPerPass: number;
}

/** How the learning is tuned; all relative. Common practice, no source. */
export interface ZoneLearning {
  /** What a tool may differ from the prior by, the same for all zones of it. */
  readonly toolSpread: number;
  /** What one zone may differ from its share by. */
  readonly zoneSpread: number;
  /** What one belt may differ from the next by when both are new. */
  readonly abrasiveSpread: number;
  /** What a belt loses of its bite in 100 g of steel, and what that may differ by from tool to tool. */
  readonly bluntingPer100G: number;
  readonly bluntingSpread: number;
  /** What its bite wanders by from grind to grind, besides. */
  readonly wander: number;
  /** Scatter of one grind about what its passes should take, and how many grinds that guess counts for. */
  readonly scatter: number;
  readonly scatterWorth: number;
}

export const USUAL_LEARNING: ZoneLearning = {
  toolSpread: 0.4,
  zoneSpread: 0.2,
  abrasiveSpread: 0.1,
  bluntingPer100G: 0.08,
  bluntingSpread: 0.2,
  wander: 0.02,
  scatter: 0.15,
  scatterWorth: 3,
};

export interface LearnedZones {
  /** g/pass by zone on the abrasive as it is now, with the uncertainty of that mean. */
  readonly perZone: Readonly<Record<string, Measured>>;
  readonly grinds: number;
  /** Each grind as it would have been foretold from those before it only; nothing for one that taught nothing. */
  readonly foretold: readonly (Measured | undefined)[];
  /** Logarithms of g/pass in the order of `keys`, their covariance, and one grind's own scatter, relative. */
  readonly keys: readonly string[];
  readonly mean: readonly number[];
  readonly covariance: readonly (readonly number[])[];
  readonly scatter: number;
  /** The hand it is told for, where one is known. */
  readonly handFactor?: Measured | undefined;
}

function dot(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] ?? 0) * (b[i] ?? 0);
  return sum;
}

const counted = (keys: readonly string[], passes: ZoneGrind['passes']): number[] =>
  keys.map((key) => notNegative(`passes.${key}`, passes[key] ?? 0));

/**
 * What a hand makes of grams: scaled by its factor, with the factor's own doubt.
 * @example byHand({ value: 2, u: 0 }, { value: 1.1, u: 0 }) // { value: 2.2, u: 0 }
 */
export const byHand = ({ value, u }: Measured, factor: Measured): Measured => ({
  value: value * factor.value,
  u: Math.hypot(u * factor.value, value * factor.u),
});

/** What passes take by logarithms of g/pass, and each zone's share of it. */
function takenBy(
  x: readonly number[],
  logG: readonly number[],
): { value: number; share: number[] } {
  const each = x.map((count, i) => count * Math.exp(logG[i] ?? 0));
  const value = each.reduce((sum, grams) => sum + grams, 0);
  return { value, share: each.map((grams) => (value > 0 ? grams / value : 0)) };
}

const variance = (covariance: readonly (readonly number[])[], of: readonly number[]): number =>
  Math.max(
    0,
    dot(
      covariance.map((row) => dot(row, of)),
      of,
    ),
  );

/**
 * What so many passes will take off in the next grind, with its own scatter: the third witness.
 * Errors: a count that is negative, by its zone.
 * @example predictRemoval(learnZones([], [full]), { full: 10 }).value // 6
 */
export function predictRemoval(
  { keys, mean, covariance, scatter, handFactor }: LearnedZones,
  passes: ZoneGrind['passes'],
): Measured {
  const { value, share } = takenBy(counted(keys, passes), mean);
  const predicted = {
    value,
    u: value * Math.hypot(Math.sqrt(variance(covariance, share)), scatter),
  };
  return handFactor ? byHand(predicted, handFactor) : predicted;
}

/** A belt or wheel: steel it has cut since new, and its own bite against the tool's usual one, in logarithm. */
interface Abrasive {
  cutG: number;
  bite: number;
  variance: number;
}

/** A surprise further out than this many standard uncertainties is taken as this: a grind miscounted or misweighed. */
const MOST_SURPRISE = 3;

/**
 * The filter's state: logarithms of g/pass of each zone on a new abrasive, then the bite of the one that is on,
 * then how fast abrasives go blunt on this tool, per 100 g.
 */
class RemovalFilter {
  readonly mean: number[];
  spread: number[][];
  private readonly known = new Map<string, Abrasive>();
  private on: Abrasive;
  private onKey: string;
  private squares: number;
  private grinds: number;

  constructor(
    priors: readonly ZonePrior[],
    private readonly learning: ZoneLearning,
  ) {
    const { toolSpread, zoneSpread, bluntingPer100G, bluntingSpread } = learning;
    const n = priors.length;
    const logs = priors.map(({ gramsPerPass }, i) =>
      Math.log(positive(`priors[${i}].gramsPerPass`, gramsPerPass)),
    );
    this.mean = [...logs, 0, bluntingPer100G];
    this.spread = this.mean.map((_, i) =>
      this.mean.map((_each, j) => {
        if (i < n && j < n) return toolSpread ** 2 + (i === j ? zoneSpread ** 2 : 0);
        return i === j && i > n ? bluntingSpread ** 2 : 0;
      }),
    );
    this.on = { cutG: 0, bite: 0, variance: learning.abrasiveSpread ** 2 };
    this.onKey = '';
    this.known.set('', this.on);
    this.takeUp(this.on);
    this.grinds = learning.scatterWorth;
    this.squares = learning.scatterWorth * learning.scatter ** 2;
  }

  get scatter(): number {
    return Math.sqrt(this.squares / this.grinds);
  }

  private get bite(): number {
    return this.mean.length - 2;
  }

  /** The abrasive that is on from now: the one before is put by with what is known of it. */
  change(key: string): void {
    if (key === this.onKey) return;
    const at = this.bite;
    this.on.bite = this.mean[at] ?? 0;
    this.on.variance = this.spread[at]?.[at] ?? 0;
    this.onKey = key;
    this.on = this.known.get(key) ?? {
      cutG: 0,
      bite: 0,
      variance: this.learning.abrasiveSpread ** 2,
    };
    this.known.set(key, this.on);
    this.takeUp(this.on);
  }

  private takeUp({ bite, variance: doubt }: Abrasive): void {
    const at = this.bite;
    this.mean[at] = bite;
    this.spread = this.spread.map((row, i) =>
      row.map((each, j) => (i === at && j === at ? doubt : i === at || j === at ? 0 : each)),
    );
  }

  /** How the logarithm of a grind hangs on the state: zones by their share, the bite whole, blunting by what was cut. */
  private gradient(share: readonly number[]): number[] {
    return [...share, 1, -this.on.cutG / 100];
  }

  /** Logarithms of g/pass as the abrasive is now. */
  now(): number[] {
    const n = this.bite;
    const shift = (this.mean[n] ?? 0) - ((this.mean[n + 1] ?? 0) * this.on.cutG) / 100;
    return this.mean.slice(0, n).map((each) => each + shift);
  }

  /** Their covariance. */
  covarianceNow(): number[][] {
    const n = this.bite;
    const rows = Array.from({ length: n }, (_, i) =>
      this.gradient(Array.from({ length: n }, (_each, j) => (i === j ? 1 : 0))),
    );
    return rows.map((a) => {
      const through = this.spread.map((row) => dot(row, a));
      return rows.map((b) => dot(through, b));
    });
  }

  /** What so many passes would take with the abrasive as it is now, one grind's own scatter and all. */
  foretell(x: readonly number[]): Measured {
    const { value, share } = takenBy(x, this.now());
    const doubt = variance(this.spread, this.gradient(share));
    return { value, u: value * Math.hypot(Math.sqrt(doubt), this.scatter) };
  }

  learn(x: readonly number[], removedG: number, uG: number): void {
    const at = this.bite;
    const { value, share } = takenBy(x, this.now());
    const h = this.gradient(share);
    const wandered = this.spread[at];
    if (wandered) wandered[at] = (wandered[at] ?? 0) + this.learning.wander ** 2;
    const through = this.spread.map((row) => dot(row, h));
    const doubt = Math.max(0, dot(through, h));
    const shared = (uG / removedG) ** 2;
    const s = doubt + shared + this.scatter ** 2;
    const most = MOST_SURPRISE * Math.sqrt(s);
    const surprise = Math.max(-most, Math.min(most, Math.log(removedG / value)));
    through.forEach((each, i) => {
      this.mean[i] = (this.mean[i] ?? 0) + (each / s) * surprise;
    });
    this.spread = this.spread.map((row, i) =>
      row.map((each, j) => each - ((through[i] ?? 0) * (through[j] ?? 0)) / s),
    );
    this.squares += Math.max(0, surprise ** 2 - doubt - shared);
    this.grinds += 1;
    this.on.cutG += removedG;
  }
}

/**
 * Grams a pass, zone by zone, from whole grinds, oldest first: ln removed = ln Σ passes·g_z + bite − blunting·cut +
 * scatter. An extended Kalman filter on the logarithms (Jazwinski 1970, from memory) from a prior in which all
 * zones of one tool are keen or slow together. An abrasive blunts with the steel it has cut; a new one starts keen
 * again, with what the tool has shown of its zones and of how fast its abrasives go. A zone nobody has used yet
 * moves with the others. The scatter is learned as well.
 *
 * @param now the abrasive it is told for; the last one of the grinds where it is not said
 *
 * Errors: `priors` when empty, a count that is negative, by name.
 * Example: no grinds at all gives the priors back.
 * @example learnZones([], [full]).perZone.full.value // 0.6
 */
export function learnZones(
  grinds: readonly ZoneGrind[],
  priors: readonly ZonePrior[],
  now?: string,
  learning: ZoneLearning = USUAL_LEARNING,
): LearnedZones {
  if (priors.length === 0) throw new BenchError('priors', $localize`must hold at least one zone`);
  const keys = priors.map(({ key }) => key);
  const filter = new RemovalFilter(priors, learning);
  const foretold: (Measured | undefined)[] = [];
  let used = 0;
  for (const { passes, removedG, uG = 0, abrasive } of grinds) {
    const x = counted(keys, passes);
    const teaches = dot(x, x) > 0 && removedG > 0;
    if (teaches) filter.change(abrasive ?? '');
    foretold.push(teaches ? filter.foretell(x) : undefined);
    if (!teaches) continue;
    filter.learn(x, removedG, notNegative('uG', uG));
    used += 1;
  }
  if (now !== undefined) filter.change(now);
  const mean = filter.now();
  const covariance = filter.covarianceNow();
  return {
    perZone: Object.fromEntries(
      keys.map((key, i) => {
        const value = Math.exp(mean[i] ?? 0);
        return [key, { value, u: value * Math.sqrt(Math.max(0, covariance[i]?.[i] ?? 0)) }];
      }),
    ),
    grinds: used,
    foretold,
    keys,
    mean,
    covariance,
    scatter: filter.scatter,
  };
}
