import { unsafeUniformIntDistribution, xoroshiro128plus, type RandomGenerator } from 'pure-rand';

/** A seeded stream of chances: the same seed gives the same stream. */
export interface Chance {
  /** Uniform in [0, 1). */
  unit(): number;
  /** Normal with mean 0 and standard deviation 1. */
  normal(): number;
  /** Exponential with this mean. */
  exponential(mean: number): number;
  /** Gamma with this mean and coefficient of variation; exactly the mean where the variation is none. */
  gamma(mean: number, variation: number): number;
}

const STEPS = 0x40000000;
/** Seeds that follow each other start alike: so many steps in they have nothing in common. */
const WARM_UP = 24;

function started(seed: number): RandomGenerator {
  const generator = xoroshiro128plus(Math.imul(Math.floor(seed) + 1, 0x9e3779b1));
  for (let i = 0; i < WARM_UP; i++) generator.unsafeNext();
  return generator;
}

/**
 * Chances from a seed. Gamma draws by squeezed rejection from a normal (Marsaglia & Tsang 2000, ACM TOMS 26,
 * from memory), below shape 1 by their boost.
 * @example chanceFrom(7).unit() === chanceFrom(7).unit() // true
 */
export function chanceFrom(seed: number): Chance {
  const generator = started(seed);
  const unit = (): number => unsafeUniformIntDistribution(0, STEPS - 1, generator) / STEPS;
  const above = (): number => 1 - unit();
  const normal = (): number => Math.sqrt(-2 * Math.log(above())) * Math.cos(2 * Math.PI * unit());
  const exponential = (mean: number): number => -mean * Math.log(above());
  const shaped = (shape: number): number => {
    if (shape < 1) return shaped(shape + 1) * above() ** (1 / shape);
    const d = shape - 1 / 3;
    const c = 1 / Math.sqrt(9 * d);
    for (;;) {
      const x = normal();
      const v = (1 + c * x) ** 3;
      if (v > 0 && Math.log(above()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v;
    }
  };
  return {
    unit,
    normal,
    exponential,
    gamma: (mean, variation) => {
      if (variation === 0) return mean;
      if (variation === 1) return exponential(mean);
      const shape = 1 / (variation * variation);
      return (mean / shape) * shaped(shape);
    },
  };
}
