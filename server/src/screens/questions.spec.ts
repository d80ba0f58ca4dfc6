import { makeSafeFor } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { historyOf, lastReadAt } from '../cycle/history.js';
import { lastReadingsOf } from '../cycle/many-histories.js';
import { openDatabase, type Database } from '../database.js';
import { previewLimits } from '../spec/limits.js';
import type { TestCycle } from '../testing/shop.js';
import { TestShop } from '../testing/shop.js';
import { listPeople } from '../people/people.js';
import { cycleAt, shopFacts } from '../cycle/facts.js';
import { listSpecs } from '../spec/specs.js';
import { aheadView } from './ahead.js';
import { batchView } from './batch.js';
import { bench } from './blade-rows.js';
import { cycleView } from './cycle.js';
import { fleetView } from './fleet.js';
import { bladeLife } from './life.js';
import { rackView } from './rack.js';
import { seasonView } from './season.js';
import { shiftView } from './shift.js';
import { shopView } from './shop.js';

describe('what a screen asks of the database', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
    await shop.measureDeck();
  });
  afterEach(() => shop.close());

  /** Questions asked by a server that has just started and knows no more than how the shop works. */
  async function questions(view: (database: Database) => Promise<unknown>): Promise<number> {
    const database = await openDatabase(shop.database.connection.file);
    await Promise.all([shopFacts(database), listPeople(database), listSpecs(database)]);
    const asked = spyOn(database.connection.sequelize, 'query').and.callThrough();
    await view(database);
    const count = asked.calls.count();
    await database.connection.close();
    return count;
  }

  it('is no more for the rack, the mowers and a change of limits with five mowers than with one', async () => {
    const limits = (await shop.get<{ figures: { limits: [] } }[]>('/api/v1/specs')).body[0]!.figures
      .limits;
    const asked = async () => ({
      rack: await questions(rackView),
      mowers: await questions((database) => fleetView(database)),
      limits: await questions((database) => previewLimits(database, shop.specId, { limits })),
    });
    await shop.readyBlade();
    await shop.readyBlade();
    const few = await asked();
    for (let nth = 1; nth <= 4; nth++) {
      await shop.oneMoreMower(`Mower ${nth}`);
      await shop.readyBlade();
      await shop.readyBlade();
    }
    const rack = await rackView(shop.database);
    expect(rack.sets.map(({ blades }) => blades.length)).toEqual([2, 2, 2, 2, 2]);
    expect(new Set(rack.sets.flatMap(({ blades }) => blades.map(({ code }) => code))).size).toBe(
      10,
    );
    expect(await asked()).toEqual(few);
  });

  it('is at most eight for the facts of a command, and ten for a screen, however many blades it shows', async () => {
    const [deck] = await shop.database.models.deck.findAll();
    const cycles: TestCycle[] = [];
    for (let i = 0; i < 5; i++) {
      const cycle = await shop.openCycle();
      await cycle.upToSignOff();
      await cycle.do({ type: 'sign-off', outcome: 'ready' });
      cycles.push(cycle);
    }
    const [first, second] = cycles.map(({ bladeId }) => bladeId);
    await shop.send({
      type: 'fit-set',
      deckId: deck!.id,
      blades: [first!, second!].map((bladeId, i) => ({
        fitId: uuidv7(),
        spindleId: shop.spindleIds[i]!,
        bladeId,
      })),
      madeSafe: [...makeSafeFor('battery')],
      wingsToDeck: true,
      stackInOrder: true,
      torqued: true,
      hoursH: 110,
    });
    const taken: TestCycle[] = [];
    for (let i = 0; i < 4; i++) {
      const cycle = await shop.openCycle();
      await cycle.inspectClean();
      taken.push(cycle);
    }
    await shop.send({
      type: 'make-batch',
      batchId: uuidv7(),
      bladeIds: taken.map(({ bladeId }) => bladeId),
    });
    const [open, signed] = [taken[0]!.cycleId, cycles[4]!.cycleId];
    for (const cycleId of [open, signed])
      expect(await questions((database) => cycleAt(database, cycleId))).toBeLessThanOrEqual(8);
    const views: Record<string, (database: Database) => Promise<unknown>> = {
      bench,
      rack: rackView,
      mowers: fleetView,
      batch: batchView,
      'a cycle': (database) => cycleView(database, open),
      'a signed cycle': (database) => cycleView(database, signed),
      'a blade on a mower': (database) => bladeLife(database, first!),
      'this shift': shiftView,
      ahead: aheadView,
      season: seasonView,
      shop: shopView,
    };
    for (const [name, view] of Object.entries(views))
      expect(await questions(view))
        .withContext(name)
        .toBeLessThanOrEqual(10);
  });

  it('says of many blades at once what it says of each alone, corrections included', async () => {
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const weighed = (
      await shop.database.models.reading.findAll({
        where: { cycleId: cycle.cycleId, quantity: 'mass', phase: 'after' },
      })
    )[0]!;
    const corrected = await shop.post({
      ...shop.envelope(),
      type: 'correct-reading',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      readingId: weighed.id,
      entered: { text: '1591.0', unit: 'g' },
      reason: 'misread',
    });
    expect(corrected.status).toBe(200);
    // A second cycle that weighs nothing: the last mass is looked up further back.
    const again = await shop.openCycleOf(cycle.bladeId);
    await again.inspectClean();
    await again.read('before', 'width', '61.2', { end: 'A', stationKey: 'tip' });
    await again.do({ type: 'sign-off', outcome: 'hold' });
    await shop.newBlade();
    const { models } = shop.database;
    const blades = await models.blade.findAll();
    const together = await lastReadingsOf(
      models,
      blades.map(({ id }) => id),
    );
    const mass = { quantity: 'mass', key: 'mass:-:-' } as const;
    const width = { quantity: 'width', key: 'width:A:tip' } as const;
    const values = await lastReadAt(models, blades, [mass, width]);
    const valueAt = (key: string) => values.get(cycle.bladeId)?.last.get(key)?.value;
    expect([valueAt(mass.key), valueAt(width.key)]).toEqual([1591, 61.2]);
    for (const blade of blades) {
      const { id } = blade;
      const { last: alone } = await historyOf(shop.database, blade);
      expect(together.get(id)?.last).toEqual(alone);
      for (const { key } of [mass, width])
        expect(values.get(id)?.last.get(key)).toEqual(alone.get(key));
    }
  });

  it('is four questions and one transaction for a reading at the bench, the new view in its answer', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    const asked = spyOn(shop.database.connection.sequelize, 'query').and.callThrough();
    await cycle.read('before', 'mass', '1600.0');
    const questions = asked.calls.allArgs().map(([sql]) => (typeof sql === 'string' ? sql : ''));
    const count = (start: string): number =>
      questions.filter((sql) => sql.trimStart().startsWith(start)).length;
    expect(count('BEGIN')).toBe(1);
    expect(count('SELECT')).toBeLessThanOrEqual(4);
  });
});
