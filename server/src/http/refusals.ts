import { BenchError } from '@tally-stone/core';
import { Refusal, refusalFromBench } from '@tally-stone/cycle';
import { ZodError } from 'zod';
import { refusalFromZod } from './problem.js';

/** So much JSON may be sent at once. */
export const BODY_LIMIT_MB = 4;

/** What the disk refuses is said as what to do; nothing of the command was stored. */
function diskTrouble(error: unknown): Refusal | undefined {
  const { parent } = error as { parent?: { code?: string } };
  switch (parent?.code) {
    case 'SQLITE_FULL':
      return new Refusal(
        'noRoom',
        $localize`The server’s disk is full: nothing was stored. Make room, then try again.`,
      );
    case 'SQLITE_READONLY':
    case 'SQLITE_CANTOPEN':
      return new Refusal(
        'noRoom',
        $localize`The server cannot write to its folder: nothing was stored. See whose it is.`,
      );
    case 'SQLITE_CORRUPT':
    case 'SQLITE_NOTADB':
      return new Refusal(
        'noRoom',
        $localize`The shop’s file is damaged: nothing was stored. Stop the server and restore a backup.`,
      );
    default:
      return undefined;
  }
}

/** What any error is to whoever sent the request; nothing for a fault of ours, which is reported instead. */
export function toRefusal(error: unknown): Refusal | undefined {
  if (error instanceof Refusal) return error;
  if (error instanceof ZodError) return refusalFromZod(error);
  if (error instanceof BenchError) return refusalFromBench(error);
  const disk = diskTrouble(error);
  if (disk) return disk;
  const type = (error as { type?: unknown }).type;
  if (type === 'entity.parse.failed') {
    return new Refusal('notJson', $localize`What was sent is not JSON: nothing was stored.`);
  }
  if (type === 'entity.too.large') {
    return new Refusal(
      'tooLarge',
      $localize`More than ${BODY_LIMIT_MB} MB was sent at once: nothing was stored.`,
    );
  }
  if ((error as { status?: unknown }).status === 415) {
    return new Refusal('notAsJson', $localize`Send it as JSON in UTF-8: nothing was stored.`);
  }
  if ((error as { status?: unknown }).status === 400) {
    return new Refusal('invalid', $localize`The address could not be read.`);
  }
  return undefined;
}
