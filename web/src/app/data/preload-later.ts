import { Injectable } from '@angular/core';
import type { PreloadingStrategy, Route } from '@angular/router';
import { catchError, concatMap, defer, EMPTY, retry, Subject, timer, type Observable } from 'rxjs';

/** One that did not come is asked for so many times more, each time as long after. */
const TRIES_MORE = 3;
/** The first screen has the line and the processor to itself for so long, ms. */
const LATER_MS = 8000;

/**
 * A screen can be opened while the server is away, so all of them are fetched early: but one after the other, and not
 * before the first one stands.
 */
@Injectable({ providedIn: 'root' })
export class PreloadLater implements PreloadingStrategy {
  private readonly queue$ = new Subject<() => Observable<unknown>>();

  constructor() {
    this.queue$
      .pipe(
        concatMap((load) =>
          defer(load).pipe(
            retry({ count: TRIES_MORE, delay: LATER_MS }),
            // It is asked for again when somebody goes there.
            catchError(() => EMPTY),
          ),
        ),
      )
      .subscribe();
  }

  preload(_route: Route, load: () => Observable<unknown>): Observable<unknown> {
    timer(LATER_MS).subscribe(() => {
      this.queue$.next(load);
    });
    return EMPTY;
  }
}
