import { DEFAULT_RULES, type ShopRules } from '@tally-stone/contract';
import type { Scope } from '../db/connection.js';
import type { ShopRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';

export const SHOP_ID = 'shop';

export type Shop = Omit<ShopRow, 'rules'> & { readonly rules: ShopRules };

/** The shop's own row; the defaults until somebody has set it up, and for a rule not stored yet. */
export async function shopOf(tables: Tables, scope: Scope): Promise<Shop> {
  const stored = await tables.shop.one({ id: SHOP_ID }, scope);
  return {
    id: SHOP_ID,
    name: stored?.name ?? 'Tally Stone shop',
    timeZone: stored?.timeZone ?? 'Europe/London',
    rules: { ...DEFAULT_RULES, ...stored?.rules },
  };
}
