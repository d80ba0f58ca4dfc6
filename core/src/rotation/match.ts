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
type Quantity = (typeof QUANTITIES)[number];

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
  const kept = new Set(keep.map(({ id }) => id));
  const free = pool.filter(({ id }) => !kept.has(id));
  const short = count - keep.length - free.length;
  if (short > 0) throw new BenchError('pool', $localize`is ${short} short of a set of ${count}`);
  const all = [...keep, ...free];
  let best: { worst: number; members: readonly SetMember[] } | undefined;
  /** Floors of a quantity that a set of these may have: no higher than what stays. */
  const floorsOf = (members: readonly SetMember[], quantity: Quantity): readonly number[] => {
    const least = Math.min(Infinity, ...keep.map((member) => member[quantity]));
    return [...new Set(members.map((member) => member[quantity]))].filter((it) => it <= least);
  };
  /** Those above a floor by less than the best set so far is apart: no other can be of a better one. */
  const above = (members: readonly SetMember[], quantity: Quantity, floor: number) => {
    const furthest = best?.worst ?? Infinity;
    const near = members.filter((member) => {
      const over = (member[quantity] - floor) / most[quantity];
      return over >= 0 && over < furthest;
    });
    const stay = near.filter(({ id }) => kept.has(id)).length;
    return near.length < count || stay < kept.size ? [] : near;
  };
  for (const lengthMm of floorsOf(all, 'lengthMm')) {
    const byLength = above(all, 'lengthMm', lengthMm);
    for (const widthMm of floorsOf(byLength, 'widthMm')) {
      const byWidth = above(byLength, 'widthMm', widthMm);
      for (const massG of floorsOf(byWidth, 'massG')) {
        const byMass = above(byWidth, 'massG', massG);
        if (byMass.length === 0) continue;
        const found = pick(byMass, { lengthMm, widthMm, massG }, most, kept, count);
        if (found.worst < (best?.worst ?? Infinity)) best = found;
      }
    }
  }
  const chosen = new Set((best?.members ?? all.slice(0, count)).map(({ id }) => id));
  const members = all.filter(({ id }) => chosen.has(id));
  const match = matchOfSet(members, most);
  const worst = Math.max(...QUANTITIES.map((quantity) => match.spread[quantity] / most[quantity]));
  return { ...match, ids: members.map(({ id }) => id), worst };
}

/** The `count` of these that lie least above the floors, those that stay first. */
function pick(
  members: readonly SetMember[],
  floors: SetSpread,
  most: SetSpread,
  kept: ReadonlySet<string>,
  count: number,
): { worst: number; members: readonly SetMember[] } {
  const chosen = members
    .map((member) => ({
      member,
      over: Math.max(...QUANTITIES.map((each) => (member[each] - floors[each]) / most[each])),
      kept: kept.has(member.id),
    }))
    .sort((a, b) => Number(b.kept) - Number(a.kept) || a.over - b.over)
    .slice(0, count);
  return {
    worst: Math.max(...chosen.map(({ over }) => over)),
    members: chosen.map(({ member }) => member),
  };
}
