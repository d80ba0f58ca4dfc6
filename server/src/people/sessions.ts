import { randomBytes } from 'node:crypto';
import type { Role } from '@tally-stone/contract';
import { Op } from 'sequelize';
import type { Database } from '../database.js';
import { sha256 } from '../record/chain.js';
import { checkPin, settlePin } from './pins.js';

/** A session ends when nobody has used it for so long, and in any case after so many days. */
const IDLE_MS = 12 * 3_600_000;
export const MOST_MS = 30 * 86_400_000;
/** That it was used is noted no more often than this. */
const NOTED_MS = 60_000;

/** Who is signed in. */
export interface SignedIn {
  readonly sessionId: string;
  readonly personId: string;
  readonly name: string;
  readonly role: Role;
}

/** Signs somebody in by their PIN. Returns the token for the browser: it is stored nowhere here. */
export async function signIn(
  database: Database,
  { personId, pin }: { readonly personId: string; readonly pin: string },
  from: { readonly address: string; readonly device: string },
): Promise<string> {
  await settlePin(database, from.address, () =>
    checkPin(personId, pin, 'pin', { ...database, address: from.address }),
  );
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
