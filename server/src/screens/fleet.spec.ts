import {
  type DeckFigures,
  type FleetView,
  type Problem,
  type SetOffer,
  type ShopAct,
  makeSafeFor,
} from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import type { DeckDueRow } from '../fleet/deck-due.model.js';
import { SPECS } from '../demo/specs.js';
import { TestShop } from '../testing/shop.js';
import { fleetView } from './fleet.js';

describe('the fleet', () => {
  let shop: TestShop;
  let deckId = '';
  beforeEach(async () => {
    shop = await TestShop.open();
    const deck = await shop.database.models.deck.findOne({ where: { mowerId: shop.mowerId } });
    deckId = deck?.id ?? '';
  });
  afterEach(() => shop.close());

  const act = (body: ShopAct) => shop.post<Problem>({ ...body, ...shop.envelope() });
  const fieldOf = async (body: ShopAct): Promise<string | undefined> =>
    (await act(body)).body.errors?.[0]?.field;
  const wordsOf = async (body: ShopAct): Promise<string> => (await act(body)).body.detail;
  const mower = async () => (await shop.get<FleetView>('/api/v1/fleet')).body.mowers[0]!;
  const figures = (change: Partial<DeckFigures> = {}): DeckFigures =>
    shop.deckFigures({
      boltTorque: { text: '75', unit: 'lbf·ft' },
      stack: ['cup washer', 'spacer 4 mm'],
      ...change,
    });
  const measured = (change: Partial<DeckFigures> = {}): ShopAct => ({
    type: 'set-deck',
    deckId,
    figures: figures(change),
  });
  const madeSafe = [...makeSafeFor('battery')];
  type Fit = Extract<ShopAct, { type: 'fit-set' }>;
  const setOn = (bladeIds: readonly string[], change: Partial<Fit> = {}): ShopAct => ({
    type: 'fit-set',
    deckId,
    hoursH: 100,
    madeSafe,
    blades: bladeIds.map((bladeId, i) => ({
      fitId: uuidv7(),
      spindleId: shop.spindleIds[i] ?? uuidv7(),
      bladeId,
    })),
    wingsToDeck: true,
    stackInOrder: true,
    torqued: true,
    ...change,
  });
  const pull = (change: Partial<Extract<ShopAct, { type: 'pull-set' }>> = {}): ShopAct => ({
    type: 'pull-set',
    deckId,
    hoursH: 100,
    place: 'Heap',
    madeSafe,
    found: [],
    ...change,
  });
  const aSet = async (): Promise<string[]> => [await shop.readyBlade(), await shop.readyBlade()];
  const stateOf = async (bladeId = '') =>
    (await shop.database.models.blade.findByPk(bladeId))?.state;

  it('keeps a deck as measured, torque in its own unit and in N·m, and judges new blades on it', async () => {
    expect((await act(measured())).status).toBe(200);
    const { deck } = await mower();
    expect(deck.figures?.stack).toEqual(['cup washer', 'spacer 4 mm']);
    // 1 lbf·ft is 1.355 818 N·m (NIST SP 811).
    expect(deck.torqueNm).toBeCloseTo(75 * 1.3558179, 4);
    expect(deck.pairs[0]?.clearanceMm).toBeCloseTo(545 - Math.hypot(533, 64), 0);
    expect(deck.faults).toEqual([
      jasmine.stringMatching(/^s0 and s1 leave a strip: 12\.0\smm short of 0\smm overlap$/),
    ]);
    expect(deck.tooFast).toBeFalse();
  });

  it('refuses a clash and says by how much, a spacing of zero, a spindle too few, a torque in grams', async () => {
    const near = figures().spindles.map((each, i) => ({ ...each, acrossMm: 530 * i }));
    const { body } = await act(measured({ spindles: near }));
    expect(body.errors?.[0]?.field).toBe('figures.specId');
    expect(body.detail).toMatch(/s0 and s1 come 1\d\.\d\smm too near/);
    const one = figures().spindles.map((each) => ({ ...each, acrossMm: 0 }));
    expect((await act(measured({ spindles: one }))).body.detail).toContain('above zero');
    expect(await fieldOf(measured({ spindles: figures().spindles.slice(1) }))).toBe(
      'figures.spindles',
    );
    expect(await fieldOf(measured({ boltTorque: { text: '75', unit: 'g' } }))).toBe(
      'figures.boltTorque.text',
    );
    expect((await mower()).deck.figures).toBeUndefined();
  });

  it('asks about a meter that runs backward, and goes on counting on a new one', async () => {
    const read = (hoursH: number, because?: 'new-meter'): ShopAct => ({
      type: 'read-hours',
      mowerId: shop.mowerId,
      hoursH,
      ...(because ? { because } : {}),
    });
    await shop.send(setOn(await aSet()));
    await shop.send(read(106));
    expect(await fieldOf(read(12))).toBe('hoursH');
    expect(await wordsOf(read(900))).toContain('h more than last read');
    await shop.send(read(12, 'new-meter'));
    await shop.send(read(15));
    const { hoursH, deck } = await mower();
    expect(hoursH).toBe(15);
    expect(deck.hoursOnEdge).toBeCloseTo(9, 9);
    // A second-hand meter that shows more than the mower ever ran.
    await shop.send(read(4, 'new-meter'));
    await shop.send(pull({ hoursH: 5 }));
    const fits = await shop.database.models.fit.findAll();
    expect(fits.map(({ fromHoursH, toHoursH }) => (toHoursH ?? 0) - fromHoursH)).toEqual([10, 10]);
  });

  it('undoes a meter that was misread: hours, edge and pace go on from the reading before it', async () => {
    const read = (hoursH: number, because?: 'misread-before'): ShopAct => ({
      type: 'read-hours',
      mowerId: shop.mowerId,
      hoursH,
      ...(because ? { because } : {}),
    });
    await shop.send(setOn(await aSet()));
    await shop.send(read(106));
    const standing = async () => {
      const row = await shop.database.models.deckDue.findOne();
      return { hoursH: row?.hoursH, pace: row?.hoursPerDay ?? 0 };
    };
    const { pace } = await standing();
    await shop.send(read(136));
    expect((await mower()).deck.hoursOnEdge).toBeCloseTo(36, 9);
    expect(await fieldOf(read(105, 'misread-before'))).toBe('hoursH');
    await shop.send(read(109, 'misread-before'));
    const { hoursH, deck } = await mower();
    expect(hoursH).toBe(109);
    expect(deck.hoursOnEdge).toBeCloseTo(9, 9);
    expect((await standing()).hoursH).toBe(109);
    // As if 106 and 109 were all that was ever read.
    expect((await standing()).pace).toBeCloseTo((9 / 6) * pace, 3);
    await shop.send(pull({ hoursH: 110 }));
    const fits = await shop.database.models.fit.findAll();
    expect(fits.map(({ fromHoursH, toHoursH }) => (toHoursH ?? 0) - fromHoursH)).toEqual([10, 10]);
  });

  it('a strike makes the deck due now and keeps it out of use until it is looked into', async () => {
    await shop.send(measured());
    await shop.send(setOn(await aSet()));
    expect((await mower()).deck.due?.state).toBe('later');
    const strikeId = uuidv7();
    await shop.send({
      type: 'report-strike',
      strikeId,
      mowerId: shop.mowerId,
      what: 'stone',
      hard: 'hard',
      vibration: true,
    });
    const { deck } = await mower();
    expect(deck.due).toEqual(jasmine.objectContaining({ state: 'now', because: 'strike' }));
    expect(deck.strike).toEqual(
      jasmine.objectContaining({
        strikeId,
        what: 'stone',
        hard: 'hard',
        vibration: true,
        stopUse: true,
      }),
    );
    await shop.send(pull());
    const next = setOn(await aSet());
    expect(await wordsOf(next)).toContain('look at spindle and mount first');
    // Nor does a single blade go on beside the guided way.
    const alone: ShopAct = {
      type: 'fit-blade',
      fitId: uuidv7(),
      bladeId: await shop.readyBlade(),
      spindleId: shop.spindleIds[0],
      hoursH: 100,
    };
    expect(await wordsOf(alone)).toContain('look at spindle and mount first');
    const clear = (spindleSound: boolean): ShopAct => ({
      type: 'clear-strike',
      strikeId,
      spindleSound,
      mountSound: true,
    });
    expect(await wordsOf(clear(false))).toContain('stays out of use');
    await shop.send(clear(true));
    expect((await act(clear(true))).status).toBe(409);
    await shop.send(next);
    expect((await mower()).deck.strike).toBeUndefined();
    expect((await mower()).deck.due?.state).toBe('later');
  });

  it('a complaint of the cut makes it due, until another set is on', async () => {
    await shop.send(setOn(await aSet()));
    const report = (signs: ('torn-tips' | 'haze')[]): ShopAct => ({
      type: 'report-cut',
      reportId: uuidv7(),
      mowerId: shop.mowerId,
      signs,
    });
    expect(await fieldOf(report([]))).toBe('signs');
    await shop.send(report(['torn-tips', 'haze']));
    const { deck } = await mower();
    expect([deck.due?.because, deck.due?.complaints]).toEqual(['complaint', 1]);
    await shop.send(pull());
    await shop.send(setOn(await aSet()));
    expect((await mower()).deck.due?.complaints).toBe(0);
  });

  it('a set comes off whole, made safe first, its hours on each blade', async () => {
    const set = await aSet();
    await shop.send(setOn(set));
    expect(await fieldOf(pull({ madeSafe: madeSafe.slice(1) }))).toBe('madeSafe');
    expect(await fieldOf(pull({ hoursH: 90 }))).toBe('hoursH');
    expect(await stateOf(set[0])).toBe('on-mower');
    const found = shop.spindleIds.map((spindleId) => ({
      spindleId,
      bolt: 'worn' as const,
      mount: 'sound' as const,
    }));
    await shop.send(pull({ hoursH: 108, found }));
    expect([await stateOf(set[0]), await stateOf(set[1])]).toEqual(['waiting', 'waiting']);
    expect((await mower()).deck.due).toBeUndefined();
    expect(await wordsOf(pull({ hoursH: 108 }))).toContain('no blade on it');
    const journal = await shop.database.models.journal.findAll({ where: { subjectId: set[0] } });
    expect(journal.at(-1)?.after).toEqual(jasmine.objectContaining({ bolt: 'worn' }));
  });

  it('a set goes on whole or not at all', async () => {
    await shop.send(measured());
    const [one = '', two = ''] = await aSet();
    const none = async (): Promise<void> => {
      expect(await shop.database.models.fit.count({ where: { to: null } })).toBe(0);
      expect((await shop.database.models.deckDue.findOne({ where: { deckId } }))?.bladesOn).toBe(0);
    };
    expect(await wordsOf(setOn([one]))).toContain('1 short of a set: none for s1');
    expect(await fieldOf(setOn([one, one]))).toBe('blades');
    expect(await fieldOf(setOn([one, two], { torqued: false }))).toBe('torqued');
    expect(await fieldOf(setOn([one, two], { wingsToDeck: false }))).toBe('wingsToDeck');
    const { bladeId } = await shop.newBlade();
    expect(await wordsOf(setOn([one, bladeId]))).toContain('has not been through the bench');
    for (const state of ['retired', 'hold'] as const) {
      await shop.database.connection.write(() =>
        shop.database.models.blade.update({ state }, { where: { id: bladeId } }),
      );
      expect(await wordsOf(setOn([one, bladeId]))).toContain(
        state === 'hold' ? 'on hold' : 'retired',
      );
    }
    await none();
    await shop.send(setOn([one, two]));
    expect(await wordsOf(setOn(await aSet()))).toContain('has a blade on it');
    expect((await mower()).deck.spindles.map(({ blade }) => blade?.bladeId)).toEqual([one, two]);
  });

  it('never mixes hands on one deck, nor blades that would strike each other', async () => {
    await shop.send(
      measured({ spindles: figures().spindles.map((each, i) => ({ ...each, acrossMm: 550 * i })) }),
    );
    const [spec] = SPECS;
    const other = async (change: object): Promise<string> => {
      const specId = uuidv7();
      const named = { ...spec!, ...change, name: specId };
      await shop.send({ type: 'add-spec', specId, specRevisionId: uuidv7(), figures: named });
      const { blades } = await shop.send({ type: 'register-blades', specId, count: 1 });
      const bladeId = blades?.[0]?.bladeId ?? '';
      await shop.database.connection.write(() =>
        shop.database.models.blade.update({ state: 'ready' }, { where: { id: bladeId } }),
      );
      return bladeId;
    };
    const one = await shop.readyBlade();
    expect(await wordsOf(setOn([one, await other({ hand: 'left' })]))).toContain('of both hands');
    const long = await other({ newLengthMm: 570 });
    expect(await wordsOf(setOn([one, long]))).toMatch(
      /strike each other: s0 and s1 come \d+\.\d\smm/,
    );
    await shop.send({
      type: 'fit-blade',
      fitId: uuidv7(),
      bladeId: one,
      spindleId: shop.spindleIds[0],
      hoursH: 100,
    });
    const single = { type: 'fit-blade', fitId: uuidv7(), bladeId: long, hoursH: 100 } as const;
    const leftHand = { ...single, bladeId: await other({ hand: 'left' }) };
    expect(await wordsOf({ ...leftHand, spindleId: shop.spindleIds[1] })).toContain(
      'of the other hand',
    );
    expect(await wordsOf({ ...single, spindleId: shop.spindleIds[1] })).toContain(
      'strike each other',
    );
  });

  it('offers the ready blades most alike, or says how many are short', async () => {
    const offer = async () => (await shop.get<SetOffer>(`/api/v1/decks/${deckId}/offer`)).body;
    expect((await offer()).refused).toContain('measure it first');
    await shop.send(measured());
    expect((await offer()).refused).toContain('2 short of a set');
    const [one, two] = [await shop.openCycle(), await shop.openCycle()];
    for (const [cycle, mass] of [
      [one, '1592.0'],
      [two, '1594.0'],
    ] as const) {
      await cycle.inspectClean();
      await cycle.measure('before');
      await cycle.grind();
      await cycle.balance();
      await cycle.measure('after', { mass, width: '61.5', land: '0.15' });
      await cycle.lightTests();
      await cycle.do({ type: 'sign-off', outcome: 'ready' });
    }
    // A new blade is wider and heavier than the two that were ground alike.
    await shop.readyBlade();
    const { blades, worst, refused } = await offer();
    expect(new Set(blades.map(({ bladeId }) => bladeId))).toEqual(
      new Set([one.bladeId, two.bladeId]),
    );
    expect(worst).toBeCloseTo(2 / 25, 9);
    expect(refused).toBeUndefined();
    expect(
      (await shop.get('/api/v1/decks/018f0000-0000-7000-8000-000000000001/offer')).status,
    ).toBe(404);
  });

  it('takes into the set what was picked by its code, and refuses on the spot what does not belong on the deck', async () => {
    await shop.send(measured());
    const ready = [await shop.readyBlade(), await shop.readyBlade(), await shop.readyBlade()];
    const codeOf = async (bladeId: string): Promise<string> =>
      (await shop.database.models.bladeCode.findOne({ where: { bladeId } }))?.code ?? '';
    const offer = async (...codes: string[]) =>
      shop.get<SetOffer & Problem>(`/api/v1/decks/${deckId}/offer?with=${codes.join(',')}`);
    const last = await codeOf(ready[2] ?? '');
    expect((await offer(last)).body.blades[0]?.bladeId).toBe(ready[2]);
    const why = async (...codes: string[]): Promise<string> =>
      (await offer(...codes)).body.errors?.[0]?.message ?? '';
    expect(await why(last, last)).toContain('twice');
    const { bladeId } = await shop.newBlade();
    expect(await why(last, await codeOf(bladeId))).toContain('has not been through the bench');
    const [spec] = SPECS;
    const specId = uuidv7();
    const longer = { ...spec!, name: 'Long one', newLengthMm: spec!.newLengthMm + 12 };
    await shop.send({ type: 'add-spec', specId, specRevisionId: uuidv7(), figures: longer });
    const { blades } = await shop.send({ type: 'register-blades', specId, count: 1 });
    await shop.database.connection.write(() =>
      shop.database.models.blade.update(
        { state: 'ready' },
        { where: { id: blades?.[0]?.bladeId ?? '' } },
      ),
    );
    expect(await why(blades?.[0]?.code ?? '')).toMatch(/is a Long one: 12\smm too long/);
  });

  it('offers the best match for a blade that is missing from a set, and says when none is', async () => {
    await shop.send(measured());
    const replacement = async () =>
      (await shop.get<SetOffer>(`/api/v1/decks/${deckId}/replacement`)).body;
    const set = await aSet();
    await shop.send(setOn(set));
    expect((await replacement()).refused).toBe('Every spindle has its blade.');
    await shop.send({ type: 'bring-in', bladeId: set[1] ?? '', place: 'Heap', hoursH: 101 });
    expect((await replacement()).refused).toContain('1 short of a set: 0 of 1 ready');
    const spare = await shop.readyBlade();
    const { blades, refused, spread } = await replacement();
    expect(refused).toBeUndefined();
    expect(blades.map(({ bladeId }) => bladeId)).toEqual([spare]);
    expect(spread?.lengthMm).toBe(0);
    await shop.send({
      type: 'fit-blade',
      fitId: uuidv7(),
      bladeId: spare,
      spindleId: shop.spindleIds[1],
      hoursH: 101,
    });
    expect((await replacement()).refused).toBe('Every spindle has its blade.');
  });

  it('names the shop day a set is due on, across the night the clocks change', async () => {
    await shop.send({ type: 'name-shop', name: 'Test', timeZone: 'Europe/London' });
    await shop.send(setOn(await aSet()));
    const { models, connection } = shop.database;
    const stand = (row: Partial<DeckDueRow>) =>
      connection.write(() => models.deckDue.update(row, { where: { deckId } }));
    // 5 of 10 h used at 2 h a day: two and a half days on from Friday evening is Sunday or later, never Saturday.
    await stand({ fittedAt: '2026-03-20T08:00:00Z', fittedAtH: 100, hoursH: 105, hoursPerDay: 2 });
    const at = async (now: string) => fleetView(shop.database, new Date(now));
    const spring = await at('2026-03-27T23:30:00Z');
    expect(spring.today).toBe('2026-03-27');
    expect(spring.mowers[0]?.deck.due?.dueOn).toBe('2026-03-29');
    const after = await at('2026-03-29T23:30:00Z');
    // Half past midnight in summer time already.
    expect(after.today).toBe('2026-03-30');
    expect(after.mowers[0]?.deck.due?.dueOn).toBe('2026-04-01');
    expect(after.benchDays.slice(0, 2).map(({ day }) => day)).toEqual(['2026-03-31', '2026-04-02']);
    expect(after.mowers[0]?.deck.due?.benchOn).toBe('2026-03-31');
    const autumn = await at('2026-10-25T00:30:00Z');
    expect(autumn.today).toBe('2026-10-25');
  });

  it('keeps in its one row what history says, whatever came', async () => {
    await shop.send(setOn(await aSet()));
    await shop.send({ type: 'read-hours', mowerId: shop.mowerId, hoursH: 104 });
    await shop.send({
      type: 'report-cut',
      reportId: uuidv7(),
      mowerId: shop.mowerId,
      signs: ['haze'],
    });
    await shop.send(pull({ hoursH: 106 }));
    const set = await aSet();
    await shop.send(setOn(set, { hoursH: 106 }));
    await shop.send({ type: 'bring-in', bladeId: set[0] ?? '', place: 'Heap', hoursH: 109 });
    const { models } = shop.database;
    const [row, fits, meters] = await Promise.all([
      models.deckDue.findOne({ where: { deckId } }),
      models.fit.findAll({ where: { to: null } }),
      models.hourMeterSegment.findAll({ where: { to: null } }),
    ]);
    expect(row).toEqual(
      jasmine.objectContaining({
        bladesOn: fits.length,
        fittedAtH: fits[0]?.fromHoursH,
        fittedAt: fits[0]?.from,
        hoursH: (meters[0]?.carriedH ?? NaN) + (meters[0]?.lastReadingH ?? NaN),
        complaints: 0,
        struck: false,
      }),
    );
  });
});
