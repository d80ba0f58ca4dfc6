import { unsafeUniformIntDistribution, xoroshiro128plus } from 'pure-rand';

/** A seeded stream of chances: the same seed gives the same demo shop. */
export interface Dice {
  /** Uniform in [low, high). */
  between(low: number, high: number): number;
  normal(mean: number, deviation: number): number;
  chance(probability: number): boolean;
}

export function seededDice(seed: number): Dice {
  const generator = xoroshiro128plus(seed);
  const unit = (): number => unsafeUniformIntDistribution(0, 0x3fffffff, generator) / 0x40000000;
  return {
    between: (low, high) => low + (high - low) * unit(),
    normal: (mean, deviation) =>
      mean + deviation * Math.sqrt(-2 * Math.log(1 - unit())) * Math.cos(2 * Math.PI * unit()),
    chance: (probability) => unit() < probability,
  };
}
