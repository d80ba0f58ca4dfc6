import type { ShopView } from '@tally-stone/contract';
import type { Book } from '../database.js';
import { listBalancers } from '../shop/balancers.js';
import { checkViews } from '../shop/check-blade.js';
import { listGrinders } from '../shop/grinders.js';
import { shopOf } from '../shop/look-up.js';

/** The shop's page: schools and machines. */
export async function shopView(book: Book): Promise<ShopView> {
  const shop = await shopOf(book);
  const { name, timeZone, rules } = shop;
  const [grinders, balancers, checks] = await Promise.all([
    listGrinders(book),
    listBalancers(book.models),
    checkViews(book.models, shop),
  ]);
  return { name, timeZone, rules, grinders, balancers, checks };
}
