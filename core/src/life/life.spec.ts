import { DAY_MS } from '../units/day.js';
import {
  bladeFutures,
  bladesToBuy,
  nextToGo,
  intervalScore,
  learnLives,
  lifeLeft,
  lossAhead,
  setOutlook,
  setsBreaking,
  sinceFirstGrind,
  stillInUse,
  type BladeLife,
  type BladeWear,
  type Room,
} from '../index.js';
import { guardFrom, levelsOf } from './guard.js';
import { learnWear } from './learn-wear.js';
import { endOfLife, heldAgainst, pastForecasts, roomsAfter } from './past-forecasts.js';

/** A blade that loses just as much at every grind. */
const even = (mm: number, grinds: number, more: Partial<BladeLife> = {}): BladeLife => ({
  bladeId: 'b',
  specId: 's',
  steps: Array.from({ length: grinds }, (_, i) => ({
    at: i * DAY_MS,
    hours: 10,
    lostMm: {
      'width:A:tip': mm * (i + 1),
      'width:B:tip': mm * (i + 1),
      'wing:A': 0.05 * (i + 1),
      'wing:B': 0.05 * (i + 1),
    },
  })),
  allowanceMm: { 'width:A:tip': 10, 'width:B:tip': 10, 'wing:A': 3, 'wing:B': 3 },
  endedByWear: false,
  ...more,
});
const fleet = learnWear(
  Array.from({ length: 20 }, (_, i) => even(0.5, 12, { bladeId: String(i) })),
);
const noGuard = guardFrom([]);
const room = (roomMm: number, key = 'width:A:tip', u = 0): Room => ({ key, roomMm, u });
const left = (rooms: Room[], wear: BladeWear = even(0.5, 8), grindsAllowed?: number) =>
  lifeLeft(fleet, { wear, rooms, grindsAllowed }, noGuard);

