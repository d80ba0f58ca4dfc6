import type { FleetView, KeptMower } from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { TestShop } from '../testing/shop.js';

describe('what is looked at while the blades are off', () => {
  let shop: TestShop;
  beforeAll(async () => {
    shop = await TestShop.open();
  });
  afterAll(() => shop.close());

  const mower = async (): Promise<KeptMower> => {
    const [first] = (await shop.get<FleetView>('/api/v1/fleet')).body.mowers;
    if (!first) throw new Error('no mower');
    return first;
  };
  const note = async (looked: readonly object[]) =>
    shop.post({
      ...shop.envelope(),
      type: 'note-upkeep',
      mowerId: (await mower()).mowerId,
      looked: looked.map((each) => ({ upkeepId: uuidv7(), ...each })),
    });

  it('is due until somebody looks, remembered by mower, and due again by its hours', async () => {
    const stateOf = async (kind: string) =>
      (await mower()).upkeep.find((each) => each.kind === kind);
    expect((await stateOf('spindles'))?.due).toBeTrue();
    expect((await stateOf('spindles'))?.last).toBeUndefined();
    expect((await note([{ kind: 'grease', found: 'done' }])).status).toBe(200);
    const { hoursH, mowerId } = await mower();
    expect(await stateOf('grease')).toEqual(
      jasmine.objectContaining({
        due: false,
        last: jasmine.objectContaining({ found: 'done', hoursH }),
      }),
    );
    expect((await stateOf('deck'))?.due).toBeTrue();
    await shop.send({ type: 'read-hours', mowerId, hoursH: hoursH + 25 });
    expect((await stateOf('grease'))?.due).toBeTrue();
  });

  it('keeps what wants work, with what it wants, until it is seen to', async () => {
    const refused = await note([{ kind: 'belt', found: 'wants-work' }]);
    expect(refused.body.errors?.[0]?.field).toBe('looked.0.note');
    await note([{ kind: 'belt', found: 'wants-work', note: 'frayed' }]);
    const belt = async () => (await mower()).upkeep.find(({ kind }) => kind === 'belt')?.last;
    expect((await belt())?.note).toBe('frayed');
    await note([{ kind: 'belt', found: 'done' }]);
    expect(await belt()).toEqual(jasmine.objectContaining({ found: 'done' }));
    expect((await belt())?.note).toBeUndefined();
  });

  it('is refused where it says one thing twice, or nothing', async () => {
    const twice = await note([
      { kind: 'belt', found: 'done' },
      { kind: 'belt', found: 'in-order' },
    ]);
    expect(twice.status).toBe(422);
    expect((await note([])).status).toBe(422);
  });
});
