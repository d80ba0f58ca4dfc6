import {
  makeSafeFor,
  type BladeView,
  type FleetView,
  type PlanView,
  type ShopView,
} from '@tally-stone/contract';
import { preUseChecks, type PreUseCheck } from '@tally-stone/core';
import { QueryTypes } from 'sequelize';
import { v7 as uuidv7 } from 'uuid';
import { completeCorrections } from '../cycle/corrections.js';
import { SPECS } from '../demo/specs.js';
import { TestShop, type TestCycle } from '../testing/shop.js';
import { shopDay } from './day.js';

const BELT = {
  name: 'Belt',
  kind: 'belt',
  counts: 'pass',
  abrasive: 'Grit 60',
  aim: 'mean',
  table: 'flat',
} as const;

describe('a shop’s rules and grinders', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());
  const view = async (): Promise<ShopView> => (await shop.get<ShopView>('/api/v1/shop')).body;

  it('judges by the school that is chosen, from now on', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    await cycle.do({
      type: 'mark-damage',
      damageId: uuidv7(),
      kind: 'nick',
      end: 'A',
      fromTip: { text: '20', unit: 'mm' },
      depth: { text: '0.6', unit: 'mm' },
    });
    const words = async (): Promise<string> =>
      (await cycle.view()).before.findings.find(({ id }) => id.startsWith('damage'))?.words ?? '';
    expect(await words()).toContain('not worth chasing');
    const { rules } = await view();
    await shop.send({
      type: 'set-rules',
      rules: { ...rules, schools: { ...rules.schools, nicks: { kind: 'clear-all' } } },
    });
    expect(await words()).toContain('take it all out');
    await cycle.do({ type: 'choose-schools', schools: { nicks: { kind: 'leave-all' } } });
    expect(await words()).toContain('leave all nicks');
    await shop.send({ type: 'set-rules', rules });
  });

  it('lets a nick be told by itself what to do, and takes it back', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    const damageId = uuidv7();
    const choose = (choice: 'clear' | 'policy') =>
      cycle.act({ type: 'choose-nick', damageId, choice });
    expect((await choose('clear')).body.errors?.[0]?.field).toBe('damageId');
    await cycle.do({
      type: 'mark-damage',
      damageId,
      kind: 'nick',
      end: 'B',
      fromTip: { text: '30', unit: 'mm' },
      depth: { text: '0.5', unit: 'mm' },
    });
    await choose('clear');
    expect(
      (await cycle.view()).before.findings.some(({ words }) => words.includes('take it all out')),
    ).toBeTrue();
    await choose('policy');
    expect(
      (await cycle.view()).before.findings.some(({ words }) => words.includes('not worth chasing')),
    ).toBeTrue();
  });

  it('sets up only on a machine checked that day, or for a reason', async () => {
    const grinderId = uuidv7();
    await shop.send({ type: 'add-grinder', grinderId, abrasiveId: uuidv7(), figures: BELT });
    const cycle = await shop.openCycle();
    const refused = await cycle.act({ type: 'set-up', grinderId });
    expect(refused.body.errors?.[0]?.field).toBe('withoutCheck');
    expect(
      (await cycle.act({ type: 'set-up', grinderId, withoutCheck: 'checked-on-paper' })).status,
    ).toBe(200);
    const check = (checked: readonly PreUseCheck[]) =>
      shop.post({
        ...shop.envelope(),
        type: 'check-grinder',
        checkId: uuidv7(),
        grinderId,
        checked,
      });
    expect((await check(['guards'])).status).toBe(422);
    expect((await check(preUseChecks('belt'))).status).toBe(200);
    const other = await shop.openCycle();
    await other.do({ type: 'set-up', grinderId });
    expect((await other.view()).setUp?.withoutCheck).toBeUndefined();
    // A new belt is looked over again.
    await shop.send({ type: 'change-grinder', grinderId, abrasiveId: uuidv7(), figures: BELT });
    const { grinders } = await view();
    expect(grinders.find((each) => each.grinderId === grinderId)?.checkedToday).toBeFalse();
  });

  it('plans in what a tool counts, and learns nothing of a file from a belt', async () => {
    const machines = { belt: BELT, file: { ...BELT, kind: 'file', counts: 'stroke' } as const };
    const ids = { belt: uuidv7(), file: uuidv7() };
    for (const key of ['belt', 'file'] as const) {
      const grinderId = ids[key];
      const figures = machines[key];
      await shop.send({ type: 'add-grinder', grinderId, abrasiveId: uuidv7(), figures });
    }
    const measured = async (grinderId: string): Promise<TestCycle> => {
      const cycle = await shop.openCycle();
      await cycle.inspectClean();
      await cycle.measure('before');
      await cycle.do({ type: 'set-up', grinderId, withoutCheck: 'checked-on-paper' });
      return cycle;
    };
    const planned = async ({ cycleId }: TestCycle) => {
      const { body } = await shop.get<PlanView>(`/api/v1/cycles/${cycleId}/plan`);
      if (body.kind !== 'asked' || body.answer.plan.kind !== 'plan') throw new Error('no plan');
      const { passes, forward } = body.answer.plan;
      const [A = 0] = passes.A;
      return { perCount: body.gramsPerPass.value, A, metalG: forward.metalG };
    };
    // A belt that takes more than is usual says so of belts alone.
    const ground = await measured(ids.belt);
    await ground.grind(6);
    await ground.balance();
    await ground.measure('after', { mass: '1591.0', width: '61.5', land: '0.15' });
    await ground.lightTests();
    await ground.do({ type: 'sign-off', outcome: 'ready' });

    const byFile = await measured(ids.file);
    const strokes = await planned(byFile);
    expect((await byFile.view()).counts).toBe('stroke');
    expect(strokes.perCount).toBeCloseTo(0.06, 9);
    expect(strokes.A).toBeGreaterThan(20);
    const byBelt = await measured(ids.belt);
    const passes = await planned(byBelt);
    expect((await byBelt.view()).counts).toBe('pass');
    expect(passes.perCount).toBeGreaterThan(0.63);
    // The same blade, the same metal, finer told.
    expect(Math.abs(strokes.metalG - passes.metalG)).toBeLessThan(2 * passes.perCount + 0.1);
  });

  it('keeps what a grinder counts: its grinds so far were counted so', async () => {
    const grinderId = uuidv7();
    const abrasiveId = uuidv7();
    await shop.send({ type: 'add-grinder', grinderId, abrasiveId, figures: BELT });
    for (const change of [{ counts: 'second' }, { kind: 'file' }] as const) {
      const figures = { ...BELT, ...change };
      const refused = await shop.post({
        ...shop.envelope(),
        ...{ type: 'change-grinder', grinderId, abrasiveId, figures },
      });
      expect(refused.body.errors?.[0]?.field).toBe(`figures.${Object.keys(change)[0] ?? ''}`);
      expect(refused.body.detail).toContain('add another grinder');
    }
  });

  it('never mounts a wheel marked for less than the machine turns', async () => {
    const refused = await shop.post({
      ...shop.envelope(),
      type: 'add-grinder',
      grinderId: uuidv7(),
      abrasiveId: uuidv7(),
      figures: { ...BELT, kind: 'wheel', wheelDiameterMm: 200, ratedRpm: 2000, spindleRpm: 2850 },
    });
    expect(refused.status).toBe(422);
    expect(JSON.stringify(refused.body)).toContain('never mount it');
  });

  it('counts days in the shop’s own time zone, over a change of clocks', () => {
    expect(shopDay('2026-03-29T00:30:00Z', 'Europe/London')).toBe('2026-03-29');
    expect(shopDay('2026-06-30T23:30:00Z', 'Europe/London')).toBe('2026-07-01');
    expect(shopDay('2026-10-25T23:30:00Z', 'Europe/London')).toBe('2026-10-25');
    expect(shopDay('2026-07-01T03:30:00Z', 'America/New_York')).toBe('2026-06-30');
  });
});

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

