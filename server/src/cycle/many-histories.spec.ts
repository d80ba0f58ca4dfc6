import { someAtATime } from './many-histories.js';

describe('histories of many blades', () => {
  it('are read of some at a time, and all of them found', async () => {
    const ids = Array.from({ length: 600 }, (_, i) => String(i));
    const asked: number[] = [];
    const found = await someAtATime(ids, (some) => {
      asked.push(some.length);
      return Promise.resolve(new Map(some.map((id) => [id, Number(id)])));
    });
    expect(Math.max(...asked)).toBeLessThan(300);
    expect([...found]).toEqual(ids.map((id) => [id, Number(id)]));
  });
});
