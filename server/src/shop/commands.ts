import { DEFAULT_RULES, type ShopCommand } from '@tally-stone/contract';
import type { Done, WriteContext } from '../db/write-context.js';
import { SHOP_ID, shopOf } from './look-up.js';

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

type SetRules = Extract<ShopCommand, { type: 'set-rules' }>;

/** Sets the shop's schools from now on; a signed-off cycle keeps the verdict it was given. */
export async function setRules(
  { rules }: SetRules,
  { tables, scope }: WriteContext,
): Promise<Done> {
  const before = await shopOf(tables, scope);
  if (await tables.shop.one({ id: SHOP_ID }, scope)) {
    await tables.shop.update({ rules }, { id: SHOP_ID }, scope);
  } else {
    await tables.shop.insert({ ...before, rules }, scope);
  }
  return {
    changes: [
      {
        what: 'shop rules set',
        subjectKind: 'shop',
        subjectId: SHOP_ID,
        before: before.rules,
        after: rules,
      },
    ],
  };
}
