import { dropsSoFar } from '@tally-stone/core';

/** So far before the mark a press may come: how far it turns in the blink of a hand, and how old its angle may be. */
const EARLY_DEG = 20;
/** So far beyond a mark that it swings past a press is late: the clock was stopped as it hung. */
const LATE_DEG = 40;

/** On which side of its mark the clock was stopped, where that is more than a hand's delay. */
export function missedMark(angleDeg: number, markDeg: number): 'before' | 'past' | undefined {
  const beyondDeg = Math.abs(angleDeg) - markDeg;
  if (beyondDeg < -EARLY_DEG) return 'before';
  return beyondDeg > LATE_DEG ? 'past' : undefined;
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
