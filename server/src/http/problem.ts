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
  get invalid() {
    return $localize`A field needs another look`;
  },
  get notJson() {
    return $localize`This is not JSON`;
  },
  get notAsJson() {
    return $localize`This was not sent as JSON`;
  },
  get foreign() {
    return $localize`This does not come from this shop`;
  },
  get wrongMethod() {
    return $localize`This cannot be done here`;
  },
  get tooMany() {
    return $localize`Too many at once`;
  },
  get notSignedIn() {
    return $localize`Nobody is signed in here`;
  },
  get notAllowed() {
    return $localize`You may not do this here`;
  },
  get noRoom() {
    return $localize`This could not be stored`;
  },
  get tooLarge() {
    return $localize`Too much was sent at once`;
  },
  get notFound() {
    return $localize`There is no such thing here`;
  },
  get unknownCode() {
    return $localize`No blade has this code`;
  },
  get misreadCode() {
    return $localize`This code was misread`;
  },
  get staleRevision() {
    return $localize`This cycle was changed meanwhile`;
  },
  get commandReused() {
    return $localize`This command id was used for something else`;
  },
  get refused() {
    return $localize`The rules of the shop do not allow this`;
  },
  get retired() {
    return $localize`This blade is retired`;
  },
  get signedOff() {
    return $localize`This cycle is signed off`;
  },
  get fault() {
    return $localize`Something went wrong in the server`;
  },
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
