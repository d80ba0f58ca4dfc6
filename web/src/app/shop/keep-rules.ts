import { inject, type Signal } from '@angular/core';
import type { ShopRules } from '@tally-stone/contract';
import { Shop } from '../data/shop';
import { submit, type Finder } from '../data/submit';

/** The shop's rules as one page changes them: asked for as it opens, kept whole. */
export interface RulesKept {
  readonly trouble: Signal<string>;
  /** True where they were kept. */
  keep(rules: ShopRules): Promise<boolean>;
  change(by: (rules: ShopRules) => ShopRules): Promise<boolean>;
}

/** Called where a page is made. `then` gets the rules as they stand, whenever they were asked for. */
export function keepRules({
  at,
  then = () => undefined,
}: {
  readonly at?: Finder;
  readonly then?: (rules: ShopRules) => void;
} = {}): RulesKept {
  const shop = inject(Shop);
  async function load(): Promise<void> {
    await shop.refresh();
    write.say(shop.trouble());
    const rules = shop.view()?.rules;
    if (rules) then(rules);
  }
  const write = submit({ ...(at ? { at } : {}), kept: load });
  const keep = async (rules: ShopRules): Promise<boolean> =>
    (await write.send({ type: 'set-rules', rules })) !== undefined;
  const loaded = load();
  return {
    trouble: write.words,
    keep,
    change: async (by) => {
      // Pressed before they had come: what is changed are the rules that stand.
      await loaded;
      const rules = shop.view()?.rules;
      return rules ? keep(by(rules)) : false;
    },
  };
}
