import type { WearSeries } from './wear.js';

/**
 * How blades of a spec differ, in grinds' worth (see `WearSeries`). A blade's step is
 * exposure · (level + duty + scatter): its level is its own for life, duty wanders with a memory (a hard
 * month, another mower), scatter is new at every grind.
 */
export interface WearSpread {
  readonly levelSd: number;
  readonly scatterSd: number;
  readonly dutySd: number;
  /** How much of the duty of one grind is left at the next, 0 to below 1. */
  readonly memory: number;
}

/** What a blade's history says of its level and present duty: mean, variances, covariance. */
export interface OwnWear {
  readonly level: number;
  readonly duty: number;
  readonly levelVariance: number;
  readonly dutyVariance: number;
  readonly covariance: number;
  /** Logarithm of how likely the history was, up to a constant. */
  readonly logLikelihood: number;
}

/**
 * A blade's own wear after its history, by a Kalman filter (Kalman 1960, J. Basic Eng. 82, from memory) on loss since new, level and duty. A reading's
 * error is in the filter where it belongs, in the loss and not in the step, so that two readings an hour
 * apart do not make a blade a heavy wearer.
 *
 * `levelVariance` is that of a new blade of the spec: the spread from blade to blade, and how well the spec's
 * own mean is known. `fresh` is the variance of the loss of a new blade.
 */
export function ownWear(
  { exposure, lost, noise }: WearSeries,
  spread: WearSpread,
  levelVariance: number,
  fresh: number,
): OwnWear {
  const { scatterSd, dutySd, memory } = spread;
  const scatter = scatterSd * scatterSd;
  const dutyNew = dutySd * dutySd * (1 - memory * memory);
  // The state: loss, level, duty; then how they vary, alone and together.
  let c = 0;
  let b = 1;
  let a = 0;
  let cc = fresh;
  let cb = 0;
  let ca = 0;
  let bb = levelVariance;
  let ba = 0;
  let aa = dutySd * dutySd;
  let logLikelihood = 0;
  for (let i = 0; i < exposure.length; i++) {
    const e = exposure[i] as number;
    a *= memory;
    aa = memory * memory * aa + dutyNew;
    ca *= memory;
    ba *= memory;
    c += e * (b + a);
    cc += 2 * e * (cb + ca) + e * e * (bb + 2 * ba + aa + scatter);
    cb += e * (bb + ba);
    ca += e * (ba + aa);
    const y = lost[i] as number;
    if (Number.isNaN(y)) continue;
    const s = cc + (noise[i] as number);
    if (s <= 0) continue;
    const miss = y - c;
    logLikelihood -= 0.5 * (Math.log(s) + (miss * miss) / s);
    const kc = cc / s;
    const kb = cb / s;
    const ka = ca / s;
    c += kc * miss;
    b += kb * miss;
    a += ka * miss;
    bb -= kb * cb;
    ba -= kb * ca;
    aa -= ka * ca;
    cb -= kc * cb;
    ca -= kc * ca;
    cc -= kc * cc;
  }
  return {
    level: b,
    duty: a,
    levelVariance: Math.max(0, bb),
    dutyVariance: Math.max(0, aa),
    covariance: ba,
    logLikelihood,
  };
}
