import type { BladeList } from '@tally-stone/contract';
import { Served } from '../../testing/served';
import { BLADE } from '../../testing/views';
import { FindBlade } from './find-blade';

describe('finding a blade without its code', () => {
  const found: BladeList = { blades: [BLADE], total: 1 };
  const later = () => new Promise((next) => setTimeout(next, 250));

  it('asks by mower, place and size, and hands on the one that is picked', async () => {
    const finder = await Served.open(FindBlade, { '/api/v1/mowers': [], '/api/v1/blades': found });
    let picked = '';
    finder.fixture.componentInstance.found.subscribe(({ code }) => (picked = code));
    await later();
    await finder.settle();
    expect(finder.text).toContain('Blades that fit: 1');
    finder.find('.found button').click();
    expect(picked).toBe('4447M');
  });

  it('says what is wrong with a length and still looks by the rest', async () => {
    const finder = await Served.open(FindBlade, {
      '/api/v1/mowers': [],
      '/api/v1/blades': { blades: [], total: 0 },
    });
    await finder.enter('Length', 'long');
    await later();
    await finder.settle();
    expect(await finder.wrongAt('Length')).toContain('is not a number');
    expect(finder.text).toContain('No blade fits.');
  });
});
