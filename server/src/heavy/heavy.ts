import { Worker } from 'node:worker_threads';
import { rememberAnswers } from '@tally-stone/core';
import type { Answer, Question, TaskName } from './tasks.js';

interface Waiting {
  readonly resolve: (answer: never) => void;
  readonly reject: (error: Error) => void;
}

/** Works out what takes long in a worker thread, which is loaded once, at the first question. */
export class Heavy {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private next = 0;

  /** Every screen that shows a plan asks for it again and again: what was solved is remembered. */
  readonly plan = rememberAnswers((question) => this.run('plan', question));

  run<Name extends TaskName>(task: Name, question: Question<Name>): Promise<Answer<Name>> {
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.running().postMessage({ id, task, question });
    });
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
    this.worker = undefined;
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('./heavy-worker.js', import.meta.url));
    worker.unref();
    worker.on(
      'message',
      ({ id, answer, error }: { id: number; answer?: never; error?: string }) => {
        const asked = this.waiting.get(id);
        this.waiting.delete(id);
        if (error === undefined) asked?.resolve(answer as never);
        else asked?.reject(new Error(error));
      },
    );
    worker.on('error', (error) => {
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
      this.worker = undefined;
    });
    this.worker = worker;
    return worker;
  }
}
