import { computed, DestroyRef, inject, signal, type Signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { StreamEvent } from '@tally-stone/contract';
import {
  auditTime,
  catchError,
  combineLatest,
  EMPTY,
  filter,
  firstValueFrom,
  map,
  merge,
  startWith,
  Subject,
  switchMap,
  tap,
  type Observable,
} from 'rxjs';
import { Changes } from './changes';
import { troubleAsking, type Trouble } from './problem';
import { Unanswered } from './unanswered';

/** What a screen shows of the server, and what went wrong with it last. */
export interface Shown<T> {
  readonly value: Signal<T | undefined>;
  readonly trouble: Signal<Trouble | undefined>;
  /** The same in words, nothing while all is well. */
  readonly words: Signal<string>;
  /** Asks anew; what is there stays until the answer comes, which the promise waits for. */
  again(): Promise<void>;
}

interface Options<T> {
  /** Which changes it is about; none for what is asked only once. Everything where it is not said. */
  readonly about?: ((event: StreamEvent) => boolean) | 'nothing';
  /** Changes that come close together are answered by one question, ms. */
  readonly quietMs?: number;
  /** Called with each answer. */
  readonly then?: (value: T) => void;
}

const QUIET_MS = 300;

/**
 * Asks the server for what a screen shows: when it opens, when a signal changes that `ask` reads, and when somebody
 * changed what it is about. An answer overtaken by a newer question is dropped; a failure leaves the last answer there.
 * Called where a component or service is made; ends with it.
 */
export function shown<T>(
  ask: () => Observable<T> | undefined,
  { about = () => true, quietMs = QUIET_MS, then = () => undefined }: Options<T> = {},
): Shown<T> {
  const value = signal<T | undefined>(undefined);
  const trouble = signal<Trouble | undefined>(undefined);
  const again$ = new Subject<void>();
  const done$ = new Subject<void>();
  const unanswered = inject(Unanswered);
  const askAgain = (): void => {
    again$.next();
  };
  inject(DestroyRef).onDestroy(() => {
    unanswered.remove(askAgain);
  });
  const changed$: Observable<unknown> =
    about === 'nothing'
      ? EMPTY
      : inject(Changes).all$.pipe(
          filter((event) => event === 'resumed' || about(event)),
          auditTime(quietMs),
        );
  combineLatest([
    toObservable(computed(ask)),
    merge(again$, changed$).pipe(
      map(() => undefined),
      startWith(undefined),
    ),
  ])
    .pipe(
      switchMap(
        ([question]) =>
          question?.pipe(
            tap((answer) => {
              value.set(answer);
              trouble.set(undefined);
              unanswered.remove(askAgain);
              then(answer);
              done$.next();
            }),
            catchError((error: unknown) => {
              const failed = troubleAsking(error);
              trouble.set(failed);
              if (failed.kind === 'offline') unanswered.add(askAgain);
              done$.next();
              return EMPTY;
            }),
          ) ?? EMPTY,
      ),
      takeUntilDestroyed(),
    )
    .subscribe();
  return {
    value,
    trouble,
    words: computed(() => trouble()?.words ?? ''),
    again: () => {
      const answered = firstValueFrom(done$);
      again$.next();
      return answered;
    },
  };
}
