import { parentPort } from 'node:worker_threads';
import { BenchError } from '@tally-stone/core';
import { TASKS, type TaskName } from './tasks.js';

async function work(id: number, task: TaskName, question: never): Promise<void> {
  try {
    parentPort?.postMessage({ id, answer: await TASKS[task](question) });
  } catch (error) {
    const words = error instanceof BenchError ? error.message : String(error);
    parentPort?.postMessage({ id, error: words });
  }
}

parentPort?.on(
  'message',
  ({ id, task, question }: { id: number; task: TaskName; question: never }) => {
    void work(id, task, question);
  },
);
