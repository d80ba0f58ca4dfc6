import { Injectable, type OnDestroy } from '@angular/core';
import { rememberAnswers, type PlanAnswer, type PlanQuestion } from '@tally-stone/core';
import { teach } from './language';
import { defer, firstValueFrom, Observable } from 'rxjs';

interface Reply {
  readonly id: number;
  readonly answer?: PlanAnswer;
  readonly error?: string;
}

/** Solves grind plans in a web worker: the same function as the server's, so a school can be tried at once. */
@Injectable({ providedIn: 'root' })
export class Planner implements OnDestroy {
  private worker: Worker | undefined;
  private next = 0;

  private readonly answers = rememberAnswers((question) => firstValueFrom(this.solve(question)));

  /** A school tried, left and tried again is answered from memory. */
  plan(question: PlanQuestion): Observable<PlanAnswer> {
    return defer(() => this.answers(question));
  }

  private solve(question: PlanQuestion): Observable<PlanAnswer> {
    return new Observable((listener) => {
      const worker = this.running();
      const id = this.next++;
      const hear = ({ data }: MessageEvent<Reply>): void => {
        if (data.id !== id) return;
        if (data.answer) {
          listener.next(data.answer);
          listener.complete();
        } else listener.error(new Error(data.error ?? $localize`The plan could not be solved.`));
      };
      const fault = (): void =>
        listener.error(new Error($localize`The plan could not be solved here.`));
      worker.addEventListener('message', hear);
      worker.addEventListener('error', fault);
      worker.postMessage({ id, question });
      return () => {
        worker.removeEventListener('message', hear);
        worker.removeEventListener('error', fault);
      };
    });
  }

  /** Starts the worker, so that it is there when a school is tried. */
  warm(): void {
    this.running();
  }

  ngOnDestroy(): void {
    this.worker?.terminate();
  }

  private running(): Worker {
    this.worker ??= teach(
      new Worker(new URL('./planner.worker', import.meta.url), { type: 'module' }),
    );
    return this.worker;
  }
}
