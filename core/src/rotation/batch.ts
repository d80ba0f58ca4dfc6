import { BenchError, notNegative } from '../errors.js';

/** What a grinder is set to for a blade. Blades alike in all of it are ground without touching the machine. */
export interface SetUpKey {
  readonly bevelDeg: number;
  readonly hand: 'right' | 'left';
  readonly table: 'flat' | 'rounded';
}

/** Minutes to change each part of a set-up. Common practice, no source. */
export interface ChangeMinutes {
  readonly angle: number;
  readonly hand: number;
  readonly table: number;
}
export const USUAL_CHANGE_MINUTES: ChangeMinutes = { angle: 4, hand: 2, table: 6 };

/** Two angles nearer than this are one set-up, degrees. */
const SAME_ANGLE_DEG = 0.5;

/**
 * Minutes from one set-up to another: the sum of what has to be changed.
 * @example changeMinutes({ bevelDeg: 30, hand: 'right', table: 'flat' }, { bevelDeg: 28, hand: 'left', table: 'flat' }) // 6
 */
export function changeMinutes(
  from: SetUpKey,
  to: SetUpKey,
  minutes: ChangeMinutes = USUAL_CHANGE_MINUTES,
): number {
  const angle = Math.abs(from.bevelDeg - to.bevelDeg) >= SAME_ANGLE_DEG;
  return (
    (angle ? notNegative('angle', minutes.angle) : 0) +
    (from.hand === to.hand ? 0 : notNegative('hand', minutes.hand)) +
    (from.table === to.table ? 0 : notNegative('table', minutes.table))
  );
}

/** More set-ups than this in one batch are ordered by the nearest next one, not exactly. */
const MOST_EXACT = 12;

/**
 * The order of set-ups that costs the least change: the shortest path through all of them, exact by dynamic
 * programming over subsets (Held & Karp 1962, from memory) up to twelve, by the nearest next one beyond.
 * `start` is what the machine is set to now, where that is known.
 *
 * Shapes: indices into `setUps`. Errors: none for an empty list, it is in order.
 * @example orderSetUps([45, 30].map((bevelDeg) => ({ bevelDeg, hand: 'right', table: 'flat' })), { bevelDeg: 30, hand: 'right', table: 'flat' }) // [1, 0]
 */
export function orderSetUps(
  setUps: readonly SetUpKey[],
  start?: SetUpKey,
  minutes: ChangeMinutes = USUAL_CHANGE_MINUTES,
): number[] {
  const n = setUps.length;
  const cost = (from: SetUpKey | undefined, to: SetUpKey | undefined): number =>
    from && to ? changeMinutes(from, to, minutes) : 0;
  if (n > MOST_EXACT) return nearestNext(setUps, start, cost);
  const full = 2 ** n - 1;
  const best = new Map<number, { minutes: number; before: number }>();
  const key = (visited: number, last: number): number => visited * n + last;
  for (let i = 0; i < n; i++) {
    best.set(key(1 << i, i), { minutes: cost(start, setUps[i]), before: -1 });
  }
  for (let visited = 1; visited <= full; visited++) {
    for (let last = 0; last < n; last++) {
      const here = best.get(key(visited, last));
      if (!here) continue;
      for (let next = 0; next < n; next++) {
        if (visited & (1 << next)) continue;
        const at = key(visited | (1 << next), next);
        const total = here.minutes + cost(setUps[last], setUps[next]);
        if (total < (best.get(at)?.minutes ?? Infinity)) {
          best.set(at, { minutes: total, before: last });
        }
      }
    }
  }
  let last = -1;
  for (let i = 0; i < n; i++) {
    const ends = best.get(key(full, i))?.minutes ?? Infinity;
    if (last < 0 || ends < (best.get(key(full, last))?.minutes ?? Infinity)) last = i;
  }
  const order: number[] = [];
  for (let visited = full; last >= 0;) {
    order.unshift(last);
    const before = best.get(key(visited, last))?.before ?? -1;
    visited &= ~(1 << last);
    last = before;
  }
  return order;
}

function nearestNext(
  setUps: readonly SetUpKey[],
  start: SetUpKey | undefined,
  cost: (from: SetUpKey | undefined, to: SetUpKey | undefined) => number,
): number[] {
  const left = new Set(setUps.keys());
  const order: number[] = [];
  let now = start;
  while (left.size > 0) {
    const next = [...left].reduce((a, b) => (cost(now, setUps[b]) < cost(now, setUps[a]) ? b : a));
    order.push(next);
    left.delete(next);
    now = setUps[next];
  }
  return order;
}

/** A blade as far as batching goes; blades of one set stay together. */
export interface BatchBlade {
  readonly id: string;
  readonly setUp: SetUpKey;
  readonly setId?: string | undefined;
}

