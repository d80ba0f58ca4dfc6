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
  type Subscription,
} from 'rxjs';

type Message = StreamEvent | 'resumed' | { readonly line: string };

const isLine = (sent: Message): sent is { readonly line: string } =>
  typeof sent === 'object' && 'line' in sent;

/**
 * What others change, as it happens: one event stream for all windows of a browser, since a browser opens no more than
 * six lines to one server. A window that is hidden hears nothing, and is told to look again when it is back.
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
    switchMap((visible) => (visible ? sharedStream() : EMPTY)),
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

const SHARED = 'tally-stone.stream';

/** Whichever window holds the lock has the stream and tells the others; when it goes, the next one takes over. */
function sharedStream(): Observable<Message> {
  // Only pages that came safely have locks: elsewhere each window has a stream of its own.
  const locks = (navigator as Partial<Navigator>).locks;
  if (!locks) return openStream();
  return new Observable((subscriber) => {
    const channel = new BroadcastChannel(SHARED);
    channel.addEventListener('message', ({ data }: MessageEvent<Message>) => {
      subscriber.next(data);
    });
    const given = new AbortController();
    let own: Subscription | undefined;
    let letGo: () => void = () => undefined;
    const hold = (): Promise<void> => {
      if (given.signal.aborted) return Promise.resolve();
      own = openStream().subscribe((sent) => {
        channel.postMessage(sent);
        subscriber.next(sent);
      });
      return new Promise((resolve) => {
        letGo = resolve;
      });
    };
    void locks
      .request(SHARED, { ifAvailable: true }, (lock) => {
        if (lock) return hold();
        // Another window has it: what was missed until now is asked for, what comes is heard from there.
        subscriber.next('resumed');
        void locks.request(SHARED, { signal: given.signal }, hold).catch(() => undefined);
        return undefined;
      })
      .catch(() => undefined);
    return () => {
      given.abort();
      own?.unsubscribe();
      letGo();
      channel.close();
    };
  });
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
