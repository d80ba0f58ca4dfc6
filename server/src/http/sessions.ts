import { mayDo, ROUTES, type Role, type Who } from '@tally-stone/contract';
import { Refusal } from '@tally-stone/cycle';
import cookieParser from 'cookie-parser';
import type { Express, NextFunction, Request, RequestHandler, Response } from 'express';
import type { Database } from '../database.js';
import { listPeople } from '../people/people.js';
import {
  devicesOf,
  MOST_MS,
  sessionOf,
  signIn,
  signOut,
  type SignedIn,
} from '../people/sessions.js';

const COOKIE = 'tally-stone-session';
const readCookies = cookieParser() as RequestHandler;

export const addressOf = (request: Request): string => request.socket.remoteAddress ?? '';

/** Who asks: looked up once a request. Where nobody has to sign in, everybody may do everything. */
export const whoAsks =
  (database: Database, locked: boolean): RequestHandler =>
  (request, response, next) => {
    response.locals['locked'] = locked;
    if (!locked) {
      next();
      return;
    }
    readCookies(request, response, () => {
      const { [COOKIE]: token } = request.cookies as Record<string, string | undefined>;
      sessionOf(database, token).then((session) => {
        response.locals['session'] = session;
        next();
      }, next);
    });
  };

const sessionIn = (response: Response): SignedIn | undefined =>
  response.locals['session'] as SignedIn | undefined;

/** Refuses who may not. */
export function allowedTo(response: Response, who: Who): void {
  if (!response.locals['locked']) return;
  const session = sessionIn(response);
  if (mayDo(session?.role, who)) return;
  throw session
    ? new Refusal('notAllowed', `This is for a ${who} to do: ask one.`)
    : new Refusal('notSignedIn', 'Sign in first: nothing was stored.');
}

export const allowed =
  (who: Who): RequestHandler =>
  (_request: Request, response: Response, next: NextFunction) => {
    allowedTo(response, who);
    next();
  };

/** An act is signed by whoever is signed in, whatever it says of itself. */
export function signedByThem(response: Response, personId: string): void {
  const session = sessionIn(response);
  if (!response.locals['locked'] || session?.personId === personId) return;
  const message = 'is somebody else than who is signed in here';
  throw new Refusal('notAllowed', `personId: ${message}`, [{ field: 'personId', message }]);
}

const view = (
  locked: boolean,
  session: Pick<SignedIn, 'personId' | 'name' | 'role'> | undefined,
) => ({
  locked,
  ...(session ? { personId: session.personId, name: session.name, role: session.role } : {}),
});

/** Signing in and out, and the list of devices. */
export function mountSessions(app: Express, database: Database, locked: boolean): void {
  app.get(ROUTES.session.path, (_request, response) => {
    response.set('Cache-Control', 'no-store').json(view(locked, sessionIn(response)));
  });
  app.post(ROUTES.signIn.path, async (request, response) => {
    const who = ROUTES.signIn.body.parse(request.body ?? {});
    const token = await signIn(database, who, {
      address: addressOf(request),
      device: request.headers['user-agent'] ?? 'unknown',
    });
    const person = (await listPeople(database)).find(({ personId }) => personId === who.personId);
    response
      .cookie(COOKIE, token, {
        httpOnly: true,
        sameSite: 'strict',
        secure: request.secure,
        maxAge: MOST_MS,
        path: '/',
      })
      .set('Cache-Control', 'no-store')
      .json(view(locked, person && { ...person, role: person.role as Role }));
  });
  app.post(ROUTES.signOut.path, async (request, response) => {
    const { everywhere } = ROUTES.signOut.body.parse(request.body ?? {});
    const session = sessionIn(response);
    if (session) await signOut(database, session, everywhere);
    response.clearCookie(COOKIE, { path: '/' }).json(view(locked, undefined));
  });
  app.get(ROUTES.devices.path, allowed('crew'), async (_request, response) => {
    const session = sessionIn(response);
    const people = await listPeople(database);
    const devices = session ? await devicesOf(database, session) : [];
    response.set('Cache-Control', 'no-store').json({
      devices: devices.map(({ id, personId, device, address, createdAt, seenAt }) => ({
        name: people.find((person) => person.personId === personId)?.name ?? '',
        device,
        address,
        since: createdAt,
        seenAt,
        here: id === session?.sessionId,
      })),
    });
  });
}
