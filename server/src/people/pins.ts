import { randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import type { Command } from '@tally-stone/contract';
import type { Database } from '../database.js';
import type { Models } from '../models.js';
import { Refusal, wrongField } from '@tally-stone/cycle';

const KEY_BYTES = 32;
/** So many wrong PINs in a row, and the next try waits: four digits are soon guessed otherwise. */
const TRIES = 5;
const WAIT_MS = 60_000;

export function hashPin(pin: string): string {
  const salt = randomBytes(16);
  return `${salt.toString('hex')}:${scryptSync(pin, salt, KEY_BYTES).toString('hex')}`;
}

function matches(pin: string, stored: string): boolean {
  const [salt = '', hash = ''] = stored.split(':');
  return timingSafeEqual(
    scryptSync(pin, Buffer.from(salt, 'hex'), KEY_BYTES),
    Buffer.from(hash, 'hex'),
  );
}

/** A PIN that was not theirs: to be counted once the write it came in is undone. */
export class WrongPin extends Refusal {
  constructor(
    readonly ofPersonId: string,
    field: string,
  ) {
    super('invalid', $localize`${field}:ph0:: is not their PIN`, [
      { field, message: $localize`is not their PIN` },
    ]);
  }
}

interface Asked {
  readonly models: Models;
  /** Where the try comes from: wrong ones lock out that address alone. */
  readonly address?: string | undefined;
}

/** Is it that person who says so? Refused with the field, and for a minute after five wrong PINs from one address. */
export async function checkPin(
  personId: string,
  pin: string,
  field: string,
  { models, address = '' }: Asked,
  now = Date.now(),
): Promise<void> {
  const person = await models.person.findByPk(personId);
  if (!person?.pinHash) {
    throw wrongField(
      field,
      $localize`cannot be asked: ${person?.name ?? $localize`this person`} has no PIN yet. Set one under Shop, People`,
    );
  }
  const tried = await models.wrongPin.findOne({ where: { personId, address } });
  if (tried && tried.untilMs > now)
    throw wrongField(field, $localize`was wrong too many times: wait a minute`);
  if (!matches(pin, person.pinHash)) throw new WrongPin(personId, field);
}

/** Does what needs a PIN; a wrong one is remembered, over a restart too, and a right one forgives those before it. */
export async function settlePin<Result>(
  { models, connection }: Pick<Database, 'models' | 'connection'>,
  address: string,
  work: () => Promise<Result>,
  now = Date.now(),
): Promise<Result> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof WrongPin) {
      const where = { personId: error.ofPersonId, address };
      await connection.write(async () => {
        const tried = await models.wrongPin.findOne({ where });
        const wrong = (tried?.untilMs && tried.untilMs <= now ? 0 : (tried?.wrong ?? 0)) + 1;
        const untilMs = wrong >= TRIES ? now + WAIT_MS : 0;
        if (tried) await models.wrongPin.update({ wrong, untilMs }, { where });
        else await models.wrongPin.create({ ...where, wrong, untilMs });
      });
    }
    throw error;
  }
}

/** The PIN a command came with is the one it came with before: its digits are not in the record to be compared. */
export async function samePins(
  command: Command,
  { models }: Pick<Database, 'models'>,
): Promise<boolean> {
  const [ofWhom, pin] =
    command.type === 'set-pin'
      ? [command.ofPersonId, command.pin]
      : command.type === 'take-back'
        ? [command.secondPersonId, command.secondPin]
        : [];
  if (!ofWhom || pin === undefined) return true;
  const person = await models.person.findByPk(ofWhom);
  return Boolean(person?.pinHash && matches(pin, person.pinHash));
}

/** A command as it is stored: nobody reads a PIN out of the journal or a backup. */
export function withoutPins(command: Command): Command {
  switch (command.type) {
    case 'set-pin':
      return { ...command, pin: '', ...(command.byPin === undefined ? {} : { byPin: '' }) };
    case 'take-back':
      return { ...command, secondPin: '' };
    default:
      return command;
  }
}
