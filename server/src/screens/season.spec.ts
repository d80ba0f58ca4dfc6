import {
  DEFAULT_RULES,
  type AheadView,
  type DeckFigures,
  type SeasonView,
  type ShopRules,
} from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { SPECS } from '../demo/specs.js';
import { TestShop } from '../testing/shop.js';
import { seasonView } from './season.js';

describe('the shop as a season starts from it', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const view = async (): Promise<SeasonView> => (await shop.get<SeasonView>('/api/v1/season')).body;
  const interval = (rule: ShopRules['interval']): Promise<unknown> =>
    shop.send({ type: 'set-rules', rules: { ...DEFAULT_RULES, interval: rule } });
  const measured = (duty: DeckFigures['duty']): Promise<void> => shop.measureDeck({ duty });

  it('takes usual figures while there is no history, and says so', async () => {
    const { season, sources } = await view();
    expect(season.mowers.map(({ name, spindles, sets }) => [name, spindles, sets])).toEqual([
      ['Wagtail', 2, 1],
    ]);
    expect(season.strikesPer1000H).toBe(6);
    expect(sources.find(({ what }) => what === 'Strikes')?.words).toContain('too short to tell');
    expect(sources.find(({ what }) => what === 'Grinds a blade lasts')?.words).toContain('usual');
  });

  it('counts the sets that blades in use make, and an edge’s life by the interval and the site', async () => {
    await measured({ turf: 'coarse', soil: 'sandy' });
    await shop.send({ type: 'register-blades', specId: shop.specId, count: 7 });
    await interval({ kind: 'hours', hours: 24 });
    const [mower] = (await view()).season.mowers;
    // Seven blades over two spindles are three sets; 24 h on soft turf are 10 on coarse and sandy.
    expect(mower?.sets).toBe(3);
    expect(mower?.edgeLifeH).toBe(10);
    await interval({ kind: 'days', days: 7 });
    const weekly = (await view()).season.mowers[0];
    expect(weekly?.edgeLifeH).toBe((weekly?.hoursPerDay ?? 0) * 5);
    await interval({ kind: 'when-shown' });
    expect((await view()).sources.find(({ what }) => what.includes('edge'))?.words).toContain(
      'ten hours on soft turf',
    );
  });

  it('prices blades by the mean of those in use, each spec by its own where it has one', async () => {
    const { blade } = DEFAULT_RULES.prices;
    expect((await view()).prices.blade).toBe(blade);
    await shop.send({ type: 'register-blades', specId: shop.specId, count: 3 });
    const [figures] = SPECS;
    if (!figures) throw new Error('no spec to test with');
    const specId = uuidv7();
    const named = { ...figures, name: 'Dear one' };
    await shop.send({ type: 'add-spec', specId, specRevisionId: uuidv7(), figures: named });
    await shop.send({ type: 'register-blades', specId, count: 1 });
    const prices = { ...DEFAULT_RULES.prices, bladeOf: { [specId]: blade + 8 } };
    await shop.send({ type: 'set-rules', rules: { ...DEFAULT_RULES, prices } });
    expect((await view()).prices.blade).toBe(blade + 2);
    const ahead = (await shop.get<AheadView>('/api/v1/ahead')).body;
    expect(ahead.outlooks.rule.specs.find((each) => each.specId === specId)?.price).toBe(blade + 8);
  });

  it('tells strikes of its own once it has mowed enough', async () => {
    const bladeId = await shop.readyBlade();
    const [spindleId] = shop.spindleIds;
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH: 100 });
    for (let i = 0; i < 6; i++) {
      await shop.send({
        type: 'report-strike',
        strikeId: uuidv7(),
        mowerId: shop.mowerId,
        what: 'stone',
        hard: i < 3 ? 'hard' : 'glanced',
        vibration: false,
      });
    }
    // On a clock of the test's own, since nobody mows 600 h in a minute.
    await shop.database.connection.write(async () => {
      const { models } = shop.database;
      await models.fit.update(
        { to: new Date().toISOString(), toHoursH: 700 },
        { where: { bladeId, to: null } },
      );
    });
    const { season, sources } = await view();
    // One of two spindles: 600 blade hours are 300 of the mower's.
    expect(season.strikesPer1000H).toBe(20);
    expect(season.stopShare).toBe(0.5);
    expect(sources.find(({ what }) => what === 'Strikes')?.words).toBe(
      '6 reported in 300 mown hours, 3 of them hard',
    );
  });

  it('starts on the last Monday of March that is ahead', async () => {
    const first = async (now: string): Promise<string> =>
      (await seasonView(shop.database, new Date(now))).season.firstDay;
    expect(await first('2026-11-25T10:00:00Z')).toBe('2027-03-29');
    expect(await first('2027-02-01T10:00:00Z')).toBe('2027-03-29');
    expect(await first('2027-06-01T10:00:00Z')).toBe('2028-03-27');
  });
});
