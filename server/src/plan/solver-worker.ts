import { parentPort } from 'node:worker_threads';
import { answerPlan, BenchError, highsSolver, type PlanQuestion } from '@tally-stone/core';
import loadHighs, { type LegacyHighs } from 'highs';

// Its types describe a default export that Node's resolution reads as a namespace.
const solve = highsSolver(await (loadHighs as unknown as () => Promise<LegacyHighs>)());

parentPort?.on('message', ({ id, question }: { id: number; question: PlanQuestion }) => {
  try {
    parentPort?.postMessage({ id, answer: answerPlan(question, solve) });
  } catch (error) {
    const words = error instanceof BenchError ? error.message : String(error);
    parentPort?.postMessage({ id, error: words });
  }
});
