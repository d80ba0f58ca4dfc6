import type { EdgesByGrass, GrassView, Problem, SeenTips } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { photosInUse } from '../photo/photos.js';
import { TestShop } from '../testing/shop.js';

describe('grass under the glass', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const look = (torn: number, clean: number, hoursH?: number, change: Partial<SeenTips> = {}) => ({
    type: 'look-at-grass' as const,
    lookId: uuidv7(),
    mowerId: shop.mowerId,
    seen: { tips: [], torn, clean, ...change },
    file: '',
    ...(hoursH === undefined ? {} : { hoursH }),
  });
  const fitted = async (hoursH: number): Promise<void> => {
    const bladeId = await shop.readyBlade();
    const [spindleId] = shop.spindleIds;
    await shop.send({ type: 'fit-blade', fitId: uuidv7(), bladeId, spindleId, hoursH });
  };
  const grass = async (): Promise<GrassView> =>
    (await shop.get<GrassView>(`/api/v1/mowers/${shop.mowerId}/grass`)).body;
  const edges = async (): Promise<EdgesByGrass> =>
    (await shop.get<EdgesByGrass>('/api/v1/grass')).body;

  it('is kept with the set, the hours of its edge and the share that is torn', async () => {
    await fitted(100);
    await shop.send(look(6, 19, 107.5));
    const [seen] = (await grass()).looks;
    expect(seen).toEqual(
      jasmine.objectContaining({ hoursOnEdge: 7.5, torn: 6, clean: 19, tips: [] }),
    );
    expect(seen?.share.share).toBeCloseTo(0.24, 9);
    expect([seen!.share.low, seen!.share.high].map((each) => each.toFixed(2))).toEqual([
      '0.11',
      '0.43',
    ]);
  });

  it('is refused without a set, of too few tips, and where touches and counts differ', async () => {
    const refused = async (command: ReturnType<typeof look>): Promise<Problem> =>
      (await shop.post<Problem>({ ...command, ...shop.envelope() })).body;
    expect((await refused(look(6, 19))).detail).toContain('no edge to judge');
    await fitted(100);
    const few = await refused(look(1, 2));
    expect(few.errors?.[0]).toEqual({
      field: 'seen.clean',
      message: 'and torn are too few together: look at 5 tips at least',
    });
    const tips = Array.from({ length: 6 }, (_, i) => ({ x: i / 6, y: 0.5, torn: i < 2 }));
    const differs = await refused(look(3, 3, undefined, { tips }));
    expect(differs.errors?.[0]?.field).toBe('seen.torn');
    const lost = await refused({ ...look(2, 4), file: 'f'.repeat(32) + '.jpg' });
    expect(lost.errors?.[0]?.message).toContain('take the picture again');
    expect((await grass()).looks).toEqual([]);
  });

  it('learns how long edges last, in hours on soft turf and loam, and forgets what is taken back', async () => {
    await shop.measureDeck({ duty: { turf: 'coarse', soil: 'loam' } });
    await fitted(100);
    const looks = [
      [0.5, 1],
      [2, 3],
      [4, 9],
      [5, 14],
      [6, 20],
      [8, 31],
    ].map(([hours, torn]) => look(torn!, 40 - torn!, 100 + hours!));
    for (const each of looks) await shop.send(each);
    const { all, byGround, looks: count } = await edges();
    expect(count).toBe(6);
    expect(byGround.map(({ turf, soil }) => [turf, soil])).toEqual([['coarse', 'loam']]);
    expect(byGround[0]?.hours).toBeCloseTo(4.9, 0);
    // An hour on coarse turf is 1.6 on soft.
    expect(all?.hours).toBeCloseTo(1.6 * byGround[0]!.hours, 6);
    await shop.send({ type: 'take-back-look', lookId: looks[0]!.lookId });
    await shop.send({ type: 'take-back-look', lookId: looks[1]!.lookId });
    expect((await grass()).looks).toHaveSize(4);
    expect((await edges()).byGround).toEqual([]);
  });

  it('keeps its picture from being swept away', async () => {
    await fitted(100);
    const { connection, models } = shop.database;
    const { lookId, seen } = look(2, 8);
    const of = { id: lookId, mowerId: shop.mowerId, fittedAt: '2026-05-01T08:00:00Z' };
    const row = { ...of, hoursOnEdge: 1, turf: 'soft', soil: 'loam', ...seen } as const;
    const rest = { at: of.fittedAt, personId: shop.envelope().personId, takenBackAt: null };
    await connection.write(() => models.grassLook.create({ ...row, ...rest, file: 'a.jpg' }));
    expect(await photosInUse(models)).toEqual(new Set(['a.jpg']));
    await shop.send({ type: 'take-back-look', lookId });
    expect(await photosInUse(models)).toEqual(new Set());
  });
});
