import type { CommandAnswer, FleetView, Problem } from '@tally-stone/contract';
import { usualLeastWidths, usualSpec } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { walk } from '../record/chain.js';
import { TestShop } from '../testing/shop.js';

describe('a list from elsewhere', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const mower = (name: string, more: object = {}) => ({
    mowerId: uuidv7(),
    name,
    energy: 'petrol' as const,
    site: 'Yard',
    bladeSpeedRpm: 3000,
    spindles: [{ spindleId: uuidv7(), position: 'centre' }],
    hoursH: 40,
    ...more,
  });
  const counts = async () => ({
    mowers: await shop.database.models.mower.count(),
    blades: await shop.database.models.blade.count(),
    spindles: await shop.database.models.spindle.count(),
    due: await shop.database.models.deckDue.count(),
  });
  const meterOf = async (name: string) => {
    const { body } = await shop.get<FleetView>('/api/v1/fleet');
    return body.mowers.find((each) => each.name === name)?.hoursH;
  };
  const bring = (list: object) =>
    shop.post<CommandAnswer & Problem>({ type: 'bring-list', ...list, ...shop.envelope() });
  const undo = (listId: string) =>
    shop.post<Problem>({ type: 'undo-list', listId, ...shop.envelope() });

  it('comes in whole and is taken back whole; its codes are never given again', async () => {
    const before = await counts();
    const { status, body } = await bring({
      mowers: [mower('Dunnock'), mower('Wren')],
      blades: [
        { specId: shop.specId, count: 3 },
        { specId: shop.specId, count: 2, knownFrom: 'used', place: 'Heap' },
      ],
      hours: [{ mowerId: shop.mowerId, hoursH: 120 }],
    });
    expect(status).toBe(200);
    expect(await counts()).toEqual({
      mowers: before.mowers + 2,
      blades: before.blades + 5,
      spindles: before.spindles + 2,
      due: before.due + 2,
    });
    expect(await meterOf('Wagtail')).toBe(120);
    const codes = body.blades?.map(({ code }) => code) ?? [];
    expect(codes.length).toBe(5);
    expect((await undo(body.commandId)).status).toBe(200);
    expect(await counts()).toEqual(before);
    expect(await meterOf('Wagtail')).toBe(100);
    expect(codes).not.toContain((await shop.newBlade()).code);
    expect((await undo(body.commandId)).body.detail).toContain('taken back already');
    expect((await walk(shop.database.connection)).broken).toBeUndefined();
  });

  it('stores nothing where one row cannot be, and says which and what', async () => {
    const before = await counts();
    const { status, body } = await bring({
      mowers: [mower('Dunnock'), mower('Wagtail')],
      blades: [{ specId: shop.specId, count: 3 }],
    });
    expect(status).toBe(422);
    expect(body.errors).toEqual([
      { field: 'mowers.1.name', message: jasmine.stringMatching('is taken by another mower') },
    ]);
    const backward = await bring({ hours: [{ mowerId: shop.mowerId, hoursH: 3 }] });
    expect(backward.body.errors?.[0]?.field).toBe('hours.0.hoursH');
    expect((await bring({})).body.detail).toContain('no rows');
    expect(
      (await bring({ mowers: Array.from({ length: 5001 }, (_, i) => mower(`m${i}`)) })).status,
    ).toBe(422);
    expect(await counts()).toEqual(before);
  });

  it('brings specs, whole, and takes them back as long as no blade is of them', async () => {
    const figures = (name: string) => ({
      ...usualSpec(
        {
          name,
          kind: 'high-lift',
          hand: 'right',
          hole: 'round',
          holeMm: 16,
          newLengthMm: 533,
          newWidthMm: 63.5,
          thicknessMm: 6,
          newMassG: 1560,
          bevelDeg: 30,
          edgeLengthMm: 100,
          bladeSpeedRpm: 2900,
        },
        usualLeastWidths(63.5),
      ),
    });
    const spec = (name: string) => ({
      specId: uuidv7(),
      specRevisionId: uuidv7(),
      figures: figures(name),
    });
    const names = async () => {
      const { body } = await shop.get<{ figures: { name: string } }[]>('/api/v1/specs');
      return body.map((each) => each.figures.name);
    };
    const before = await names();
    const refused = await bring({ specs: [spec('Verge 533'), spec('Verge 533')] });
    expect(refused.body.errors?.[0]?.field).toBe('specs.1.figures.name');
    expect(await names()).toEqual(before);
    const kept = spec('Verge 533');
    const first = await bring({ specs: [kept, spec('Bank 533')] });
    expect(await names()).toEqual([...before, 'Bank 533', 'Verge 533'].sort());
    expect((await undo(first.body.commandId)).status).toBe(200);
    expect(await names()).toEqual(before);
    const second = await bring({ specs: [spec('Bank 533'), kept] });
    await shop.send({ type: 'register-blades', specId: kept.specId, count: 1 });
    expect((await undo(second.body.commandId)).body.detail).toContain('Verge 533');
  });

  it('is not taken back once something was done with any of it', async () => {
    const first = await bring({
      mowers: [mower('Dunnock')],
      blades: [{ specId: shop.specId, count: 1 }],
      hours: [{ mowerId: shop.mowerId, hoursH: 120 }],
    });
    const [blade] = first.body.blades ?? [];
    await shop.openCycleOf(blade?.bladeId ?? '');
    const refused = await undo(first.body.commandId);
    expect(refused.status).toBe(409);
    expect(refused.body.detail).toContain(blade?.code ?? 'no code');
    const second = await bring({ hours: [{ mowerId: shop.mowerId, hoursH: 125 }] });
    await shop.send({ type: 'read-hours', mowerId: shop.mowerId, hoursH: 126 });
    expect((await undo(second.body.commandId)).body.detail).toContain('hour meter');
    expect(await meterOf('Wagtail')).toBe(126);
    expect((await undo(uuidv7())).status).toBe(404);
    const third = await bring({ mowers: [mower('Wren')] });
    const { body } = await shop.get<FleetView>('/api/v1/fleet');
    const wren = body.mowers.find(({ name }) => name === 'Wren');
    await shop.send({
      type: 'report-cut',
      mowerId: wren?.mowerId ?? '',
      reportId: uuidv7(),
      signs: ['torn-tips'],
    });
    expect((await undo(third.body.commandId)).body.detail).toContain('Wren was used');
    const looked = mower('Siskin');
    const fourth = await bring({ mowers: [looked] });
    await shop.send({
      type: 'note-upkeep',
      mowerId: looked.mowerId,
      looked: [{ upkeepId: uuidv7(), kind: 'deck', found: 'in-order' }],
    });
    const held = await undo(fourth.body.commandId);
    expect([held.status, held.body.detail]).toEqual([
      409,
      jasmine.stringContaining('A mower was used'),
    ]);
  });
});
