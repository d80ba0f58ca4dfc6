import { BenchError } from '../errors.js';
import {
  matchOfSet,
  USUAL_SET_SPREAD,
  type SetMatch,
  type SetMember,
  type SetSpread,
} from './batch.js';

export interface MatchedSet extends SetMatch {
  readonly ids: readonly string[];
  /** The worst spread as a share of what is allowed; above 1 the set does not match. */
  readonly worst: number;
}

const QUANTITIES = ['lengthMm', 'widthMm', 'massG'] as const;

/**
 * The set of `count` blades out of a pool that is most alike: the least of the worst spread over what is allowed,
 * in length, width and mass. Exact. Every set has a smallest length, width and mass; for each choice of those three
 * the members furthest above them are told by one number a blade, and the `count` least of them are the best set.
 * `keep` are blades that stay, where one of a set is replaced.
 *
 * Errors: `count` below one, `pool` too small ("a set one short").
 * @example bestSet([{ id: 'a', lengthMm: 533, widthMm: 60, massG: 1600 }, { id: 'b', lengthMm: 520, widthMm: 60, massG: 1600 }, { id: 'c', lengthMm: 532, widthMm: 60, massG: 1600 }], 2).ids // ['a', 'c']
 */
export function bestSet(
  pool: readonly SetMember[],
  count: number,
  { keep = [], most = USUAL_SET_SPREAD }: { keep?: readonly SetMember[]; most?: SetSpread } = {},
): MatchedSet {
  if (!(count >= 1)) throw new BenchError('count', $localize`must be at least 1`, count);
  const staying = new Set(keep.map(({ id }) => id));
  const free = keep.length === 0 ? pool : pool.filter(({ id }) => !staying.has(id));
  const short = count - keep.length - free.length;
  if (short > 0) throw new BenchError('pool', $localize`is ${short} short of a set of ${count}`);
  const all = [...keep, ...free].map((member, nth): Scaled => ({
    member,
    nth,
    kept: nth < keep.length,
    size: QUANTITIES.map((quantity) => member[quantity] / most[quantity]),
  }));
  let best: Picked | undefined;
  /** Floors of a quantity that a set of these may have: no higher than what stays. */
  const floorsOf = (members: readonly Scaled[], of: number): Set<number> => {
    const floors = new Set(members.map(({ size }) => size[of] ?? 0));
    for (const { kept: stays, size } of all)
      if (stays) for (const floor of floors) if (floor > (size[of] ?? 0)) floors.delete(floor);
    return floors;
  };
  /** Those above a floor by less than the best set so far is apart: no other can be of a better one. */
  const above = (members: readonly Scaled[], of: number, floor: number): readonly Scaled[] => {
    const furthest = best?.worst ?? Infinity;
    const near = members.filter(({ size }) => {
      const over = (size[of] ?? 0) - floor;
      return over >= 0 && over < furthest;
    });
    if (near.length < count) return [];
    return near.filter(({ kept }) => kept).length === keep.length ? near : [];
  };
  for (const length of floorsOf(all, 0)) {
    const byLength = above(all, 0, length);
    for (const width of floorsOf(byLength, 1)) {
      const byWidth = above(byLength, 1, width);
      for (const mass of floorsOf(byWidth, 2)) {
        const byMass = above(byWidth, 2, mass);
        if (byMass.length === 0) continue;
        const found = pick(byMass, [length, width, mass], count);
        if (found.worst < (best?.worst ?? Infinity)) best = found;
      }
    }
  }
  const members = (best?.blades ?? all.slice(0, count))
    .toSorted((a, b) => a.nth - b.nth)
    .map(({ member }) => member);
  const match = matchOfSet(members, most);
  const worst = Math.max(...QUANTITIES.map((quantity) => match.spread[quantity] / most[quantity]));
  return { ...match, ids: members.map(({ id }) => id), worst };
}

/** A blade of the pool, each of its quantities as a share of the spread that is allowed. */
interface Scaled {
  readonly member: SetMember;
  readonly nth: number;
  readonly kept: boolean;
  readonly size: readonly number[];
}
interface Picked {
  readonly worst: number;
  readonly blades: readonly Scaled[];
}

/** The `count` of these that lie least above the floors, those that stay first. */
function pick(blades: readonly Scaled[], floors: readonly number[], count: number): Picked {
  const over = ({ size }: Scaled): number =>
    size.reduce((most, each, i) => Math.max(most, each - (floors[i] ?? 0)), -Infinity);
  const chosen = blades
    .map((blade) => ({ blade, over: over(blade) }))
    .sort((a, b) => Number(b.blade.kept) - Number(a.blade.kept) || a.over - b.over)
    .slice(0, count);
  return {
    worst: Math.max(...chosen.map((each) => each.over)),
    blades: chosen.map(({ blade }) => blade),
  };
}
