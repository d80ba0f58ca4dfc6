import { DAY_MS } from '@tally-stone/core';
import { randomBytes } from 'node:crypto';
import type { Role } from '@tally-stone/contract';
import { Op } from 'sequelize';
import type { Database } from '../database.js';
import { sha256 } from '../record/chain.js';
import { wrongField } from '@tally-stone/cycle';
import { checkPin, settlePin } from './pins.js';

/** A session ends when nobody has used it for so long, and in any case after so many days. */
const IDLE_MS = 12 * 3_600_000;
export const MOST_MS = 30 * DAY_MS;
/** That it was used is noted no more often than this. */
const NOTED_MS = 60_000;

/** Who is signed in. */
export interface SignedIn {
  readonly sessionId: string;
  readonly personId: string;
  readonly name: string;
  readonly role: Role;
}

/** The device somebody signs in on. */
export interface From {
  readonly address: string;
  readonly device: string;
}

/** Signs somebody in by their PIN. Returns the token for the browser: it is stored nowhere here. */
export async function signIn(
  database: Database,
  { personId, pin }: { readonly personId: string; readonly pin: string },
  from: From,
): Promise<string> {
  await settlePin(database, from.address, () =>
    checkPin(personId, pin, 'pin', { ...database, address: from.address }),
  );
  return openSession(database, personId, from);
}

/** A session of a person who has proved to be that person. Returns the token for the browser. */
async function openSession(database: Database, personId: string, from: From): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  const now = new Date().toISOString();
  await database.connection.write(() =>
    database.models.session.create({
      id: sha256(token),
      personId,
      device: from.device.slice(0, 200),
      address: from.address,
      createdAt: now,
      seenAt: now,
    }),
  );
  return token;
}

/** Whoever a token stands for; nobody where it is unknown, idle for too long, or too old. */
export async function sessionOf(
  { models, connection }: Database,
  token: string | undefined,
  now = Date.now(),
): Promise<SignedIn | undefined> {
  if (!token) return undefined;
  const session = await models.session.findByPk(sha256(token));
  if (!session) return undefined;
  const idle = now - Date.parse(session.seenAt);
  if (idle > IDLE_MS || now - Date.parse(session.createdAt) > MOST_MS) return undefined;
  const person = await models.person.findByPk(session.personId);
  if (!person) return undefined;
  if (idle > NOTED_MS) {
    const seenAt = new Date(now).toISOString();
    await connection.write(() => models.session.update({ seenAt }, { where: { id: session.id } }));
  }
  return {
    sessionId: session.id,
    personId: person.id,
    name: person.name,
    role: person.role as Role,
  };
}

/** A link is good for so long. */
const LINK_MS = 15 * 60_000;

/**
 * Makes a link that signs a crew member's phone in, once. Those made before for the same person are good no longer.
 * Errors: one for somebody who is not of the crew.
 */
export async function makeJoinLink(
  { models, connection }: Database,
  { personId, madeBy }: { readonly personId: string; readonly madeBy: string },
  now = Date.now(),
): Promise<{ readonly token: string; readonly until: string }> {
  const person = await models.person.findByPk(personId);
  if (person?.role !== 'crew')
    throw wrongField('personId', $localize`is not of the crew: the others sign in with their PIN`);
  const token = randomBytes(24).toString('base64url');
  const until = new Date(now + LINK_MS).toISOString();
  await connection.write(async () => {
    await models.joinLink.destroy({ where: { personId } });
    await models.joinLink.create({ id: sha256(token), personId, madeBy, until });
  });
  return { token, until };
}

/** Signs a phone in by its link, which is good for nothing afterwards. */
export async function joinBy(
  database: Database,
  token: string,
  from: From,
  now = Date.now(),
): Promise<{ readonly token: string; readonly personId: string }> {
  const { models, connection } = database;
  const id = sha256(token);
  const personId = await connection.write(async () => {
    const link = await models.joinLink.findByPk(id);
    // Taken away first: of two phones that follow it at once, one is let in.
    const used = await models.joinLink.destroy({ where: { id } });
    return link && used === 1 && Date.parse(link.until) > now ? link.personId : undefined;
  });
  if (personId === undefined) {
    throw wrongField(
      'token',
      $localize`was used already or is too old: ask the manager for a new link`,
    );
  }
  return { token: await openSession(database, personId, from), personId };
}

/** Ends a device's session: one's own, for a manager anybody's. One that is gone already is no error. */
export const endDevice = (
  { models, connection }: Database,
  { personId, role }: SignedIn,
  id: string,
): Promise<unknown> =>
  connection.write(() =>
    models.session.destroy({ where: role === 'manager' ? { id } : { id, personId } }),
  );

/** Ends a session, or all of the same person. */
export const signOut = (
  { models, connection }: Database,
  { sessionId, personId }: SignedIn,
  everywhere = false,
): Promise<unknown> =>
  connection.write(() =>
    models.session.destroy({ where: everywhere ? { personId } : { id: sessionId } }),
  );

/** Sessions that still stand, the newest first. */
export const devicesOf = ({ models }: Database, { personId, role }: SignedIn, now = Date.now()) =>
  models.session.findAll({
    where: {
      ...(role === 'manager' ? {} : { personId }),
      seenAt: { [Op.gt]: new Date(now - IDLE_MS).toISOString() },
      createdAt: { [Op.gt]: new Date(now - MOST_MS).toISOString() },
    },
    order: [['seenAt', 'DESC']],
  });
