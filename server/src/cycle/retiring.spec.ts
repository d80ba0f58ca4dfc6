import { v7 as uuidv7 } from 'uuid';
import { TestShop, type TestCycle } from '../testing/shop.js';

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
