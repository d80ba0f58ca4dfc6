import type { BladeView, Problem, SpecFigures, SpecRevision } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';

describe('a blade trimmed to length', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  const specs = async (): Promise<SpecRevision[]> =>
    (await shop.get<SpecRevision[]>('/api/v1/specs')).body;
  const whole = async (): Promise<SpecRevision> =>
    (await specs()).find(({ specId }) => specId === shop.specId)!;
  const change = async (figures: Partial<SpecFigures>) =>
    shop.send({
      type: 'change-spec',
      specId: shop.specId,
      specRevisionId: uuidv7(),
      figures: { ...(await whole()).figures, ...figures },
      reason: 'maker-says',
    });
  const allow = () =>
    change({ trimming: { leastLengthMm: 515, sourceText: 'service sheet, page 4' } });
  const trim = (bladeId: string, A: string, B: string, toLengthMm = 525) => ({
    type: 'trim-blade' as const,
    trimId: uuidv7(),
    bladeId,
    specId: uuidv7(),
    specRevisionId: uuidv7(),
    toLengthMm,
    halves: { A: { text: A, unit: 'mm' as const }, B: { text: B, unit: 'mm' as const } },
  });
  const refused = async (command: ReturnType<typeof trim>): Promise<Problem> =>
    (await shop.post<Problem>({ ...command, ...shop.envelope() })).body;
  const view = async (bladeId: string): Promise<BladeView> =>
    (await shop.get<BladeView>(`/api/v1/blades/${bladeId}`)).body;

  it('is of the new length from then on, waits for the bench, and is measured there anew', async () => {
    await allow();
    const cycle = await shop.openCycle();
    await cycle.inspectClean();
    await cycle.measure('before');
    await cycle.grind();
    await cycle.balance();
    await cycle.measure('after', { mass: '1592.0', width: '61.5', land: '0.15' });
    await cycle.lightTests();
    await cycle.do({ type: 'sign-off', outcome: 'ready' });
    const { bladeId } = cycle;
    await shop.send(trim(bladeId, '262.5', '262.4'));
    const trimmed = await view(bladeId);
    expect([trimmed.blade.state, trimmed.lengthMm]).toEqual(['waiting', 524.9]);
    expect(trimmed.spec.figures.newLengthMm).toBe(525);
    expect(trimmed.timeline.at(-1)?.words).toContain('533.0\u00a0mm to 525.0\u00a0mm');
    // What was read of the old tip says nothing of the new one.
    expect(trimmed.widths.A).toEqual([]);
    const { slots, bench } = await (await shop.openCycleOf(bladeId)).view();
    const asked = slots.filter(({ phase, needed }) => phase === 'before' && needed);
    expect(asked.map(({ quantity }) => quantity)).toEqual(
      jasmine.arrayContaining(['mass', 'width']),
    );
    expect(asked[0]?.why).toBe('not read since it was trimmed');
    expect(bench?.facts.last['length:-:-']?.value).toBe(524.9);
    expect(bench?.facts.last['width:A:tip']).toBeUndefined();
    // Its old cycle is judged by what was known then.
    expect((await cycle.view()).spec.figures.newLengthMm).toBe(533);
  });

  it('shares its spec with others trimmed alike, and follows the limits of the spec it came from', async () => {
    await allow();
    const [one, two] = [(await shop.newBlade()).bladeId, (await shop.newBlade()).bladeId];
    await shop.send(trim(one, '262.5', '262.5'));
    await shop.send(trim(two, '262.6', '262.4'));
    const trimmed = (await view(one)).spec;
    expect((await view(two)).spec.specId).toBe(trimmed.specId);
    expect(await specs()).toHaveSize(2);
    const asNew = await shop.post<Problem>({
      type: 'register-blades',
      specId: trimmed.specId,
      count: 1,
      ...shop.envelope(),
    });
    expect(asNew.body.errors?.[0]?.message).toContain('trimmed here');
    const alone = await shop.post<Problem>({
      type: 'change-limits',
      specId: trimmed.specId,
      specRevisionId: uuidv7(),
      limits: trimmed.figures.limits,
      reason: 'wear-seen',
      ...shop.envelope(),
    });
    expect(alone.body.detail).toContain('this one follows');
    const { limits } = (await whole()).figures;
    const tighter = limits.map((each) =>
      each.kind === 'width' && each.stationKey === 'tip' ? { ...each, value: 60.5 } : each,
    );
    await change({ limits: tighter });
    const after = (await view(one)).spec;
    expect([after.revision, after.figures.newLengthMm]).toEqual([trimmed.revision + 1, 525]);
    expect(after.figures.limits).toContain(
      jasmine.objectContaining({ stationKey: 'tip', value: 60.5 }),
    );
  });

  it('is refused where the maker does not say so, below the least, and with unlike halves', async () => {
    const { bladeId } = await shop.newBlade();
    expect((await refused(trim(bladeId, '262.5', '262.5'))).detail).toContain('not trimmed');
    await allow();
    const short = await refused(trim(bladeId, '255', '255', 510));
    expect(short.errors?.[0]).toEqual({
      field: 'toLengthMm',
      message: 'must be at least the 515 mm the maker allows (got 510)',
    });
    const unlike = await refused(trim(bladeId, '263.2', '262.0'));
    expect(unlike.errors?.[0]?.field).toBe('halves.A.text');
    expect(unlike.errors?.[0]?.message).toContain('1.2\u00a0mm more than end B');
    const other = await refused(trim(bladeId, '264.0', '264.0'));
    expect(other.errors?.[0]?.message).toContain(
      '3.0\u00a0mm less than the two halves make: 528.0\u00a0mm',
    );
    expect(await specs()).toHaveSize(1);
    expect((await view(bladeId)).blade.state).toBe('new');
  });

  it('is taken back while it was not taken up since, and stands as it did', async () => {
    await allow();
    const { bladeId } = await shop.newBlade();
    const command = trim(bladeId, '262.5', '262.5');
    await shop.send(command);
    const { trimmed } = await view(bladeId);
    expect(trimmed).toEqual({ trimId: command.trimId, fromMm: 533, toMm: 525, canTakeBack: true });
    await shop.send({ type: 'take-back-trim', trimId: command.trimId });
    const back = await view(bladeId);
    expect([back.blade.state, back.spec.specId, back.trimmed]).toEqual([
      'new',
      shop.specId,
      undefined,
    ]);
    await shop.send(trim(bladeId, '262.5', '262.5'));
    await shop.openCycleOf(bladeId);
    const again = (await view(bladeId)).trimmed!;
    expect(again.canTakeBack).toBe(false);
    const late = await shop.post<Problem>({
      type: 'take-back-trim',
      trimId: again.trimId,
      ...shop.envelope(),
    });
    expect(late.body.detail).toContain('was started since');
  });
});
