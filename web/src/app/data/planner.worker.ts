import { answerPlan, BenchError, highsSolver, type PlanQuestion } from '@tally-stone/core';
import loadHighs, { type LegacyHighs } from 'highs';

/** The solver in its own thread: loaded once, at the first question. */
const ready = (loadHighs as unknown as (options: object) => Promise<LegacyHighs>)({
  locateFile: (file: string) => `/solver/${file}`,
}).then(highsSolver);

addEventListener('message', ({ data }: MessageEvent<{ id: number; question: PlanQuestion }>) => {
  const { id, question } = data;
  ready
    .then((solve) => {
      postMessage({ id, answer: answerPlan(question, solve) });
    })
    .catch((error: unknown) => {
      const words = error instanceof BenchError ? error.message : String(error);
      postMessage({ id, error: words });
    });
});
