import { expect, test as base, type Locator, type Page } from '@playwright/test';
import type { BenchView, CycleView } from '@tally-stone/contract';
import { ShopProcess } from './shop-process';

/** Everything a page asked for that is not its own server, and every breach of its security policy. */
export interface Watch {
  readonly strangers: string[];
  readonly breaches: string[];
}

export const test = base.extend<{ shop: ShopProcess; watch: Watch; unbroken: undefined }>({
  /** Whatever a test looks at: nothing is thrown in a page that nobody catches. */
  unbroken: [
    async ({ context }, use) => {
      const thrown: string[] = [];
      context.on('weberror', (each) => thrown.push(each.error().stack ?? each.error().message));
      // As the app tells what nobody caught.
      context.on('console', (message) => {
        if (message.type() === 'error' && message.text().startsWith('ERROR '))
          thrown.push(message.text());
      });
      await use(undefined);
      expect(thrown, 'thrown in the page').toEqual([]);
    },
    { auto: true },
  ],
  // eslint-disable-next-line no-empty-pattern -- Playwright wants the destructured first argument
  shop: async ({}, use) => {
    const shop = await ShopProcess.demo();
    await use(shop);
    await shop.dispose();
  },
  watch: async ({ page, shop }, use) => {
    const watch: Watch = { strangers: [], breaches: [] };
    page.on('request', (request) => {
      if (!request.url().startsWith(shop.address)) watch.strangers.push(request.url());
    });
    page.on('console', (message) => {
      if (message.text().includes('Content Security Policy')) watch.breaches.push(message.text());
    });
    await page.addInitScript(() => {
      addEventListener('securitypolicyviolation', (event) => {
        console.error(`Content Security Policy: ${event.violatedDirective} ${event.blockedURI}`);
      });
    });
    await use(watch);
  },
});
export { expect } from '@playwright/test';

/** The steps of a run, in working order. */
export const STEPS = [
  'Clean',
  'Inspect',
  'Measure',
  'Verdict',
  'Set up',
  'Grind',
  'Balance',
  'Prove',
  'Sign off',
];

/** Picks an option of a field that opens a list. */
export async function pick(field: Locator, option: string): Promise<void> {
  const offered = field.page().getByRole('option', { name: option, exact: true });
  // A list that has not come from the server yet does not open.
  await expect(async () => {
    if (!(await offered.isVisible())) await field.press('Enter');
    await offered.click({ timeout: 1000 });
  }).toPass();
  // A list that is still closing would be taken for the next field's.
  await expect(offered).toHaveCount(0);
}

export const bench = (shop: ShopProcess): Promise<BenchView> =>
  shop.get<BenchView>('/api/v1/bench');

/** The waiting blade of a spec that was used before, so that it has a history. */
export async function waitingBlade(shop: ShopProcess, specName: string) {
  const blade = (await bench(shop)).waiting.find(
    (each) => each.specName === specName && each.state === 'waiting',
  );
  if (!blade) throw new Error(`no ${specName} waits`);
  return blade;
}

export const cycleOf = (shop: ShopProcess, page: Page): Promise<CycleView> =>
  shop.get<CycleView>(`/api/v1/cycles/${new URL(page.url()).pathname.split('/').at(-1) ?? ''}`);
