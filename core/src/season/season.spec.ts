import fc from 'fast-check';
import jstat from 'jstat';
import { mean, standardDeviation, variance } from 'simple-statistics';
import {
  chanceFrom,
  seasonDifference,
  seasonLanes,
  seasonMonths,
  simulateSeason,
  simulateSeasons,
  steadyRain,
  type Season,
  type SeasonOutcome,
} from '../index.js';
import { season } from '../testing/examples.js';

/** A season in which nothing happens by chance, of one mower, and blades that last. */
const still = (
  change: Partial<Season> = {},
  mower: Partial<Season['mowers'][number]> = {},
): Season => ({
  ...season,
  mowers: season.mowers.map((each) => ({ ...each, ...mower })),
  grindsPerBlade: 10_000,
  ...change,
});
const PRICES = {
  blade: 20,
  minutesPerBlade: 12,
  benchHour: 30,
  abrasivePerGrind: 0.3,
  dullHour: 6,
  stoppedHour: 40,
};
const dullShare = (season: Season, seed = 1): number => {
  const { dullH, mownH } = simulateSeason(season, seed);
  return dullH / mownH;
};

describe('a season without chance', () => {
  it('mows dull what its sets leave over between two bench days: 1 − sets · edge / hours between', () => {
    for (const [sets, edgeLifeH] of [
      [1, 10],
      [2, 10],
      [2, 12.5],
      [3, 7],
      [1, 27],
    ] as const) {
      expect(dullShare(still({}, { sets, edgeLifeH }))).toBeCloseTo(1 - (sets * edgeLifeH) / 28, 9);
    }
  });
  it('never mows dull where the sets beside the one that is on last until the bench', () => {
    expect(dullShare(still({}, { sets: 4, edgeLifeH: 10 }))).toBe(0);
    expect(dullShare(still({}, { sets: 2, edgeLifeH: 28 }))).toBe(0);
  });
  it('mows dull for as long as its sets are left on after their edge is gone', () => {
    const everyDay = { benchWeekdays: [1, 2, 3, 4, 5, 6, 7], benchBlades: 30 };
    const leftOn = still(everyDay, { sets: 6, edgeLifeH: 10, changedAfterH: 25 });
    expect(dullShare(leftOn)).toBeCloseTo(0.6, 2);
    const changed = simulateSeason(still(everyDay, { sets: 6, edgeLifeH: 10 }), 1);
    expect(simulateSeason(leftOn, 1).changes / changed.changes).toBeCloseTo(10 / 25, 1);
    // One that is changed before it is dull never mows dull.
    expect(dullShare(still(everyDay, { sets: 6, edgeLifeH: 10, changedAfterH: 6 }))).toBe(0);
  });
  it('is held up by the bench: blades ground are no more than its room allows', () => {
    const tight = simulateSeason(still({ benchBlades: 3 }, { sets: 3, edgeLifeH: 7 }), 1);
    expect(tight.grinds).toBe(3 * 30);
    // One set a week: seven sharp hours of twenty-eight once the first sets are used up.
    expect(tight.dullH / tight.mownH).toBeGreaterThan(0.7);
  });
  it('buys a blade after its last grind, and at no other time', () => {
    const { grinds, wornOut, boughtByMonth } = simulateSeason(still({ grindsPerBlade: 6 }), 1);
    expect(grinds).toBe(3 * 30);
    expect(wornOut).toBe(grinds / 6);
    expect(boughtByMonth.reduce((sum, each) => sum + each, 0)).toBe(wornOut);
    expect(boughtByMonth.length).toBe(seasonMonths(still()).length);
  });
  it('mows no hour on a weekday it does not mow, and none in the rain', () => {
    const week = simulateSeason(still({ mowingWeekdays: [1, 3, 5] }), 1);
    expect(week.mownH).toBe(30 * 3 * 4);
    const soaked = simulateSeason(still({ rain: steadyRain(1) }), 1);
    expect(soaked.mownH).toBe(0);
    expect(soaked.rainDays).toBe(210);
  });
});

