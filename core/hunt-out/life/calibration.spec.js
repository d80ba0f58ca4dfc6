import { endsTogether, intervalScore, lifeLeft, lifeSurvival, poolWear, } from '../index.js';
import { replayBlade, replayMowers, ROOM_MM, seeded } from '../testing/replay.js';
const EDGE = {
    usual: { rate: 0.05, bladeSpread: 0.3, shape: 0.5 },
    worth: 30,
    readingU: 0.08,
};
const WING = {
    usual: { rate: 0.008, bladeSpread: 0.3, shape: 0.5 },
    worth: 30,
    readingU: 0.05,
};
const KEYS = Object.keys(ROOM_MM);
const isWing = (key) => key.startsWith('wing');
const causeOf = (key) => (isWing(key) ? 'sand' : 'grinding');
const endOf = (key) => (key.includes('A') ? 'A' : 'B');
/** A blade's record at one place up to a session; the first reading is of the new blade. */
function recordAt({ sessions }, key, upTo) {
    const seen = sessions.slice(0, upTo + 1);
    const steps = seen.map((session, i) => ({
        lost: (session.readMm[key] ?? 0) - (seen[i - 1]?.readMm[key] ?? 0),
        over: session.hours - (seen[i - 1]?.hours ?? 0),
    }));
    const last = seen.at(-1);
    return { lost: last?.readMm[key] ?? 0, over: last?.hours ?? 0, steps };
}
describe('life left, on 2,000 replayed histories from another generator', () => {
    const dice = seeded(20261123);
    const mowers = replayMowers(dice, 20);
    const blades = mowers.flatMap((mower) => Array.from({ length: 110 }, () => replayBlade(dice, mower)));
    // The shop's history: ten blades a mower, some of them ended by damage, which are cut off there.
    const history = blades.filter((_, i) => i % 110 < 10);
    const asked = blades.filter((_, i) => i % 110 >= 10);
    const priors = {};
    for (const key of KEYS) {
        const groups = {};
        for (const blade of history) {
            (groups[blade.mower.key] ??= []).push(recordAt(blade, key, blade.damagedAt ?? blade.sessions.length - 2));
        }
        priors[key] = poolWear(groups, isWing(key) ? WING : EDGE).groups;
    }
    const togetherOf = (readingU, keyOf) => endsTogether(history.map((blade) => {
        const upTo = blade.damagedAt ?? blade.sessions.length - 2;
        return {
            rate: priors[keyOf('A')]?.[blade.mower.key]?.rate ?? 0,
            A: recordAt(blade, keyOf('A'), upTo),
            B: recordAt(blade, keyOf('B'), upTo),
        };
    }), readingU);
    const together = {
        grinding: togetherOf(0.08, (end) => `${end}:mid`),
        sand: togetherOf(0.05, (end) => `wing:${end}`),
    };
    const damageHours = history.reduce((sum, { sessions, damagedAt }) => sum + (sessions[damagedAt ?? sessions.length - 1]?.hours ?? 0), 0);
    const damageRate = history.filter(({ damagedAt }) => damagedAt !== undefined).length / damageHours;
    const questionAt = (blade, at, otherEndsPer = 0) => ({
        together,
        lag: blade.mower.hoursPerGrind / 2,
        otherEndsPer,
        limits: KEYS.flatMap((key) => {
            const prior = priors[key]?.[blade.mower.key];
            if (!prior)
                return [];
            const record = at < 0 ? { lost: 0, over: 0 } : recordAt(blade, key, at);
            return [
                {
                    key,
                    cause: causeOf(key),
                    end: endOf(key),
                    room: (ROOM_MM[key] ?? 0) - record.lost,
                    u: isWing(key) ? 0.05 : 0.08,
                    record,
                    prior,
                },
            ];
        }),
    });
    const forecasts = asked.map((blade) => {
        // Somewhere in the first four fifths of its life: short histories and long.
        const at = Math.floor(dice() * 0.8 * blade.sessions.length) - 1;
        const now = at < 0 ? 0 : (blade.sessions[at]?.hours ?? 0);
        const truth = (blade.sessions.at(-1)?.hours ?? 0) - now;
        return {
            heavy: blade.mower.key.startsWith('heavy'),
            short: at < 3,
            truth,
            left: lifeLeft(questionAt(blade, at)),
            blade,
            at,
        };
    });
    const coverage = (some) => some.filter(({ truth, left }) => truth >= left.low && truth <= left.high).length / some.length;
    const below = (some) => some.filter(({ truth, left }) => truth < left.median).length / some.length;
    it('makes 2,000 of them', () => {
        expect(forecasts.length).toBe(2000);
    });
    const strata = [
        ['heavy use', ({ heavy }) => heavy],
        ['light use', ({ heavy }) => !heavy],
        ['a short history', ({ short }) => short],
        ['a long history', ({ short }) => !short],
    ];
    for (const [name, pick] of strata) {
        it(`holds the truth with 75 to 85 % in the nominal 80 % interval: ${name}`, () => {
            const some = forecasts.filter(pick);
            expect(some.length).toBeGreaterThan(200);
            expect(coverage(some)).toBeGreaterThanOrEqual(0.75);
            expect(coverage(some)).toBeLessThanOrEqual(0.85);
            expect(below(some)).toBeGreaterThan(0.42);
            expect(below(some)).toBeLessThan(0.58);
        });
    }
    it('scores better than the fleet’s average life said to every blade', () => {
        const score = (some) => some.reduce((sum, { low, high, truth }) => sum + intervalScore(low, high, truth), 0) /
            some.length;
        const own = score(forecasts.map(({ left, truth }) => ({ ...left, truth })));
        const truths = forecasts.map(({ truth }) => truth).sort((a, b) => a - b);
        const quantile = (p) => truths[Math.floor(p * truths.length)] ?? 0;
        const same = score(forecasts.map(({ truth }) => ({ low: quantile(0.1), high: quantile(0.9), truth })));
        console.log(`      life left: mean interval score ${own.toFixed(0)} h, fleet average ${same.toFixed(0)} h`);
        expect(own).toBeLessThan(0.6 * same);
    });
    it('counts damage as another end: the survival curve fits who is still there', () => {
        for (const hours of [30, 60, 120]) {
            const some = forecasts.filter(({ blade, at }) => (blade.damagedAt ?? Infinity) > at);
            const expected = some.reduce((sum, { blade, at }) => sum + (lifeSurvival(questionAt(blade, at, damageRate), [hours])[0] ?? 0), 0);
            const there = some.filter(({ blade, at, truth }) => {
                const damage = blade.damagedAt === undefined
                    ? Infinity
                    : (blade.sessions[blade.damagedAt]?.hours ?? 0) - (blade.sessions[at]?.hours ?? 0);
                return Math.min(truth, damage) > hours;
            }).length;
            expect(Math.abs(expected - there) / some.length).toBeLessThan(0.04);
        }
    });
});
//# sourceMappingURL=calibration.spec.js.map