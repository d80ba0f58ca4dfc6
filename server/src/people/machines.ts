import { randomBytes } from 'node:crypto';
import type { MachineScope, MachinesView, MadeMachine, MakeMachine } from '@tally-stone/contract';
import { Refusal, wrongField } from '@tally-stone/cycle';
import { v7 as uuidv7 } from 'uuid';
import type { Database } from '../database.js';
import { sha256 } from '../record/chain.js';
import { listPeople } from './people.js';

/** So many machines a shop may let in. */
const MOST_MACHINES = 20;
/** That a token was used is noted no more often than this. */
const NOTED_MS = 60_000;

/** A machine that asks by its token, and who answers for what it tells. */
export interface Machine {
  readonly machineId: string;
  readonly scopes: readonly MachineScope[];
  readonly personId: string | undefined;
}

/** The machines that are let in, the newest first. */
export async function listMachines(database: Database): Promise<MachinesView> {
  const [rows, people] = await Promise.all([
    database.models.machineToken.findAll({ order: [['madeAt', 'DESC']] }),
    listPeople(database),
  ]);
  return {
    machines: rows.map(({ id, name, scopes, madeAt, madeBy, seenAt }) => ({
      machineId: id,
      name,
      scopes: [...scopes],
      since: madeAt,
      madeBy: people.find(({ personId }) => personId === madeBy)?.name ?? '',
      ...(seenAt !== null && { seenAt }),
    })),
  };
}

/** Makes a token for a machine. It is told once and stored nowhere. */
export async function makeMachine(
  database: Database,
  { name, scopes }: MakeMachine,
  madeBy: string | undefined,
): Promise<MadeMachine> {
  const { models, connection } = database;
  const token = randomBytes(32).toString('base64url');
  await connection.write(async () => {
    if ((await models.machineToken.count()) >= MOST_MACHINES)
      throw wrongField(
        'name',
        $localize`is one more than ${MOST_MACHINES} machines: end one first`,
      );
    await models.machineToken.create({
      id: uuidv7(),
      hash: sha256(token),
      name,
      scopes: [...new Set(scopes)],
      madeAt: new Date().toISOString(),
      madeBy: madeBy ?? null,
      seenAt: null,
    });
  });
  return { ...(await listMachines(database)), token };
}

/** Ends a machine's token. Errors: one that is not there. */
export async function endMachine(database: Database, id: string): Promise<MachinesView> {
  const { models, connection } = database;
  const ended = await connection.write(() => models.machineToken.destroy({ where: { id } }));
  if (ended === 0) throw new Refusal('notFound', $localize`There is no such machine.`);
  return listMachines(database);
}

/** The machine a token stands for; nothing where it is unknown or was ended. */
export async function machineOf(
  { models, connection }: Database,
  token: string,
  now = Date.now(),
): Promise<Machine | undefined> {
  const row = await models.machineToken.findOne({ where: { hash: sha256(token) } });
  if (!row) return undefined;
  const { id, scopes, madeBy } = row;
  if (now - Date.parse(row.seenAt ?? row.madeAt) > NOTED_MS || row.seenAt === null) {
    const seenAt = new Date(now).toISOString();
    await connection.write(() => models.machineToken.update({ seenAt }, { where: { id } }));
  }
  return { machineId: id, scopes, personId: madeBy ?? undefined };
}
