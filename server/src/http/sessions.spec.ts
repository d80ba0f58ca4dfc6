import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  EVENTS_PATH,
  FILE_ROUTES,
  type InstrumentAnswer,
  mayDo,
  ROLES,
  ROUTES,
  whoSends,
  type DevicesView,
  type JoinLink,
  type MachinesView,
  type MadeMachine,
  type Problem,
  type Role,
  type Route,
  type SessionView,
} from '@tally-stone/contract';
import type { Request } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { openDatabase, type Database } from '../database.js';
import { serve, type Serving } from './serve.js';
import { fitToSend } from './sessions.js';
import { firstStart } from '../people/first-start.js';

const PINS: Readonly<Record<Role, string>> = { crew: '1111', technician: '2222', manager: '3333' };

describe('a server that others than its own machine reach', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tally-stone-locked-'));
  let database: Database;
  let serving: Serving;
  const people: Record<Role, string> = { crew: uuidv7(), technician: uuidv7(), manager: uuidv7() };

  const ask = async <T>(
    method: string,
    path: string,
    cookie = '',
    body?: object,
  ): Promise<{ status: number; body: T; cookie: string; setCookie: string }> => {
    const response = await fetch(`${serving.address}${path}`, {
      method,
      headers: {
        ...(cookie ? { [cookie.startsWith('Bearer') ? 'Authorization' : 'Cookie']: cookie } : {}),
        ...(body ? { 'Content-Type': 'application/json' } : {}),
      },
      ...(body ? { body: JSON.stringify(body) } : {}),
      signal: AbortSignal.timeout(5000),
    });
    const setCookie = response.headers.get('set-cookie') ?? '';
    // A stream never ends by itself.
    const text = path === EVENTS_PATH && response.status === 200 ? '' : await response.text();
    if (path === EVENTS_PATH) await response.body?.cancel().catch(() => undefined);
    return {
      status: response.status,
      body: (text.startsWith('{') ? JSON.parse(text) : {}) as T,
      cookie: setCookie.split(';')[0] ?? '',
      setCookie,
    };
  };
  const signedIn = async (role: Role): Promise<string> =>
    (await ask('POST', '/api/v1/sign-in', '', { personId: people[role], pin: PINS[role] })).cookie;
  const command = (role: Role, act: object): object => ({
    id: uuidv7(),
    personId: people[role],
    occurredAt: new Date().toISOString(),
    ...act,
  });

  beforeAll(async () => {
    database = await openDatabase(join(folder, 'shop.sqlite'));
    const open = await serve({ database, host: '127.0.0.1', port: 0 });
    const send = async (act: object): Promise<void> => {
      const response = await fetch(`${open.address}/api/v1/commands`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(command('manager', act)),
      });
      if (response.status !== 200) throw new Error(await response.text());
    };
    for (const role of ['manager', 'technician', 'crew'] as const)
      await send({ type: 'add-person', newPersonId: people[role], name: role, role });
    for (const role of ROLES)
      await send({ type: 'set-pin', ofPersonId: people[role], pin: PINS[role] });
    await open.close();
    database = await openDatabase(join(folder, 'shop.sqlite'));
    serving = await serve({ database, host: '127.0.0.1', port: 0, locked: true });
  });
  afterAll(async () => {
    await serving.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('lets each use what the table says, and nobody more: every route by every role and nobody', async () => {
    const all: readonly Pick<Route, 'method' | 'path' | 'who'>[] = [
      ...Object.values(ROUTES),
      ...Object.values(FILE_ROUTES),
    ];
    for (const role of [undefined, ...ROLES]) {
      const cookie = role ? await signedIn(role) : '';
      for (const { method, path, who } of all) {
        // Who signs out is no longer there for the rows that follow.
        if (path === ROUTES.signOut.path) continue;
        // Where people sign in nobody brings a shop in over the wire, whoever they are.
        if (path === FILE_ROUTES.importShop.path) {
          expect((await ask('POST', path, cookie, {})).status).toBe(403);
          continue;
        }
        const address = path.replace(/:\w+/g, uuidv7());
        const { status } = await ask(
          method.toUpperCase(),
          address,
          cookie,
          method === 'post' ? {} : undefined,
        );
        const turnedAway = status === 401 || status === 403;
        expect(turnedAway)
          .withContext(`${role ?? 'nobody'}, ${method} ${path}: ${status}`)
          .toBe(!mayDo(role, who));
        if (!role && turnedAway) expect(status).toBe(401);
      }
    }
  }, 60_000);

  it('lets whoever may look at the grass send the picture of it, and see it', () => {
    const looks = whoSends('look-at-grass');
    for (const route of [FILE_ROUTES.sendPhoto, FILE_ROUTES.photo, ROUTES.grass])
      expect(mayDo(looks, route.who)).toBeTrue();
  });

  it('lets each send what is theirs, and only in their own name', async () => {
    const acts = [
      { type: 'name-shop', name: 'Pellwater', timeZone: 'UTC' },
      { type: 'add-person', newPersonId: uuidv7(), name: 'Second', role: 'technician' },
      { type: 'set-rules', rules: {} },
      { type: 'register-blades', specId: uuidv7(), count: 1 },
      {
        type: 'report-strike',
        strikeId: uuidv7(),
        mowerId: uuidv7(),
        what: 'stone',
        hard: 'hard',
        vibration: false,
      },
    ] as const;
    for (const role of ROLES) {
      const cookie = await signedIn(role);
      for (const act of acts) {
        const { status, body } = await ask<Problem>(
          'POST',
          '/api/v1/commands',
          cookie,
          command(role, act),
        );
        const may = mayDo(role, whoSends(act.type));
        expect(status === 403)
          .withContext(`${role}, ${act.type}: ${body.detail}`)
          .toBe(!may && status !== 422);
        if (!may && act.type !== 'set-rules') expect(status).toBe(403);
      }
    }
    const crew = await signedIn('crew');
    const forged = command('manager', {
      type: 'add-person',
      newPersonId: uuidv7(),
      name: 'X',
      role: 'manager',
    });
    const { status, body } = await ask<Problem>('POST', '/api/v1/commands', crew, forged);
    expect([status, body.errors?.[0]?.field]).toEqual([403, 'personId']);
    const pinOfAnother = command('crew', {
      type: 'set-pin',
      ofPersonId: people.technician,
      pin: '9999',
    });
    expect((await ask('POST', '/api/v1/commands', crew, pinOfAnother)).status).toBe(403);
  });

  it('keeps the key out of scripts, other sites and the database, and lets go of it', async () => {
    const { setCookie, cookie } = await ask('POST', '/api/v1/sign-in', '', {
      personId: people.technician,
      pin: PINS.technician,
    });
    expect(setCookie).toMatch(/HttpOnly/);
    expect(setCookie).toMatch(/SameSite=Strict/);
    const stored = JSON.stringify(await database.models.session.findAll({ raw: true }));
    expect(stored).not.toContain(cookie.split('=')[1] ?? 'nothing');
    expect((await ask<SessionView>('GET', '/api/v1/session', cookie)).body.name).toBe('technician');
    const { devices } = (await ask<DevicesView>('GET', '/api/v1/devices', cookie)).body;
    expect(devices.filter(({ here }) => here).length).toBe(1);
    expect(devices.every(({ name }) => name === 'technician')).toBeTrue();
    const other = await signedIn('technician');
    await ask('POST', '/api/v1/sign-out', cookie, { everywhere: true });
    expect((await ask('GET', '/api/v1/bench', cookie)).status).toBe(401);
    expect((await ask('GET', '/api/v1/bench', other)).status).toBe(401);
  });

  it('shows a manager everybody’s devices, the others their own, and lets each end them', async () => {
    const [crew, boss, technician] = [
      await signedIn('crew'),
      await signedIn('manager'),
      await signedIn('technician'),
    ];
    const list = async (cookie: string) =>
      (await ask<DevicesView>('GET', '/api/v1/devices', cookie)).body.devices;
    const ofCrew = (await list(crew)).find(({ here }) => here)?.deviceId ?? '';
    expect((await list(technician)).some(({ deviceId }) => deviceId === ofCrew)).toBeFalse();
    expect((await list(boss)).some(({ deviceId }) => deviceId === ofCrew)).toBeTrue();
    await ask('POST', `/api/v1/devices/${ofCrew}/end`, technician, {});
    expect((await ask('GET', '/api/v1/fleet', crew)).status).toBe(200);
    await ask('POST', `/api/v1/devices/${ofCrew}/end`, boss, {});
    expect((await ask('GET', '/api/v1/fleet', crew)).status).toBe(401);
  });

  it('lets a crew’s phone in by a link, once, in time, and nobody else’s', async () => {
    const boss = await signedIn('manager');
    const link = (role: Role) =>
      ask<JoinLink & Problem>('POST', '/api/v1/join-links', boss, { personId: people[role] });
    const join = (token: string) =>
      ask<SessionView & Problem>('POST', '/api/v1/join', '', { token });
    expect((await link('technician')).status).toBe(422);
    const { token } = (await link('crew')).body;
    expect(JSON.stringify(await database.models.joinLink.findAll({ raw: true }))).not.toContain(
      token,
    );
    const both = await Promise.all([join(token), join(token)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 422]);
    const [joined] = both.filter(({ status }) => status === 200);
    expect(joined?.body.role).toBe('crew');
    expect((await ask('GET', '/api/v1/fleet', joined?.cookie)).status).toBe(200);
    expect((await ask('GET', '/api/v1/shop', joined?.cookie)).status).toBe(403);
    const old = (await link('crew')).body.token;
    const newer = (await link('crew')).body.token;
    expect((await join(old)).body.detail).toContain('used already');
    await database.models.joinLink.update({ until: '2026-01-01T00:00:00.000Z' }, { where: {} });
    expect((await join(newer)).body.detail).toContain('too old');
  });

  it('lets a machine do what its token is for, over its maker’s name, until the token is ended', async () => {
    const boss = await signedIn('manager');
    const make = (scopes: readonly string[], by = boss) =>
      ask<MadeMachine & Problem>('POST', '/api/v1/machines', by, { name: 'Meter box', scopes });
    expect((await make(['read'], await signedIn('technician'))).status).toBe(403);
    expect((await make([])).body.errors?.[0]?.field).toBe('scopes');
    const reads = `Bearer ${(await make(['read'])).body.token}`;
    const tells = `Bearer ${(await make(['hours'])).body.token}`;
    const stored = JSON.stringify(await database.models.machineToken.findAll({ raw: true }));
    expect(stored).not.toContain(reads.slice('Bearer '.length));

    for (const { method, path, who } of Object.values(ROUTES) as readonly Route[]) {
      if (method !== 'get') continue;
      const { status } = await ask('GET', path.replace(/:\w+/g, uuidv7()), reads);
      expect(status === 403)
        .withContext(path)
        .toBe(!mayDo('technician', who));
    }
    expect((await ask('GET', '/api/v1/fleet', tells)).status).toBe(403);
    const hours = command('manager', { type: 'read-hours', mowerId: uuidv7(), hoursH: 12 });
    expect((await ask('POST', '/api/v1/commands', reads, hours)).status).toBe(403);
    // There is no such mower: it got as far as being looked at.
    expect((await ask('POST', '/api/v1/commands', tells, hours)).status).not.toBe(403);
    const strange = command('crew', { type: 'read-hours', mowerId: uuidv7(), hoursH: 12 });
    const { status, body } = await ask<Problem>('POST', '/api/v1/commands', tells, strange);
    expect([status, body.errors?.[0]?.field]).toEqual([403, 'personId']);
    const named = command('manager', { type: 'name-shop', name: 'X', timeZone: 'UTC' });
    for (const token of [reads, tells])
      expect((await ask('POST', '/api/v1/commands', token, named)).status).toBe(403);
    const { body: whose } = await ask<SessionView>('GET', '/api/v1/session', tells);
    expect(whose.personId).toBe(people.manager);

    const gauge = `Bearer ${(await make(['gauges'])).body.token}`;
    const say = (token: string, line: string) =>
      ask<InstrumentAnswer & Problem>('POST', '/api/v1/instruments/caliper/lines', token, {
        lines: [line],
      });
    const heard = await say(gauge, 'caliper 1.00 61.24 mm 0.01 0.02 ok');
    const caliper = heard.body.instruments.find(({ key }) => key === 'caliper');
    expect([heard.status, caliper?.by, caliper?.plugged]).toEqual([200, 'gauge', true]);
    const inInches = await say(gauge, 'caliper 1.00 2.41 in 0.001 0.001 ok');
    expect([inInches.status, inInches.body.errors?.[0]?.field]).toEqual([422, 'lines.0']);
    expect((await say(gauge, 'scale 1.00 812.4 g 0.1 0.06 ok')).status).toBe(422);
    expect((await say(reads, 'caliper 1.00 61.24 mm 0.01 0.02 ok')).status).toBe(403);
    const act = await ask('POST', '/api/v1/instruments/caliper', gauge, { act: 'unplug' });
    expect(act.status).toBe(403);

    const { machines } = (await ask<MachinesView>('GET', '/api/v1/machines', boss)).body;
    expect(machines.map(({ name, madeBy }) => `${name} by ${madeBy}`)).toEqual(
      new Array<string>(3).fill('Meter box by manager'),
    );
    expect(machines.every(({ seenAt }) => seenAt !== undefined)).toBeTrue();
    for (const { machineId } of machines)
      await ask('POST', `/api/v1/machines/${machineId}/end`, boss, {});
    expect((await ask('GET', '/api/v1/bench', reads)).status).toBe(401);
  });

  it('takes a password where only this machine or HTTPS carries it', async () => {
    const cookie = await signedIn('technician');
    const set = (pin: string, byPin: string) =>
      ask<Problem>(
        'POST',
        '/api/v1/commands',
        cookie,
        command('technician', { type: 'set-pin', ofPersonId: people.technician, pin, byPin }),
      );
    expect((await set('too short', PINS.technician)).body.errors?.[0]?.field).toBe('pin');
    expect((await set('grind it slowly', PINS.technician)).status).toBe(200);
    const signIn = { personId: people.technician, pin: 'grind it slowly' };
    expect((await ask('POST', '/api/v1/sign-in', '', signIn)).status).toBe(200);
    expect((await set(PINS.technician, 'grind it slowly')).status).toBe(200);
    const plain = { secure: false, socket: { remoteAddress: '192.168.1.20' } };
    const overHttps = { secure: true, socket: { remoteAddress: '192.168.1.20' } };
    const sent = (request: object) => () => {
      fitToSend(request as Request, 'grind it slowly');
    };
    expect(sent(plain)).toThrowError(/only HTTPS hides/);
    expect(sent(overHttps)).not.toThrow();
  });

  it('ends a session that nobody used, and one that is too old', async () => {
    const cookie = await signedIn('technician');
    const hours = (count: number): string => new Date(Date.now() - count * 3_600_000).toISOString();
    await database.models.session.update({ seenAt: hours(13) }, { where: {} });
    expect((await ask('GET', '/api/v1/bench', cookie)).status).toBe(401);
    const again = await signedIn('technician');
    await database.models.session.update({ createdAt: hours(31 * 24) }, { where: {} });
    expect((await ask('GET', '/api/v1/bench', again)).status).toBe(401);
  });

  it('waits after five wrong PINs from an address, over a restart too, and locks out nobody else', async () => {
    const guess = (pin: string) =>
      ask<Problem>('POST', '/api/v1/sign-in', '', { personId: people.crew, pin });
    for (let i = 0; i < 5; i++) expect((await guess(`000${i}`)).status).toBe(422);
    expect((await guess(PINS.crew)).body.detail).toContain('wait a minute');
    expect((await database.models.wrongPin.findAll()).map(({ wrong }) => wrong)).toEqual([5]);
    // From elsewhere the right one is right.
    await database.models.wrongPin.update({ address: '10.0.0.9' }, { where: {} });
    expect((await guess(PINS.crew)).status).toBe(200);
  });
});

