import { DEFAULT_RULES, type ShopRules } from '@tally-stone/contract';
import type { ShopRow } from './shop.model.js';
import type { Book } from '../database.js';

export const SHOP_ID = 'shop';

export type Shop = Omit<ShopRow, 'rules'> & { readonly rules: ShopRules };

/** The shop's own row; the defaults until somebody has set it up, and for a rule not stored yet. */
export const shopOf = ({ models, atBench }: Book): Promise<Shop> =>
  atBench.of('shop', async () => {
    const stored = await models.shop.findByPk(SHOP_ID);
    return {
      id: SHOP_ID,
      name: stored?.name ?? 'Tally Stone shop',
      timeZone: stored?.timeZone ?? 'Europe/London',
      rules: { ...DEFAULT_RULES, ...stored?.rules },
    };
  });