describe('life left', () => {
  it('is some 12 grinds and 130 h for 6 mm of room at a long even 0.5 mm a grind, every 10 h', () => {
    const { grinds, hours, first, guess } = left([room(6.2)]);
    expect(grinds.median).toBe(12);
    expect(grinds.low).toBeGreaterThanOrEqual(9);
    expect(grinds.high).toBeLessThanOrEqual(16);
    expect(Number.isInteger(grinds.low) && Number.isInteger(grinds.high)).toBeTrue();
    expect(hours.median).toBeGreaterThan(115);
    expect(hours.median).toBeLessThan(145);
    expect(first).toBe('width:A:tip');
    expect(guess).toBeFalse();
  });

  it('has nothing left where a limit is met or the count is used up, and says which', () => {
    const met = left([room(6), room(-0.1, 'wing:A')]);
    expect([met.grinds.high, met.hours.high, met.first]).toEqual([0, 0, 'wing:A']);
    expect(left([room(6)], even(0.5, 8), 0)).toEqual(jasmine.objectContaining({ first: 'grinds' }));
  });

  it('is cut short by a limit on the count, in grinds and in hours', () => {
    const counted = left([room(6.2)], even(0.5, 8), 3);
    expect([counted.grinds.low, counted.grinds.high, counted.first]).toEqual([3, 3, 'grinds']);
    expect(counted.hours.median).toBeLessThan(60);
  });

  it('loses first what the grinds since a reading took, by the blade’s own wear and no surer than that', () => {
    const behind = (grindsSince: number, roomMm = 6.2) =>
      left([{ ...room(roomMm), grindsSince }]).grinds;
    // Six grinds of half a millimetre are gone of the room for twelve.
    expect(behind(6).median).toBeGreaterThanOrEqual(5);
    expect(behind(6).median).toBeLessThanOrEqual(7);
    expect(behind(0)).toEqual(left([room(6.2)]).grinds);
    // As long as with the room that is left, and in a wider range.
    const { median, high, low } = behind(0, 3.2);
    expect(Math.abs(behind(6).median - median)).toBeLessThanOrEqual(1);
    expect(behind(6).high - behind(6).low).toBeGreaterThanOrEqual(high - low);
    expect(behind(20).median).toBe(0);
    // A heavy wearer has lost more in as many.
    const heavy = left([{ ...room(6.2), grindsSince: 4 }], even(0.8, 8)).grinds.median;
    expect(heavy).toBeLessThan(behind(4).median);
    expect(() => behind(-1)).toThrowError(/grindsSince/);
    expect(behind(1e6).median).toBe(0);
  });

  it('gets shorter with a second limit and with less room, wider with doubt', () => {
    const one = left([room(6)]);
    expect(left([room(6), room(0.2, 'wing:A')]).first).toBe('wing:A');
    expect(left([room(6), room(6, 'width:B:tip')]).hours.median).toBeLessThanOrEqual(
      one.hours.median,
    );
    expect(left([room(5)]).grinds.median).toBeLessThan(one.grinds.median);
    const doubtful = left([room(6, 'width:A:tip', 1)]);
    expect(doubtful.grinds.high - doubtful.grinds.low).toBeGreaterThan(
      one.grinds.high - one.grinds.low,
    );
  });

  it('goes by other intervals where they are assumed: the edge by grinds, the wing by hours', () => {
    const ask = (key: string, mm: number, intervalH?: number) =>
      bladeFutures(fleet, { wear: even(0.5, 8), rooms: [room(mm, key)], intervalH });
    const middle = (sorted: readonly number[]): number => sorted[sorted.length >> 1] ?? 0;
    const edge = [ask('width:A:tip', 6), ask('width:A:tip', 6, 5)];
    expect(middle(edge[1]?.grinds ?? [])).toBe(middle(edge[0]?.grinds ?? []));
    expect(middle(edge[1]?.hours ?? []) / middle(edge[0]?.hours ?? [])).toBeCloseTo(0.5, 1);
    const wing = [ask('wing:A', 0.5), ask('wing:A', 0.5, 5)];
    expect(middle(wing[1]?.grinds ?? [])).toBeGreaterThan(1.7 * middle(wing[0]?.grinds ?? []));
  });

  it('knows a heavy wearer by its history, and calls a spec without one a guess', () => {
    expect(left([room(6)], even(0.9, 8)).grinds.median).toBeLessThan(
      left([room(6)], even(0.5, 8)).grinds.median,
    );
    const unknown = left([room(6)], { bladeId: 'n', specId: 'other', steps: [] });
    const known = left([room(6)], { bladeId: 'n', specId: 's', steps: [] });
    expect(unknown.guess).toBeTrue();
    expect(unknown.grinds.high - unknown.grinds.low).toBeGreaterThan(
      known.grinds.high - known.grinds.low,
    );
  });

  it('refuses a blade without limits, and doubt below none', () => {
    expect(() => left([])).toThrowError(/rooms must hold at least one limit/);
    expect(() => left([room(6, 'width:A:tip', -1)])).toThrowError(/u must not be negative/);
  });

  it('fans out over the grinds ahead, and grows', () => {
    const fan = lossAhead(fleet, even(0.5, 8), ['width:A:tip'], 6, [0.1, 0.5, 0.9]);
    const losses = fan['width:A:tip'] ?? [];
    expect(losses.length).toBe(7);
    expect(losses[0]).toEqual([0, 0, 0]);
    losses.slice(1).forEach(([low = 0, middle = 0, high = 0], i) => {
      expect(low).toBeLessThan(middle);
      expect(middle).toBeLessThan(high);
      expect(Math.abs(middle - 0.5 * (i + 1))).toBeLessThan(0.12 * (i + 1));
    });
  });
});

