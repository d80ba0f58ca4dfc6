import { listSpecs } from '../spec/specs.js';
import { TestShop } from '../testing/shop.js';
import { membersOf } from './geometry.js';

describe('a blade as its set is judged by', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  afterEach(() => shop.close());

  /** Three grinds of half a millimetre; after the first the edge is read everywhere, or at its root alone. */
  const groundThreeTimes = async (everywhere: boolean): Promise<string> => {
    const { bladeId } = await shop.newBlade();
    for (let nth = 1; nth <= 3; nth++) {
      const width = (63.5 - nth / 2).toFixed(1);
      if (nth > 1) await shop.send({ type: 'bring-in', bladeId, place: 'Heap' });
      const cycle = await shop.openCycleOf(bladeId);
      await cycle.inspectClean();
      await cycle.read('before', 'mass', (1608 - 8 * nth).toFixed(1));
      for (const end of ['A', 'B'] as const) {
        await cycle.read('before', 'bevel', '30.0', { end });
        await cycle.read('before', 'land', '0.50', { end });
        const came = (64 - nth / 2).toFixed(1);
        await cycle.read('before', 'width', came, { end, stationKey: 'root' });
      }
      await cycle.read('before', 'straightedge-gap', '0.30');
      await cycle.grind();
      await cycle.balance();
      const mass = (1600 - 8 * nth).toFixed(1);
      if (everywhere || nth === 1) await cycle.measure('after', { mass, width, land: '0.15' });
      else {
        await cycle.read('after', 'mass', mass);
        for (const end of ['A', 'B'] as const) {
          await cycle.read('after', 'width', width, { end, stationKey: 'root' });
          await cycle.read('after', 'land', '0.15', { end });
        }
      }
      await cycle.lightTests();
      await cycle.do({ type: 'sign-off', outcome: 'ready' });
    }
    return bladeId;
  };

  it('is as wide as it is today, also where nobody has read it since', async () => {
    const ids = [await groundThreeTimes(true), await groundThreeTimes(false)];
    const { database } = shop;
    const blades = await database.models.blade.findAll({ where: { id: ids } });
    const specs = new Map(
      (await listSpecs(database)).map(({ specId, figures }) => [specId, figures]),
    );
    const members = await membersOf(database, blades, (specId) => specs.get(specId));
    const [read, reckoned] = ids.map((id) => members.get(id)?.widthMm ?? NaN);
    expect(read).toBeCloseTo(62, 9);
    // The places last read two grinds ago were 63 mm wide then.
    expect(reckoned).toBeCloseTo(62, 0);
    expect(Math.abs((reckoned ?? NaN) - 62)).toBeLessThan(0.2);
  });
});
