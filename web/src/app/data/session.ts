import { HttpErrorResponse, type HttpInterceptorFn } from '@angular/common/http';
import { computed, inject, Injectable, Injector, signal } from '@angular/core';
import type { SessionView } from '@tally-stone/contract';
import { catchError, of, tap, throwError, type Observable } from 'rxjs';
import { Pocket } from '../pocket/pocket';
import { Api } from './api';

/** Who is signed in on this device, where the server wants somebody to be. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly pocket = inject(Pocket);
  /** Nothing until the server has said. */
  readonly view = signal<SessionView | undefined>(undefined);
  readonly locked = computed(() => this.view()?.locked ?? false);
  /** Nobody is signed in, and somebody has to be. */
  readonly missing = computed(() => this.locked() && this.view()?.personId === undefined);

  /** Nobody works in the shop yet. */
  readonly first = computed(() => this.view()?.first ?? false);
  /** The key of a link that was opened to sign this phone in; it stands after the mark, for the browser alone. */
  readonly joinToken = signal(location.pathname === '/join' ? location.hash.slice(1) : '');

  /** Asks who is signed in. A server that is away asks for nobody: entries are kept in the browser until it is back. */
  load(): Observable<SessionView> {
    return this.api.session().pipe(
      catchError(() => of(this.view() ?? { locked: false })),
      tap((view) => this.view.set(view)),
    );
  }

  signIn(personId: string, pin: string): Observable<SessionView> {
    return this.api.signIn({ personId, pin }).pipe(tap((view) => this.view.set(view)));
  }

  firstStart(who: { code: string; name: string; pin: string }): Observable<SessionView> {
    return this.api.firstStart(who).pipe(tap((view) => this.view.set(view)));
  }

  /** Signs this phone in by the link it was opened with. */
  join(): Observable<SessionView> {
    return this.api.join(this.joinToken()).pipe(
      tap((view) => {
        this.view.set(view);
        this.joinToken.set('');
      }),
    );
  }

  signOut(everywhere: boolean): Observable<SessionView> {
    return this.api.signOut({ everywhere }).pipe(
      tap((view) => {
        this.view.set(view);
        void this.pocket.forget();
      }),
    );
  }
}

/** A session that ended is noticed at the first request that is turned away. */
export const noticeSignedOut: HttpInterceptorFn = (request, next) => {
  const injector = inject(Injector);
  return next(request).pipe(
    catchError((error: unknown) => {
      if (error instanceof HttpErrorResponse && error.status === 401) {
        injector.get(Session).load().subscribe();
      }
      return throwError(() => error);
    }),
  );
};
