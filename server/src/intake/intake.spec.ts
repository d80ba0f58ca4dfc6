import type { BladeView, CycleView, Problem, RegisterView } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { TestShop } from '../testing/shop.js';

describe('day one of a shop', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const takeIn = async (count: number): Promise<string[]> => {
    const { blades } = await shop.send({
      type: 'register-blades',
      specId: shop.specId,
      count,
      place: 'Heap in the yard',
      knownFrom: 'used',
    });
    return (blades ?? []).map(({ bladeId }) => bladeId);
  };
  const width = (bladeId: string, text: string, end: 'A' | 'B' = 'A') => ({
    readingId: uuidv7(),
    bladeId,
    place: { quantity: 'width' as const, end, stationKey: 'tip' },
    entered: { text, unit: 'mm' as const },
  });
  const slotsOf = async (bladeId: string): Promise<CycleView['slots']> =>
    (await (await shop.openCycleOf(bladeId)).view()).slots.filter(
      ({ phase }) => phase === 'before',
    );

  it('takes used blades in waiting, and says that their history is unknown', async () => {
    const [first] = await takeIn(100);
    const { body } = await shop.get<RegisterView>('/api/v1/register?state=waiting');
    expect(body.total).toBe(100);
    const { blade } = (await shop.get<BladeView>(`/api/v1/blades/${first}`)).body;
    expect(blade.usedSince).toBeDefined();
    expect(blade.place).toBe('Heap in the yard');
  });

  it('asks for everything of a used blade nobody has measured: it is no new one', async () => {
    const [used] = await takeIn(1);
    const { bladeId } = await shop.newBlade();
    const limited = (slots: CycleView['slots']): boolean[] =>
      slots.filter(({ quantity }) => quantity === 'wing').map(({ needed }) => needed);
    expect(limited(await slotsOf(used!))).toEqual([true, true]);
    expect(limited(await slotsOf(bladeId))).toEqual([false, false]);
  });

  it('lets a sample stand for the heap with its spread, and an own reading for itself', async () => {
    const [a, b, c, d] = await takeIn(4);
    await shop.send({
      type: 'first-readings',
      readings: [width(a!, '58.0'), width(b!, '60.0'), width(c!, '59.0')],
    });
    const tip = (slots: CycleView['slots']) =>
      slots.find(({ key }) => key === 'before:width:A:tip')?.last;
    const unmeasured = tip(await slotsOf(d!));
    expect(unmeasured?.value).toBeCloseTo(59, 9);
    expect(unmeasured?.u).toBeGreaterThan(1.1);
    const measured = tip(await slotsOf(a!));
    expect(measured?.value).toBe(58);
    expect(measured?.u).toBeLessThan(0.5);
  });

  it('looks ahead for a used blade from what it measured as it came, not as though it were new', async () => {
    const [worn, other] = await takeIn(2);
    const { database } = shop;
    const roomOf = async (bladeId: string): Promise<number> => {
      const revisions = await listSpecs(database);
      const { rules } = await shopOf(database);
      const asked = { bladeId, specId: shop.specId, grinds: 0, cameUsed: true };
      const questions = await database.lives.of(database, [asked], revisions, rules);
      const rooms = questions.get(bladeId)?.rooms ?? [];
      return Math.min(...rooms.filter(({ key }) => key === 'width:A:tip').map((r) => r.roomMm));
    };
    // Unmeasured it may have anything between none and all.
    const asNew = 2 * (await roomOf(other!));
    await shop.send({
      type: 'first-readings',
      readings: [width(worn!, '58.0'), width(other!, '60.0')],
    });
    const spec = (await listSpecs(database)).find(({ specId }) => specId === shop.specId)!;
    expect(await roomOf(worn!)).toBeCloseTo(asNew - (spec.figures.newWidthMm - 58), 9);
  });

  it('puts blades found on a mower onto it, its hours counting from now', async () => {
    const blades = await takeIn(2);
    const deck = (await shop.get<{ mowers: { deck: { deckId: string } }[] }>('/api/v1/fleet')).body
      .mowers[0]!.deck;
    await shop.send({
      type: 'found-on-mower',
      deckId: deck.deckId,
      hoursH: 120,
      blades: blades.map((bladeId, i) => ({
        fitId: uuidv7(),
        spindleId: shop.spindleIds[i] ?? '',
        bladeId,
      })),
    });
    const standing = await shop.database.models.deckDue.findOne({ where: { deckId: deck.deckId } });
    expect([standing?.bladesOn, standing?.fittedAtH]).toEqual([2, 120]);
    await shop.send({ type: 'bring-in', bladeId: blades[0]!, place: 'Heap', hoursH: 130 });
    const { fits } = (await shop.get<BladeView>(`/api/v1/blades/${blades[0]}`)).body;
    expect(fits[0]?.hoursH).toBe(10);
  });

  it('writes nothing of a list with one wrong line in it, and names the line', async () => {
    const [a, b] = await takeIn(2);
    const send = (readings: ReturnType<typeof width>[]) =>
      shop.post<Problem>({ type: 'first-readings', readings, ...shop.envelope() });
    const wide = await send([width(a!, '58.0'), width(b!, '99')]);
    expect(wide.body.errors?.[0]?.field).toBe('readings.1.entered.text');
    expect(wide.body.errors?.[0]?.message).toContain('of another spec');
    const wrong = await send([width(a!, 'wide')]);
    expect(wrong.body.errors?.[0]?.field).toBe('readings.0.entered.text');
    expect(await shop.database.models.intakeReading.count()).toBe(0);
  });

  it('refuses ten thousand at once, a new blade, and one that has been at the bench', async () => {
    const many = await shop.post<Problem>({
      type: 'register-blades',
      specId: shop.specId,
      count: 10_000,
      ...shop.envelope(),
    });
    expect(many.body.errors?.[0]).toEqual({
      field: 'count',
      message: 'is more than can be stamped at once: 200 at most',
    });
    expect(await shop.database.models.blade.count()).toBe(0);
    const { bladeId } = await shop.newBlade();
    const ofNew = await shop.post<Problem>({
      type: 'first-readings',
      readings: [width(bladeId, '60')],
      ...shop.envelope(),
    });
    expect(ofNew.body.detail).toContain('known from new');
    const [used] = await takeIn(1);
    await shop.openCycleOf(used!);
    const atBench = await shop.post<Problem>({
      type: 'first-readings',
      readings: [width(used!, '60')],
      ...shop.envelope(),
    });
    expect(atBench.body.detail).toContain('has been at the bench');
  });
});

