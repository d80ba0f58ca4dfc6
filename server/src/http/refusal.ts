import { PROBLEMS, type Problem, type ProblemKind } from '@tally-stone/contract';
import type { BenchError } from '@tally-stone/core';
import type { ZodError } from 'zod';

const STATUS: Readonly<Record<ProblemKind, number>> = {
  invalid: 422,
  notJson: 400,
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

export interface FieldError {
  readonly field: string;
  readonly message: string;
}

/** A request turned down, in the words the person reads. Becomes RFC 9457 problem details. */
export class Refusal extends Error {
  constructor(
    readonly kind: ProblemKind,
    readonly detail: string,
    readonly errors: readonly FieldError[] = [],
  ) {
    super(detail);
  }

  get status(): number {
    return STATUS[this.kind];
  }

  toProblem(instance?: string): Problem {
    return {
      type: PROBLEMS[this.kind],
      title: TITLES[this.kind],
      status: this.status,
      detail: this.detail,
      ...(instance === undefined ? {} : { instance }),
      ...(this.errors.length === 0 ? {} : { errors: [...this.errors] }),
    };
  }
}

/** One wrong field, said once as detail and once at the field. */
export const wrongField = (field: string, message: string): Refusal =>
  new Refusal('invalid', `${field} ${message}`, [{ field, message }]);

export function refusalFromZod(error: ZodError): Refusal {
  const errors = error.issues.map(({ path, message }) => ({
    field: path.map(String).join('.') || 'body',
    message,
  }));
  const first = errors[0];
  return new Refusal('invalid', first ? `${first.field}: ${first.message}` : 'invalid', errors);
}

/** A core error at a field of the command. */
export function refusalFromBench(error: BenchError, field = error.field): Refusal {
  const message =
    error.value === undefined ? error.rule : `${error.rule} (got ${String(error.value)})`;
  return new Refusal('invalid', `${field}: ${message}`, [{ field, message }]);
}
