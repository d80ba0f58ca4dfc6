import {
  DEFAULT_RULES,
  type ShopCommand,
  type ShopRules,
  type ShopView,
} from '@tally-stone/contract';
import type { Done, WriteContext } from '../commands/context.js';
import type { Scope } from '../db/connection.js';
import type { Tables } from '../db/tables.js';
import type { ShopRow } from '../db/rows.js';
import { checkViews } from './check-blade.js';
import { listBalancers } from './balancers.js';
import { listGrinders } from './grinders.js';

const SHOP_ID = 'shop';

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

/** The shop's page: schools and machines. */
export async function shopView(tables: Tables): Promise<ShopView> {
  const shop = await shopOf(tables, 'committed');
  const { name, timeZone, rules } = shop;
  const [grinders, balancers, checks] = await Promise.all([
    listGrinders(tables, 'committed'),
    listBalancers(tables, 'committed'),
    checkViews(tables, shop),
  ]);
  return { name, timeZone, rules, grinders, balancers, checks };
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
