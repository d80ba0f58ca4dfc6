import { Kept } from './kept.js';

describe('what is kept between questions', () => {
  let kept: Kept;
  let asked: number;
  const answer = (): Promise<number> => Promise.resolve(++asked);
  beforeEach(() => {
    kept = new Kept();
    asked = 0;
  });

  it('is worked out once, also for all who ask while it is', async () => {
    const both = await Promise.all([kept.of('wear', answer), kept.of('wear', answer)]);
    expect(both).toEqual([1, 1]);
    expect(await kept.of('wear', answer)).toBe(1);
    expect(await kept.of('another', answer)).toBe(2);
  });

  it('is old once something was changed, also where the change failed', async () => {
    await kept.of('wear', answer);
    await kept.whileChanging(async () => {
      expect(await kept.of('wear', answer)).toBe(1);
      // Worked out from what may be rolled back: answered, not kept.
      expect(await kept.of('new', answer)).toBe(2);
      expect(await kept.of('new', answer)).toBe(3);
    });
    expect(await kept.of('wear', answer)).toBe(4);
    await expectAsync(
      kept.whileChanging(() => Promise.reject(new Error('refused'))),
    ).toBeRejected();
    expect(await kept.of('wear', answer)).toBe(5);
  });

  it('is nothing where the work failed', async () => {
    await expectAsync(kept.of('wear', () => Promise.reject(new Error('away')))).toBeRejected();
    expect(await kept.of('wear', answer)).toBe(1);
  });

  it('is dropped whole before it grows without end', async () => {
    for (let i = 0; i < 1000; i++) await kept.of(`question ${i}`, answer);
    const before = asked;
    await kept.of('question 0', answer);
    expect(asked).toBe(before + 1);
    await kept.of('question 999', answer);
    expect(asked).toBe(before + 1);
  });
});
