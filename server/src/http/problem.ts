import { PROBLEMS, type Problem, type ProblemKind } from '@tally-stone/contract';
import { Refusal } from '@tally-stone/cycle';
import type { ZodError } from 'zod';

/** Each kind of problem by its HTTP status. */
export const STATUS: Readonly<Record<ProblemKind, number>> = {
  invalid: 422,
  notJson: 400,
  notAsJson: 415,
  foreign: 403,
  wrongMethod: 405,
  tooMany: 429,
  notSignedIn: 401,
  notAllowed: 403,
  noRoom: 507,
  tooLarge: 413,
  notFound: 404,
  unknownCode: 404,
  misreadCode: 422,
  staleRevision: 409,
  commandReused: 409,
  refused: 409,
  retired: 409,
  signedOff: 409,
  fault: 500,
};

const TITLES: Readonly<Record<ProblemKind, string>> = {
  invalid: 'A field needs another look',
  notJson: 'This is not JSON',
  notAsJson: 'This was not sent as JSON',
  foreign: 'This does not come from this shop',
  wrongMethod: 'This cannot be done here',
  tooMany: 'Too many at once',
  notSignedIn: 'Nobody is signed in here',
  notAllowed: 'This is for others to do',
  noRoom: 'This could not be stored',
  tooLarge: 'Too much was sent at once',
  notFound: 'There is no such thing here',
  unknownCode: 'No blade has this code',
  misreadCode: 'This code was misread',
  staleRevision: 'This cycle was changed meanwhile',
  commandReused: 'This command id was used for something else',
  refused: 'The rules of the shop do not allow this',
  retired: 'This blade is retired',
  signedOff: 'This cycle is signed off',
  fault: 'Something went wrong in the server',
};

export const statusOf = ({ kind }: Refusal): number => STATUS[kind];

/** A refusal as RFC 9457 problem details. */
export const toProblem = (refusal: Refusal, instance?: string, requestId?: string): Problem => ({
  type: PROBLEMS[refusal.kind],
  title: TITLES[refusal.kind],
  status: statusOf(refusal),
  detail: refusal.detail,
  ...(instance === undefined ? {} : { instance }),
  ...(requestId === undefined ? {} : { requestId }),
  ...(refusal.errors.length === 0 ? {} : { errors: [...refusal.errors] }),
});

export function refusalFromZod(error: ZodError): Refusal {
  const errors = error.issues.map(({ path, message }) => ({
    field: path.map(String).join('.') || 'body',
    message,
  }));
  const first = errors[0];
  return new Refusal('invalid', first ? `${first.field}: ${first.message}` : 'invalid', errors);
}
