import { End, Id, Instant, Phase, Quantity } from '../basics.js';
import { wholeBetween } from '../numbers.js';
import * as z from 'zod';
import '../zod.js';

export const envelope = { id: Id, personId: Id, occurredAt: Instant };

/** Commands of one cycle carry the revision they were decided on; an older one is refused with 409. */
export const ofCycle = {
  ...envelope,
  cycleId: Id,
  expectedRevision: wholeBetween(0, 1_000_000),
};

/** Where a reading belongs: a quantity, and the end and station where it can differ by them. */
export const ReadingPlace = z.object({
  phase: Phase,
  quantity: Quantity,
  end: End.optional(),
  stationKey: z.string().max(20).optional(),
});
export type ReadingPlace = z.infer<typeof ReadingPlace>;

export const name = z
  .string()
  .trim()
  .min(1, { error: () => $localize`is empty: give it a name` })
  .max(60, { error: () => $localize`is too long, 60 letters at most` });
