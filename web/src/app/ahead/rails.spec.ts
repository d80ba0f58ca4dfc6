import type { AheadOutlook } from '@tally-stone/contract';
import { firstOrder, grassOf, placeOf, railsOf, ropeEnd } from './rails';

type Spec = AheadOutlook['specs'][number];
const next = (chance: number, evenAt?: number, nth = 0): Spec['next'][number] => ({
  chance,
  code: `44${nth}`,
  bladeId: `${chance} ${evenAt} ${nth}`,
  ...(evenAt === undefined ? {} : { evenAt }),
});
const spec = (change: Partial<Spec> = {}): Spec => ({
  specId: 's',
  name: 'Towpath high-lift 533',
  blades: 9,
  price: 18,
  need: [],
  next: [],
  hoursPerBlade: [],
  ...change,
});

describe('the rails of the year', () => {
  it('hang what is used up together, the rest where it is as likely gone as not', () => {
    const [rail] = railsOf({
      specs: [
        spec({ next: [next(1, 0), next(1, 0, 2), next(1, 2.8), next(0.7, 11.3), next(0.4)] }),
      ],
    });
    expect(rail?.now.map(({ nth }) => nth)).toEqual([1, 2]);
    expect(rail?.later.map(({ nth, at, even }) => [nth, at, even])).toEqual([
      [3, 2.8, true],
      [4, 11.3, true],
      [5, 12, false],
    ]);
    expect([rail?.likely, rail?.enough]).toEqual([4, 5]);
  });

  it('leave out sizes that likely lose none, and put first what costs most', () => {
    const rails = railsOf({
      specs: [
        spec({ specId: 'cheap', price: 5, next: [next(1, 3), next(1, 4)] }),
        spec({ specId: 'dear', price: 40, next: [next(0.9, 7)] }),
        spec({ specId: 'perhaps', next: [next(0.4)] }),
        spec({ specId: 'none' }),
      ],
    });
    expect(rails.map((rail) => rail.spec.specId)).toEqual(['dear', 'cheap']);
  });

  it('put apart blades that go at the same time, each figure where it can be read', () => {
    const [rail] = railsOf({ specs: [spec({ next: [next(1, 3), next(1, 3.1), next(0.8, 3.2)] })] });
    expect(rail?.later.map(({ at }) => Math.round(100 * at) / 100)).toEqual([3, 3.25, 3.5]);
  });

  it('keep within the year those that crowd at its end, figures and tags clear of each other', () => {
    const crowd = [next(1, 11.5), next(0.8, 11.8, 1), next(0.7, 11.9, 2), next(0.3), next(0.25)];
    const [rail] = railsOf({ specs: [spec({ next: [next(1, 9.5), ...crowd] })] });
    const places = rail?.later.map(({ at }) => at) ?? [];
    expect(places.map((at) => Math.round(100 * at) / 100)).toEqual([
      9.5, 10.25, 10.5, 11, 11.5, 12,
    ]);
    const tags = rail?.orders.map(({ tagAt }) => tagAt) ?? [];
    expect(tags.length).toBe(2);
    expect(tags[1]).toBeLessThanOrEqual(10.65);
    expect((tags[1] ?? 0) - (tags[0] ?? 0)).toBeGreaterThanOrEqual(1.6 - 1e-9);
  });

  it('stand closer where they are more than the year has room for', () => {
    const many = Array.from({ length: 60 }, (_, i) => next(0.99, 0.1 + i / 6, i));
    const [rail] = railsOf({ specs: [spec({ next: many })] });
    const places = rail?.later.map(({ at }) => at) ?? [];
    expect(Math.min(...places)).toBeGreaterThan(-1e-9);
    expect(Math.max(...places)).toBeLessThanOrEqual(12 + 1e-9);
    expect(places.every((at, i) => i === 0 || at > (places[i - 1] ?? 0))).toBeTrue();
  });

  it('tag what goes this month by itself, later blades two months at a time', () => {
    const [rail] = railsOf({
      specs: [spec({ next: [0, 0.6, 1.2, 2.9, 3.4, 8].map((at, i) => next(1, at, i)) })],
    });
    expect(rail?.orders.map(({ month, count, money }) => [month, count, money])).toEqual([
      [0, 2, 36],
      [1, 2, 36],
      [3, 1, 18],
      [8, 1, 18],
    ]);
    const at = rail?.orders.map(({ tagAt }) => tagAt) ?? [];
    expect(at.slice(1).every((each, i) => each - (at[i] ?? 0) >= 1.6 - 1e-9)).toBeTrue();
  });

  it('order first what is due first, of all sizes together', () => {
    const rails = railsOf({
      specs: [
        spec({ specId: 'a', name: 'A', next: [next(1, 4.5)] }),
        spec({ specId: 'b', name: 'B', next: [next(1, 4.9), next(1, 5.1)] }),
        spec({ specId: 'c', name: 'C', next: [next(1, 9)] }),
      ],
    });
    const first = firstOrder(rails);
    expect(first?.month).toBe(4);
    expect(first?.orders.map(({ name, count }) => [name, count])).toEqual([
      ['B', 2],
      ['A', 1],
    ]);
    expect(firstOrder([])).toBeUndefined();
  });

  it('begin today, within the first month', () => {
    const place = placeOf(0.5);
    expect([0, 1, 12].map(place).map((at) => Math.round(at * 100) / 100)).toEqual([
      4.17, 8.33, 100,
    ]);
  });

  it('draw no more strokes than can be counted, whatever the shop mows', () => {
    for (const hours of [3, 40, 4000]) {
      const { strokes, strokeH } = grassOf({ specs: [spec({ hoursPerBlade: [0, hours] })] });
      expect(strokes.length).toBe(12);
      expect(strokes[0]).toBe(0);
      expect(Math.abs((strokes[1] ?? 0) * strokeH - 9 * hours)).toBeLessThanOrEqual(strokeH / 2);
      expect(Math.max(...strokes)).toBeLessThanOrEqual(14);
    }
  });

  it('fray a rope where its set is as likely broken as whole', () => {
    const set = { deckId: 'd', mowerName: 'Heron', blades: 3, whole: [0.9, 0.7, 0.3, 0.1] };
    expect(ropeEnd({ ...set, breaksIn: 2 })).toBeCloseTo(2.5, 9);
    expect(ropeEnd({ ...set, whole: [0.2], breaksIn: 0 })).toBeCloseTo(0.625, 9);
    expect(ropeEnd(set)).toBeUndefined();
    expect(ropeEnd({ ...set, breaksIn: 14 })).toBeUndefined();
  });
});
