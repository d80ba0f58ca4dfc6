import { Injectable } from '@angular/core';
import { Observable } from 'rxjs';
import { teach } from '../data/language';
import type { PhotoAnswer, PhotoQuestion } from './photo.worker';

/** Reads an edge from a picture in a web worker of its own. Letting go of the answer ends the worker: that is how it is cancelled. */
@Injectable({ providedIn: 'root' })
export class PhotoReader {
  read(question: PhotoQuestion): Observable<PhotoAnswer> {
    return new Observable((listener) => {
      const worker = teach(
        new Worker(new URL('./photo.worker', import.meta.url), { type: 'module' }),
      );
      worker.addEventListener('message', ({ data }: MessageEvent<PhotoAnswer>) => {
        listener.next(data);
        if (!('share' in data)) listener.complete();
      });
      worker.addEventListener('error', () => {
        listener.error(new Error($localize`This browser could not look at the picture.`));
      });
      worker.postMessage(question);
      return () => {
        worker.terminate();
      };
    });
  }
}