describe('a life that is over', () => {
  it('ends at the first reading past its allowance, at the count, or where it was retired worn', () => {
    expect(endOfLife(even(1, 12))).toBe(10);
    expect(endOfLife(even(1, 8))).toBeUndefined();
    expect(endOfLife(even(1, 8, { mostGrinds: 5 }))).toBe(5);
    expect(endOfLife(even(1, 8, { endedByWear: true }))).toBe(7);
  });

  it('leaves room by the last reading of each place', () => {
    expect(roomsAfter(even(1, 8), 3).find(({ key }) => key === 'width:A:tip')?.roomMm).toBe(7);
    expect(roomsAfter(even(1, 8), 0)[0]?.roomMm).toBe(10);
    const [first, ...later] = even(1, 8).steps;
    const unread = later.map((step) => ({ ...step, lostMm: { 'width:B:tip': 4 } }));
    const rooms = roomsAfter(even(1, 8, { steps: first ? [first, ...unread] : [] }), 4);
    const since = (key: string) => rooms.find((each) => each.key === key)?.grindsSince;
    expect([since('width:A:tip'), since('width:B:tip')]).toEqual([3, 0]);
    expect(roomsAfter(even(1, 8), 0)[0]?.grindsSince).toBe(0);
  });

  it('is held against a forecast by the chance that was given to less', () => {
    const futures = { grinds: [4, 5, 6, 7], hours: [40, 50, 60, 70], first: 'width:A:tip' };
    // Twelve grinds of 1 mm and 10 mm of room: after four of them six more leave it inside, the seventh does not.
    const [grinds, hours] = heldAgainst(even(1, 12), 4, futures, 0.5);
    expect([grinds?.chance, grinds?.open, grinds?.stratum]).toEqual([0.625, false, '2-4']);
    expect([hours?.chance, hours?.open]).toEqual([0.875, false]);
    const [open] = heldAgainst(even(1, 8), 4, futures, 0.5);
    expect([open?.chance, open?.open]).toEqual([0, true]);
  });
});

describe('the life of a blade that came worn', () => {
  /** Lives of which this shop saw nothing before so many grinds. */
  const cameAfter = (unseen: number, lives: readonly BladeLife[]): BladeLife[] =>
    lives.map((life) => ({ ...life, steps: life.steps.slice(unseen) }));
  const rate = (lives: readonly BladeLife[]): number =>
    learnLives(lives).fleet.kinds.edge.specs.get('s')?.rates.seen.get('width:tip') ?? NaN;

  it('teaches what a grind takes, as though it had been seen from new', () => {
    const whole = Array.from({ length: 8 }, (_, i) => even(0.5, 12, { bladeId: String(i) }));
    expect(rate(whole)).toBeCloseTo(0.5, 1);
    expect(rate(cameAfter(7, whole).map(sinceFirstGrind))).toBeCloseTo(0.5, 1);
    // Counted from new its first grind would be one of 4 mm.
    expect(rate(cameAfter(7, whole))).toBeGreaterThan(1);
  });

  it('leaves the room there was, and ends where it ended', () => {
    const [came] = cameAfter(3, [even(1, 12)]).map(sinceFirstGrind);
    if (!came) throw new Error('no life');
    expect(came.steps.map(({ lostMm }) => lostMm['width:A:tip'])).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(roomsAfter(came, 2).find(({ key }) => key === 'width:A:tip')?.roomMm).toBe(4);
    expect(came.steps[endOfLife(came) ?? -1]?.at).toBe(10 * DAY_MS);
  });

  it('counts a place from its first reading, and leaves out one that was never read', () => {
    const [first, ...rest] = even(1, 3).steps;
    if (!first) throw new Error('no step');
    const steps = [{ ...first, lostMm: { 'width:A:tip': 4 } }, ...rest];
    const { allowanceMm, steps: since } = sinceFirstGrind(
      even(1, 3, { steps, allowanceMm: { 'width:A:tip': 10, 'width:B:tip': 10, 'wing:C': 3 } }),
    );
    expect(allowanceMm).toEqual({ 'width:A:tip': 6, 'width:B:tip': 8 });
    expect(since.map(({ lostMm }) => lostMm['width:B:tip'])).toEqual([undefined, 1]);
  });

  it('of a single grind teaches nothing: the shop is a guess as it was without it', () => {
    const { fleet: learned } = learnLives(cameAfter(7, [even(0.5, 8)]).map(sinceFirstGrind));
    expect(learned.blades).toBe(0);
    expect(learned.kinds.edge.specs.size).toBe(0);
  });
});

