import type { Season } from '@tally-stone/core';
import * as z from 'zod';
import './zod.js';
import { ShopRules } from './shop.js';

const isObject = (value: unknown): boolean => typeof value === 'object' && value !== null;

/** What is taken for how long a set stays on its mower: as it did last year, or by the rule for when it is due. */
export const HoursAssumption = z.enum(['last-year', 'rule']);
export type HoursAssumption = z.infer<typeof HoursAssumption>;

/** The shop as a season simulation starts from it, and in words where each figure comes from. */
export const SeasonView = z.object({
  season: z.custom<Season>(isObject),
  /** Hours after which each mower's sets are changed, by its key, under each assumption. */
  changedAfterH: z.record(HoursAssumption, z.record(z.string(), z.number())),
  prices: ShopRules.shape.prices,
  sources: z.array(z.object({ what: z.string(), words: z.string() })),
});
export type SeasonView = z.infer<typeof SeasonView>;
