import { BenchError, notNegative, positive, strictlyBetween } from '../errors.js';
import { poissonBinomial } from '../math/beta.js';
import { chanceInside, expectedRate, ownWear, } from './wear.js';
const endKey = (cause, end) => `${cause} ${end ?? ''}`;
/** A room known better than this is taken as exact: it moves a forecast by less than its own share. */
const DOUBT_THAT_COUNTS = 0.02;
const ready = (limit) => ({
    key: limit.key,
    cause: limit.cause,
    end: endKey(limit.cause, limit.end),
    own: ownWear(limit.prior, limit.record),
    rooms: notNegative('u', limit.u) > DOUBT_THAT_COUNTS * limit.room
        ? [limit.room - limit.u, limit.room + limit.u]
        : [limit.room],
});
const inside = ({ own, rooms }, after) => rooms.reduce((sum, room) => sum + chanceInside(own, room, after), 0) / rooms.length;
/** Drops limits that another of the same cause and end always meets earlier: less room and the same or faster wear. */
function binding(limits) {
    const soonest = (a, b) => a.end === b.end &&
        (a.rooms[0] ?? 0) <= (b.rooms[0] ?? 0) &&
        a.own.gamma >= b.own.gamma &&
        a.own.shape === b.own.shape &&
        a.own.delta === b.own.delta;
    return limits.filter((b, j) => !limits.some((a, i) => i !== j && soonest(a, b) && (!soonest(b, a) || i < j)));
}
/** Chance that no limit is met and nothing else has ended the blade after so much more of the clock. */
function survival(limits, question, after) {
    const worn = Math.max(0, after - question.lag);
    const byEnd = new Map();
    const byCause = new Map();
    for (const limit of limits) {
        const here = inside(limit, worn);
        byEnd.set(limit.end, Math.min(byEnd.get(limit.end) ?? 1, here));
        byCause.set(limit.cause, Math.min(byCause.get(limit.cause) ?? 1, here));
    }
    let chance = Math.exp(-question.otherEndsPer * after);
    for (const [cause, together] of byCause) {
        const share = question.together?.[cause] ?? 0.5;
        const apart = (byEnd.get(endKey(cause, 'A')) ?? 1) * (byEnd.get(endKey(cause, 'B')) ?? 1);
        const alone = byEnd.get(endKey(cause)) ?? 1;
        chance *= together ** share * (apart * alone) ** (1 - share);
    }
    return chance;
}
/** Close enough for a forecast: a ten-thousandth of the time, or of a chance. */
const CLOSE = 1e-4;
/** Time at which survival has fallen to p: false position on the logarithm of time (Illinois variant). */
function timeAt(f, p, guess) {
    let low = guess;
    let high = guess;
    for (let i = 0; f(low) < p && i < 60; i++)
        low /= 2;
    for (let i = 0; f(high) > p && i < 60; i++)
        high *= 2;
    if (low === high)
        return low;
    let a = Math.log(low);
    let b = Math.log(high);
    let fa = f(low) - p;
    let fb = f(high) - p;
    for (let i = 0; i < 60 && b - a > CLOSE; i++) {
        const at = (a * fb - b * fa) / (fb - fa);
        const middle = Number.isFinite(at) && at > a && at < b ? at : (a + b) / 2;
        const value = f(Math.exp(middle)) - p;
        if (Math.abs(value) < CLOSE)
            return Math.exp(middle);
        if (value > 0) {
            a = middle;
            fa = value;
            fb /= 2;
        }
        else {
            b = middle;
            fb = value;
            fa /= 2;
        }
    }
    return Math.exp((a + b) / 2);
}
function check({ limits, lag, otherEndsPer }) {
    if (limits.length === 0)
        throw new BenchError('limits', 'must hold at least one limit');
    notNegative('lag', lag);
    notNegative('otherEndsPer', otherEndsPer);
}
/**
 * The same over a list of times: what share of such blades is still in use.
 * @example lifeSurvival(life, [0])[0] // 1
 */
export function lifeSurvival(question, afters) {
    check(question);
    const limits = binding(question.limits.map(ready));
    return afters.map((after) => survival(limits, question, notNegative('after', after)));
}
/**
 * Life left until the first limit is met: median and 80 % interval on the clock of the records (mowing
 * hours, or grinds), competing limits together. Nothing is left where a limit is met already.
 *
 * Errors: `limits` when empty, otherwise the field of the limit that is wrong.
 * Example: 6 mm of room and a long even history of 0.5 mm a grind is 12 grinds, 11 to 13.
 * @example lifeLeft({ ...life, limits: [{ ...limit, record: { lost: 500, over: 1000 } }] }).median // 12.1
 */