/** Blades ground one after the other on one set-up, and the minutes to change over to it. */
export interface BatchRun {
  readonly setUp: SetUpKey;
  readonly changeMinutes: number;
  readonly ids: readonly string[];
}

/**
 * A batch in working order: blades by set-up, sets kept together, set-ups in the order that changes least.
 * Blades keep the order they came in within a set. Errors: `blades` where an id comes twice.
 * @example orderBatch([{ id: 'a', setUp: { bevelDeg: 30, hand: 'right', table: 'flat' } }])[0].ids // ['a']
 */
export function orderBatch(
  blades: readonly BatchBlade[],
  start?: SetUpKey,
  minutes: ChangeMinutes = USUAL_CHANGE_MINUTES,
): BatchRun[] {
  if (new Set(blades.map(({ id }) => id)).size < blades.length)
    throw new BenchError('blades', $localize`must not hold one blade twice`);
  const groups: { setUp: SetUpKey; blades: BatchBlade[] }[] = [];
  for (const blade of blades) {
    const group = groups.find(({ setUp }) => changeMinutes(setUp, blade.setUp, NO_ZERO) === 0);
    if (group) group.blades.push(blade);
    else groups.push({ setUp: blade.setUp, blades: [blade] });
  }
  const order = orderSetUps(
    groups.map(({ setUp }) => setUp),
    start,
    minutes,
  );
  let now = start;
  return order.flatMap((index) => {
    const group = groups[index];
    if (!group) return [];
    const change = now ? changeMinutes(now, group.setUp, minutes) : 0;
    now = group.setUp;
    const sets = [...new Set(group.blades.map(({ id, setId }) => setId ?? `alone ${id}`))];
    const ids = sets.flatMap((set) =>
      group.blades.filter(({ id, setId }) => (setId ?? `alone ${id}`) === set).map(({ id }) => id),
    );
    return [{ setUp: group.setUp, changeMinutes: change, ids }];
  });
}

/** Tells set-ups apart whatever a change costs. */
const NO_ZERO: ChangeMinutes = { angle: 1, hand: 1, table: 1 };

/** A blade of a set as it went to the rack. */
export interface SetMember {
  readonly id: string;
  readonly lengthMm: number;
  /** Mean width over its stations. */
  readonly widthMm: number;
  readonly massG: number;
}

/** How unlike the blades of one deck may be. Common practice, no source. */
export const USUAL_SET_SPREAD = { lengthMm: 3, widthMm: 4, massG: 25 } as const;
export type SetSpread = Readonly<Record<keyof typeof USUAL_SET_SPREAD, number>>;

export interface SetMatch {
  readonly spread: SetSpread;
  /** What is spread too far; empty where the set matches. */
  readonly over: readonly (keyof SetSpread)[];
  /** The blade without which the set would be most alike, where it does not match. */
  readonly oddId?: string | undefined;
}

const QUANTITIES = ['lengthMm', 'widthMm', 'massG'] as const;

/**
 * Are the blades of a set alike enough: unequal lengths or widths cut in steps, unequal masses shake. Spread is
 * largest less smallest; the odd one is the blade whose leaving shrinks the worst spread most.
 * Errors: `members` when empty.
 * @example matchOfSet([{ id: 'a', lengthMm: 533, widthMm: 60, massG: 1600 }, { id: 'b', lengthMm: 528, widthMm: 60, massG: 1600 }, { id: 'c', lengthMm: 533, widthMm: 60, massG: 1600 }]).oddId // 'b'
 */
export function matchOfSet(
  members: readonly SetMember[],
  most: SetSpread = USUAL_SET_SPREAD,
): SetMatch {
  if (members.length === 0) throw new BenchError('members', $localize`must hold at least one`);
  const spreadOf = (some: readonly SetMember[]): SetSpread =>
    Object.fromEntries(
      QUANTITIES.map((quantity) => {
        const values = some.map((member) => member[quantity]);
        return [quantity, Math.max(...values) - Math.min(...values)];
      }),
    ) as SetSpread;
  const spread = spreadOf(members);
  const over = QUANTITIES.filter((quantity) => spread[quantity] > most[quantity]);
  if (over.length === 0 || members.length < 3) return { spread, over };
  const worst = (some: readonly SetMember[]): number => {
    const left = spreadOf(some);
    return Math.max(...QUANTITIES.map((quantity) => left[quantity] / most[quantity]));
  };
  const without = (id: string): number => worst(members.filter((member) => member.id !== id));
  const odd = members.reduce((a, b) => (without(b.id) < without(a.id) ? b : a));
  return { spread, over, oddId: odd.id };
}
