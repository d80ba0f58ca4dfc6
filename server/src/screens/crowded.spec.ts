import type { BladeState } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';
import { sampleOfBlades } from '../wear/lifetime.js';
import { bench } from './blade-rows.js';
import { rackView } from './rack.js';
import { inRackFor, setOffers } from './set-offer.js';
import { shiftView } from './shift.js';

describe('a shop of more blades than a screen shows', () => {
  let shop: TestShop;
  let serial = 50_000;
  beforeEach(async () => {
    shop = await TestShop.open();
    await shop.measureDeck();
  });
  afterEach(() => shop.close());

  /** So many blades of a state, as though they had come and gone for years; gives their ids. */
  async function many(count: number, state: BladeState): Promise<string[]> {
    const { blade, bladeCode } = shop.database.models;
    const ids = Array.from({ length: count }, () => uuidv7());
    const waits = state === 'waiting';
    await blade.bulkCreate(
      ids.map((id, i) => ({
        id,
        specId: shop.specId,
        state,
        place: 'Rack',
        grinds: 0,
        createdAt: '2026-01-01T08:00:00.000Z',
        waitingSince: waits ? `2026-02-${String(1 + (i % 28)).padStart(2, '0')}T08:00:00Z` : null,
        lastLengthMm: null,
        trimmedAt: null,
        knownFrom: 'new' as const,
        intakeId: null,
      })),
    );
    await bladeCode.bulkCreate(
      ids.map((bladeId) => ({
        code: `X${(serial += 1)}`,
        serial,
        bladeId,
        from: '2026-01-01T08:00:00.000Z',
        to: null,
      })),
    );
    return ids;
  }

  it('shows what waits at the bench, in the heap and for the shift, however many are new or ready', async () => {
    await many(520, 'new');
    await many(430, 'ready');
    await many(450, 'waiting');
    const atBench = await bench(shop.database);
    expect(atBench.waiting.filter(({ state }) => state === 'waiting').length).toBe(300);
    const since = atBench.waiting
      .filter(({ state }) => state === 'waiting')
      .map(({ waitingSince = '' }) => waitingSince);
    expect(since).toEqual([...since].sort());
    expect(atBench.counts).toEqual(
      jasmine.objectContaining({ waiting: 970, onHold: 0, ready: 430, all: 1400 }),
    );

    const rack = await rackView(shop.database);
    expect(rack.ready.length).toBe(400);
    expect(rack.waiting.some(({ state }) => state === 'waiting')).toBeTrue();
    expect(rack.counts).toEqual({ waiting: 970, atBench: 0, ready: 430, hold: 0, retired: 0 });
    const onWall = new Set(rack.ready.map(({ bladeId }) => bladeId));
    for (const { blades } of rack.sets)
      expect(blades.every(({ bladeId }) => onWall.has(bladeId))).toBeTrue();

    const { heap, left } = await shiftView(shop.database, new Date('2026-11-04T08:00:00Z'));
    const inHeap = heap.flatMap(({ blades }) => blades);
    expect(inHeap.filter(({ state }) => state === 'waiting').length).toBe(400);
    expect(left).toBeLessThanOrEqual(450);
  });

  it('matches sets for as many blades as the wall shows, and tells the other mowers only where too few are left', async () => {
    await shop.oneMoreMower('Heron');
    await shop.oneMoreMower('Coot');
    for (let i = 0; i < 5; i++) await shop.readyBlade();
    const { models } = shop.database;
    const decks = await models.deck.findAll({ include: ['spindles'] });
    const offered = async (most: number) => {
      const offers = await setOffers(
        shop.database,
        decks.map((deck) => ({
          ...deck.get(),
          figures: deck.figures,
          spindles: deck.spindles ?? [],
        })),
        { pegs: [], inRack: await inRackFor(models), most },
      );
      return decks.map(({ id }) => {
        const offer = offers.get(id);
        return offer && (offer.refused ?? offer.blades.length);
      });
    };
    const short = '1 short of a set: 1 of 2 ready in the rack.';
    expect(await offered(400)).toEqual([2, 2, short]);
    expect(await offered(2)).toEqual([2, undefined, short]);
  });

  it('asks blades of few and of many grinds alike how long they last', async () => {
    const ids = await many(300, 'ready');
    const { models } = shop.database;
    for (const [i, id] of ids.entries())
      await models.blade.update({ grinds: 1 + (i % 100) }, { where: { id } });
    const asked = await sampleOfBlades(models);
    const mean = asked.reduce((sum, { grinds }) => sum + grinds, 0) / asked.length;
    expect(asked.length).toBe(60);
    // Of 1 to 100 the mean of sixty lies within 50 ± 16, in all but one of a hundred thousand draws.
    expect(Math.abs(mean - 50.5)).toBeLessThan(16);
  });

  it('has in the scrap bin those that were retired last, the last first', async () => {
    const last: string[] = [];
    for (let i = 0; i < 2; i++) {
      const cycle = await shop.openCycle();
      await cycle.inspectClean('12.0');
      await cycle.do({
        type: 'sign-off',
        outcome: 'retired',
        retireReason: 'bend',
        disposal: 'cut',
      });
      last.unshift(cycle.bladeId);
    }
    await many(30, 'retired');
    const { retired, counts } = await rackView(shop.database);
    expect(retired.length).toBe(24);
    expect(retired.slice(0, 2).map(({ bladeId }) => bladeId)).toEqual(last);
    expect(counts.retired).toBe(32);
  });
});
