import { holdsEdge, inWords, limitsUnder, type Limit } from '../index.js';

const width: Limit = {
  kind: 'width',
  value: 51,
  unit: 'mm',
  stationKey: 'tip',
  source: 'maker',
  sourceText: 'manual',
};
const ownCount: Limit = { ...width, kind: 'grinds', value: 8, unit: 'grinds' };

describe('limitsUnder', () => {
  it('adds a count only in its school, and never drops a measured limit', () => {
    expect(limitsUnder({ kind: 'limits' }, [width])).toEqual([width]);
    expect(limitsUnder({ kind: 'wont-hold', share: 0.5 }, [width])).toEqual([width]);
    const counted = limitsUnder({ kind: 'count', grinds: 4 }, [width]);
    expect(counted[0]).toEqual(width);
    expect(counted[1]).toEqual(
      jasmine.objectContaining({ kind: 'grinds', value: 4, source: 'shop' }),
    );
  });
  it("leaves a spec's own count standing", () => {
    expect(limitsUnder({ kind: 'count', grinds: 4 }, [ownCount])).toEqual([ownCount]);
  });
  it('refuses a count of none', () => {
    expect(() => limitsUnder({ kind: 'count', grinds: 0 }, [])).toThrowError(/grinds/);
  });
});

describe('holdsEdge', () => {
  it('watches a blade whose last edge was short, and says both figures', () => {
    const found = holdsEdge({ lastH: 5, usualH: 12 }, 0.5);
    const words = found ? inWords(found).words : '';
    expect(words).toContain('after 5.0 h');
    expect(words).toContain('usually holds 12.0');
    expect(found?.margin).toBe(-1);
  });
  it('says nothing of one that held, or of a spec nobody knows', () => {
    expect(holdsEdge({ lastH: 6, usualH: 12 }, 0.5)).toBeUndefined();
    expect(holdsEdge({ lastH: 0, usualH: 0 }, 0.5)).toBeUndefined();
  });
  it('refuses hours below none and a share above one', () => {
    expect(() => holdsEdge({ lastH: -1, usualH: 1 }, 0.5)).toThrowError(/lastH/);
    expect(() => holdsEdge({ lastH: 1, usualH: 1 }, 2)).toThrowError(/share/);
  });
});
