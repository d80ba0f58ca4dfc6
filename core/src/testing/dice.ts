/** Seeded chances of the tests: repeatable, and not the core's own. */
export type Dice = () => number;

/** A small seeded generator (mulberry32, public domain). */
export function seeded(seed: number): Dice {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
export function normal(dice: Dice): number {
  return Math.sqrt(-2 * Math.log(1 - dice())) * Math.cos(2 * Math.PI * dice());
}
