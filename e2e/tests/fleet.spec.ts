import AxeBuilder from '@axe-core/playwright';
import type { FleetView, SpecRevision } from '@tally-stone/contract';
import type { Page } from '@playwright/test';
import { bench, expect, test } from '../support/shop-test';

const PHONE = { width: 390, height: 844 };

async function tickAll(page: Page): Promise<void> {
  for (const box of await page.getByRole('checkbox').all()) await box.check();
}

const row = (page: Page, name: string) => page.getByRole('listitem').filter({ hasText: name });

test('a strike told from a phone makes the set due; it is pulled, looked into, and the next one fitted', async ({
  page,
  shop,
  browser,
}) => {
  // The manager's screen stands open all the while and is never reloaded.
  const manager = await (await browser.newContext()).newPage();
  await manager.goto(`${shop.address}/mowers`);
  await expect(row(manager, 'Heron').first()).toContainText('due in');

  const rack = await manager.context().newPage();
  await rack.goto(`${shop.address}/rack`);
  const lane = (name: string) => rack.getByRole('region', { name, exact: true });
  await expect(lane('Ready')).toContainText('Next for Heron');

  await page.setViewportSize(PHONE);
  await page.goto(`${shop.address}/crew`);
  await page
    .getByLabel('Which mower')
    .selectOption({ label: 'Heron, Canal towpaths, north reach' });
  await page.getByRole('button', { name: 'It struck something' }).click();
  await page.getByRole('button', { name: 'a stone' }).click();
  await page.getByRole('button', { name: 'A hard knock' }).click();
  await page.getByLabel(/It shakes/).check();
  await page.getByRole('button', { name: 'Report the strike' }).click();
  await expect(page.getByText(/Stop: do not run it/)).toBeVisible();
  await expect(page.getByText('Do not run Heron.')).toBeVisible();
  await expect(row(manager, 'Heron').first()).toContainText('out of use, it struck a stone');
  await expect(manager.getByRole('heading', { level: 1 })).toContainText('3 sets are due now');

  const heron = (await shop.get<FleetView>('/api/fleet')).mowers.find(
    ({ name }) => name === 'Heron',
  );
  const codes = heron?.deck.spindles.map(({ blade }) => blade?.code ?? '') ?? [];
  await page.goto(`${shop.address}/mower/${heron?.mowerId ?? ''}/change`);
  await expect(page.getByRole('heading', { name: 'Heron: make it safe' })).toBeVisible();
  await tickAll(page);
  await page.getByRole('button', { name: 'All of it done' }).click();
  // Rolled back: the meter is asked about at once, and what was typed stays.
  await page.getByLabel('The meter shows').fill('12');
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByRole('button', { name: 'The set is off' }).click();
  await expect(page.getByRole('alert')).toContainText('less than');
  await expect(page.getByLabel('The meter shows')).toHaveValue('12');
  await page.getByLabel('The meter shows').fill(String((heron?.hoursH ?? 0) + 2));
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByRole('button', { name: 'The set is off' }).click();
  await expect(page.getByRole('heading', { name: /look at spindle and mount/ })).toBeVisible();
  await expect(row(manager, 'Heron').first()).toContainText('no set on');
  const { waiting } = await bench(shop);
  for (const code of codes) expect(waiting.map((blade) => blade.code)).toContain(code);
  for (const code of codes) await expect(lane('Waiting')).toContainText(code);
  await expect(lane('On mowers')).toContainText('no set on');

  await page.getByRole('button', { name: /Spindles run true/ }).click();
  await expect(page.getByText(/The most alike of the rack/)).toBeVisible();
  await tickAll(page);
  await page.getByRole('button', { name: 'The set is on' }).click();
  await expect(page.getByRole('heading', { name: 'Heron: the set is on' })).toBeVisible();
  await expect(row(manager, 'Heron').first()).toContainText('0.0 h on the edge');
  await expect(manager.getByRole('heading', { level: 1 })).toContainText('2 sets are due now');
  const after = (await shop.get<FleetView>('/api/fleet')).mowers.find(
    ({ name }) => name === 'Heron',
  );
  for (const { blade } of after?.deck.spindles ?? []) {
    expect(codes).not.toContain(blade?.code);
    await expect(lane('On mowers')).toContainText(blade?.code ?? 'a code');
  }
  await expect(rack.getByRole('heading', { level: 1 })).toContainText('none for');

  // Up to the bench by hand: dragged out of the heap, its cycle opens.
  const one = lane('Waiting').locator('.blade', { hasText: codes[0] ?? '' });
  await one.hover();
  await rack.mouse.down();
  const target = await lane('At the bench').boundingBox();
  await rack.mouse.move((target?.x ?? 0) + 60, (target?.y ?? 0) + 60, { steps: 12 });
  await rack.mouse.up();
  await expect(rack).toHaveURL(/\/run\//);
});

test('blades that would strike each other are refused, by how much', async ({ page, shop }) => {
  const [mower] = (await shop.get<FleetView>('/api/fleet')).mowers.filter(
    ({ name }) => name === 'Yew',
  );
  await page.goto(`${shop.address}/mower/${mower?.mowerId ?? ''}`);
  await page.getByRole('button', { name: 'Measure the deck again' }).click();
  await page.getByLabel('Across from left').fill('430');
  await page.getByRole('button', { name: 'Keep the deck' }).click();
  await expect(page.getByRole('alert')).toContainText(/left and right come \d\.\d mm too near/);
  await expect(page.getByLabel('Across from left')).toHaveValue('430');
  await page.getByLabel('Across from left').fill('442');
  await page.getByRole('button', { name: 'Keep the deck' }).click();
  await expect(page.getByLabel('Across from left')).toBeHidden();
  await expect(page.getByRole('img', { name: /all clear/ })).toBeVisible();
});

test('the fleet has no serious accessibility violation, and nothing runs off the side of a phone', async ({
  page,
  shop,
  watch,
}) => {
  const [mower] = (await shop.get<FleetView>('/api/fleet')).mowers;
  const [spec] = await shop.get<SpecRevision[]>('/api/specs');
  await page.emulateMedia({ colorScheme: 'light' });
  const paths = [
    `spec/${spec?.specId ?? ''}`,
    'mowers',
    `mower/${mower?.mowerId ?? ''}`,
    `mower/${mower?.mowerId ?? ''}/change`,
    'crew',
    'rack',
  ];
  const found: string[] = [];
  for (const path of paths) {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(`${shop.address}/${path}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    if (path.endsWith(mower?.mowerId ?? '-'))
      await page.getByRole('button', { name: /Measure the deck/ }).click();
    if (path === 'crew') await page.getByRole('button', { name: 'It struck something' }).click();
    const light = await new AxeBuilder({ page }).analyze();
    await page.emulateMedia({ colorScheme: 'dark' });
    const dark = await new AxeBuilder({ page }).withRules(['color-contrast']).analyze();
    await page.emulateMedia({ colorScheme: 'light' });
    for (const { id, impact, nodes } of [...light.violations, ...dark.violations])
      if (impact === 'serious' || impact === 'critical')
        found.push(`${path}: ${id} ${nodes[0]?.html ?? ''}`);
    await page.setViewportSize(PHONE);
    const wide = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    if (wide > 1) found.push(`${path} runs ${wide} px off a phone's side`);
  }
  expect(found).toEqual([]);
  expect(watch.breaches).toEqual([]);
});

test('a change of limits says whom it would retire before it is kept', async ({ page, shop }) => {
  await page.goto(`${shop.address}/shop`);
  await page
    .getByRole('article')
    .filter({ hasText: 'Towpath high-lift 533' })
    .getByRole('link', { name: 'Change its limits' })
    .click();
  await expect(page.getByText('Nothing is changed yet.')).toBeVisible();
  const tip = page.getByLabel(/^Width at least, tip/);
  await tip.fill('70');
  await expect(page.getByText(/is not below the new blade's 63\.5 mm/)).toBeVisible();
  await tip.fill('61.5');
  await expect(page.getByRole('heading', { name: /It would retire \d of 9/ })).toBeVisible();
  await expect(page.getByText(/goes on hold|pull it|judged at the bench/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep these limits' })).toBeDisabled();
  await page.getByRole('button', { name: 'The maker says so' }).click();
  await page.getByRole('button', { name: 'Keep these limits' }).click();
  await expect(page.getByRole('status')).toContainText('count from now on');
  await expect(page.getByText('Revision 2.')).toBeVisible();
});
