import { ShopProcess } from '../support/shop-process';
import { bench, expect, STEPS, test } from '../support/shop-test';

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
  // A screen that was open before can be opened again; the others are fetched some seconds later.
  const inHand = page.getByRole('region', { name: 'In hand' }).getByRole('button').first();
  await inHand.click();
  await expect(page.getByRole('navigation', { name: 'Working order' })).toBeVisible();
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await expect(inHand).toBeVisible();
  await shop.kill();
  await inHand.click();
  await expect(page.getByText('The server does not answer.')).toBeVisible();
  await shop.start();
});

test('an empty shop says what to do first, and can be filled', async ({ page }) => {
  const shop = await ShopProcess.empty();
  await page.goto(shop.address);
  await expect(page.getByText('This shop has no blades yet.')).toBeVisible();
  await page.getByRole('link', { name: 'Set the shop up' }).click();
  await page.getByRole('link', { name: 'Open People' }).click();
  await page.getByRole('button', { name: 'Add a person' }).click();
  const people = page.getByRole('form', { name: 'Another person' });
  await people.getByLabel('Name').fill('Rowan Test');
  await people.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('Rowan Test, technician').first()).toBeVisible();
  await page.getByRole('link', { name: 'Shop', exact: true }).last().click();
  await page.keyboard.press('9');
  await page.getByRole('button', { name: 'Add a spec' }).click();
  const sizes: Record<string, string> = {
    Name: 'Trial 500',
    Length: '500',
    Width: '60',
    Thickness: '5',
    Hole: '16',
    'Cutting edge': '100',
    'Mass when new': '1150',
    'Least width, tip': '65',
    'Least width, middle': '48',
    'Least width, root': '50',
    'Where it says so': 'four fifths',
  };
  const form = page.getByRole('form', { name: 'Another spec' });
  for (const [label, value] of Object.entries(sizes)) {
    await form.getByLabel(label, { exact: true }).fill(value);
  }
  await page.getByRole('button', { name: 'Keep this spec' }).click();
  const tip = form.getByLabel('Least width, tip');
  await expect(tip).toHaveAccessibleDescription(/is not below the new blade's 60 mm/);
  await expect(tip).toBeFocused();
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