describe('retiring', () => {
  it('for a reason of the shop’s is undone at the bench, and the cycle goes on where it stood', async () => {
    const shop = await TestShop.open();
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    await cycle.grind(4);
    const before = await cycle.view();
    const retire = {
      type: 'sign-off',
      outcome: 'retired',
      retireReason: 'no-mate-in-a-set',
      disposal: 'bent',
    } as const;
    await cycle.do(retire);
    const retired = await cycle.view();
    expect([retired.blade.state, retired.blade.grinds]).toEqual(['retired', 1]);
    expect(retired.signedOff?.undoable).toBeTrue();
    await cycle.do({ type: 'undo-retirement' });
    const again = await cycle.view();
    expect([again.blade.state, again.blade.grinds, again.signedOff]).toEqual([
      'at-bench',
      0,
      undefined,
    ]);
    expect([again.slots, again.passes]).toEqual([before.slots, before.passes]);
    const journal = await shop.database.models.journal.findAll();
    expect(journal.slice(-4).map(({ what }) => what)).toEqual([
      'signed off',
      'blade retired',
      'retirement undone',
      'retirement undone',
    ]);
    // Once the next blade is in hand this one is on its way to the bin.
    await cycle.do(retire);
    await shop.openCycle();
    expect((await cycle.view()).signedOff?.undoable).toBeUndefined();
    const late = await cycle.act({ type: 'undo-retirement' });
    expect([late.status, late.body.detail]).toEqual([
      409,
      jasmine.stringContaining('has left the bench'),
    ]);
    await shop.close();
  });

  it('for what a reading says is not undone by one person', async () => {
    const shop = await TestShop.open();
    const cycle = await shop.openCycle();
    await cycle.do({ type: 'clean', done: true });
    await cycle.do({ type: 'judge-crack', found: true, where: 'near-tip' });
    await cycle.do({
      type: 'sign-off',
      outcome: 'retired',
      retireReason: 'crack',
      disposal: 'cut',
    });
    expect((await cycle.view()).signedOff?.undoable).toBeUndefined();
    const undone = await cycle.act({ type: 'undo-retirement' });
    expect([undone.status, undone.body.detail]).toEqual([
      409,
      jasmine.stringContaining('correct the reading'),
    ]);
    expect((await cycle.view()).blade.state).toBe('retired');
    await shop.close();
  });

  it('asks how the blade was made unusable, and draws its code for the tag', async () => {
    const shop = await TestShop.open();
    const cycle = await shop.openCycle();
    await cycle.do({ type: 'clean', done: true });
    await cycle.do({ type: 'judge-crack', found: true, where: 'near-tip' });
    const sign = { type: 'sign-off', outcome: 'retired', retireReason: 'crack' } as const;
    expect((await cycle.act(sign)).body.errors?.[0]?.field).toBe('disposal');
    await cycle.do({ ...sign, disposal: 'cut' });
    const view = await cycle.view();
    expect(view.signedOff?.disposal).toBe('cut');
    const tag = await fetch(`${shop.serving.address}/api/v1/codes/${view.blade.code}/tag.svg`);
    expect(tag.headers.get('content-type')).toContain('image/svg+xml');
    expect(await tag.text()).toContain('<svg');
    await shop.close();
  });
});