export function lifeLeft(question) {
    check(question);
    const all = question.limits.map(ready);
    const limits = binding(all);
    const spent = question.limits.find(({ room }) => room <= 0);
    if (spent)
        return { median: 0, low: 0, high: 0, first: spent.key };
    const at = (after) => survival(limits, question, after);
    const guess = Math.min(...limits.map(({ own, rooms }) => Math.max(1e-6, rooms.at(-1) ?? 0) / expectedRate(own)));
    const median = timeAt(at, 0.5, guess + question.lag);
    const first = limits.reduce((soonest, limit) => inside(limit, median) < inside(soonest, median) ? limit : soonest);
    return {
        median,
        low: timeAt(at, 0.9, median * 0.7),
        high: timeAt(at, 0.1, median * 1.4),
        first: first.key,
    };
}
/**
 * Interval score of a central interval at level 1 − α: its width plus 2/α for every unit by which the truth
 * lies outside. Small is good (Gneiting & Raftery 2007, J. Am. Stat. Assoc. 102, eq. 43, from memory).
 * Example: 80 % interval 10 to 20, truth 22: 10 + 10·2 = 30.
 * @example intervalScore(10, 20, 22) // 30
 */
export function intervalScore(low, high, truth, alpha = 0.2) {
    strictlyBetween('alpha', alpha, 0, 1);
    const outside = Math.max(0, low - truth, truth - high);
    return high - low + (2 / alpha) * outside;
}
/** The chance that a blade is still in use at the end of each coming month. */
function stillInUse({ life, perMonth }, months) {
    let clock = 0;
    const ends = Array.from({ length: positive('months', months) }, (_, month) => {
        clock += notNegative(`perMonth[${month}]`, perMonth[month] ?? 0);
        return clock;
    });
    return life.limits.some(({ room }) => room <= 0) ? ends.map(() => 0) : lifeSurvival(life, ends);
}
/** How many of things that end by themselves with these chances end in a month. */
function countOf(chances) {
    let sum = 0;
    const enough = poissonBinomial(chances).findIndex((chance) => (sum += chance) >= 0.8);
    return {
        expected: chances.reduce((all, chance) => all + chance, 0),
        enough: enough < 0 ? chances.length : enough,
    };
}
/** Month by month, how many of these reach their end in it. */
function endsByMonth(left, months) {
    return Array.from({ length: months }, (_, month) => countOf(left.map((each) => Math.min(1, Math.max(0, (each[month - 1] ?? 1) - (each[month] ?? 0))))));
}
/**
 * Blades to buy by month: how many of these reach their end in each, expected and with 80 % certainty.
 * Example: ten blades worn out already are ten in the first month.
 * @example bladesToBuy([{ life: { ...life, limits: [{ ...limit, room: 0 }] }, perMonth: [3] }], 1) // [{ expected: 1, enough: 1 }]
 */
export const bladesToBuy = (blades, months) => endsByMonth(blades.map((blade) => stillInUse(blade, months)), months);
/**
 * Sets by month: a set is whole while all its blades are in use, which end independently of each other.
 * Example: three blades at 0.9 each are a whole set at 0.729.
 * @example setOutlook([{ life, perMonth: [0] }], 1).whole // [1]
 */
export function setOutlook(blades, months) {
    if (blades.length === 0)
        throw new BenchError('blades', 'must hold at least one');
    const left = blades.map((blade) => stillInUse(blade, months));
    const whole = Array.from({ length: months }, (_, month) => left.reduce((all, each) => all * (each[month] ?? 0), 1));
    const breaksIn = whole.findIndex((chance) => chance < 0.5);
    return { whole, breaksIn: breaksIn < 0 ? undefined : breaksIn };
}
/**
 * Sets that break by month, expected and with 80 % certainty.
 * @example setsBreaking([{ whole: [0.5], breaksIn: undefined }], 1)[0].expected // 0.5
 */
export const setsBreaking = (sets, months) => endsByMonth(sets.map(({ whole }) => whole), months);
//# sourceMappingURL=forecast.js.map