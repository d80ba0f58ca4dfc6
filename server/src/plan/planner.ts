import { Worker } from 'node:worker_threads';
import { rememberAnswers, type PlanAnswer, type PlanQuestion } from '@tally-stone/core';

interface Waiting {
  readonly resolve: (answer: PlanAnswer) => void;
  readonly reject: (error: Error) => void;
}

/** Solves grind plans in a worker thread, loaded once, at the first question. */
export class Planner {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private next = 0;

  /** Every screen that shows a plan asks for it again and again: what was solved is remembered. */
  readonly plan = rememberAnswers((question) => this.solve(question));

  private solve(question: PlanQuestion): Promise<PlanAnswer> {
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.running().postMessage({ id, question });
    });
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
    this.worker = undefined;
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('./solver-worker.js', import.meta.url));
    worker.unref();
    worker.on(
      'message',
      ({ id, answer, error }: { id: number; answer?: PlanAnswer; error?: string }) => {
        const asked = this.waiting.get(id);
        this.waiting.delete(id);
        if (answer) asked?.resolve(answer);
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
