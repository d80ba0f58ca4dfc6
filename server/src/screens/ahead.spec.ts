import type { AheadOutlook } from '@tally-stone/contract';
import { DAY_MS } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';
import { aheadView } from './ahead.js';

describe('the months ahead', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const fitAndBring = async (bladeId: string, fromH: number, toH: number): Promise<void> => {
    const [spindleId = ''] = shop.spindleIds;
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH: fromH });
    // Nobody mows six hundred hours between two looks at the meter.
    for (let hoursH = fromH + 100; hoursH < toH; hoursH += 100) {
      await shop.send({ type: 'read-hours', mowerId: shop.mowerId, hoursH });
    }
    await shop.send({ type: 'bring-in', bladeId, hoursH: toH, place: 'Heap' });
  };

  it('needs nothing of new blades that have not run', async () => {
    await shop.newBlade();
    const { months, outlooks } = await aheadView(shop.database);
    const { total, specs, sets } = outlooks['last-year'];
    expect(months.length).toBe(36);
    expect(total.every(({ enough }) => enough === 0)).toBeTrue();
    expect(specs.map(({ blades }) => blades)).toEqual([1]);
    expect(sets).toEqual([]);
  });

  it('goes by the usual hours in a shop that has none on record, and says that there are none', async () => {
    const cycle = await shop.openCycle();
    await cycle.upToSignOff('57.0');
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const { bladeId } = cycle;
    const [spindleId] = shop.spindleIds;
    expect((await aheadView(shop.database)).outlooks['last-year'].specs[0]?.next).toEqual([]);
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH: 100 });
    const { outlooks, recordSince } = await aheadView(shop.database);
    expect(recordSince).toBeNull();
    const [spec] = outlooks['last-year'].specs;
    // Four hours on five days of the week.
    expect(spec?.hoursPerBlade[1]).toBeCloseTo((4 * 5 * 365.25) / 12 / 7, 1);
    expect(spec?.next.map((each) => each.bladeId)).toEqual([bladeId]);
  });

  it('buys a worn blade of a hard-run spec, tells when its set breaks, and leaves retired ones out', async () => {
    // What was mown is spread over the months since the first fit.
    const later = new Date(Date.now() + 330 * DAY_MS);
    const readyBlade = async (): Promise<string> => {
      const cycle = await shop.openCycle();
      await cycle.upToSignOff();
      await cycle.do({ type: 'sign-off', outcome: 'ready' });
      return cycle.bladeId;
    };
    await fitAndBring(await readyBlade(), 200, 800);
    const bladeId = await readyBlade();
    const [spindleId = ''] = shop.spindleIds;
    await shop.send({
      type: 'fit-blade',
      fitId: uuidv7(),
      bladeId,
      spindleId,
      hoursH: 900,
    });
    const { outlooks } = await aheadView(shop.database, later);
    const seen = outlooks['last-year'];
    const sum = seen.total.reduce((all, { expected }) => all + expected, 0);
    expect(sum).toBeCloseTo(2, 1);
    expect(seen.sets.map(({ mowerName, blades }) => [mowerName, blades])).toEqual([['Wagtail', 1]]);
    const [set] = seen.sets;
    expect(set?.breaksIn).toBeDefined();
    expect(set?.whole.every((chance, i, all) => i === 0 || chance <= (all[i - 1] ?? 1))).toBeTrue();
    // Both blades go within the year, one after the other, and each is told by its code.
    const next = seen.specs[0]?.next ?? [];
    const codes = (await shop.database.models.bladeCode.findAll()).map(({ code }) => code);
    expect(next.map(({ code }) => codes.includes(code))).toEqual([true, true]);
    expect(new Set(next.map(({ code }) => code)).size).toBe(2);
    expect(next.every(({ chance }) => chance > 0.9)).toBeTrue();
    expect(next[0]?.evenAt).toBeLessThanOrEqual(next[1]?.evenAt ?? 0);
    // By a rule of ten hours the same blades are ground sixty times as often.
    expect(seen.changedAfterH).toBe(600);
    expect(outlooks.rule.changedAfterH).toBe(10);
    const bought = ({ total }: AheadOutlook): number[] => total.map(({ expected }) => expected);
    expect(bought(outlooks.rule)).not.toEqual(bought(seen));
    // What was read before a trimming says nothing of the blade as it is now: it may be anything above its limit.
    const { blade, trimming, person } = shop.database.models;
    const at = '2099-01-01T00:00:00.000Z';
    const trimmingId = uuidv7();
    const { state, place, specId } = (await blade.findByPk(bladeId))!;
    await trimming.create({
      id: trimmingId,
      bladeId,
      fromSpecId: specId,
      toSpecId: specId,
      fromLengthMm: 533,
      toLengthMm: 520,
      halfAMm: 260,
      halfBMm: 260,
      u: 0.1,
      resolution: 0.1,
      bladeBefore: {
        specId,
        state,
        place,
        waitingSince: null,
        lastLengthMm: null,
        trimmedAt: null,
      },
      at,
      personId: (await person.findOne())!.id,
      takenBackAt: null,
    });
    await blade.update({ trimmedAt: at }, { where: { id: bladeId } });
    shop.database.signed.forget();
    const trimmed =
      (await aheadView(shop.database, later)).outlooks['last-year'].specs[0]?.next ?? [];
    const lasts = (of: typeof next): number =>
      of.find((each) => each.bladeId === bladeId)?.evenAt ?? 99;
    expect(lasts(trimmed)).toBeLessThan(lasts(next));
    await blade.update({ trimmedAt: null }, { where: { id: bladeId } });
    await trimming.update({ takenBackAt: at }, { where: { id: trimmingId } });
    shop.database.signed.forget();
    const retired = await shop.openCycle();
    await retired.do({ type: 'clean', done: true });
    await retired.do({ type: 'judge-crack', found: true });
    await retired.do({
      type: 'sign-off',
      outcome: 'retired',
      retireReason: 'crack',
      disposal: 'cut',
    });
    const after = await aheadView(shop.database, later);
    expect(after.outlooks.rule.specs.map(({ blades }) => blades)).toEqual([2]);
    expect(after.damagePerThousandHours).toBeGreaterThan(0);
  });
});