describe('a season by chance', () => {
  /** Edges that end by chance alone, as strikes do. */
  const byChance = (sets: number): Season =>
    still({ edgeVariation: 1, days: 7 * 3000 }, { sets, edgeLifeH: 10 });

  it('is dull as often as periodic renewal says, with one set (Barlow & Proschan 1965, from memory)', () => {
    const between = 28;
    const expected = 1 - ((1 - Math.exp(-between / 10)) * 10) / between;
    const runs = [1, 2, 3, 4, 5].map((seed) => dullShare(byChance(1), seed));
    expect(mean(runs)).toBeCloseTo(expected, 2);
  });
  it('is dull as often as the gamma law of several edges one after the other says (jStat)', () => {
    // Sharp hours between two bench days are least(28, sum of n exponential lives of 10 h).
    for (const sets of [2, 3]) {
      const reach = 28 / 10;
      const sharp =
        10 *
        Array.from({ length: sets }, (_, k) => jstat.gamma.cdf(reach, k + 1, 1)).reduce(
          (sum, each) => sum + each,
          0,
        );
      const runs = [1, 2, 3, 4, 5].map((seed) => dullShare(byChance(sets), seed));
      expect(mean(runs))
        .withContext(`${sets} sets`)
        .toBeCloseTo(1 - sharp / 28, 2);
    }
  });
  it("keeps Little's law at the bench: sets lying there are their rate times how long each must lie", () => {
    const busy = still({
      mowers: Array.from({ length: 6 }, (_, i) => ({
        key: String(i),
        name: String(i),
        spindles: 3,
        sets: 3,
        hoursPerDay: 5,
        edgeLifeH: 12,
      })),
      days: 2000,
      benchWeekdays: [2, 5],
      benchBlades: 300,
      edgeVariation: 0.4,
      strikesPer1000H: 20,
    });
    const { heapDays, setsIn } = simulateSeason(busy, 3);
    expect(setsIn).toBeGreaterThan(1000);
    // The bench grinds all of the heap on Tuesdays and Fridays. Who comes at any time of the week waits the mean
    // residual of gaps of three and four days (renewal theory, inspection paradox): (3² + 4²) / (2 · 7) days, and
    // somewhat more since sets come during the day and the bench is done in the evening.
    const mustLieDays = (3 ** 2 + 4 ** 2) / (2 * 7);
    const lying = heapDays / 2000;
    const comingPerDay = setsIn / 2000;
    expect(lying / (comingPerDay * mustLieDays)).toBeGreaterThan(0.98);
    expect(lying / (comingPerDay * mustLieDays)).toBeLessThan(1.08);
  });
  it('strikes as often as it is told, and as unevenly as chance does (Poisson)', () => {
    const striking = still({ strikesPer1000H: 10, days: 250 }, { sets: 3 });
    const counts = Array.from({ length: 400 }, (_, seed) => simulateSeason(striking, seed).strikes);
    expect(mean(counts)).toBeGreaterThan(9.5);
    expect(mean(counts)).toBeLessThan(10.5);
    expect(variance(counts) / mean(counts)).toBeGreaterThan(0.8);
    expect(variance(counts) / mean(counts)).toBeLessThan(1.2);
  });
  it('stops a mower after a hard strike only while no set is ready', () => {
    const hard = { strikesPer1000H: 30, stopShare: 1, days: 700 };
    expect(simulateSeason(still(hard), 1).stoppedH).toBeGreaterThan(0);
    const plenty = still({ ...hard, benchWeekdays: [1, 2, 3, 4, 5, 6, 7] }, { sets: 12 });
    const many = simulateSeason(plenty, 1);
    expect(many.stoppedH).toBe(0);
    // Nor does a lane show one stopped where no hour was.
    expect(seasonLanes(plenty, 1).some(({ state }) => state === 'stopped')).toBeFalse();
    expect(many.strikes).toBeGreaterThan(50);
  });
  it('tells in a lane where the blades struck something, and only there', () => {
    const struck = seasonLanes(still({ strikesPer1000H: 20, days: 120 }, { sets: 40 }), 1).filter(
      ({ struck }) => struck,
    );
    expect(struck.length).toBeGreaterThan(5);
    // A set struck off comes off before its edge is used up, which takes the same days every time.
    const longest = Math.max(
      ...seasonLanes(still({ days: 120 }, { sets: 40 }), 1).map(
        ({ fromDay, toDay }) => toDay - fromDay,
      ),
    );
    expect(struck.every(({ fromDay, toDay }) => toDay - fromDay <= longest + 1e-9)).toBeTrue();
    expect(seasonLanes(still({ days: 120 }), 1).some(({ struck }) => struck)).toBeFalse();
  });
  it('is the same again from the same seed, and another from another', () => {
    const season = still({ edgeVariation: 0.5, strikesPer1000H: 10, rain: steadyRain(0.2) });
    expect(simulateSeason(season, 5)).toEqual(simulateSeason(season, 5));
    expect(simulateSeason(season, 5)).not.toEqual(simulateSeason(season, 6));
    expect(simulateSeasons(season, 20, 1)).toEqual(simulateSeasons(season, 20, 1));
  });
  it('meets the same weather whatever the choice', () => {
    const rain = steadyRain(0.3);
    const one = simulateSeason(still({ rain }), 9);
    const three = simulateSeason(still({ rain, edgeVariation: 0.5 }, { sets: 3 }), 9);
    expect(three.rainDays).toBe(one.rainDays);
    expect(three.mownH).toBeCloseTo(one.mownH, 9);
  });
  it('meets the same stones on the same edges whatever the choice, so that its own difference is seen', () => {
    const busy = (change: Partial<Season>, sets: number): Season =>
      still(
        {
          edgeVariation: 0.4,
          strikesPer1000H: 12,
          grindsPerBlade: 8,
          grindsVariation: 0.3,
          ...change,
        },
        { sets },
      );
    const seeds = Array.from({ length: 120 }, (_, i) => i);
    const run = (season: Season) => seeds.map((seed) => simulateSeason(season, seed));
    const now = run(busy({}, 2));
    for (const other of [run(busy({}, 3)), run(busy({ benchWeekdays: [2, 5] }, 2))]) {
      expect(other.map(({ strikes }) => strikes)).toEqual(now.map(({ strikes }) => strikes));
      const dull = (of: readonly SeasonOutcome[]): number[] => of.map(({ dullH }) => dullH);
      const apart = dull(other).map((each, i) => each - (dull(now)[i] ?? 0));
      // Apart from common chances the variances of both would add up.
      expect(variance(apart)).toBeLessThan(0.7 * (variance(dull(now)) + variance(dull(other))));
      const { dullShare } = seasonDifference(now, other, PRICES);
      expect(dullShare.mean).toBeLessThan(0);
      expect(dullShare.low).toBeLessThanOrEqual(dullShare.mean);
    }
    expect(() => seasonDifference(now, now.slice(1), PRICES)).toThrowError(
      /outcomes must be as many/,
    );
  });
  it('never mows more dull hours with another set, on the mean', () => {
    const dullMean = (sets: number): number =>
      simulateSeasons(still({ edgeVariation: 0.4, strikesPer1000H: 8 }, { sets }), 40, 1).dullShare
        .mean;
    const shares = [1, 2, 3, 4].map(dullMean);
    shares.slice(1).forEach((share, i) => {
      expect(share).toBeLessThanOrEqual(shares[i] ?? 0);
    });
  });
});

