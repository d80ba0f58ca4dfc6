import type { Health, ShopView } from '@tally-stone/contract';
import type { Book } from '../database.js';
import { listBalancers } from '../shop/balancers.js';
import { listMats } from '../photo/mats.js';
import { checkViews } from '../shop/check-blade.js';
import { listGrinders } from '../shop/grinders.js';
import { shopOf } from '../shop/look-up.js';

/** That the server is up, and what a screen's frame says of the shop. */
export async function healthView(book: Book): Promise<Health> {
  const { name, timeZone, rules } = await shopOf(book);
  const blades = await book.models.blade.count();
  return { status: 'ok', shop: name, timeZone, region: rules.region, blades };
}

/** The shop's page: schools and machines. */
export async function shopView(book: Book): Promise<ShopView> {
  const shop = await shopOf(book);
  const { name, timeZone, rules } = shop;
  const [grinders, balancers, mats, checks] = await Promise.all([
    listGrinders(book),
    listBalancers(book.models),
    listMats(book.models),
    checkViews(book.models, shop),
  ]);
  return { name, timeZone, rules, grinders, balancers, mats, checks };
}
