import { parentPort } from 'node:worker_threads';
import { BenchError } from '@tally-stone/core';
import type { Language } from '@tally-stone/contract';
import { speaking } from '../language.js';
import { TASKS, type TaskName } from './tasks.js';

interface Message {
  readonly id: number;
  readonly task: TaskName;
  readonly question: never;
  readonly language: Language;
}

async function work(id: number, task: TaskName, question: never): Promise<void> {
  try {
    parentPort?.postMessage({ id, answer: await TASKS[task](question) });
  } catch (error) {
    const words = error instanceof BenchError ? error.message : String(error);
    parentPort?.postMessage({ id, error: words });
  }
}

parentPort?.on('message', ({ id, task, question, language }: Message) => {
  void speaking(language, () => work(id, task, question));
});
