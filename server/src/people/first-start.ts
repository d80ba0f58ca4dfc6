import { randomInt } from 'node:crypto';
import { wrongField } from '@tally-stone/cycle';

/** Letters and digits that are not mistaken for one another. */
const SIGNS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const LENGTH = 8;
/** So many wrong codes, and none is right until the server is started anew. */
const TRIES = 10;

/** Lets whoever can read the server's own window make its first manager. */
export interface FirstStart {
  /** Printed where the server was started. */
  readonly code: string;
  /** Errors: a code that is not that one, or any after ten wrong ones. */
  check(typed: string): void;
}

export function firstStart(): FirstStart {
  const code = Array.from({ length: LENGTH }, () => SIGNS[randomInt(SIGNS.length)]).join('');
  let wrong = 0;
  return {
    code,
    check(typed) {
      if (wrong >= TRIES)
        throw wrongField(
          'code',
          $localize`was wrong too many times: restart the server, and it prints another`,
        );
      if (typed.trim().toUpperCase() === code) return;
      wrong += 1;
      throw wrongField('code', $localize`is not the one the server printed when it started`);
    },
  };
}
