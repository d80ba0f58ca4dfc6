import { clientsClaim } from 'workbox-core';
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';
import { SEEN_AT, SEEN_BEFORE, SEEN_CACHE } from './app/pocket/seen-cache';

/**
 * Opens the app without its server: its files are kept when it is installed, and what the server answered last is shown
 * again, marked with when that was. With the server there everything comes from it.
 */
declare const FILES_OF_THE_APP: { readonly url: string; readonly revision: string | null }[];

/** A server that does not answer so long is as good as away, s. */
const ANSWERS_WITHIN_S = 10;
/** So many answers are kept; the oldest go. */
const KEPT_ANSWERS = 400;

/** The page itself: the server's, else the one that was kept. */
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      const away = new Promise<undefined>((resolve) => {
        setTimeout(() => {
          resolve(undefined);
        }, ANSWERS_WITHIN_S * 1000);
      });
      const answer = await Promise.race([fetch(request).catch(() => undefined), away]);
      return answer ?? (await matchPrecache('/')) ?? Response.error();
    },
    { denylist: [/^\/api\//] },
  ),
);

precacheAndRoute(FILES_OF_THE_APP);
cleanupOutdatedCaches();

registerRoute(
  ({ url, request, sameOrigin }) =>
    sameOrigin &&
    url.pathname.startsWith('/api/') &&
    (request.headers.get('accept') ?? '').includes('application/json'),
  new NetworkFirst({
    cacheName: SEEN_CACHE,
    networkTimeoutSeconds: ANSWERS_WITHIN_S,
    plugins: [
      {
        cacheWillUpdate: async ({ response }) => {
          const kind = response.headers.get('content-type') ?? '';
          if (response.status !== 200 || !kind.includes('json')) return null;
          const headers = new Headers(response.headers);
          headers.set(SEEN_AT, new Date().toISOString());
          return new Response(await response.clone().blob(), { headers });
        },
        cacheDidUpdate: async ({ cacheName }) => {
          const cache = await caches.open(cacheName);
          const keys = await cache.keys();
          const old = keys.slice(0, Math.max(0, keys.length - KEPT_ANSWERS));
          await Promise.all(old.map((key) => cache.delete(key)));
        },
      },
    ],
  }),
);

addEventListener('activate', () => {
  for (const name of SEEN_BEFORE) void caches.delete(name);
});
addEventListener('install', () => {
  void (globalThis as unknown as { skipWaiting: () => Promise<void> }).skipWaiting();
});
clientsClaim();