describe('the register', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const found = async (query: string): Promise<RegisterView> =>
    (await shop.get<RegisterView>(`/api/v1/register?${query}`)).body;

  it('finds by any word a row shows, all of them at once, and counts by state', async () => {
    for (const place of ['Peg 4', 'Peg 12']) {
      await shop.send({ type: 'register-blades', specId: shop.specId, count: 3, place });
    }
    expect((await found('text=peg')).total).toBe(6);
    expect((await found('text=12%20towpath%20new')).total).toBe(3);
    expect((await found('text=100%25')).total).toBe(0);
    expect((await found('text=peg&state=retired')).total).toBe(0);
    expect((await found('')).states).toEqual({ new: 6 });
    const [row] = (await found('text=peg&limit=1')).blades;
    expect((await found(`text=${row!.code.toLowerCase()}`)).blades[0]?.bladeId).toBe(row!.bladeId);
  });
  it('finds by the mower a blade is on, or came off last', async () => {
    const [stays, comesOff] = [await shop.readyBlade(), await shop.readyBlade()];
    const { connection, models } = shop.database;
    const [first, second] = shop.spindleIds;
    const wasOn = (bladeId: string, spindleId: string, from: string, to: string | null) =>
      connection.write(() =>
        models.fit.create({
          id: uuidv7(),
          bladeId,
          spindleId,
          from,
          to,
          fromHoursH: 1,
          toHoursH: to ? 2 : null,
        }),
      );
    await wasOn(stays, first, '2026-04-01T08:00:00Z', null);
    await wasOn(comesOff, second, '2026-04-01T08:00:00Z', '2026-05-01T08:00:00Z');
    const ids = async (text: string): Promise<string[]> =>
      (await found(`text=${text}`)).blades.map(({ bladeId }) => bladeId).sort();
    expect(await ids('wagtail')).toEqual([stays, comesOff].sort());
    expect(await ids('wagtail%20ready')).toEqual([stays, comesOff].sort());
    expect(await ids('heron')).toEqual([]);
  });
  it('pages without overlap in either order', async () => {
    await shop.send({ type: 'register-blades', specId: shop.specId, count: 7 });
    const codes = async (query: string): Promise<string[]> =>
      (await found(query)).blades.map(({ code }) => code);
    const up = [
      ...(await codes('limit=3')),
      ...(await codes('limit=3&offset=3')),
      ...(await codes('limit=3&offset=6')),
    ];
    expect(new Set(up).size).toBe(7);
    expect(await codes('limit=7&down=true')).toEqual([...up].reverse());
  });
  it('refuses a page of none, by its name', async () => {
    const { body } = await shop.get<Problem>('/api/v1/register?limit=0');
    expect(body.errors?.[0]?.field).toBe('limit');
  });
});
