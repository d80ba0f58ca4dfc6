import { dropsSoFar } from '@tally-stone/core';

/** So far before the mark a press may come: how far it turns in the blink of a hand, and how old its angle may be. */
const EARLY_DEG = 20;
/** So far beyond a mark that it swings past a press is late: the clock was stopped as it hung. */
const LATE_DEG = 40;

/** Drops that leave the unbalance less sure than this are looked at by whoever made them. */
const MOST_APART = 0.25;

/** On which side of its mark the clock was stopped, where that is more than a hand's delay. */
export function missedMark(angleDeg: number, markDeg: number): 'before' | 'past' | undefined {
  const beyondDeg = Math.abs(angleDeg) - markDeg;
  if (beyondDeg < -EARLY_DEG) return 'before';
  return beyondDeg > LATE_DEG ? 'past' : undefined;
}

/** A moment of the swing: the balancer's own clock, and degrees below level. */
export interface Swing {
  readonly timeS: number;
  readonly angleDeg: number;
}

/** It hangs where friction lets it: so near its mark it is there. */
const NEAR_DEG = 2;

/** How long ago the swing passed its mark, seconds; a little before it is there, less than none. Nothing while it falls. */
export function pastMarkS(before: Swing, now: Swing, markDeg: number): number | undefined {
  if (now.angleDeg < (markDeg === 90 ? markDeg - NEAR_DEG : markDeg)) return undefined;
  const degPerS = (now.angleDeg - before.angleDeg) / (now.timeS - before.timeS);
  return degPerS > 0 ? (now.angleDeg - markDeg) / degPerS : 0;
}

/** Whether another drop is worth it, and why. */
export function adviceOn(drops: readonly number[]): string {
  if (drops.length === 0) return $localize`Two or three drops are better than one.`;
  const { relativeU, worthMaking, tooQuick } = dropsSoFar(drops);
  if (tooQuick) return $localize`Too quick to be timed by hand: use a test weight.`;
  const sure = $localize`timing alone is sure to ± ${(200 * relativeU).toFixed(0)} %`;
  if (worthMaking > 0)
    return $localize`${worthMaking} more ${worthMaking === 1 ? $localize`is` : $localize`are`} worth it: ${sure}.`;
  return $localize`Enough: ${sure}, less than the blade’s own inertia leaves open. Touch a time to strike it out.`;
}

/** Drops that agree, and enough of them to go on by: one to a mark, two to hanging. */
export function isEnough(drops: readonly number[], markDeg: 30 | 90): boolean {
  if (drops.length < (markDeg === 30 ? 1 : 2)) return false;
  const { relativeU, tooQuick } = dropsSoFar(drops);
  return !tooQuick && relativeU < MOST_APART;
}
