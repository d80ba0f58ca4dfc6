import type { Season } from '@tally-stone/core';
import { z } from './zod.js';
import { ShopRules } from './shop.js';

const isObject = (value: unknown): boolean => typeof value === 'object' && value !== null;

/** The shop as a season simulation starts from it, and in words where each figure comes from. */
export const SeasonView = z.object({
  season: z.custom<Season>(isObject),
  prices: ShopRules.shape.prices,
  sources: z.array(z.object({ what: z.string(), words: z.string() })),
});
export type SeasonView = z.infer<typeof SeasonView>;
