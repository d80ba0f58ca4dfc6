import { BenchError, notNegative } from '../errors.js';
export const USUAL_CHANGE_MINUTES = { angle: 4, hand: 2, table: 6 };
/** Two angles nearer than this are one set-up, degrees. */
const SAME_ANGLE_DEG = 0.5;
/**
 * Minutes from one set-up to another: the sum of what has to be changed.
 * @example changeMinutes({ bevelDeg: 30, hand: 'right', table: 'flat' }, { bevelDeg: 28, hand: 'left', table: 'flat' }) // 6
 */
export function changeMinutes(from, to, minutes = USUAL_CHANGE_MINUTES) {
    const angle = Math.abs(from.bevelDeg - to.bevelDeg) >= SAME_ANGLE_DEG;
    return ((angle ? notNegative('angle', minutes.angle) : 0) +
        (from.hand === to.hand ? 0 : notNegative('hand', minutes.hand)) +
        (from.table === to.table ? 0 : notNegative('table', minutes.table)));
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
export function orderSetUps(setUps, start, minutes = USUAL_CHANGE_MINUTES) {
    const n = setUps.length;
    const cost = (from, to) => from && to ? changeMinutes(from, to, minutes) : 0;
    if (n > MOST_EXACT)
        return nearestNext(setUps, start, cost);
    const full = 2 ** n - 1;
    const best = new Map();
    const key = (visited, last) => visited * n + last;
    for (let i = 0; i < n; i++) {
        best.set(key(1 << i, i), { minutes: cost(start, setUps[i]), before: -1 });
    }
    for (let visited = 1; visited <= full; visited++) {
        for (let last = 0; last < n; last++) {
            const here = best.get(key(visited, last));
            if (!here)
                continue;
            for (let next = 0; next < n; next++) {
                if (visited & (1 << next))
                    continue;
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
        if (last < 0 || ends < (best.get(key(full, last))?.minutes ?? Infinity))
            last = i;
    }
    const order = [];
    for (let visited = full; last >= 0;) {
        order.unshift(last);
        const before = best.get(key(visited, last))?.before ?? -1;
        visited &= ~(1 << last);
        last = before;
    }
    return order;
}
function nearestNext(setUps, start, cost) {
    const left = new Set(setUps.keys());
    const order = [];
    let now = start;
    while (left.size > 0) {
        const next = [...left].reduce((a, b) => (cost(now, setUps[b]) < cost(now, setUps[a]) ? b : a));
        order.push(next);
        left.delete(next);
        now = setUps[next];
    }
    return order;
}
/**
 * A batch in working order: blades by set-up, sets kept together, set-ups in the order that changes least.
 * Blades keep the order they came in within a set. Errors: `blades` where an id comes twice.
 * @example orderBatch([{ id: 'a', setUp: { bevelDeg: 30, hand: 'right', table: 'flat' } }])[0].ids // ['a']
 */
export function orderBatch(blades, start, minutes = USUAL_CHANGE_MINUTES) {
    if (new Set(blades.map(({ id }) => id)).size < blades.length)
        throw new BenchError('blades', 'must not hold one blade twice');
    const groups = [];
    for (const blade of blades) {
        const group = groups.find(({ setUp }) => changeMinutes(setUp, blade.setUp, NO_ZERO) === 0);
        if (group)
            group.blades.push(blade);
        else
            groups.push({ setUp: blade.setUp, blades: [blade] });
    }
    const order = orderSetUps(groups.map(({ setUp }) => setUp), start, minutes);
    let now = start;
    return order.flatMap((index) => {
        const group = groups[index];
        if (!group)
            return [];
        const change = now ? changeMinutes(now, group.setUp, minutes) : 0;
        now = group.setUp;
        const sets = [...new Set(group.blades.map(({ id, setId }) => setId ?? `alone ${id}`))];
        const ids = sets.flatMap((set) => group.blades.filter(({ id, setId }) => (setId ?? `alone ${id}`) === set).map(({ id }) => id));
        return [{ setUp: group.setUp, changeMinutes: change, ids }];
    });
}
/** Tells set-ups apart whatever a change costs. */
const NO_ZERO = { angle: 1, hand: 1, table: 1 };
/** How unlike the blades of one deck may be. Common practice, no source. */
export const USUAL_SET_SPREAD = { lengthMm: 3, widthMm: 4, massG: 25 };
const QUANTITIES = ['lengthMm', 'widthMm', 'massG'];
/**
 * Are the blades of a set alike enough: unequal lengths or widths cut in steps, unequal masses shake. Spread is
 * largest less smallest; the odd one is the blade whose leaving shrinks the worst spread most.
 * Errors: `members` when empty.
 * @example matchOfSet([{ id: 'a', lengthMm: 533, widthMm: 60, massG: 1600 }, { id: 'b', lengthMm: 528, widthMm: 60, massG: 1600 }, { id: 'c', lengthMm: 533, widthMm: 60, massG: 1600 }]).oddId // 'b'
 */
export function matchOfSet(members, most = USUAL_SET_SPREAD) {
    if (members.length === 0)
        throw new BenchError('members', 'must hold at least one');
    const spreadOf = (some) => Object.fromEntries(QUANTITIES.map((quantity) => {
        const values = some.map((member) => member[quantity]);
        return [quantity, Math.max(...values) - Math.min(...values)];
    }));
    const spread = spreadOf(members);
    const over = QUANTITIES.filter((quantity) => spread[quantity] > most[quantity]);
    if (over.length === 0 || members.length < 3)
        return { spread, over };
    const worst = (some) => {
        const left = spreadOf(some);
        return Math.max(...QUANTITIES.map((quantity) => left[quantity] / most[quantity]));
    };
    const without = (id) => worst(members.filter((member) => member.id !== id));
    const odd = members.reduce((a, b) => (without(b.id) < without(a.id) ? b : a));
    return { spread, over, oddId: odd.id };
}
//# sourceMappingURL=batch.js.map