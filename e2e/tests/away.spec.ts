import type { Page } from '@playwright/test';
import { Counted, openByCode, step } from '../support/bench';
import { cycleOf, expect, test, waitingBlade } from '../support/shop-test';

/** A blade in hand, cleaned and looked over. */
async function lookedAt(page: Page, shop: Parameters<typeof cycleOf>[0]): Promise<Counted> {
  const blade = await waitingBlade(shop, 'Churchyard medium-lift 457');
  await openByCode(page, shop.address, blade.code);
  const counted = new Counted(page);
  await counted.on(/Cleaned on both faces/);
  await counted.on(/No crack/);
  return counted;
}

test('the run goes on with the server away from plan to prove, and all of it arrives once', async ({
  page,
  shop,
  context,
}) => {
  const counted = await lookedAt(page, shop);
  await counted.takeAll('before');
  await counted.on(/On to: measure/);
  await counted.takeAll('before');
  await step(page, 'Verdict').click();
  await expect(page.getByRole('heading', { name: /^Take / })).toBeVisible();

  await context.setOffline(true);
  await step(page, 'Grind').click();
  for (const end of ['A', 'B']) {
    await expect(page.getByRole('region', { name: `End ${end}`, exact: true })).toBeVisible();
    await page.keyboard.press(end.toLowerCase());
    for (let n = 0; n < 5; n++) await page.keyboard.press('Space');
    await expect(
      page.getByRole('region', { name: `End ${end}`, exact: true }).locator('[data-count]'),
    ).toHaveText('5');
  }
  await expect(page.getByRole('status').filter({ hasText: '10 entries are kept' })).toBeVisible({
    timeout: 15_000,
  });
  await step(page, 'Balance').click();
  await page.getByRole('button', { name: /^Deburred: / }).click();
  await expect(page.getByRole('form', { name: 'Balance reading' })).toBeVisible();
  await page.keyboard.press('b');
  await page.getByLabel('Test weight').fill('0.3');
  await page.getByLabel('From the hole centre').fill('200');
  await page.getByLabel('From the hole centre').press('Enter');
  await expect(page.getByText('End B is heavy by 60 g·mm')).toBeVisible();
  await step(page, 'Prove').click();
  await page
    .getByRole('region', { name: 'Light test, end A' })
    .getByRole('button', { name: 'No line: sharp' })
    .click();
  expect((await cycleOf(shop, page)).passes).toEqual([]);

  await context.setOffline(false);
  await expect(page.getByRole('status').filter({ hasText: 'kept' })).toBeHidden({
    timeout: 20_000,
  });
  await expect.poll(async () => (await cycleOf(shop, page)).lightTest).toEqual({ A: false });
  const view = await cycleOf(shop, page);
  expect(view.passes.filter(({ end }) => end === 'A')).toHaveLength(5);
  expect(view.passes.filter(({ end }) => end === 'B')).toHaveLength(5);
  expect(view.rounds).toHaveLength(1);
});

test('what a closed window left behind is counted in the next one and sent from there, once and in order', async ({
  page,
  shop,
  context,
}) => {
  await lookedAt(page, shop);
  const endA = (of: Page) => of.getByRole('region', { name: 'End A', exact: true });
  const press = async (of: Page, times: number, shown: string): Promise<void> => {
    await step(of, 'Grind').click();
    await expect(endA(of)).toBeVisible();
    // A slow machine shows the end before it listens: whoever sees nothing happen presses again.
    await expect(async () => {
      await of.keyboard.press('a');
      await expect(endA(of).getByRole('button', { name: /One pass/ })).toBeFocused({
        timeout: 2000,
      });
    }).toPass();
    for (let n = 0; n < times; n++) await of.keyboard.press('Space');
    await expect(endA(of).locator('[data-count]')).toHaveText(shown);
  };
  await expect.poll(async () => (await cycleOf(shop, page)).crack?.found).toBe(false);

  // An act costs one request: its answer brings the view, and nothing is asked again. The lease beats by itself.
  const asked: string[] = [];
  page.on('request', (request) => {
    const { pathname } = new URL(request.url());
    if (pathname.startsWith('/api/v1/') && !/\/(events|lease)$/.test(pathname)) {
      asked.push(`${request.method()} ${pathname}`);
    }
  });
  const quiet = () => page.waitForTimeout(800);
  await step(page, 'Measure').click();
  const mass = page.getByRole('textbox', { name: 'Mass', exact: true });
  await mass.fill('1500.0');
  await quiet();
  asked.length = 0;
  await mass.press('Enter');
  await expect.poll(async () => (await cycleOf(shop, page)).slots.some((s) => s.taken)).toBe(true);
  await quiet();
  expect(asked).toEqual(['POST /api/v1/commands']);
  await press(page, 1, '1');
  await quiet();
  asked.length = 0;
  for (let n = 0; n < 3; n++) await page.keyboard.press('Space');
  await expect(endA(page).locator('[data-count]')).toHaveText('4');
  await expect.poll(async () => (await cycleOf(shop, page)).passes.length).toBe(4);
  await quiet();
  expect(asked).toEqual(Array.from({ length: 3 }, () => 'POST /api/v1/commands'));

  // This window alone loses the server; the one opened from it does not.
  await page.route('**/api/v1/commands', (route) => route.abort());
  await press(page, 4, '8');
  await expect(page.getByRole('status').filter({ hasText: '4 entries are kept' })).toBeVisible();
  const opened = context.waitForEvent('page');
  await page.evaluate(() => window.open(location.href));
  const next = await opened;
  await page.close();
  await step(next, 'Grind').click();
  await expect(endA(next).locator('[data-count]')).toHaveText('8');
  await expect.poll(async () => (await cycleOf(shop, next)).passes.length).toBe(8);
  await expect(next.getByRole('status').filter({ hasText: 'kept' })).toBeHidden();
  await next.close();
});
