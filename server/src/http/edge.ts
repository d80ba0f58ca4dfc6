import { hostname, networkInterfaces } from 'node:os';
import { IMPORT_PATH, PACKAGE_MEDIA_TYPE, PHOTOS_PATH } from '@tally-stone/contract';
import { Refusal } from '@tally-stone/cycle';
import type { RequestHandler } from 'express';

const WRITES = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

/** Only this machine reaches it. */
export const isLoopback = (host: string): boolean =>
  host === 'localhost' ||
  host === '::1' ||
  host.startsWith('127.') ||
  host.startsWith('::ffff:127.');

/** Names this machine answers to: its own, its addresses, and those that `ALLOWED_HOSTS` adds. */
export function namesOfThisMachine(more: readonly string[] = []): Set<string> {
  const addresses = Object.values(networkInterfaces()).flatMap((each) =>
    (each ?? []).map(({ address }) => address.toLowerCase()),
  );
  const own = hostname().toLowerCase();
  return new Set([
    'localhost',
    '127.0.0.1',
    '::1',
    own,
    `${own}.local`,
    ...addresses,
    ...more.map((name) => name.trim().toLowerCase()).filter(Boolean),
  ]);
}

/** `[::1]:4160` is `::1`, `bench.local:80` is `bench.local`. */
const nameIn = (host: string): string =>
  host
    .toLowerCase()
    .replace(/:\d+$/, '')
    .replace(/^\[(.*)\]$/, '$1');

/** Only under a name of this machine: another site's name that leads here (DNS rebinding) is turned away. */
export const knownHost =
  (names: ReadonlySet<string>): RequestHandler =>
  (request, _response, next) => {
    if (!names.has(nameIn(request.headers.host ?? ''))) {
      throw new Refusal(
        'foreign',
        $localize`This address is not one the server goes by: open it under the machine’s own name, or add the name to ALLOWED_HOSTS.`,
      );
    }
    next();
  };

/** A write comes from our own pages or from a program, never from a page of another site. */
export const ownPages: RequestHandler = (request, _response, next) => {
  if (!WRITES.has(request.method)) {
    next();
    return;
  }
  const { origin, host, 'sec-fetch-site': site } = request.headers;
  const foreign =
    (origin !== undefined && origin !== `${request.protocol}://${host ?? ''}`) ||
    (typeof site === 'string' && site !== 'same-origin' && site !== 'none');
  if (foreign) {
    throw new Refusal(
      'foreign',
      $localize`This came from a page of another site: nothing was stored.`,
    );
  }
  next();
};

/** A body is JSON and says so, a photo's and a whole shop's apart: a form of another site cannot send that without asking first. */
export const jsonOnly: RequestHandler = (request, _response, next) => {
  const hasBody =
    request.headers['transfer-encoding'] !== undefined ||
    Number(request.headers['content-length'] ?? 0) > 0;
  const path = request.baseUrl + request.path;
  const asItIs =
    path === PHOTOS_PATH || (path === IMPORT_PATH && Boolean(request.is(PACKAGE_MEDIA_TYPE)));
  if (hasBody && !asItIs && WRITES.has(request.method) && !request.is('application/json')) {
    throw new Refusal('notAsJson', $localize`Send it as application/json: nothing was stored.`);
  }
  next();
};

/** Control characters, and marks that show nothing: a name of these looks empty, or like another. */
const INVISIBLE = /[\p{Cc}\u00AD\u061C\u180E\u200B-\u200F\u2028-\u202E\u2060-\u206F\uFEFF]/u;
const LINE_ENDS = /[\n\r\t]/g;

/** Refuses a text that holds what nobody can see, by its field. Line ends and tabs may stand. */
export function refuseInvisible(value: unknown, field = ''): void {
  if (typeof value === 'string') {
    if (!INVISIBLE.test(value.replace(LINE_ENDS, ''))) return;
    const message = $localize`holds characters that cannot be seen: type it again`;
    throw new Refusal('invalid', `${field || 'body'}: ${message}`, [
      { field: field || 'body', message },
    ]);
  }
  if (typeof value !== 'object' || value === null) return;
  for (const [key, each] of Object.entries(value)) {
    refuseInvisible(key, field);
    refuseInvisible(each, field ? `${field}.${key}` : key);
  }
}
