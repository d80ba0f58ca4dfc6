import { parentPort } from 'node:worker_threads';
import { answerPlan, BenchError, type PlanQuestion } from '@tally-stone/core';

parentPort?.on('message', ({ id, question }: { id: number; question: PlanQuestion }) => {
  try {
    parentPort?.postMessage({ id, answer: answerPlan(question) });
  } catch (error) {
    const words = error instanceof BenchError ? error.message : String(error);
    parentPort?.postMessage({ id, error: words });
  }
});
