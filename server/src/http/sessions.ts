import {
  isPassword,
  machineMayRead,
  machineMaySend,
  mayDo,
  ROUTES,
  whoSends,
  type Command,
  type DevicesView,
  type Role,
  type SessionView,
  type Who,
} from '@tally-stone/contract';
import { named } from '@tally-stone/core';
import { Refusal, wrongField } from '@tally-stone/cycle';
import cookieParser from 'cookie-parser';
import type { Express, NextFunction, Request, RequestHandler, Response } from 'express';
import { v7 as uuidv7 } from 'uuid';
import type { CommandService } from '../commands/service.js';
import type { Database } from '../database.js';
import type { FirstStart } from '../people/first-start.js';
import {
  endMachine,
  listMachines,
  machineOf,
  makeMachine,
  type Machine,
} from '../people/machines.js';
import { listPeople } from '../people/people.js';
import {
  devicesOf,
  endDevice,
  joinBy,
  makeJoinLink,
  MOST_MS,
  sessionOf,
  signIn,
  signOut,
  type SignedIn,
} from '../people/sessions.js';
import { isLoopback, refuseInvisible } from './edge.js';

const COOKIE = 'tally-stone-session';
const readCookies = cookieParser() as RequestHandler;

export const addressOf = (request: Request): string => request.socket.remoteAddress ?? '';

/** The token of a machine that asks (RFC 6750). */
const bearerIn = ({ headers }: Request): string | undefined =>
  /^Bearer +(\S{1,200})$/i.exec(headers.authorization ?? '')?.[1];

