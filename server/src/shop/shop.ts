import type { ShopCommand } from '@tally-stone/contract';
import type { Done, WriteContext } from '../commands/context.js';
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

type NameShop = Extract<ShopCommand, { type: 'name-shop' }>;

/** Names the shop and its time zone; its schools stay as they are. */
export async function nameShop(command: NameShop, { tables, scope }: WriteContext): Promise<Done> {
  const { name, timeZone } = command;
  const before = await tables.shop.one({ id: SHOP_ID }, scope);
  if (before) await tables.shop.update({ name, timeZone }, { id: SHOP_ID }, scope);
  else await tables.shop.insert({ id: SHOP_ID, name, timeZone, rules: DEFAULT_RULES }, scope);
  return {
    changes: [
      {
        what: 'shop named',
        subjectKind: 'shop',
        subjectId: SHOP_ID,
        before: before ? { name: before.name, timeZone: before.timeZone } : null,
        after: { name, timeZone },
      },
    ],
  };
}
