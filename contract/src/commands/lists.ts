import { Id } from '../basics.js';
import * as z from 'zod';
import '../zod.js';
import { envelope } from './base.js';
import { AddMower, ReadHours, RegisterBlades } from './fleet.js';

const BARE = { id: true, personId: true, occurredAt: true, type: true } as const;

/** A list from elsewhere, all of it or nothing. */
export const BringList = z.object({
  ...envelope,
  type: z.literal('bring-list'),
  mowers: z.array(AddMower.omit(BARE)).max(500, 'are more than 500 at once').default([]),
  blades: z.array(RegisterBlades.omit(BARE)).max(500, 'are more than 500 rows at once').default([]),
  hours: z.array(ReadHours.omit(BARE)).max(500, 'are more than 500 at once').default([]),
});

/** Takes a whole list back, as long as nothing was done with what came of it. */
export const UndoList = z.object({
  ...envelope,
  type: z.literal('undo-list'),
  /** The command that brought it. */
  listId: Id,
});
