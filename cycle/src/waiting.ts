import type { CycleCommand, CycleFacts, CycleState } from '@tally-stone/contract';
import { decide } from './decide.js';
import { foldOn } from './fold.js';
import { Refusal } from './refusal.js';

/** A sign-off is the server's to give, and a photo has no file yet: both are only told as waiting. */
const TOLD_AS_WAITING: readonly CycleCommand['type'][] = [
  'sign-off',
  'undo-retirement',
  'attach-photo',
];

/**
 * A cycle gone on with by commands that the server has not seen yet, through the very rules it will decide them by.
 * One that it will refuse changes nothing.
 */
export function foldWaiting(
  state: CycleState,
  facts: CycleFacts,
  commands: readonly CycleCommand[],
): CycleState {
  return commands.reduce((soFar, command) => {
    if (TOLD_AS_WAITING.includes(command.type)) return soFar;
    try {
      return foldOn(soFar, decide(command, soFar, facts));
    } catch (error) {
      if (error instanceof Refusal) return soFar;
      throw error;
    }
  }, state);
}