/** Who asks: looked up once a request. Where nobody has to sign in, everybody may do everything. */
export const whoAsks =
  (database: Database, locked: boolean): RequestHandler =>
  (request, response, next) => {
    response.locals['locked'] = locked;
    if (!locked) {
      next();
      return;
    }
    const bearer = bearerIn(request);
    if (bearer !== undefined) {
      machineOf(database, bearer).then((machine) => {
        response.locals['machine'] = machine;
        next(
          machine
            ? undefined
            : new Refusal('notSignedIn', $localize`This token is not valid, or no longer.`),
        );
      }, next);
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

export const sessionIn = (response: Response): SignedIn | undefined =>
  response.locals['session'] as SignedIn | undefined;

const GAUGE_LINES = new RegExp(`^${ROUTES.gaugeLines.path.replace(':key', '[^/]+')}$`);

const machineIn = (response: Response): Machine | undefined =>
  response.locals['machine'] as Machine | undefined;

/** Refuses who may not. */
export function allowedTo(response: Response, who: Who): void {
  if (!response.locals['locked']) return;
  const machine = machineIn(response);
  if (machine) {
    const { method, path } = response.req;
    if (['GET', 'HEAD'].includes(method) && machineMayRead(machine.scopes, who)) return;
    // Which command it is says whether it may.
    if (path === ROUTES.command.path) return;
    if (machine.scopes.includes('gauges') && GAUGE_LINES.test(path)) return;
    throw new Refusal(
      'notAllowed',
      $localize`This token is not for that: make one with the scope it needs.`,
    );
  }
  const session = sessionIn(response);
  if (mayDo(session?.role, who)) return;
  throw session
    ? new Refusal('notAllowed', $localize`This is for a ${named(who)} to do: ask one.`)
    : new Refusal('notSignedIn', $localize`Sign in first: nothing was stored.`);
}

export const allowed =
  (who: Who): RequestHandler =>
  (_request: Request, response: Response, next: NextFunction) => {
    allowedTo(response, who);
    next();
  };

/** Refuses a command to who may not send it. */
export function mayTell(response: Response, type: Command['type']): void {
  const machine = machineIn(response);
  if (!machine) {
    allowedTo(response, whoSends(type));
    return;
  }
  if (!machineMaySend(machine.scopes, type))
    throw new Refusal(
      'notAllowed',
      $localize`This token is not for that: make one with the scope it needs.`,
    );
}

/** An act is signed by whoever is signed in, whatever it says of itself; a machine's by who let it in. */
export function signedByThem(response: Response, personId: string): void {
  const signer = sessionIn(response) ?? machineIn(response);
  if (!response.locals['locked'] || signer?.personId === personId) return;
  const message = $localize`is not the person signed in here`;
  throw new Refusal('notAllowed', `personId: ${message}`, [{ field: 'personId', message }]);
}

interface Sessions {
  readonly database: Database;
  readonly commands: CommandService;
  readonly locked: boolean;
  /** While nobody works in the shop yet. */
  readonly first?: FirstStart | undefined;
}

/** A password is for HTTPS, or for the machine itself: over plain HTTP everybody on the network reads it. */
export function fitToSend(request: Request, secret: string): void {
  if (!isPassword(secret) || request.secure || isLoopback(addressOf(request))) return;
  throw wrongField(
    'pin',
    $localize`is a password, which only HTTPS hides: take four to eight digits here`,
  );
}

/** Signing in and out, the first start, links for phones, and the list of devices. */
export function mountSessions(app: Express, { database, commands, locked, first }: Sessions): void {
  const keepOut = (response: Response): Response => response.set('Cache-Control', 'no-store');
  const from = (request: Request) => ({
    address: addressOf(request),
    device: request.headers['user-agent'] ?? 'unknown',
  });
  const nobodyYet = async (): Promise<boolean> => (await listPeople(database)).length === 0;
  async function view(
    request: Request,
    person: Pick<SignedIn, 'personId' | 'name' | 'role'> | undefined,
  ): Promise<SessionView> {
    return {
      locked,
      ...(locked && !person && (await nobodyYet()) ? { first: true } : {}),
      ...(request.secure ? { secure: true } : {}),
      ...(person ? { personId: person.personId, name: person.name, role: person.role } : {}),
    };
  }
  /** Hands the browser its token, and says who is signed in now. */
  async function letIn(
    request: Request,
    response: Response,
    { token, personId }: { readonly token: string; readonly personId: string },
  ): Promise<void> {
    const person = (await listPeople(database)).find((each) => each.personId === personId);
    response.cookie(COOKIE, token, {
      httpOnly: true,
      sameSite: 'strict',
      secure: request.secure,
      maxAge: MOST_MS,
      path: '/',
    });
    keepOut(response).json(await view(request, person && { ...person, role: person.role as Role }));
  }

  /** Who answers for a machine: its commands are signed by them. */
  async function madeMachine(response: Response): Promise<SignedIn | undefined> {
    const machine = machineIn(response);
    const person =
      machine && (await listPeople(database)).find((each) => each.personId === machine.personId);
    return (
      person && {
        sessionId: machine.machineId,
        personId: person.personId,
        name: person.name,
        role: person.role as Role,
      }
    );
  }
  app.get(ROUTES.session.path, async (request, response) => {
    const person = sessionIn(response) ?? (await madeMachine(response));
    keepOut(response).json(await view(request, person));
  });
  app.post(ROUTES.signIn.path, async (request, response) => {
    const who = ROUTES.signIn.body.parse(request.body ?? {});
    const token = await signIn(database, who, from(request));
    await letIn(request, response, { token, personId: who.personId });
  });
  app.post(ROUTES.firstStart.path, async (request, response) => {
    const { code, name, pin } = ROUTES.firstStart.body.parse(request.body ?? {});
    refuseInvisible(name, 'name');
    if (!first || !(await nobodyYet()))
      throw new Refusal('notAllowed', $localize`Somebody works in this shop already: sign in.`);
    first.check(code);
    fitToSend(request, pin);
    const personId = uuidv7();
    const act = { personId, occurredAt: new Date().toISOString() };
    await commands.accept({
      ...act,
      id: uuidv7(),
      type: 'add-person',
      newPersonId: personId,
      name,
      role: 'manager',
    });
    await commands.accept({ ...act, id: uuidv7(), type: 'set-pin', ofPersonId: personId, pin });
    const token = await signIn(database, { personId, pin }, from(request));
    await letIn(request, response, { token, personId });
  });
  app.post(ROUTES.joinLink.path, allowed(ROUTES.joinLink.who), async (request, response) => {
    const { personId } = ROUTES.joinLink.body.parse(request.body ?? {});
    const madeBy = sessionIn(response)?.personId ?? '';
    keepOut(response).json(await makeJoinLink(database, { personId, madeBy }));
  });
  app.post(ROUTES.join.path, async (request, response) => {
    const { token } = ROUTES.join.body.parse(request.body ?? {});
    await letIn(request, response, await joinBy(database, token, from(request)));
  });
  app.post(ROUTES.signOut.path, async (request, response) => {
    const { everywhere } = ROUTES.signOut.body.parse(request.body ?? {});
    const session = sessionIn(response);
    if (session) await signOut(database, session, everywhere);
    response.clearCookie(COOKIE, { path: '/' }).json(await view(request, undefined));
  });
  const devices = async (session: SignedIn | undefined): Promise<DevicesView> => {
    const people = await listPeople(database);
    const open = session ? await devicesOf(database, session) : [];
    return {
      devices: open.map(({ id, personId, device, address, createdAt, seenAt }) => ({
        deviceId: id,
        name: people.find((person) => person.personId === personId)?.name ?? '',
        device,
        address,
        since: createdAt,
        seenAt,
        here: id === session?.sessionId,
      })),
    };
  };
  app.get(ROUTES.devices.path, allowed(ROUTES.devices.who), async (_request, response) => {
    keepOut(response).json(await devices(sessionIn(response)));
  });
  app.post(ROUTES.endDevice.path, allowed(ROUTES.endDevice.who), async (request, response) => {
    const { id } = ROUTES.endDevice.params.parse(request.params);
    const session = sessionIn(response);
    if (session) await endDevice(database, session, id);
    keepOut(response).json(await devices(session));
  });

  app.get(ROUTES.machines.path, allowed(ROUTES.machines.who), async (_request, response) => {
    keepOut(response).json(await listMachines(database));
  });
  app.post(ROUTES.makeMachine.path, allowed(ROUTES.makeMachine.who), async (request, response) => {
    const asked = ROUTES.makeMachine.body.parse(request.body ?? {});
    refuseInvisible(asked.name, 'name');
    keepOut(response).json(await makeMachine(database, asked, sessionIn(response)?.personId));
  });
  app.post(ROUTES.endMachine.path, allowed(ROUTES.endMachine.who), async (request, response) => {
    const { id } = ROUTES.endMachine.params.parse(request.params);
    keepOut(response).json(await endMachine(database, id));
  });
}
