import { DOCUMENT, inject, Injectable } from '@angular/core';
import { EVENTS_PATH, StreamEvent } from '@tally-stone/contract';
import {
  distinctUntilChanged,
  filter,
  fromEvent,
  map,
  Observable,
  share,
  startWith,
  switchMap,
  EMPTY,
} from 'rxjs';

type Message = StreamEvent | 'resumed' | { readonly line: string };

const isLine = (sent: Message): sent is { readonly line: string } =>
  typeof sent === 'object' && 'line' in sent;

/**
 * What others change, as it happens: one event stream for the whole tab, closed while the tab is hidden
 * and resumed by the browser with the last event's number.
 */
@Injectable({ providedIn: 'root' })
export class Changes {
  private readonly document = inject(DOCUMENT);

  private readonly messages$: Observable<Message> = fromEvent(
    this.document,
    'visibilitychange',
  ).pipe(
    startWith(undefined),
    map(() => this.document.visibilityState === 'visible'),
    distinctUntilChanged(),
    switchMap((visible) => (visible ? openStream() : EMPTY)),
    share(),
  );

  readonly all$ = this.messages$.pipe(
    filter((sent): sent is StreamEvent | 'resumed' => !isLine(sent)),
  );
  /** What the instruments say, line by line, as it comes; nothing of it is ever sent again. */
  readonly lines$ = this.messages$.pipe(
    filter(isLine),
    map(({ line }) => line),
  );
}

function openStream(): Observable<Message> {
  return new Observable((subscriber) => {
    const source = new EventSource(EVENTS_PATH);
    source.addEventListener('open', () => {
      subscriber.next('resumed');
    });
    source.addEventListener('change', (message) => {
      const parsed = StreamEvent.safeParse(JSON.parse(String(message.data)));
      if (parsed.success) subscriber.next(parsed.data);
    });
    source.addEventListener('sample', (message) => {
      subscriber.next({ line: String(message.data) });
    });
    return () => {
      source.close();
    };
  });
}
