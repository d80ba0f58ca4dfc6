import { DOCUMENT, inject, Injectable } from '@angular/core';
import { EVENTS_PATH, StreamEvent } from '@tally-stone/contract';
import {
  distinctUntilChanged,
  fromEvent,
  map,
  Observable,
  share,
  startWith,
  switchMap,
  EMPTY,
} from 'rxjs';

/**
 * What others change, as it happens: one event stream for the whole tab, closed while the tab is hidden
 * and resumed by the browser with the last event's number.
 */
@Injectable({ providedIn: 'root' })
export class Changes {
  private readonly document = inject(DOCUMENT);

  readonly all$: Observable<StreamEvent | 'resumed'> = fromEvent(
    this.document,
    'visibilitychange',
  ).pipe(
    startWith(undefined),
    map(() => this.document.visibilityState === 'visible'),
    distinctUntilChanged(),
    switchMap((visible) => (visible ? openStream() : EMPTY)),
    share(),
  );
}

function openStream(): Observable<StreamEvent | 'resumed'> {
  return new Observable((subscriber) => {
    const source = new EventSource(EVENTS_PATH);
    source.addEventListener('open', () => {
      subscriber.next('resumed');
    });
    source.addEventListener('change', (message) => {
      const parsed = StreamEvent.safeParse(JSON.parse(String(message.data)));
      if (parsed.success) subscriber.next(parsed.data);
    });
    return () => {
      source.close();
    };
  });
}
