import { Injectable } from '@angular/core';
import type { SeasonDifference, SeasonSummary } from '@tally-stone/core';
import { Observable } from 'rxjs';
import { teach } from '../data/language';
import type { SeasonQuestion } from './season.worker';

export interface SeasonProgress {
  readonly done: number;
  readonly total: number;
  /** One a choice, in their order, once all is done. */
  readonly summaries?: readonly SeasonSummary[];
  /** Of each against the first of them. */
  readonly differences?: readonly SeasonDifference[];
}

/** Many seasons in a web worker. Letting go of the answer ends the worker: that is how it is cancelled. */
@Injectable({ providedIn: 'root' })
export class Simulator {
  run(question: SeasonQuestion): Observable<SeasonProgress> {
    return new Observable((listener) => {
      const worker = teach(
        new Worker(new URL('./season.worker', import.meta.url), { type: 'module' }),
      );
      worker.addEventListener(
        'message',
        ({ data }: MessageEvent<SeasonProgress & { readonly error?: string }>) => {
          if (data.error !== undefined) listener.error(new Error(data.error));
          else listener.next(data);
          if (data.summaries) listener.complete();
        },
      );
      worker.addEventListener('error', () => {
        listener.error(new Error($localize`The season could not be simulated here.`));
      });
      worker.postMessage(question);
      return () => {
        worker.terminate();
      };
    });
  }
}
