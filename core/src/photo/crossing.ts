import { median, robustDeviation } from '../math/median.js';
import { lightAt, type Picture, type PicturePoint } from './picture.js';

/** A place where light changes from one side's to the other's, along a short line. */
export interface Crossing {
  /** Along the line, in its own unit. */
  readonly at: number;
  /** Light on either side, as robust middles. */
  readonly before: number;
  readonly after: number;
  /** Width of the change, from a quarter to three quarters of the way, in the line's own unit. */
  readonly rise: number;
  /** Standard deviation of the light about the two middles. */
  readonly noise: number;
}

/**
 * Looks along a row of light values for where it passes a share of the way from its first side to its last. The sides
 * are the middles of the first and the last third. Nothing where they hardly differ or it never crosses.
 * @param values light at even steps along the line
 * @param near the step the crossing is looked for about; the crossing nearest to it is taken
 */
export function crossingIn(
  values: readonly number[],
  near = values.length / 2,
): Crossing | undefined {
  const third = Math.max(2, Math.floor(values.length / 3));
  const first = values.slice(0, third);
  const last = values.slice(-third);
  if (values.some((value) => Number.isNaN(value))) return undefined;
  const before = median(first);
  const after = median(last);
  const step = after - before;
  if (Math.abs(step) < 0.02) return undefined;
  const nearest = (share: number, about: number): number | undefined => {
    const level = before + share * step;
    let best: number | undefined;
    for (let i = 0; i + 1 < values.length; i++) {
      const [a = 0, b = 0] = [values[i], values[i + 1]];
      if ((a - level) * (b - level) > 0 || a === b) continue;
      const at = i + (level - a) / (b - a);
      if (best === undefined || Math.abs(at - about) < Math.abs(best - about)) best = at;
    }
    return best;
  };
  const at = nearest(0.5, near);
  if (at === undefined) return undefined;
  const rise = Math.abs((nearest(0.75, at) ?? at) - (nearest(0.25, at) ?? at));
  const spread = [...first.map((each) => each - before), ...last.map((each) => each - after)];
  return { at, before, after, rise, noise: robustDeviation(spread) };
}

/** Light at even steps from one picture place to another, both included. */
export function lightAlong(
  picture: Picture,
  from: PicturePoint,
  to: PicturePoint,
  steps: number,
): number[] {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const share = i / steps;
    return lightAt(
      picture,
      from.xPx + share * (to.xPx - from.xPx),
      from.yPx + share * (to.yPx - from.yPx),
    );
  });
}
