import { makeSafeFor, type BladeView, type FleetView } from '@tally-stone/contract';
import { QueryTypes } from 'sequelize';
import { v7 as uuidv7 } from 'uuid';
import { SPECS } from '../demo/specs.js';
import { TestShop, type TestCycle } from '../testing/shop.js';
import { completeCorrections } from './corrections.js';

describe('a correction', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());

  it('is a new record beside the signed one, and a worse verdict puts the blade on hold', async () => {
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    const readingOf = async (key: string): Promise<string> =>
      (await cycle.view()).slots.find((slot) => slot.key === key)?.taken?.readingId ?? '';
    const readingId = await readingOf('after:width:A:tip');
    const correct = (text: string) =>
      shop.post({
        ...shop.envelope(),
        type: 'correct-reading',
        correctionId: uuidv7(),
        cycleId: cycle.cycleId,
        readingId,
        entered: { text, unit: 'mm' },
        reason: 'misread',
      });
    expect((await correct('61')).status).toBe(409);
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    expect((await correct('about sixty')).status).toBe(422);
    expect((await correct('61.2')).status).toBe(200);
    const blade = async () => (await cycle.view()).blade.state;
    expect(await blade()).toBe('ready');
    expect((await correct('45.0')).status).toBe(200);
    expect(await blade()).toBe('hold');
    const { corrections, slots, now } = await cycle.view();
    expect(corrections.map(({ was, value }) => [was, value])).toEqual([
      [61.5, 61.2],
      [61.5, 45],
    ]);
    expect(slots.find(({ key }) => key === 'after:width:A:tip')?.taken?.value).toBe(61.5);
    expect(now.verdict).not.toBe('retire');
  });

  it('keeps the mower from being run that its blade is on, and a newer cycle from being held up', async () => {
    const [mower] = (await shop.get<FleetView>('/api/v1/fleet')).body.mowers;
    const spindleId = mower?.deck.spindles[0]?.spindleId ?? '';
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const correct = async (of: TestCycle, text: string) => {
      const { slots } = await of.view();
      const key = 'after:width:A:tip';
      await shop.send({
        type: 'correct-reading',
        correctionId: uuidv7(),
        cycleId: of.cycleId,
        readingId: slots.find((slot) => slot.key === key)?.taken?.readingId ?? '',
        entered: { text, unit: 'mm' },
        reason: 'misread',
      });
    };
    const { bladeId } = cycle;
    const hoursH = mower?.hoursH ?? 0;
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH });
    await correct(cycle, '45.0');
    const { blade, corrected } = await cycle.view();
    expect([blade.state, blade.place.includes(mower?.name ?? '-')]).toEqual(['hold', true]);
    expect(corrected?.widths.A[0]?.widthMm).toBeCloseTo(45, 9);
    const fleet = (await shop.get<FleetView>('/api/v1/fleet')).body;
    const held = fleet.mowers.find(({ mowerId }) => mowerId === mower?.mowerId)?.deck.held;
    expect(held).toEqual([blade.code]);
    const taken = await shop.post({
      ...shop.envelope(),
      type: 'open-cycle',
      cycleId: uuidv7(),
      bladeId,
    });
    expect([taken.status, taken.body.detail]).toEqual([
      409,
      jasmine.stringContaining('pull the set first'),
    ]);

    // Taken off it hangs on the hook: only a look at the bench makes it ready again.
    await shop.send({
      type: 'pull-set',
      deckId: mower?.deck.deckId ?? '',
      hoursH,
      place: 'Heap',
      madeSafe: [...makeSafeFor(mower?.energy ?? 'petrol')],
      found: [],
    });
    const pulled = (await cycle.view()).blade;
    expect([pulled.state, pulled.place]).toEqual(['hold', 'Hold hook']);

    // Ground again since and found in order: what was wrong before holds nothing up.
    const other = await shop.openCycle();
    await other.upToSignOff();
    await other.do({ type: 'sign-off', outcome: 'ready' });
    const later = await shop.openCycleOf(other.bladeId);
    await later.inspectClean();
    await later.measure('before', { width: '61.5', mass: '1592.0', land: '0.15' });
    await later.balance();
    await later.lightTests();
    await later.do({ type: 'sign-off', outcome: 'ready' });
    await correct(other, '45.0');
    expect((await later.view()).blade.state).toBe('ready');
  });

  it('works out again what follows from it, beside what was signed', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before', { mass: '1561.9' });
    await cycle.grind();
    await cycle.balance();
    await cycle.measure('after', { mass: '1553.4', width: '61.5', land: '0.15' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const signed = await cycle.view();
    expect(signed.witnesses.said.scale?.value).toBeCloseTo(8.5, 9);
    expect(signed.corrected).toBeUndefined();
    const life = async () =>
      (await shop.get<BladeView>(`/api/v1/blades/${cycle.bladeId}`)).body.cycles.at(-1);
    expect((await life())?.removedSignedG).toBeUndefined();
    await shop.send({
      type: 'correct-reading',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      readingId: signed.slots.find(({ key }) => key === 'before:mass:-:-')?.taken?.readingId ?? '',
      entered: { text: '1562.5', unit: 'g' },
      reason: 'misread',
    });
    const after = await cycle.view();
    expect(after.witnesses).toEqual(signed.witnesses);
    expect(after.corrected?.witnesses.said.scale?.value).toBeCloseTo(9.1, 9);
    expect((await life())?.removedG?.value).toBeCloseTo(9.1, 9);
    expect((await life())?.removedSignedG?.value).toBeCloseTo(8.5, 9);
    expect(after.blade.state).toBe('ready');
    // What the tool learns from, and what a blade's steel is reckoned by, is the corrected figure.
    const [taught] = await shop.database.connection.sequelize.query<{ removedG: number }>(
      'SELECT removedG FROM finishedGrind WHERE id = :id',
      { type: QueryTypes.SELECT, replacements: { id: cycle.cycleId } },
    );
    expect(taught?.removedG).toBeCloseTo(9.1, 9);
    const width = signed.slots.find(({ key }) => key === 'after:width:A:tip')?.taken;
    await shop.send({
      type: 'correct-reading',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      readingId: width?.readingId ?? '',
      entered: { text: '60.9', unit: 'mm' },
      reason: 'misread',
    });
    const [standing] = await shop.database.connection.sequelize.query<{ value: number }>(
      'SELECT value FROM standingReading WHERE id = :id',
      { type: QueryTypes.SELECT, replacements: { id: width?.readingId } },
    );
    expect(standing?.value).toBeCloseTo(60.9, 9);
    // Both corrections count.
    expect((await cycle.view()).corrected?.witnesses.said.scale?.value).toBeCloseTo(9.1, 9);
  });

  it('judges a signed cycle by the grinds it had then, not by those since', async () => {
    const limits = [
      { kind: 'grinds', value: 1, unit: 'grinds', source: 'shop', sourceText: 'shop rule' },
    ] as const;
    const [figures] = SPECS;
    if (!figures) throw new Error('no spec to test with');
    await shop.send({
      type: 'change-limits',
      specId: shop.specId,
      specRevisionId: uuidv7(),
      limits: [...figures.limits, ...limits],
      reason: 'maker-says',
    });
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const reading = (await cycle.view()).slots.find(({ key }) => key === 'after:land:A:-')?.taken;
    await shop.send({
      type: 'correct-reading',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      readingId: reading?.readingId ?? '',
      entered: { text: '0.16', unit: 'mm' },
      reason: 'misread',
    });
    expect((await cycle.view()).blade.state).toBe('ready');
  });

  it('of an older version gets its figures when the shop is opened', async () => {
    const cycle = await shop.openCycle();
    await cycle.upToSignOff();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const mass = (await cycle.view()).slots.find(({ key }) => key === 'before:mass:-:-')?.taken;
    await shop.send({
      type: 'correct-reading',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      readingId: mass?.readingId ?? '',
      entered: { text: '1600.5', unit: 'g' },
      reason: 'misread',
    });
    const made = (await cycle.view()).corrected;
    await shop.database.connection.sequelize.query('UPDATE correction SET figures = NULL');
    await completeCorrections(shop.database);
    expect(made).toBeDefined();
    expect((await cycle.view()).corrected).toEqual(made);
  });
});
