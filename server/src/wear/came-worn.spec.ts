import type { BladeView, LastReading } from '@tally-stone/contract';
import { NEVER_READ } from '../cycle/history.js';
import { ownRecession, standsAt } from '../cycle/own-recession.js';
import { SPECS } from '../demo/specs.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { TestShop, type TestCycle } from '../testing/shop.js';
import { livesLeft } from './lives-left.js';

describe('a blade that came worn', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const takenIn = async (): Promise<string> => {
    const { blades } = await shop.send({
      type: 'register-blades',
      specId: shop.specId,
      count: 1,
      place: 'Heap in the yard',
      knownFrom: 'used',
    });
    return blades?.[0]?.bladeId ?? '';
  };
  /** What a blade is read for that nobody has measured before. */
  const whole = async (cycle: TestCycle): Promise<void> => {
    await cycle.read('before', 'length', '533.0');
    await cycle.read('before', 'thickness', '6.35');
    await cycle.read('before', 'hole-wear', '0.10');
    await cycle.read('before', 'straightedge-gap', '0.30');
    for (const end of ['A', 'B'] as const) await cycle.read('before', 'wing', '6.00', { end });
  };
  /** The nth grind here, of half a millimetre, after which the blade is so wide. */
  const ground = async (bladeId: string, nth: number, width: number): Promise<void> => {
    if (nth > 1) await shop.send({ type: 'bring-in', bladeId, place: 'Heap' });
    const cycle = await shop.openCycleOf(bladeId);
    await cycle.inspectClean();
    if (nth === 1) await whole(cycle);
    const read = { mass: (1600 - 8 * nth).toFixed(1), width: width.toFixed(1) };
    await cycle.measure('before', {
      mass: (1608 - 8 * nth).toFixed(1),
      width: (width + 0.5).toFixed(1),
    });
    await cycle.grind();
    await cycle.balance();
    await cycle.measure('after', { ...read, land: '0.15' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
  };
  const page = async (bladeId: string): Promise<BladeView> =>
    (await shop.get<BladeView>(`/api/v1/blades/${bladeId}`)).body;

  it('has as many grinds left as its room allows: what it lost before it came is no grind of this shop', async () => {
    const used = await takenIn();
    await ground(used, 1, 58);
    // 2 mm to the limit of the root at half a millimetre or so a grind.
    expect((await page(used)).forecast?.grinds.median).toBeGreaterThanOrEqual(3);
    await ground(used, 2, 57.5);
    const { forecast, left } = await page(used);
    expect(forecast?.grinds.median).toBeGreaterThanOrEqual(2);
    expect(left.find(({ id }) => id === 'width:A:root')?.severity).toBe('fine');
    const row = (await livesLeft(shop.database, [used])).get(used);
    expect(row?.grinds.median).toBe(forecast?.grinds.median);
    expect(row?.roomMm).toBeCloseTo(1.5, 6);
  });

  it('leaves what the shop knows of wear as it was', async () => {
    const fresh = (await shop.newBlade()).bladeId;
    for (const nth of [1, 2, 3]) await ground(fresh, nth, 63.5 - nth / 2);
    const { forecast: alone } = await page(fresh);
    for (let i = 0; i < 3; i++) await ground(await takenIn(), 1, 58);
    shop.database.signed.forget();
    const { forecast } = await page(fresh);
    expect(forecast?.grinds.median).toBe(alone?.grinds.median ?? NaN);
  });

  it('counts in the months ahead by what it measured, and unmeasured as anything between new and its limit', async () => {
    const [measured, unmeasured] = [await takenIn(), await takenIn()];
    await ground(measured, 1, 58);
    const { database } = shop;
    const revisions = await listSpecs(database);
    const { rules } = await shopOf(database);
    const asked = [measured, unmeasured].map((bladeId) => ({
      bladeId,
      specId: shop.specId,
      grinds: 1,
      cameUsed: true,
    }));
    const questions = await database.lives.of(database, asked, revisions, rules);
    const [known, unknown] = [measured, unmeasured].map((id) =>
      questions.get(id)?.rooms.find(({ key }) => key === 'width:A:root'),
    );
    const last = (await page(measured)).left.find(({ id }) => id === 'width:A:root');
    expect(known?.roomMm).toBeCloseTo(last?.margin ?? NaN, 6);
    // 63.5 mm new and 56 mm at least: the middle, and a rectangle's doubt about it.
    expect(unknown?.roomMm).toBeCloseTo(3.75, 6);
    expect(unknown?.u).toBeCloseTo(3.75 / Math.sqrt(3), 6);
  });
});

describe('what a grind takes of a blade', () => {
  const at = (value: number, grindsSince: number): LastReading => ({
    value,
    u: 0.05,
    at: '',
    radiusMm: undefined,
    resolution: 0.1,
    grindsSince,
  });
  const root = 'width:A:root';

  const read = (
    last: LastReading,
    first: LastReading = last,
    cameWorn = false,
  ): Parameters<typeof ownRecession>[1] => ({
    last: new Map([[root, last]]),
    first: new Map([[root, first]]),
    cameWorn,
  });

  it('is what its widths lost over the grinds between, two usual ones counting with it', () => {
    const spec = { newWidthMm: 63.5 };
    // 2 mm in the two of its three grinds after which it was read.
    expect(ownRecession(spec, read(at(61.5, 1)), 3, 0.6)).toBeCloseTo((2 * 0.6 + 2) / 4, 9);
    // Read before its first grind it counts from what it was, not from its spec.
    expect(ownRecession(spec, read(at(61.5, 0), at(62.5, 2)), 2, 0.6)).toBeCloseTo(
      (2 * 0.6 + 1) / 4,
      9,
    );
    // It came with 58.5 mm: the 5 mm before that no grind here took.
    const worn = read(at(57.5, 0), at(58.5, 1), true);
    expect(ownRecession(spec, worn, 2, 0.6)).toBeCloseTo((2 * 0.6 + 1) / 3, 9);
    // Read once, or not since its only reading: nothing of its own.
    expect(ownRecession(spec, read(at(58.5, 0), at(58.5, 0), true), 1, 0.6)).toBeCloseTo(0.6, 9);
    expect(ownRecession(spec, NEVER_READ, 4, 0.6)).toBeCloseTo(0.6, 9);
  });

  it('goes off a width that was not read since, and a width read after its last grind stands', () => {
    const [figures] = SPECS;
    if (!figures) throw new Error('no spec');
    const width = (grindsSince: number) => {
      const of = { spec: figures, grinds: 4, read: read(at(61.5, grindsSince)) };
      const place = { quantity: 'width', end: 'A', stationKey: 'root' } as const;
      return standsAt({ ...of, usualRecessionMm: 0.6 }, place);
    };
    expect(width(0)).toEqual({ value: 61.5, u: 0.05, carried: false });
    // A grind took (1.2 + 2)/(2 + 2) mm of it.
    expect(width(2)?.value).toBeCloseTo(61.5 - 2 * 0.8, 9);
    expect(width(2)?.u).toBeGreaterThan(1);
    expect(width(2)?.carried).toBeTrue();
  });
});