describe('the first start of a shop that others reach', () => {
  it('makes its manager by the code that was printed, once, and gives up after ten wrong ones', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-first-'));
    const database = await openDatabase(join(folder, 'shop.sqlite'));
    const first = firstStart();
    const serving = await serve({ database, host: '127.0.0.1', port: 0, locked: true, first });
    const send = async (path: string, body?: object) => {
      const response = await fetch(`${serving.address}${path}`, {
        ...(body ? { method: 'POST', body: JSON.stringify(body) } : {}),
        headers: { 'Content-Type': 'application/json' },
      });
      return { status: response.status, body: (await response.json()) as SessionView & Problem };
    };
    expect((await send('/api/v1/session')).body.first).toBeTrue();
    const me = { name: 'Rowan', pin: '4711' };
    const wrong = await send('/api/v1/first-start', { ...me, code: 'AAAAAAAA' });
    expect([wrong.status, wrong.body.errors?.[0]?.field]).toEqual([422, 'code']);
    const short = await send('/api/v1/first-start', { ...me, pin: '12', code: first.code });
    expect(short.body.errors?.[0]?.field).toBe('pin');
    const made = await send('/api/v1/first-start', { ...me, code: first.code.toLowerCase() });
    expect(made.body).toEqual(jasmine.objectContaining({ name: 'Rowan', role: 'manager' }));
    expect((await send('/api/v1/first-start', { ...me, code: first.code })).status).toBe(403);
    const signIn = { personId: made.body.personId, pin: '4711' };
    expect((await send('/api/v1/sign-in', signIn)).status).toBe(200);
    await serving.close();
    rmSync(folder, { recursive: true, force: true });

    const another = firstStart();
    for (let i = 0; i < 10; i++) expect(() => another.check('WRONG')).toThrowError(/not the one/);
    expect(() => another.check(another.code)).toThrowError(/too many times/);
  });
});
