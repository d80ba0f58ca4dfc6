import type { ProblemKind } from '@tally-stone/contract';
import type { BenchError } from '@tally-stone/core';

export interface FieldError {
  readonly field: string;
  readonly message: string;
}

/** What the trade or the shop does not allow, in the words the person reads. Knows nothing of how it was asked. */
export class Refusal extends Error {
  constructor(
    readonly kind: ProblemKind,
    readonly detail: string,
    readonly errors: readonly FieldError[] = [],
  ) {
    super(detail);
  }
}

/** One wrong field, said once as detail and once at the field. */
export const wrongField = (field: string, message: string): Refusal =>
  new Refusal('invalid', `${field} ${message}`, [{ field, message }]);

/** A core error at a field of the command. */
export function refusalFromBench(error: BenchError, field = error.field): Refusal {
  const message =
    error.value === undefined ? error.rule : $localize`${error.rule} (got ${String(error.value)})`;
  return new Refusal('invalid', `${field}: ${message}`, [{ field, message }]);
}
