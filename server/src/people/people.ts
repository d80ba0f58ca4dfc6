import { Language, type Person, type ShopCommand } from '@tally-stone/contract';
import type { Done, WriteContext } from '../write-context.js';
import { wrongField } from '@tally-stone/cycle';
import { checkPin, hashPin } from './pins.js';
import type { Book } from '../database.js';

type SetPin = Extract<ShopCommand, { type: 'set-pin' }>;
type PickLanguage = Extract<ShopCommand, { type: 'pick-language' }>;
type AddPerson = Extract<ShopCommand, { type: 'add-person' }>;

export async function addPerson(command: AddPerson, { models }: WriteContext): Promise<Done> {
  const row = {
    id: command.newPersonId,
    name: command.name,
    role: command.role,
    pinHash: null,
    language: null,
  };
  await models.person.create(row);
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
  const { models } = context;
  const person = await models.person.findByPk(ofPersonId);
  if (!person) throw wrongField('ofPersonId', $localize`is not one of this shop’s people`);
  if (person.pinHash) {
    if (byPin === undefined)
      throw wrongField('byPin', $localize`is missing: the PIN that stands now`);
    const by = await models.person.findByPk(personId);
    await checkPin(by?.role === 'manager' ? personId : ofPersonId, byPin, 'byPin', context);
  }
  await models.person.update({ pinHash: hashPin(pin) }, { where: { id: ofPersonId } });
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

/** Somebody says what they read: it goes with them to whatever device they sign in on. */
export async function pickLanguage(
  { personId, language }: PickLanguage,
  { models }: WriteContext,
): Promise<Done> {
  const person = await models.person.findByPk(personId);
  await models.person.update({ language }, { where: { id: personId } });
  return {
    changes: [
      {
        what: 'language picked',
        subjectKind: 'person',
        subjectId: personId,
        before: person?.language ? { language: person.language } : null,
        after: { language },
      },
    ],
  };
}

export const listPeople = ({
  models,
  atBench,
}: Pick<Book, 'models' | 'atBench'>): Promise<Person[]> =>
  atBench.of('people', async () => {
    const rows = await models.person.findAll({ order: [['name', 'ASC']] });
    return rows.map(({ id, name, role, pinHash, language }) => {
      const reads = Language.safeParse(language).data;
      const hasPin = pinHash !== null;
      return { personId: id, name, role, hasPin, ...(reads && { language: reads }) };
    });
  });
