import type { Scope } from '../db/connection.js';
import type { Tables } from '../db/tables.js';
import type { ShopRow, ShopRules } from '../db/rows.js';

const SHOP_ID = 'shop';

/** Default schools, common practice, no source. */
export const DEFAULT_RULES: ShopRules = {
  leaveNicksToMm: 0.8,
  dullLandMm: 0.25,
  usualRecessionMm: 0.6,
};

/** The shop's own row; the defaults until somebody has set it up. */
export async function shopOf(tables: Tables, scope: Scope): Promise<ShopRow> {
  return (
    (await tables.shop.one({ id: SHOP_ID }, scope)) ?? {
      id: SHOP_ID,
      name: 'Tally Stone shop',
      timeZone: 'Europe/London',
      rules: DEFAULT_RULES,
    }
  );
}

export const newShop = (name: string, timeZone: string): ShopRow => ({
  id: SHOP_ID,
  name,
  timeZone,
  rules: DEFAULT_RULES,
});
