import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import {
  type ApplicationConfig,
  ErrorHandler,
  provideBrowserGlobalErrorListeners,
  provideZonelessChangeDetection,
} from '@angular/core';
import {
  provideRouter,
  RouteReuseStrategy,
  withComponentInputBinding,
  withNavigationErrorHandler,
  withPreloading,
  withRouterConfig,
} from '@angular/router';
import { routes } from './app.routes';
import { noticeSignedOut } from './data/session';
import { answeredEarly } from './data/answered-early';
import { FreshRoute } from './data/fresh-route';
import { failedOnTheWay, NoticesMissingParts } from './data/missing-part';
import { PreloadLater } from './data/preload-later';
import { noticeKept } from './pocket/pocket';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideBrowserGlobalErrorListeners(),
    { provide: ErrorHandler, useClass: NoticesMissingParts },
    provideHttpClient(withFetch(), withInterceptors([noticeSignedOut, noticeKept, answeredEarly])),
    // A screen already opened can be gone on with when the server is away, so all are fetched early.
    { provide: RouteReuseStrategy, useClass: FreshRoute },
    provideRouter(
      routes,
      withComponentInputBinding(),
      withPreloading(PreloadLater),
      withNavigationErrorHandler(failedOnTheWay),
      withRouterConfig({ resolveNavigationPromiseOnError: true }),
    ),
  ],
};
