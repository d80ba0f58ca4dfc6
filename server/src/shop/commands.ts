import { DEFAULT_RULES, type ShopCommand } from '@tally-stone/contract';
import type { Done, WriteContext } from '../write-context.js';
import { SHOP_ID, shopOf } from './look-up.js';

type NameShop = Extract<ShopCommand, { type: 'name-shop' }>;

/** Names the shop and its time zone; its schools stay as they are. */
export async function nameShop(command: NameShop, { models }: WriteContext): Promise<Done> {
  const { name, timeZone } = command;
  const before = await models.shop.findByPk(SHOP_ID);
  if (before) await models.shop.update({ name, timeZone }, { where: { id: SHOP_ID } });
  else await models.shop.create({ id: SHOP_ID, name, timeZone, rules: DEFAULT_RULES });
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
export async function setRules({ rules }: SetRules, context: WriteContext): Promise<Done> {
  const { models } = context;
  const before = await shopOf(context);
  if (await models.shop.findByPk(SHOP_ID)) {
    await models.shop.update({ rules }, { where: { id: SHOP_ID } });
  } else {
    await models.shop.create({ ...before, rules });
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
