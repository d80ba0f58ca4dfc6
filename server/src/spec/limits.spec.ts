import type {
  LimitPreview,
  Problem,
  ShopAct,
  SpecFigures,
  SpecRevision,
} from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';

describe('other limits for a spec', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  type Limits = SpecFigures['limits'];
  const spec = async (): Promise<SpecRevision> =>
    (await shop.get<SpecRevision[]>('/api/v1/specs')).body[0]!;
  /** The limits with the tip's least width at another value. */
  const withTip = async (value: number): Promise<Limits> =>
    (await spec()).figures.limits.map((limit) =>
      limit.kind === 'width' && limit.stationKey === 'tip' ? { ...limit, value } : limit,
    );
  const preview = async (limits: Limits) => {
    const response = await fetch(`${shop.serving.address}/api/v1/specs/${shop.specId}/preview`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ limits }),
    });
    return { status: response.status, body: (await response.json()) as LimitPreview & Problem };
  };
  const change = (limits: Limits): ShopAct => ({
    type: 'change-limits',
    specId: shop.specId,
    specRevisionId: uuidv7(),
    limits,
    reason: 'wear-seen',
  });
  const signedReady = async (width: string): Promise<string> => {
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    await cycle.grind();
    await cycle.balance();
    await cycle.measure('after', { mass: '1592.0', width, land: '0.15' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    return cycle.bladeId;
  };
  const stateOf = async (bladeId: string) =>
    (await shop.database.models.blade.findByPk(bladeId))?.state;

  it('say whom they would retire before they are kept, and hold the ready ones once they are', async () => {
    const [narrow, wide] = [await signedReady('61.5'), await signedReady('61.9')];
    const opened = await shop.openCycle();
    const tighter = await withTip(61.7);
    const { body } = await preview(tighter);
    expect(body.judged).toBe(3);
    expect(body.retires.map(({ bladeId, state }) => [bladeId, state])).toEqual([[narrow, 'ready']]);
    expect(body.retires[0]?.words).toContain('limit 61.7');
    // Looking changes nothing.
    expect((await spec()).revision).toBe(1);
    await shop.send(change(tighter));
    expect((await spec()).revision).toBe(2);
    expect([await stateOf(narrow), await stateOf(wide)]).toEqual(['hold', 'ready']);
    // An open cycle keeps the limits it was opened by.
    expect((await opened.view()).spec.revision).toBe(1);
    expect((await (await shop.openCycle()).view()).spec.revision).toBe(2);
    const journal = await shop.database.models.journal.findAll({
      where: { subjectId: shop.specId },
    });
    expect(journal.at(-1)?.after).toEqual(jasmine.objectContaining({ reason: 'wear-seen' }));
    // What is over already is not told again as news.
    expect((await preview(await withTip(61.8))).body.retires).toEqual([]);
  });

  it('are refused above the new size at their field, and nothing is half-written', async () => {
    const tooWide = await withTip(99);
    const at = tooWide.findIndex(
      ({ stationKey, kind }) => kind === 'width' && stationKey === 'tip',
    );
    const looked = await preview(tooWide);
    expect(looked.status).toBe(422);
    expect(looked.body.errors?.[0]?.field).toBe(`limits.${at}.value`);
    const { status, body } = await shop.post<Problem>({ ...change(tooWide), ...shop.envelope() });
    expect(status).toBe(422);
    expect(body.errors?.[0]?.message).toContain('is not below the new blade');
    expect((await spec()).revision).toBe(1);
  });

  describe('and sizes', () => {
    const changed = (figures: SpecFigures): ShopAct => ({
      type: 'change-spec',
      specId: shop.specId,
      specRevisionId: uuidv7(),
      figures,
      reason: 'typed-wrongly',
    });
    it('make another revision from now on, and are previewed whole', async () => {
      const before = await spec();
      const figures = { ...before.figures, name: 'Towpath high-lift 530', newLengthMm: 530 };
      const opened = await shop.openCycle();
      const response = await fetch(`${shop.serving.address}/api/v1/specs/${shop.specId}/preview`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ figures }),
      });
      expect(((await response.json()) as LimitPreview).retires).toEqual([]);
      await shop.send(changed(figures));
      const after = await spec();
      expect([after.revision, after.figures.newLengthMm, after.figures.name]).toEqual([
        2,
        530,
        'Towpath high-lift 530',
      ]);
      expect((await opened.view()).spec.figures.newLengthMm).toBe(533);
    });
    it('are refused where new blades would strike each other on a deck that takes them', async () => {
      await shop.measureDeck();
      const { figures } = await spec();
      const { status, body } = await shop.post<Problem>({
        ...changed({ ...figures, newLengthMm: 560 }),
        ...shop.envelope(),
      });
      expect(status).toBe(422);
      expect(body.errors?.[0]?.field).toBe('figures.newLengthMm');
      expect(body.errors?.[0]?.message).toContain('does not fit Wagtail');
      expect((await spec()).revision).toBe(1);
    });
  });
});
