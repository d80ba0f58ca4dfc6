import './taught';
import { answerPlan, BenchError, type PlanQuestion } from '@tally-stone/core';

addEventListener('message', ({ data }: MessageEvent<{ id: number; question: PlanQuestion }>) => {
  const { id, question } = data;
  try {
    postMessage({ id, answer: answerPlan(question) });
  } catch (error) {
    const words = error instanceof BenchError ? error.message : String(error);
    postMessage({ id, error: words });
  }
});
