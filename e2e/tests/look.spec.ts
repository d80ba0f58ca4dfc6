import AxeBuilder from '@axe-core/playwright';
import type { ShopView } from '@tally-stone/contract';
import { ShopProcess } from '../support/shop-process';
import { bench, expect, test } from '../support/shop-test';

const STEPS = [
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

test('no serious accessibility violation on any screen, light or dark', async ({
  page,
  shop,
  watch,
}) => {
  await page.emulateMedia({ colorScheme: 'light' });
  const found: string[] = [];
  /** Everything in the light; in the dark what the dark can change, the contrast. */
  const look = async (where: string): Promise<void> => {
    const light = await new AxeBuilder({ page }).analyze();
    await page.emulateMedia({ colorScheme: 'dark' });
    const dark = await new AxeBuilder({ page }).withRules(['color-contrast']).analyze();
    await page.emulateMedia({ colorScheme: 'light' });
    for (const { id, impact, nodes } of [...light.violations, ...dark.violations]) {
      if (impact === 'serious' || impact === 'critical') {
        found.push(`${where}: ${id} ${nodes[0]?.html ?? ''}`);
      }
    }
  };
  const { atBench } = await bench(shop);
  await page.goto(shop.address);
  await expect(page.getByRole('heading', { name: 'Waiting, longest first' })).toBeVisible();
  await look('bench');
  await page.goto(`${shop.address}/run/${atBench[1]?.cycleId ?? ''}`);
  for (const name of STEPS) {
    await page
      .getByRole('navigation', { name: 'Working order' })
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .click();
    if (name === 'Set up')
      await expect(page.getByRole('button', { name: /looked at and in order/ })).toBeVisible();
    await look(name);
  }
  await page.goto(`${shop.address}/blade/${atBench[0]?.bladeId ?? ''}`);
  await expect(page.getByRole('heading', { name: 'Cycles, newest first' })).toBeVisible();
  await look('blade');
  const { balancers } = await shop.get<ShopView>('/api/shop');
  const balancer = `shop/balancer/${balancers[0]?.balancerId ?? ''}`;
  for (const path of ['register', 'ahead', 'batch', 'shop', balancer]) {
    await page.goto(`${shop.address}/${path}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    if (path === 'shop')
      await expect(page.getByRole('heading', { name: 'Instruments' })).toBeVisible();
    await look(path);
  }
  expect(found).toEqual([]);
  expect(watch.strangers).toEqual([]);
  expect(watch.breaches).toEqual([]);
});

test('the faces and icons come with the app', async ({ page, shop, watch }) => {
  await page.goto(shop.address);
  await expect(page.getByRole('heading', { name: 'In hand' })).toBeVisible();
  const loaded = await page.evaluate(async () => {
    await document.fonts.ready;
    return document.fonts.check("600 18px 'Barlow Semi Condensed'");
  });
  expect(loaded).toBe(true);
  await expect(page.locator('mat-icon svg').first()).toBeVisible();
  expect(watch.strangers).toEqual([]);
});

test('what is pressed is at least 48 px high', async ({ page, shop }) => {
  const { atBench } = await bench(shop);
  for (const path of [
    '',
    `run/${atBench[1]?.cycleId ?? ''}`,
    `blade/${atBench[0]?.bladeId ?? ''}`,
    'register',
  ]) {
    await page.goto(`${shop.address}/${path}`);
    await expect(page.getByRole('button').first()).toBeVisible();
    const small = await page
      .getByRole('button')
      .evaluateAll((buttons) =>
        buttons
          .filter(
            (button) =>
              button.getBoundingClientRect().height > 0 &&
              button.getBoundingClientRect().height < 47.5,
          )
          .map((button) => button.textContent),
      );
    expect(small).toEqual([]);
  }
});

test('every step works at twice the size: nothing runs off the side, and the next thing is there', async ({
  browser,
  shop,
}) => {
  // A browser at 200 % lays out 1280 × 800 as 640 × 400.
  const page = await browser.newPage({
    viewport: { width: 640, height: 400 },
    deviceScaleFactor: 2,
  });
  const { atBench } = await bench(shop);
  const beside = (): Promise<number> =>
    page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  for (const path of ['', 'batch', 'ahead', `run/${atBench[1]?.cycleId ?? ''}`]) {
    await page.goto(`${shop.address}/${path}`);
    await expect(page.locator('main')).not.toBeEmpty();
    await expect.poll(beside, { message: `/${path}` }).toBeLessThanOrEqual(0);
  }
  for (const name of STEPS) {
    await page
      .getByRole('navigation', { name: 'Working order' })
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .click();
    await expect(page.locator('.step')).toBeVisible();
    expect(await beside(), name).toBeLessThanOrEqual(0);
    if (name !== 'Sign off') {
      const next = page.locator('.next-thing').last();
      await next.scrollIntoViewIfNeeded();
      await expect(next).toBeInViewport();
    }
  }
  await page.close();
});

test('a blade page survives the server being away and says so', async ({ page, shop }) => {
  await page.goto(shop.address);
  await expect(page.getByRole('heading', { name: 'In hand' })).toBeVisible();
  await page.waitForLoadState('networkidle').catch(() => undefined);
  await page.waitForTimeout(1500);
  await shop.kill();
  await page.getByRole('region', { name: 'In hand' }).getByRole('button').first().click();
  await expect(page.getByText('The server does not answer.')).toBeVisible();
  await shop.start();
});

test('an empty shop says what to do first, and can be filled', async ({ page }) => {
  const shop = await ShopProcess.empty();
  await page.goto(shop.address);
  await expect(page.getByText('This shop has no blades yet.')).toBeVisible();
  await page.getByRole('link', { name: 'Set the shop up' }).click();
  await page.getByRole('button', { name: 'Add a person' }).click();
  const people = page.getByRole('region', { name: 'People' });
  await people.getByLabel('Name').fill('Rowan Test');
  await people.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('Rowan Test, technician').first()).toBeVisible();
  await page.getByRole('button', { name: 'Add a spec' }).click();
  const sizes: Record<string, string> = {
    Name: 'Trial 500',
    Length: '500',
    Width: '60',
    Thickness: '5',
    'Hole mm': '16',
    'Cutting edge': '100',
    'Mass when new': '1150',
    'Least width, tip': '65',
    'Least width, middle': '48',
    'Least width, root': '50',
    'Where it says so': 'four fifths',
  };
  const form = page.getByRole('region', { name: 'Blade specs' });
  for (const [label, value] of Object.entries(sizes)) {
    await form.getByLabel(label, { exact: false }).first().fill(value);
  }
  await page.getByRole('button', { name: 'Keep this spec' }).click();
  await expect(page.getByRole('alert')).toContainText("is not below the new blade's 60 mm");
  await form.getByLabel('Least width, tip').fill('46');
  await page.getByRole('button', { name: 'Keep this spec' }).click();
  await expect(page.getByRole('heading', { name: 'Trial 500' })).toBeVisible();
  await page.goto(`${shop.address}/new-blades`);
  await page.getByRole('button', { name: 'Give them codes' }).click();
  await expect(page.getByRole('region', { name: 'Codes to stamp' }).getByRole('link')).toHaveCount(
    3,
  );
  await shop.dispose();
});
