import { Injectable } from '@angular/core';
import type { PreloadingStrategy, Route } from '@angular/router';
import { concatMap, EMPTY, Subject, timer, type Observable } from 'rxjs';

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
    this.queue$.pipe(concatMap((load) => load())).subscribe();
  }

  preload(_route: Route, load: () => Observable<unknown>): Observable<unknown> {
    timer(LATER_MS).subscribe(() => {
      this.queue$.next(load);
    });
    return EMPTY;
  }
}
