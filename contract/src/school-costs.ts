import * as z from 'zod';
import './zod.js';
import { Schools, ShopRules } from './shop.js';

/** What an hour mown would cost under one way to treat nicks or to retire, the rest as the shop does it. */
export const SchoolCostRow = z.object({
  /** The school, where the row is about nicks. */
  nicks: Schools.shape.nicks.optional(),
  /** Where it is about retiring: by measured limits, or by a count of grinds too. */
  afterGrinds: z.union([z.int(), z.literal('limits')]).optional(),
  /** As the shop does it now. */
  current: z.boolean(),
  recessionMm: z.number(),
  grinds: z.number(),
  perHour: z.object({
    blade: z.number(),
    bench: z.number(),
    abrasive: z.number(),
    dull: z.number(),
    /** All but the hours mown dull: what a school moves. */
    ground: z.number(),
    total: z.number(),
  }),
});
export type SchoolCostRow = z.infer<typeof SchoolCostRow>;

export const SchoolCostsView = z.object({
  currency: ShopRules.shape.prices.shape.currency,
  /** Finished grinds it rests on, and how many of them had a nick, chip or roll. */
  grinds: z.int(),
  withNicks: z.int(),
  /** Blades ground in the last year. */
  bladesAYear: z.int(),
  /** Empty where the shop's history is too short to tell. */
  rows: z.array(SchoolCostRow),
});
export type SchoolCostsView = z.infer<typeof SchoolCostsView>;
