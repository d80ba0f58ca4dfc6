import type { ShopView } from '@tally-stone/contract';
import type { Tables } from '../db/tables.js';
import { listBalancers } from '../shop/balancers.js';
import { checkViews } from '../shop/check-blade.js';
import { listGrinders } from '../shop/grinders.js';
import { shopOf } from '../shop/look-up.js';

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
