import { Worker } from 'node:worker_threads';
import { language, rememberAnswers } from '@tally-stone/core';
import type { Answer, Question, TaskName } from './tasks.js';

interface Waiting {
  readonly resolve: (answer: never) => void;
  readonly reject: (error: Error) => void;
}

/** Given up: the worker is stopped, and another is started for the next question. */
export class TookTooLong extends Error {}

/** Works out what takes long in a worker thread, which is loaded once, at the first question. */
export class Heavy {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private next = 0;

  /** Every screen that shows a plan asks for it again and again: what was solved is remembered. */
  readonly plan = rememberAnswers((question) => this.run('plan', question));

  /** Errors: {@link TookTooLong} where it takes longer than `mostMs`; whatever else was asked meanwhile fails with it. */
  async run<Name extends TaskName>(
    task: Name,
    question: Question<Name>,
    mostMs?: number,
  ): Promise<Answer<Name>> {
    const id = this.next++;
    const late =
      mostMs === undefined
        ? undefined
        : setTimeout(() => {
            this.giveUp(new TookTooLong(`${task} took longer than ${mostMs} ms`));
          }, mostMs);
    try {
      return await new Promise((resolve, reject) => {
        this.waiting.set(id, { resolve, reject });
        this.running().postMessage({ id, task, question, language: language() });
      });
    } finally {
      clearTimeout(late);
    }
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
    this.worker = undefined;
  }

  private giveUp(error: Error): void {
    const { worker } = this;
    this.worker = undefined;
    for (const { reject } of this.waiting.values()) reject(error);
    this.waiting.clear();
    void worker?.terminate();
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
      this.giveUp(error);
    });
    this.worker = worker;
    return worker;
  }
}
