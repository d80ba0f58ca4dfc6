import {
  seasonCost,
  seasonDifference,
  simulateSeason,
  simulateSeasons,
  type Season,
} from '@tally-stone/core';
import {
  answerWords,
  asItStands,
  choiceWords,
  EVERY_MOWER,
  seasonUnder,
  withSpindles,
  type Choice,
} from './choice';
import { SeasonFigures } from './season-rows';

const mower = (name: string, spindles: number, sets: number): Season['mowers'][number] => ({
  key: name,
  name,
  spindles,
  sets,
  hoursPerDay: 4,
  edgeLifeH: 10,
});
export const SEASON: Season = {
  mowers: [mower('Heron', 3, 2), mower('Teal', 3, 2), mower('Hazel', 1, 4)],
  firstDay: '2027-03-29',
  days: 60,
  mowingWeekdays: [1, 2, 3, 4, 5],
  benchWeekdays: [2],
  benchBlades: 12,
  edgeVariation: 0,
  strikesPer1000H: 0,
  damageShare: 0,
  stopShare: 0,
  grindsPerBlade: 100,
  grindsVariation: 0,
  startWorn: false,
};
const choice = (change: Partial<Choice> = {}): Choice => ({ ...asItStands(SEASON), ...change });

const figures = new SeasonFigures(
  { number: (value, digits = 0) => value.toFixed(digits) },
  (amount) => `£${amount}`,
);

describe('a choice for the season', () => {
  it('changes the sets of those it is for, and never below one', () => {
    const more = seasonUnder(SEASON, choice({ moreSets: 1, forWhich: withSpindles(3) }));
    expect(more.mowers.map(({ sets }) => sets)).toEqual([3, 3, 4]);
    const fewer = seasonUnder(SEASON, choice({ moreSets: -3, forWhich: EVERY_MOWER }));
    expect(fewer.mowers.map(({ sets }) => sets)).toEqual([1, 1, 1]);
    const one = seasonUnder(SEASON, choice({ moreSets: 2, forWhich: 'Hazel' }));
    expect(one.mowers.map(({ sets }) => sets)).toEqual([2, 2, 6]);
  });
  it('says itself in words', () => {
    expect(choiceWords(SEASON, choice())).toBe('');
    expect(choiceWords(SEASON, choice({ moreSets: 1, forWhich: withSpindles(3) }))).toBe(
      'a third set for the three-spindle decks',
    );
    expect(choiceWords(SEASON, choice({ moreSets: 1 }))).toBe('1 more set for every mower');
    expect(
      choiceWords(
        SEASON,
        choice({ benchWeekdays: [2, 4], edgeLifePercent: 120, strikesPercent: 50 }),
      ),
    ).toBe('the bench on Thursday too, 20 % more hours out of an edge and 50 % fewer strikes');
    expect(choiceWords(SEASON, choice({ benchWeekdays: [], benchBlades: 20 }))).toBe(
      'no bench on Tuesday and 20 blades a bench day instead of 12',
    );
  });
  it('answers in words first', () => {
    const prices = {
      blade: 20,
      minutesPerBlade: 12,
      benchHour: 30,
      abrasivePerGrind: 0.3,
      dullHour: 6,
      stoppedHour: 40,
    };
    const compared = [choice(), choice({ id: 1, moreSets: 1, forWhich: withSpindles(3) })].map(
      (each) => {
        const summary = simulateSeasons(seasonUnder(SEASON, each), 2, 1);
        const seasons = (of: Season) => [1, 2].map((seed) => simulateSeason(of, seed));
        const apart = seasonDifference(
          seasons(seasonUnder(SEASON, choice())),
          seasons(seasonUnder(SEASON, each)),
          prices,
        );
        return { choice: each, summary, cost: seasonCost(summary, prices), apart };
      },
    );
    const words = answerWords(SEASON, compared, figures);
    expect(words).toMatch(
      /^A third set for the three-spindle decks takes dull hours from [\d.]+ % to [\d.]+ %, (and a season costs £\d+ less|for £\d+ more a season)$/,
    );
    expect(answerWords(SEASON, compared.slice(0, 1), figures)).toContain('As the shop stands');
    const first = compared[0];
    if (!first) throw new Error('nothing is compared');
    const same = { ...first, choice: choice({ id: 2, moreSets: 1 }) };
    const dearer = { ...same, cost: { ...same.cost, total: same.cost.total + 12.4 } };
    const cheaper = { ...same, cost: { ...same.cost, total: same.cost.total - 30 } };
    expect(answerWords(SEASON, [first, dearer], figures)).toMatch(
      /^As it stands is best: [\d.]+ % of the hours are mown dull; 1 more set for every mower changes nothing of that and costs £12 more a season$/,
    );
    const leftOn = {
      ...SEASON,
      mowers: SEASON.mowers.map((each) => ({ ...each, changedAfterH: 2 * each.edgeLifeH })),
    };
    expect(answerWords(leftOn, [first, dearer], figures)).toContain(
      'Sets stay on longer than their edges last, so',
    );
    // Of two that do nothing for the edges the cheaper one is told.
    expect(answerWords(SEASON, [first, dearer, cheaper], figures)).toMatch(
      /^1 more set for every mower keeps dull hours at [\d.]+ %, and a season costs £30 less$/,
    );
    const worse = {
      ...same,
      summary: { ...same.summary, dullShare: { ...same.summary.dullShare, mean: 0.9 } },
    };
    expect(answerWords(SEASON, [first, worse], figures)).toContain(
      'does not help: dull hours go from',
    );
  });
});