describe('the guard', () => {
  it('leaves levels alone where forecasts came out as foretold', () => {
    const past = Array.from({ length: 200 }, (_, i) => ({ chance: (i + 0.5) / 200, open: false }));
    const { low, high } = levelsOf(past);
    expect(low).toBeCloseTo(0.1, 2);
    expect(high).toBeCloseTo(0.9, 2);
  });
  it('reads wider where they came out at the edges too often, and narrower where never', () => {
    const edges = Array.from({ length: 200 }, (_, i) => ({
      chance: i % 2 ? 0.02 : 0.98,
      open: false,
    }));
    expect(levelsOf(edges).low).toBeLessThan(0.05);
    expect(levelsOf(edges).high).toBeGreaterThan(0.95);
    const middle = Array.from({ length: 200 }, () => ({ chance: 0.5, open: false }));
    expect(levelsOf(middle).low).toBeGreaterThan(0.4);
  });
  it('counts a blade still in use as having outlived its level so far (Kaplan and Meier)', () => {
    // Half of them open at 0.5: the other half, all below it, are then a quarter of all that end early.
    const open = Array.from({ length: 400 }, () => ({ chance: 0.5, open: true }));
    const ended = Array.from({ length: 400 }, (_, i) => ({ chance: i / 800, open: false }));
    const { low, high } = levelsOf([...open, ...ended]);
    expect(low).toBeCloseTo(0.1, 2);
    expect(high).toBeGreaterThan(0.85);
    expect(levelsOf(ended).high).toBeLessThan(0.5);
  });
  it('says how the past forecasts came out, those of blades still in use among them', () => {
    const { guard } = learnLives(
      Array.from({ length: 30 }, (_, i) => even(0.9 + 0.01 * (i % 20), 12, { bladeId: String(i) })),
    );
    const { held, sooner, later } = guard.grinds['5+'].past;
    expect(held + sooner + later).toBeGreaterThan(20);
    expect(held).toBeGreaterThan(sooner + later);
    const at = (chance: number, open: boolean) =>
      ({
        chance,
        open,
        clock: 'grinds',
        stratum: '2-4',
        at: 0,
        specId: 's',
        bladeId: 'b',
      }) as const;
    const young = guardFrom([
      at(0.5, false),
      at(0.01, false),
      at(0.99, true),
      ...Array.from({ length: 20 }, () => at(0.05, true)),
    ]).grinds['2-4'].past;
    expect(young).toEqual({ held: 1, sooner: 1, later: 1, running: 20 });
  });
  it('forecasts the past from nothing but what was known then', () => {
    const lives = Array.from({ length: 12 }, (_, i) => even(0.7, 16, { bladeId: String(i) }));
    const early = pastForecasts(lives);
    const changed = lives.map((life) => ({
      ...life,
      steps: life.steps.map((step, i) => (i < 14 ? step : { ...step, hours: 1000 })),
    }));
    expect(pastForecasts(changed).filter(({ clock }) => clock === 'grinds')).toEqual(
      early.filter(({ clock }) => clock === 'grinds'),
    );
  });
});

const inUse = (
  hours: readonly number[],
  hoursPerMonth: readonly number[],
  otherEndsPerHour = 0,
) => ({
  futures: { grinds: [], hours, first: '' },
  otherEndsPerHour,
  hoursPerMonth,
});
const over = (months: number, hours: number): number[] =>
  Array.from({ length: months }, () => hours);
const tens = Array.from({ length: 10 }, (_, i) => 10 * (i + 1));

describe('blades to buy', () => {
  it('are those worn out at once, and in the end every blade', () => {
    expect(bladesToBuy([inUse([0, 0], [3])], 1)).toEqual([{ expected: 1, enough: 1 }]);
    const need = bladesToBuy(
      over(10, 0).map(() => inUse(tens, over(24, 5))),
      24,
    );
    expect(need.reduce((sum, { expected }) => sum + expected, 0)).toBeCloseTo(10, 9);
    expect(need.every(({ expected, enough }) => enough >= Math.floor(expected))).toBeTrue();
  });
  it('end by damage as well, at an even rate', () => {
    expect(stillInUse(inUse([100], []).futures, 0.01, 50)).toBeCloseTo(Math.exp(-0.5), 12);
    expect(() => stillInUse(inUse([100], []).futures, -1, 50)).toThrowError(/otherEndsPerHour/);
  });
});

