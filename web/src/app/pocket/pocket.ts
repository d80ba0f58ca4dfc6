import { HttpResponse, type HttpInterceptorFn } from '@angular/common/http';
import { inject, Injectable, signal } from '@angular/core';
import { tap } from 'rxjs';
import { SEEN_AT, SEEN_CACHE } from './seen-cache';

/** What the app can do on this device and address, and whether what it shows was kept from earlier. */
@Injectable({ providedIn: 'root' })
export class Pocket {
  /** Browsers allow it on HTTPS and on the machine itself only. */
  readonly opensWithoutServer = 'serviceWorker' in navigator;
  readonly hasCamera = 'mediaDevices' in navigator;
  /** When what is shown was seen, where the server did not answer and it was kept; nothing while it answers. */
  readonly seenAt = signal<string | undefined>(undefined);

  /** Keeps the app and what it shows on this device, so that it opens without the server. */
  install(): void {
    if (this.opensWithoutServer) void navigator.serviceWorker.register('/service-worker.js');
  }

  /** Forgets what was kept: somebody else may be next at this device. */
  async forget(): Promise<void> {
    if ('caches' in window) await caches.delete(SEEN_CACHE);
  }

  heard(seenAt: string | null): void {
    const before = this.seenAt();
    if (!seenAt) this.seenAt.set(undefined);
    else if (!before || seenAt < before) this.seenAt.set(seenAt);
  }
}

/** Notes of each answer whether it is the server's or one that was kept. */
export const noticeKept: HttpInterceptorFn = (request, next) => {
  const pocket = inject(Pocket);
  return next(request).pipe(
    tap((event) => {
      if (event instanceof HttpResponse) pocket.heard(event.headers.get(SEEN_AT));
    }),
  );
};
