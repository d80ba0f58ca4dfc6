import { Id } from '../basics.js';
import * as z from 'zod';
import '../zod.js';
import { envelope } from './base.js';
import { AddSpec } from './shop.js';
import { AddMower, ReadHours, RegisterBlades } from './fleet.js';

const BARE = { id: true, personId: true, occurredAt: true, type: true } as const;

/** So many rows are one transaction. */
export const LIST_ROWS_MOST = 5000;
const tooMany = (rows: number) => ({
  error: () => $localize`are more than ${rows} rows: split the list`,
});
/** A spec carries its readings and limits with it. */
const SPECS_MOST = 500;

/** A list from elsewhere, all of it or nothing. */
export const BringList = z.object({
  ...envelope,
  type: z.literal('bring-list'),
  specs: z.array(AddSpec.omit(BARE)).max(SPECS_MOST, tooMany(SPECS_MOST)).default([]),
  mowers: z.array(AddMower.omit(BARE)).max(LIST_ROWS_MOST, tooMany(LIST_ROWS_MOST)).default([]),
  blades: z
    .array(RegisterBlades.omit(BARE))
    .max(LIST_ROWS_MOST, tooMany(LIST_ROWS_MOST))
    .default([]),
  hours: z.array(ReadHours.omit(BARE)).max(LIST_ROWS_MOST, tooMany(LIST_ROWS_MOST)).default([]),
});

/** Takes a whole list back, as long as nothing was done with what came of it. */
export const UndoList = z.object({
  ...envelope,
  type: z.literal('undo-list'),
  /** The command that brought it. */
  listId: Id,
});