describe('a retirement undone', () => {
  let shop: TestShop;
  const second = uuidv7();
  beforeAll(async () => {
    shop = await TestShop.open();
    await shop.send({
      type: 'add-person',
      newPersonId: second,
      name: 'Juniper',
      role: 'technician',
    });
    await shop.send({ type: 'set-pin', ofPersonId: second, pin: '2468' });
  });
  afterAll(() => shop.close());

  async function retiredFor(crack: boolean): Promise<TestCycle> {
    const cycle = await shop.openCycle();
    await cycle.do({ type: 'clean', done: true });
    await cycle.do({ type: 'judge-crack', found: crack });
    if (!crack) {
      for (const [end, text] of [
        ['A', '40'],
        ['B', '46'],
      ] as const) {
        await cycle.do({
          type: 'take-reading',
          readingId: uuidv7(),
          place: { phase: 'before', quantity: 'tip-height', end },
          entered: { text, unit: 'mm' },
          repeat: false,
        });
      }
    }
    await cycle.do({
      type: 'sign-off',
      outcome: 'retired',
      retireReason: crack ? 'crack' : 'bend',
      disposal: 'scrapped',
    });
    return cycle;
  }
  const takeBack = (cycle: TestCycle, more: object = {}) =>
    shop.post({
      ...shop.envelope(),
      type: 'take-back',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      secondPersonId: second,
      secondPin: '2468',
      whole: true,
      ...more,
    });

  it('takes the corrected crack, a second person and the blade in the hand, and asks for everything anew', async () => {
    const cycle = await retiredFor(true);
    const field = async (more: object = {}) =>
      (await takeBack(cycle, more)).body.errors?.[0]?.field;
    expect(await field()).toBe('reading');
    expect((await cycle.view()).takeBack).toBeUndefined();
    await shop.send({
      type: 'correct-crack',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      reason: 'scratch',
    });
    expect((await cycle.view()).blade.state).toBe('retired');
    expect((await cycle.view()).takeBack).toEqual({ blocks: [] });
    expect(await field({ secondPersonId: shop.personId })).toBe('secondPersonId');
    expect(await field({ secondPersonId: uuidv7() })).toBe('secondPersonId');
    expect(await field({ whole: false })).toBe('whole');
    expect(await field({ secondPin: '1357' })).toBe('secondPin');
    expect((await takeBack(cycle)).status).toBe(200);
    const view = await cycle.view();
    expect(view.blade.state).toBe('waiting');
    expect(view.signedOff?.outcome).toBe('retired');
    expect(view.corrections.map(({ what, second: who }) => [what, who])).toEqual([
      ['crack', undefined],
      ['taken-back', 'Juniper'],
    ]);
    expect((await takeBack(cycle)).status).toBe(409);
    const next = await shop.openCycleOf(cycle.bladeId);
    const { slots } = await next.view();
    expect(slots.filter(({ phase, needed }) => phase === 'before' && !needed)).toEqual([]);
  });

  it('is no way round the shop’s own decision, whatever else is corrected', async () => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.do({
      type: 'sign-off',
      outcome: 'retired',
      retireReason: 'shop-decision',
      disposal: 'scrapped',
    });
    const reading = (await cycle.view()).slots.find(({ taken }) => taken)?.taken;
    await shop.send({
      type: 'correct-reading',
      correctionId: uuidv7(),
      cycleId: cycle.cycleId,
      readingId: reading?.readingId ?? '',
      entered: { text: '40.1', unit: 'mm' },
      reason: 'misread',
    });
    expect((await cycle.view()).takeBack).toBeUndefined();
    expect((await takeBack(cycle)).body.errors?.[0]?.field).toBe('reading');
    expect((await cycle.view()).blade.state).toBe('retired');
  });

  it('for bend stays while the corrected reading is still over its limit', async () => {
    const cycle = await retiredFor(false);
    const correct = async (text: string) => {
      const reading = (await cycle.view()).slots.find(
        ({ quantity, end, taken }) => quantity === 'tip-height' && end === 'B' && taken,
      );
      return shop.send({
        type: 'correct-reading',
        correctionId: uuidv7(),
        cycleId: cycle.cycleId,
        readingId: reading?.taken?.readingId ?? '',
        entered: { text, unit: 'mm' },
        reason: 'misread',
      });
    };
    await correct('45');
    expect((await cycle.view()).takeBack?.blocks[0]).toContain('still retires it');
    expect((await takeBack(cycle)).body.errors?.[0]?.field).toBe('reading');
    await correct('40.4');
    expect((await takeBack(cycle)).status).toBe(200);
    await shop
      .send({
        type: 'correct-crack',
        correctionId: uuidv7(),
        cycleId: cycle.cycleId,
        reason: 'scratch',
      })
      .then(
        () => fail('no crack was found there'),
        (error: unknown) => expect(String(error)).toContain('No crack'),
      );
  });
});
