import type { Person, ShopCommand } from '@tally-stone/contract';
import type { Done, WriteContext } from '../commands/context.js';
import type { Tables } from '../db/tables.js';

type AddPerson = Extract<ShopCommand, { type: 'add-person' }>;

export async function addPerson(
  command: AddPerson,
  { tables, scope }: WriteContext,
): Promise<Done> {
  const row = { id: command.newPersonId, name: command.name, role: command.role, pinHash: null };
  await tables.person.insert(row, scope);
  return {
    changes: [
      {
        what: 'person added',
        subjectKind: 'person',
        subjectId: row.id,
        before: null,
        after: { name: row.name, role: row.role },
      },
    ],
  };
}

export async function listPeople(tables: Tables): Promise<Person[]> {
  const rows = await tables.person.all({}, 'committed', { order: [['name', 'ASC']] });
  return rows.map(({ id, name, role }) => ({ personId: id, name, role }));
}
