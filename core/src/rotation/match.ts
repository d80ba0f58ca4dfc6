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
  const kept = new Set(keep.map(({ id }) => id));
  const free = pool.filter(({ id }) => !kept.has(id));
  const short = count - keep.length - free.length;
  if (short > 0) throw new BenchError('pool', $localize`is ${short} short of a set of ${count}`);
  const all = [...keep, ...free];
  const floors = QUANTITIES.map((quantity) => {
    const least = Math.min(Infinity, ...keep.map((member) => member[quantity]));
    return [...new Set(all.map((member) => member[quantity]))].filter((value) => value <= least);
  });
  const [lengths = [], widths = [], masses = []] = floors;
  let best: { worst: number; members: readonly SetMember[] } | undefined;
  for (const lengthMm of lengths) {
    const byLength = all.filter((member) => member.lengthMm >= lengthMm);
    for (const widthMm of widths) {
      const byWidth = byLength.filter((member) => member.widthMm >= widthMm);
      for (const massG of masses) {
        const over = ({ lengthMm: l, widthMm: w, massG: m }: SetMember): number =>
          Math.max(
            (l - lengthMm) / most.lengthMm,
            (w - widthMm) / most.widthMm,
            (m - massG) / most.massG,
          );
        const found = pick(byWidth, massG, over, kept, count);
        if (found && found.worst < (best?.worst ?? Infinity)) best = found;
      }
    }
  }
  const chosen = new Set((best?.members ?? all.slice(0, count)).map(({ id }) => id));
  const members = all.filter(({ id }) => chosen.has(id));
  const match = matchOfSet(members, most);
  const worst = Math.max(...QUANTITIES.map((quantity) => match.spread[quantity] / most[quantity]));
  return { ...match, ids: members.map(({ id }) => id), worst };
}

function pick(
  candidates: readonly SetMember[],
  massG: number,
  over: (member: SetMember) => number,
  kept: ReadonlySet<string>,
  count: number,
): { worst: number; members: readonly SetMember[] } | undefined {
  const scored = candidates
    .filter((member) => member.massG >= massG)
    .map((member) => ({ member, over: over(member), kept: kept.has(member.id) }));
  if (scored.length < count) return undefined;
  scored.sort((a, b) => Number(b.kept) - Number(a.kept) || a.over - b.over);
  const chosen = scored.slice(0, count);
  return {
    worst: Math.max(...chosen.map((each) => each.over)),
    members: chosen.map(({ member }) => member),
  };
}
