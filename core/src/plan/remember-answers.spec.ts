import type { PlanAnswer, PlanQuestion } from './ask.js';
import { rememberAnswers } from './remember-answers.js';

const question = (straightness: number): PlanQuestion =>
  ({ input: { straightness } }) as unknown as PlanQuestion;
const answer = (choices: number): PlanAnswer =>
  ({ choices: Array.from({ length: choices }) }) as unknown as PlanAnswer;

describe('rememberAnswers', () => {
  it('solves the same question once, also while the first is under way', async () => {
    let solved = 0;
    const ask = rememberAnswers(() => Promise.resolve(answer(++solved)));
    const [first, second] = await Promise.all([ask(question(1)), ask(question(1))]);
    expect(first).toBe(second);
    expect(await ask(question(1))).toBe(first);
    expect(solved).toBe(1);
    expect(await ask(question(2))).not.toBe(first);
  });

  it('asks again after a failure', async () => {
    let tries = 0;
    const ask = rememberAnswers(() =>
      ++tries === 1 ? Promise.reject(new Error('no solver')) : Promise.resolve(answer(tries)),
    );
    await expectAsync(ask(question(1))).toBeRejectedWithError('no solver');
    expect((await ask(question(1))).choices.length).toBe(2);
  });

  it('forgets what was asked for longest ago', async () => {
    const solved: unknown[] = [];
    const ask = rememberAnswers((asked) => {
      solved.push(asked);
      return Promise.resolve(answer(solved.length));
    }, 2);
    for (const each of [1, 2, 1, 3, 1, 2]) await ask(question(each));
    expect(solved).toEqual([question(1), question(2), question(3), question(2)]);
  });
});
