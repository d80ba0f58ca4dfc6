import type { Person, ShopCommand } from '@tally-stone/contract';
import type { Done, WriteContext } from '../db/write-context.js';
import { wrongField } from '@tally-stone/cycle';
import { checkPin, hashPin } from './pins.js';
import type { Tables } from '../db/tables.js';

type SetPin = Extract<ShopCommand, { type: 'set-pin' }>;
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

/** Sets a PIN, or changes one: with the old one, or by a manager with theirs. */
export async function setPin(command: SetPin, context: WriteContext): Promise<Done> {
  const { ofPersonId, personId, pin, byPin } = command;
  const { tables, scope } = context;
  const person = await tables.person.one({ id: ofPersonId }, scope);
  if (!person) throw wrongField('ofPersonId', 'is nobody of this shop');
  if (person.pinHash) {
    if (byPin === undefined) throw wrongField('byPin', 'is missing: the PIN that stands now');
    const by = await tables.person.one({ id: personId }, scope);
    await checkPin(by?.role === 'manager' ? personId : ofPersonId, byPin, 'byPin', context);
  }
  await tables.person.update({ pinHash: hashPin(pin) }, { id: ofPersonId }, scope);
  return {
    changes: [
      {
        what: person.pinHash ? 'PIN changed' : 'PIN set',
        subjectKind: 'person',
        subjectId: ofPersonId,
        before: null,
        after: null,
      },
    ],
  };
}

export async function listPeople(tables: Tables): Promise<Person[]> {
  const rows = await tables.person.all({}, 'committed', { order: [['name', 'ASC']] });
  return rows.map(({ id, name, role, pinHash }) => ({
    personId: id,
    name,
    role,
    hasPin: pinHash !== null,
  }));
}
