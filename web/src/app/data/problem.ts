import { HttpErrorResponse } from '@angular/common/http';
import { Problem } from '@tally-stone/contract';

/** Why something could not be done, in words to show, with the field each belongs to. */
export interface Trouble {
  readonly kind: 'offline' | 'problem';
  readonly type: string;
  readonly words: string;
  readonly fields: Readonly<Record<string, string>>;
}

const OFFLINE: Trouble = {
  kind: 'offline',
  type: '',
  words: $localize`The server does not answer. What you typed is still here; try again in a moment.`,
  fields: {},
};

/** A trouble that another window of this browser met for this one. */
export class TroubleError extends Error {
  constructor(readonly trouble: Trouble) {
    super(trouble.words);
  }
}

/** Reads an HTTP failure: problem details where the server spoke, otherwise "it does not answer". */
export function troubleFrom(error: unknown): Trouble {
  if (error instanceof TroubleError) return error.trouble;
  if (!(error instanceof HttpErrorResponse)) throw error;
  const problem = Problem.safeParse(
    typeof error.error === 'string' ? jsonOrNothing(error.error) : error.error,
  );
  if (!problem.success) return OFFLINE;
  const fields = Object.fromEntries(
    (problem.data.errors ?? []).map(({ field, message }) => [field, message]),
  );
  return { kind: 'problem', type: problem.data.type, words: problem.data.detail, fields };
}

/** The same of something that was only asked for: nothing was typed that could be lost. */
export function troubleAsking(error: unknown): Trouble {
  const trouble = troubleFrom(error);
  return trouble.kind === 'offline'
    ? { ...trouble, words: $localize`The server does not answer: this cannot be shown yet.` }
    : trouble;
}

/** A trouble with its quantities written for the reader. */
export const inUnits = (trouble: Trouble, resay: (words: string) => string): Trouble => ({
  ...trouble,
  words: resay(trouble.words),
  fields: Object.fromEntries(
    Object.entries(trouble.fields).map(([field, words]) => [field, resay(words)]),
  ),
});

function jsonOrNothing(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
