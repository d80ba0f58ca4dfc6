import { randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import type { Command } from '@tally-stone/contract';
import type { WriteContext } from '../write-context.js';
import { wrongField } from '@tally-stone/cycle';

const KEY_BYTES = 32;
/** So many wrong PINs in a row, and the next try waits: four digits are soon guessed otherwise. */
const TRIES = 5;
const WAIT_MS = 60_000;

interface Guesses {
  wrong: number;
  until: number;
}
const guesses = new Map<string, Guesses>();

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

/** Is it that person who says so? Refused with the field, and for a minute after five wrong PINs. */
export async function checkPin(
  personId: string,
  pin: string,
  field: string,
  { models }: WriteContext,
  now = Date.now(),
): Promise<void> {
  const person = await models.person.findByPk(personId);
  if (!person?.pinHash) {
    throw wrongField(
      field,
      `cannot be asked: ${person?.name ?? 'this person'} has no PIN yet. Set one under Shop, People`,
    );
  }
  const tried = guesses.get(personId) ?? { wrong: 0, until: 0 };
  if (tried.until > now) throw wrongField(field, 'was wrong too often: wait a minute');
  if (matches(pin, person.pinHash)) {
    guesses.delete(personId);
    return;
  }
  const wrong = tried.wrong + 1;
  guesses.set(personId, { wrong: wrong % TRIES, until: wrong >= TRIES ? now + WAIT_MS : 0 });
  throw wrongField(field, 'is not their PIN');
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
