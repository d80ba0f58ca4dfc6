import fcg from 'fast-check'; fcg.configureGlobal({numRuns: 40000});
import fc from 'fast-check';
import jstat from 'jstat';
import { bladesToBuy, chanceInside, endsTogether, expectedRate, intervalScore, lifeLeft, lossNotExceeded, ownWear, poolWear, setOutlook, setsBreaking, } from '../index.js';
const prior = { rate: 0.5, bladeSpread: 0.3, shape: 6 };
const limit = (change = {}) => ({
    key: 'width:A:tip',
    cause: 'grinding',
    end: 'A',
    room: 6,
    u: 0,
    record: { lost: 0, over: 0 },
    prior,
    ...change,
});
const question = (limits, change = {}) => ({
    limits,
    lag: 0,
    otherEndsPer: 0,
    ...change,
});
describe('ownWear', () => {
    it('is the prior without a history, and the blade’s own with a long one', () => {
        expect(expectedRate(ownWear(prior, { lost: 0, over: 0 }))).toBeCloseTo(0.5, 12);
        expect(expectedRate(ownWear(prior, { lost: 900, over: 1000 }))).toBeCloseTo(0.9, 2);
    });
    it('becomes a plain gamma process where all blades are alike', () => {
        const own = ownWear({ ...prior, bladeSpread: 1e-3 }, { lost: 0, over: 0 });
        for (const room of [3, 5, 6, 8]) {
            // Gamma process with mean rate 0.5 and shape 6 a grind: after 10 grinds Gamma(60, 0.5/6).
            expect(chanceInside(own, room, 10)).toBeCloseTo(jstat.gamma.cdf(room, 60, 0.5 / 6), 4);
        }
    });
    it('gives losses that are not exceeded with the chance asked for', () => {
        const own = ownWear(prior, { lost: 2, over: 4 });
        expect(chanceInside(own, lossNotExceeded(own, 5, 0.9), 5)).toBeCloseTo(0.9, 9);
        expect(lossNotExceeded(own, 0, 0.9)).toBe(0);
    });
});
describe('poolWear', () => {
    const pooling = { usual: prior, worth: 5, readingU: 0 };
    const even = (rate) => ({
        lost: 10 * rate,
        over: 10,
        steps: Array.from({ length: 10 }, () => ({ lost: rate, over: 1 })),
    });
    it('is the usual wear without any history', () => {
        const { fleet } = poolWear({}, pooling);
        expect(fleet.rate).toBeCloseTo(prior.rate, 12);
        expect(fleet.shape).toBeCloseTo(prior.shape, 12);
        expect(fleet.bladeSpread).toBeCloseTo(prior.bladeSpread, 12);
    });
    it('moves a group toward its own rate, less than all the way', () => {
        const { groups, fleet } = poolWear({ fast: [even(1)], slow: [even(0.2)] }, pooling);
        expect(groups['fast']?.rate).toBeLessThan(1);
        expect(groups['fast']?.rate).toBeGreaterThan(fleet.rate);
        expect(groups['slow']?.rate).toBeLessThan(fleet.rate);
    });
    it('learns that even wear is even, and jumpy wear is not', () => {
        const jumpy = {
            lost: 10,
            over: 10,
            steps: Array.from({ length: 10 }, (_, i) => ({ lost: i % 5 === 0 ? 5 : 0, over: 1 })),
        };
        const steady = poolWear({ a: [even(1), even(1)] }, pooling).fleet.shape;
        const rough = poolWear({ a: [jumpy, jumpy] }, pooling).fleet.shape;
        expect(steady).toBeGreaterThan(prior.shape);
        expect(rough).toBeLessThan(prior.shape);
    });
    it('refuses a history of negative length', () => {
        expect(() => poolWear({ a: [{ lost: 1, over: -1 }] }, pooling)).toThrowError(/over/);
    });
});
describe('endsTogether', () => {
    const record = (steps) => ({
        lost: steps.reduce((a, b) => a + b, 0),
        over: steps.length,
        steps: steps.map((lost) => ({ lost, over: 1 })),
    });
    it('is near one for ends worn alike, near none for ends worn in turn', () => {
        const steps = Array.from({ length: 200 }, (_, i) => (i % 3 === 0 ? 1 : 0.2));
        const shifted = Array.from({ length: 200 }, (_, i) => (i % 3 === 1 ? 1 : 0.2));
        expect(endsTogether([{ rate: 0.47, A: record(steps), B: record(steps) }], 0)).toBeGreaterThan(0.9);
        expect(endsTogether([{ rate: 0.47, A: record(steps), B: record(shifted) }], 0)).toBeLessThan(0.1);
    });
});
describe('lifeLeft', () => {
    it('is 12 grinds, 11 to 13, for 6 mm of room at a long even 0.5 mm a grind', () => {
        const steady = limit({ prior: { ...prior, shape: 60 }, record: { lost: 500, over: 1000 } });
        const { median, low, high, first } = lifeLeft(question([steady]));
        expect(median).toBeCloseTo(12, 0);
        expect(low).toBeGreaterThan(11);
        expect(high).toBeLessThan(13);
        expect(first).toBe('width:A:tip');
    });
    it('has nothing left where a limit is met, and says which', () => {
        const left = lifeLeft(question([limit(), limit({ key: 'wing:A', cause: 'sand', room: -0.1 })]));
        expect(left).toEqual({ median: 0, low: 0, high: 0, first: 'wing:A' });
    });
    it('names the limit that comes first', () => {
        const wing = limit({ key: 'wing:A', cause: 'sand', room: 2, prior: { ...prior, rate: 0.4 } });
        expect(lifeLeft(question([limit(), wing])).first).toBe('wing:A');
    });
    it('gets shorter with a second cause, with damage, with less room, and wider with doubt', () => {
        const one = lifeLeft(question([limit()]));
        const wing = limit({ key: 'wing:A', cause: 'sand' });
        expect(lifeLeft(question([limit(), wing])).median).toBeLessThan(one.median);
        expect(lifeLeft(question([limit()], { otherEndsPer: 0.05 })).median).toBeLessThan(one.median);
        expect(lifeLeft(question([limit({ room: 5 })])).median).toBeLessThan(one.median);
        const doubtful = lifeLeft(question([limit({ u: 2 })]));
        expect(doubtful.high - doubtful.low).toBeGreaterThan(one.high - one.low);
    });
    it('is between the two ends alike and the two ends apart', () => {
        const ends = [limit(), limit({ key: 'width:B:tip', end: 'B' })];
        const median = (share) => lifeLeft(question(ends, { together: { grinding: share } })).median;
        expect(median(1)).toBeCloseTo(lifeLeft(question([limit()])).median, 4);
        expect(median(0)).toBeLessThan(median(0.5));
        expect(median(0.5)).toBeLessThan(median(1));
    });
    it('never puts its median outside its interval', () => {
        fc.assert(fc.property(fc.double({ min: 0.1, max: 12, noNaN: true }), fc.double({ min: 0, max: 8, noNaN: true }), fc.integer({ min: 0, max: 20 }), (room, lost, over) => {
            const { low, median, high } = lifeLeft(question([limit({ room, record: { lost, over } })]));
            expect(low).toBeLessThan(median);
            expect(median).toBeLessThan(high);
        }));
    });
    it('refuses a blade without limits', () => {
        expect(() => lifeLeft(question([]))).toThrowError(/limits must hold at least one/);
    });
});
describe('bladesToBuy', () => {
    it('buys what is worn out at once, and in the end every blade', () => {
        const worn = { life: question([limit({ room: 0 })]), perMonth: [3] };
        expect(bladesToBuy([worn], 1)).toEqual([{ expected: 1, enough: 1 }]);
        const blades = Array.from({ length: 10 }, () => ({
            life: question([limit()]),
            perMonth: Array.from({ length: 24 }, () => 4),
        }));
        const need = bladesToBuy(blades, 24);
        expect(need.reduce((sum, { expected }) => sum + expected, 0)).toBeCloseTo(10, 2);
        expect(need.every(({ expected, enough }) => enough >= Math.floor(expected))).toBeTrue();
    });
});
describe('setOutlook', () => {
    const blade = (room) => ({
        life: question([limit({ room })]),
        perMonth: Array.from({ length: 12 }, () => 2),
    });
    it('is whole while every blade is, and breaks with the weakest', () => {
        const one = setOutlook([blade(6)], 12).whole;
        const three = setOutlook([blade(6), blade(6), blade(6)], 12);
        three.whole.forEach((chance, month) => expect(chance).toBeCloseTo((one[month] ?? 0) ** 3, 12));
        const weak = setOutlook([blade(6), blade(1.5)], 12);
        expect(weak.breaksIn).toBeLessThan(three.breaksIn ?? 99);
        expect(setOutlook([blade(60)], 3).breaksIn).toBeUndefined();
        expect(() => setOutlook([], 3)).toThrowError(/blades/);
    });
    it('breaks every set once in the end', () => {
        const sets = Array.from({ length: 4 }, () => setOutlook([blade(3), blade(3)], 12));
        const breaking = setsBreaking(sets, 12);
        expect(breaking.reduce((sum, { expected }) => sum + expected, 0)).toBeCloseTo(4, 2);
    });
});
describe('intervalScore', () => {
    it('is the width, and ten times what lies outside an 80 % interval', () => {
        expect(intervalScore(10, 20, 15)).toBe(10);
        expect(intervalScore(10, 20, 22)).toBeCloseTo(30, 12);
    });
});
//# sourceMappingURL=life.spec.js.map