/** A small seeded generator (mulberry32, public domain). */
export function seeded(seed) {
    let state = seed >>> 0;
    return () => {
        state = (state + 0x6d2b79f5) >>> 0;
        let t = state;
        t = Math.imul(t ^ (t >>> 15), t | 1);
        t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
        return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
    };
}
export function normal(dice) {
    return Math.sqrt(-2 * Math.log(1 - dice())) * Math.cos(2 * Math.PI * dice());
}
const logNormal = (dice, spread) => Math.exp(spread * normal(dice));
export const ROOM_MM = {
    'A:tip': 10.5,
    'A:mid': 10.5,
    'A:inner': 10,
    'B:tip': 10.5,
    'B:mid': 10.5,
    'B:inner': 10,
    'wing:A': 2.6,
    'wing:B': 2.6,
};
const FACTOR = { tip: 1.12, mid: 1, inner: 0.82 };
export function replayMowers(dice, count) {
    return Array.from({ length: count }, (_, i) => {
        const heavy = i % 2 === 0;
        return {
            key: `${heavy ? 'heavy' : 'light'}-${i}`,
            perGrindMm: (heavy ? 0.75 : 0.5) * logNormal(dice, 0.2),
            sandMmPerH: (heavy ? 0.011 : 0.005) * logNormal(dice, 0.3),
            hoursPerGrind: (heavy ? 8 : 20) * logNormal(dice, 0.1),
            strikeChance: heavy ? 0.15 : 0.08,
        };
    });
}
/** One blade from new until its wear has met a limit. */
export function replayBlade(dice, mower) {
    const mine = logNormal(dice, 0.22);
    const sandMine = logNormal(dice, 0.15);
    const lost = Object.fromEntries(Object.keys(ROOM_MM).map((key) => [key, 0]));
    const sessions = [];
    let hours = 0;
    let damagedAt;
    while (Object.entries(ROOM_MM).every(([key, room]) => (lost[key] ?? 0) < room)) {
        const interval = mower.hoursPerGrind * Math.max(0.4, 1 + 0.18 * normal(dice));
        hours += interval;
        const dull = 0.6 + (0.4 * interval) / mower.hoursPerGrind;
        const grind = mower.perGrindMm * mine * dull * logNormal(dice, 0.3);
        const struck = dice() < mower.strikeChance ? (dice() < 0.5 ? 'A' : 'B') : undefined;
        const nick = 0.3 + 1.1 * dice();
        const heavyEnd = dice() < 0.5 ? 'A' : 'B';
        for (const end of ['A', 'B']) {
            const own = grind * (1 + 0.1 * normal(dice)) + (end === heavyEnd ? 0.12 * dice() : 0);
            const cleared = end === struck ? nick : 0;
            for (const [place, factor] of Object.entries(FACTOR)) {
                const key = `${end}:${place}`;
                lost[key] = (lost[key] ?? 0) + Math.max(0, Math.max(own, cleared) * factor);
            }
            const dry = 0.5 + dice();
            lost[`wing:${end}`] =
                (lost[`wing:${end}`] ?? 0) + mower.sandMmPerH * sandMine * interval * dry;
        }
        if (damagedAt === undefined && dice() < 0.02)
            damagedAt = sessions.length;
        sessions.push({
            hours,
            trueMm: { ...lost },
            readMm: Object.fromEntries(Object.entries(lost).map(([key, value]) => [
                key,
                value + (key.startsWith('wing') ? 0.05 : 0.08) * normal(dice),
            ])),
        });
    }
    return { mower, sessions, ...(damagedAt === undefined ? {} : { damagedAt }) };
}
//# sourceMappingURL=replay.js.map