describe('the next to go', () => {
  // One of ten futures ends at each ten hours: with ten hours a month a tenth is gone more by every month.
  const even = () => inUse(tens, over(10, 10));

  it('one blade goes when its own futures say so, between the ends of months', () => {
    const [only, ...others] = nextToGo([even()], 10, 0.1);
    expect(others).toEqual([]);
    expect(only).toEqual({
      chance: 1,
      tenthAt: jasmine.any(Number) as unknown as number,
      evenAt: 5,
      nineTenthsAt: 9,
      likely: 0,
    });
    expect(only?.tenthAt).toBeCloseTo(1, 9);
    // At four hours a month the fifth ten hours are over in the thirteenth month.
    expect(nextToGo([inUse(tens, over(14, 4))], 14, 0.1)[0]?.evenAt).toBe(13);
  });

  it('of three alike the first, second and third go as the binomial distribution says', () => {
    const next = nextToGo([even(), even(), even()], 6, 0.01);
    const p = 0.6;
    expect(next[0]?.chance).toBeCloseTo(1 - (1 - p) ** 3, 12);
    expect(next[1]?.chance).toBeCloseTo(3 * p * p * (1 - p) + p ** 3, 12);
    expect(next[2]?.chance).toBeCloseTo(p ** 3, 12);
    const at = next.map(({ evenAt }) => evenAt ?? 99);
    expect([...at].sort((a, b) => a - b)).toEqual(at);
  });

  it('what is worn out already is gone now, the most worn is the likeliest', () => {
    const next = nextToGo([inUse([500], over(6, 10)), inUse([0], over(6, 10)), even()], 6, 0.1);
    expect(next.map(({ likely, evenAt }) => [likely, evenAt])).toEqual([
      [1, 0],
      [2, 5],
    ]);
    expect(nextToGo([], 6, 0.1)).toEqual([]);
  });

  it('as many are gone as are bought month by month on the mean', () => {
    const blades = [even(), inUse([30, 60, 90], over(8, 12), 0.002), inUse([0, 50], over(8, 9))];
    const bought = bladesToBuy(blades, 8).reduce((sum, { expected }) => sum + expected, 0);
    const gone = nextToGo(blades, 8, 0).reduce((sum, { chance }) => sum + chance, 0);
    expect(gone).toBeCloseTo(bought, 9);
  });
});

describe('a set', () => {
  it('is whole while every blade is, and breaks with the weakest', () => {
    const blade = inUse(tens, over(12, 5));
    const one = setOutlook([blade], 12).whole;
    const three = setOutlook([blade, blade, blade], 12);
    three.whole.forEach((chance, month) => expect(chance).toBeCloseTo((one[month] ?? 0) ** 3, 12));
    const weak = setOutlook([blade, inUse([10, 12], over(12, 5))], 12);
    expect(weak.breaksIn).toBeLessThan(three.breaksIn ?? 99);
    expect(setOutlook([inUse([500], over(3, 5))], 3).breaksIn).toBeUndefined();
    expect(() => setOutlook([], 3)).toThrowError(/blades/);
  });
  it('breaks once in the end', () => {
    const sets = over(4, 0).map(() => setOutlook([inUse(tens, over(24, 5))], 24));
    const breaking = setsBreaking(sets, 24);
    expect(breaking.reduce((sum, { expected }) => sum + expected, 0)).toBeCloseTo(4, 9);
  });
});

describe('intervalScore', () => {
  it('is the width, and ten times what lies outside an 80 % interval', () => {
    expect(intervalScore(10, 20, 15)).toBe(10);
    expect(intervalScore(10, 20, 22)).toBeCloseTo(30, 12);
  });
});