describe('lanes over a season', () => {
  it('lie end to end, one after the other, over the whole of it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 0, max: 999 }),
        (sets, seed) => {
          const season = still(
            { days: 60, edgeVariation: 0.5, strikesPer1000H: 25, stopShare: 0.4 },
            { sets },
          );
          const spans = seasonLanes(season, seed);
          expect(spans[0]?.fromDay).toBe(0);
          expect(spans.at(-1)?.toDay).toBeCloseTo(60, 9);
          spans.slice(1).forEach((span, i) => {
            expect(span.fromDay).toBeCloseTo(spans[i]?.toDay ?? NaN, 9);
            expect(span.toDay).toBeGreaterThan(span.fromDay);
          });
          const { dullH } = simulateSeason(season, seed);
          expect(dullH > 0).toBe(spans.some(({ state }) => state === 'dull'));
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('chances', () => {
  it('have the mean and the variation asked for (gamma, jStat)', () => {
    for (const variation of [0.3, 0.7, 1, 1.5]) {
      const chance = chanceFrom(11);
      const drawn = Array.from({ length: 20_000 }, () => chance.gamma(10, variation));
      expect(mean(drawn)).withContext(`mean at ${variation}`).toBeGreaterThan(9.6);
      expect(mean(drawn)).toBeLessThan(10.4);
      expect(standardDeviation(drawn) / mean(drawn)).toBeGreaterThan(variation * 0.95);
      expect(standardDeviation(drawn) / mean(drawn)).toBeLessThan(variation * 1.05);
    }
  });
});

describe('a season that cannot be', () => {
  it('is refused by the field that is wrong', () => {
    expect(() => simulateSeason(still({ days: 0 }), 1)).toThrowError(/days/);
    expect(() => simulateSeason(still({ days: 1.5 }), 1)).toThrowError(/days/);
    expect(() => simulateSeason(still({ mowers: [] }), 1)).toThrowError(/mowers/);
    expect(() => simulateSeason(still({}, { sets: 0 }), 1)).toThrowError(/sets/);
    expect(() => simulateSeason(still({}, { edgeLifeH: 0 }), 1)).toThrowError(/edgeLifeH/);
    expect(() => simulateSeason(still({}, { hoursPerDay: 25 }), 1)).toThrowError(/hoursPerDay/);
    expect(() => simulateSeason(still({ damageShare: 2 }), 1)).toThrowError(/damageShare/);
    expect(() => simulateSeason(still({ firstDay: 'spring' }), 1)).toThrowError(/firstDay/);
    expect(() => simulateSeasons(still(), 0, 1)).toThrowError(/seasons/);
  });
});
