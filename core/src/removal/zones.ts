import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
import type { Measured } from '../reading/uncertainty.js';

/** One finished grind on one tool and abrasive: passes zone by zone, and what the scale says came off. */
export interface ZoneGrind {
  readonly passes: Readonly<Record<string, number>>;
  readonly removedG: number;
}

export interface ZonePrior {
  readonly key: string;
  readonly gramsPerPass: number;
}

/** How the learning is tuned. Common practice, no source. */
export interface ZoneLearning {
  /** What a fresh abrasive may differ from the prior by, relative, the same for all zones of it. */
  readonly toolSpread: number;
  /** What one zone may differ from its share by, relative. */
  readonly zoneSpread: number;
  /** Scatter of one grind about what its passes should take, relative. */
  readonly scatter: number;
  /** Each older grind counts this much of the next newer one: abrasives wear. */
  readonly forgetting: number;
}

export const USUAL_LEARNING: ZoneLearning = {
  toolSpread: 0.4,
  zoneSpread: 0.2,
  scatter: 0.2,
  forgetting: 0.97,
};

export interface LearnedZones {
  /** g/pass by zone with the uncertainty of that mean. */
  readonly perZone: Readonly<Record<string, Measured>>;
  readonly grinds: number;
  /** Each grind as it would have been foretold from those before it only; nothing for one that taught nothing. */
  readonly foretold: readonly (Measured | undefined)[];
  /** The state of the filter: g/pass in the order of `keys`, its covariance, and one grind's own scatter. */
  readonly keys: readonly string[];
  readonly mean: readonly number[];
  readonly covariance: readonly (readonly number[])[];
  readonly scatter: number;
  /** The hand it is told for, where one is known. */
  readonly handFactor?: Measured | undefined;
}

const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, each, i) => sum + each * (b[i] ?? 0), 0);

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

/**
 * What so many passes will take off in the next grind, with its own scatter: the third witness.
 * Errors: a count that is negative, by its zone.
 * @example predictRemoval(learnZones([], [full]), { full: 10 }).value // 6
 */
export function predictRemoval(
  { keys, mean, covariance, scatter, handFactor }: LearnedZones,
  passes: ZoneGrind['passes'],
): Measured {
  const x = counted(keys, passes);
  const value = dot(x, mean);
  const spread = covariance.map((row) => dot(row, x));
  const variance = Math.max(0, dot(x, spread)) + (scatter * value) ** 2;
  const predicted = { value, u: Math.sqrt(variance) };
  return handFactor ? byHand(predicted, handFactor) : predicted;
}

/**
 * Grams a pass, zone by zone, from whole grinds: removed = Σ passes·g_z + scatter. Recursive least squares
 * with forgetting from a prior in which all zones of one abrasive are fresh or worn together (a Kalman filter
 * with constant state; standard). A zone nobody has used yet moves with the others.
 *
 * Errors: `priors` when empty, a count or weight that is negative, by name.
 * Example: no grinds at all gives the priors back.
 * @example learnZones([], [full]).perZone.full.value // 0.6
 */
export function learnZones(
  grinds: readonly ZoneGrind[],
  priors: readonly ZonePrior[],
  learning: ZoneLearning = USUAL_LEARNING,
): LearnedZones {
  if (priors.length === 0) throw new BenchError('priors', 'must hold at least one zone');
  strictlyBetween('forgetting', learning.forgetting, 0, 1 + 1e-12);
  const n = priors.length;
  const g = priors.map(({ gramsPerPass }, i) =>
    positive(`priors[${i}].gramsPerPass`, gramsPerPass),
  );
  const prior = (i: number, j: number): number =>
    (g[i] ?? 0) *
    (g[j] ?? 0) *
    (learning.toolSpread ** 2 + (i === j ? learning.zoneSpread ** 2 : 0));
  const mean = [...g];
  let spread = g.map((_, i) => g.map((_each, j) => prior(i, j)));
  const keys = priors.map(({ key }) => key);
  const through = (x: readonly number[]): number[] => spread.map((row) => dot(row, x));
  const learned = (): LearnedZones => ({
    perZone: Object.fromEntries(
      keys.map((key, i) => [
        key,
        { value: mean[i] ?? 0, u: Math.sqrt(Math.max(0, spread[i]?.[i] ?? 0)) },
      ]),
    ),
    grinds: used,
    foretold,
    keys,
    mean: [...mean],
    covariance: spread,
    scatter: learning.scatter,
  });
  const foretold: (Measured | undefined)[] = [];
  let used = 0;
  for (const { passes, removedG } of grinds) {
    const x = counted(keys, passes);
    const teaches = dot(x, x) > 0 && removedG > 0;
    foretold.push(teaches ? predictRemoval(learned(), passes) : undefined);
    if (!teaches) continue;
    // Older grinds fade, but never below what the prior knew.
    spread = spread.map((row, i) =>
      row.map((each, j) => (i === j ? Math.min(each / learning.forgetting, prior(i, j)) : each)),
    );
    const px = through(x);
    const expected = dot(x, mean);
    const s = dot(x, px) + (learning.scatter * Math.max(expected, 1e-9)) ** 2;
    const surprise = removedG - expected;
    for (let i = 0; i < n; i++) {
      mean[i] = Math.max((g[i] ?? 0) * 0.05, (mean[i] ?? 0) + ((px[i] ?? 0) / s) * surprise);
    }
    spread = spread.map((row, i) => row.map((each, j) => each - ((px[i] ?? 0) * (px[j] ?? 0)) / s));
    used += 1;
  }
  return learned();
}
