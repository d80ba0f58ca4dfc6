import type { BladeView, LivesView, RegisterView } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';

describe('The register', () => {
  let shop: TestShop;
  let [worn, fresh, unread] = ['', '', ''];

  const register = async (query: string): Promise<RegisterView> =>
    (await shop.get<RegisterView>(`/api/v1/register?${query}`)).body;
  const lives = (ids: readonly string[]) =>
    shop.get<LivesView>(`/api/v1/register/lives?ids=${ids.join()}`);

  /** Ground once and signed off ready, so wide at the end. */
  const ground = async (widthMm: string): Promise<string> => {
    const cycle = await shop.openCycle();
    await cycle.upToSignOff(widthMm);
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    return cycle.bladeId;
  };

  beforeAll(async () => {
    shop = await TestShop.open();
    fresh = await ground('62.8');
    worn = await ground('56.6');
    unread = (await shop.newBlade()).bladeId;
  });
  afterAll(() => shop.close());

  it('tells when each blade was ground last, and sorts by it', async () => {
    const { blades } = await register('sort=last-grind&down=true');
    expect(blades.map(({ bladeId }) => bladeId)).toEqual([worn, fresh, unread]);
    const [last] = await shop.database.models.signedCycle.findAll({ where: { bladeId: worn } });
    expect(blades[0]?.lastGroundAt).toBe(last?.signedAt ?? '');
    expect(blades[2]?.lastGroundAt).toBeUndefined();
  });

  it('tells what is left of them as their own pages do, and which limit comes first', async () => {
    const { status, body } = await lives([worn, fresh, unread]);
    expect(status).toBe(200);
    expect(body.lives.map(({ bladeId }) => bladeId).sort()).toEqual([worn, fresh].sort());
    for (const { bladeId, grinds, first } of body.lives) {
      const { forecast } = (await shop.get<BladeView>(`/api/v1/blades/${bladeId}`)).body;
      const { median = -1, low = -1, high = -1 } = forecast?.grinds ?? {};
      expect(grinds).toEqual({ median, low, high });
      expect(first).toBe(forecast?.firstWords ?? '');
    }
    const room = (id: string): number =>
      body.lives.find(({ bladeId }) => bladeId === id)?.roomMm ?? -1;
    expect(room(worn)).toBeLessThan(room(fresh));
  });

  it('sorts by the grinds that are left, of whom nothing is known last either way', async () => {
    const order = async (down: boolean): Promise<string[]> =>
      (await register(`sort=left&down=${String(down)}`)).blades.map(({ bladeId }) => bladeId);
    expect(await order(false)).toEqual([worn, fresh, unread]);
    expect(await order(true)).toEqual([fresh, worn, unread]);
    const page = await register('sort=left&offset=1&limit=1');
    expect([page.blades[0]?.bladeId, page.total]).toEqual([fresh, 3]);
    // A blade that is ground no more has nothing left to sort by.
    expect((await register('sort=left&state=retired')).blades).toEqual([]);
  });

  it('finds blades by the words of their state, place, spec and mower that the reader sees, whatever the case', async () => {
    const found = async (text: string, language = 'en'): Promise<number> => {
      const path = `/api/v1/register?text=${encodeURIComponent(text)}`;
      return (await shop.get<RegisterView>(path, { 'Accept-Language': language })).body.total;
    };
    expect(await found('ready')).toBe(2);
    expect(await found('lista', 'es')).toBe(2);
    expect(await found('ready', 'es')).toBe(0);
    const pegged = await found('peg');
    expect(pegged).toBeGreaterThan(0);
    expect(await found('clavija', 'es')).toBe(pegged);
    expect(await found('heap')).toBe(await found('montón', 'es'));
    const [{ specName = '' } = {}] = (await register('')).blades;
    expect(await found(specName.toUpperCase())).toBe(3);
    expect(await found(`${specName} new`)).toBe(1);
    await shop.send({
      type: 'fit-blade',
      bladeId: worn,
      spindleId: shop.spindleIds[0] ?? '',
      fitId: uuidv7(),
      hoursH: 100,
    });
    expect(await found('wagtail')).toBe(1);
    expect(await found('wag_ail')).toBe(0);
  });

  it('names the blade that is asked wrongly', async () => {
    expect((await lives(['nobody'])).status).toBe(422);
    expect((await lives(Array.from({ length: 101 }, () => worn))).status).toBe(422);
  });
});
