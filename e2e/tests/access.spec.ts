import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import type { FleetView, ShopView, SpecRevision } from '@tally-stone/contract';
import { bench, expect, STEPS, test } from '../support/shop-test';

const DESK = { width: 1280, height: 800 };
/** A desk at 400 %, and the narrowest phone: WCAG 2.2, 1.4.10. */
const NARROW = { width: 320, height: 640 };
/** What axe calls minor is not counted. */
const COUNTED = ['critical', 'serious', 'moderate'];

/** In the dark only the colours differ, and they are tokens: the screens that draw most with them are looked at. */
const IN_THE_DARK = new Set([
  'bench',
  'Inspect',
  'Verdict',
  'Grind',
  'Balance',
  'shop',
  'rack',
  'season',
]);

/** In the app's own face, and once what was changed is drawn, however late a busy machine is. */
const drawn = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    await document.fonts.ready;
    for (let i = 0; i < 3; i++) await new Promise((next) => requestAnimationFrame(next));
  });

/** Goes on within the app: what it has loaded it keeps, as for somebody who presses a link. */
async function goOn(page: Page, path: string): Promise<void> {
  await page.evaluate((to) => {
    document.querySelector('h1')?.setAttribute('data-left', '');
    history.pushState({}, '', to);
    dispatchEvent(new PopStateEvent('popstate', { state: {} }));
  }, `/${path}`);
  await page.locator('h1:not([data-left])').waitFor();
}

/** What is wrong with a screen for somebody: at a desk in both lights, at 320 px and with large text, where nothing runs off. */
const wrongWith = async (page: Page, where: string): Promise<string[]> => [
  ...(await audited(page, where)),
  ...(await runsOff(page, where)),
];

/** Names, roles and colours, which are the same in every language. */
async function audited(page: Page, where: string): Promise<string[]> {
  const found: string[] = [];
  await drawn(page);
  const audit = async (how: string, axe: AxeBuilder): Promise<void> => {
    // Without frames of other origins it needs no page of its own for the result: twice as quick.
    const { violations } = await axe
      .setLegacyMode(true)
      .options({ resultTypes: ['violations'] })
      .analyze();
    for (const { id, impact, nodes } of violations)
      if (COUNTED.includes(impact ?? ''))
        found.push(
          `${where}, ${how}: ${id} ${nodes[0]?.html.slice(0, 200) ?? ''} ${nodes[0]?.any[0]?.message ?? ''}`,
        );
  };
  await audit('light', new AxeBuilder({ page }));
  if (IN_THE_DARK.has(where)) {
    await page.emulateMedia({ colorScheme: 'dark' });
    await page.waitForTimeout(300);
    await drawn(page);
    await audit('dark', new AxeBuilder({ page }).include('main').withRules(['color-contrast']));
    await page.emulateMedia({ colorScheme: 'light' });
  }
  return found;
}

/** By how much a screen runs off the side, with text of twice the size as somebody sets it in the browser, and at 320 px. */
async function runsOff(page: Page, where: string): Promise<string[]> {
  const found: string[] = [];
  const set = await page.context().newCDPSession(page);
  for (const standard of [32, 16]) {
    await set.send('Page.setFontSizes', { fontSizes: { standard } });
    await page.waitForFunction(
      (px) => getComputedStyle(document.documentElement).fontSize === `${px}px`,
      standard,
    );
    await drawn(page);
    const over = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    if (over > 1) found.push(`${where}: runs ${over} px off the side, its text ${standard} px`);
  }
  await set.detach();
  await page.setViewportSize(NARROW);
  await drawn(page);
  const wide = await page.evaluate(
    () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
  );
  if (wide > 1) found.push(`${where}: runs ${wide} px off the side at ${NARROW.width} px`);
  await page.setViewportSize(DESK);
  return found;
}

test.describe('for everybody', () => {
  test.beforeEach(async ({ page }) => {
    await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
  });

  test('the bench and every step of a run', async ({ page, shop, watch }) => {
    const { atBench } = await bench(shop);
    await page.goto(shop.address);
    await expect(page.getByRole('heading', { name: 'Waiting, longest first' })).toBeVisible();
    const found = await wrongWith(page, 'bench');
    await page.goto(`${shop.address}/run/${atBench[1]?.cycleId ?? ''}`);
    for (const name of STEPS) {
      await page
        .getByRole('navigation', { name: 'Working order' })
        .getByRole('button', { name: new RegExp(`^${name}`) })
        .click();
      await expect(page.locator('.step')).toBeVisible();
      found.push(...(await wrongWith(page, name)));
    }
    expect(found).toEqual([]);
    expect(watch.strangers).toEqual([]);
    expect(watch.breaches).toEqual([]);
  });

  test('the shop and its ten parts', async ({ page, shop, watch }) => {
    const { balancers } = await shop.get<ShopView>('/api/v1/shop');
    const [spec] = await shop.get<SpecRevision[]>('/api/v1/specs');
    const found: string[] = [];
    await page.goto(shop.address);
    for (const path of [
      'shop',
      ...['people', 'grinding', 'due', 'costs', 'this-shop', 'grinders', 'balancers'].map(
        (part) => `shop/${part}`,
      ),
      ...['instruments', 'specs', 'mowers'].map((part) => `shop/${part}`),
      `shop/balancer/${balancers[0]?.balancerId ?? ''}`,
      `spec/${spec?.specId ?? ''}`,
    ]) {
      await goOn(page, path);
      const add = page.getByRole('button', { name: /^Add a / });
      if (await add.first().isVisible()) await add.first().click();
      found.push(...(await wrongWith(page, path)));
    }
    expect(found).toEqual([]);
    expect(watch.breaches).toEqual([]);
  });

  test('blades, mowers, and what lies ahead', async ({ page, shop, watch }) => {
    const [mower] = (await shop.get<FleetView>('/api/v1/fleet')).mowers;
    const { atBench } = await bench(shop);
    const found: string[] = [];
    await page.goto(shop.address);
    for (const path of [
      'mowers',
      `mower/${mower?.mowerId ?? ''}`,
      `mower/${mower?.mowerId ?? ''}/change`,
      'crew',
      'rack',
      'blades',
      `blade/${atBench[0]?.bladeId ?? ''}`,
      'intake',
      'new-blades',
      'batch',
      'ahead',
      'season',
    ]) {
      await goOn(page, path);
      if (path === `mower/${mower?.mowerId ?? ''}`)
        await page.getByRole('button', { name: /Measure the deck/ }).click();
      if (path === 'crew') await page.getByRole('button', { name: 'It struck something' }).click();
      if (path === 'season')
        await expect(page.getByRole('img', { name: /^One season/ })).toBeVisible({
          timeout: 30_000,
        });
      found.push(...(await wrongWith(page, path)));
    }
    // On a phone the screens lie in a drawer; shut again, the focus is where it was.
    await page.setViewportSize(NARROW);
    const menu = page.getByRole('button', { name: 'Screens, now Season' });
    await menu.click();
    const drawer = page.getByRole('navigation', { name: 'Screens' });
    await expect(drawer.getByRole('link', { name: 'Season' })).toHaveAttribute(
      'aria-current',
      'page',
    );
    const { violations } = await new AxeBuilder({ page }).setLegacyMode(true).analyze();
    found.push(
      ...violations.filter(({ impact }) => COUNTED.includes(impact ?? '')).map(({ id }) => id),
    );
    await page.keyboard.press('Escape');
    await expect(menu).toBeFocused();
    await menu.click();
    await drawer.getByRole('link', { name: 'Rack' }).click();
    await expect(page.getByRole('button', { name: 'Screens, now Rack' })).toBeVisible();
    await expect(drawer).toBeHidden();
    expect(found).toEqual([]);
    expect(watch.breaches).toEqual([]);
  });

  test('in Spanish, picked at the bench, kept with who picked it, and spoken by the server too', async ({
    page,
    shop,
    watch,
    browser,
  }) => {
    const { atBench } = await bench(shop);
    const [mower] = (await shop.get<FleetView>('/api/v1/fleet')).mowers;
    const [spec] = await shop.get<SpecRevision[]>('/api/v1/specs');
    await page.goto(shop.address);
    await page.locator('ts-who-menu').getByRole('button').click();
    await page.getByRole('menuitem', { name: 'Español' }).click();
    await expect(page.getByRole('link', { name: 'Estante' })).toBeVisible();
    await expect(page.locator('html')).toHaveAttribute('lang', 'es');
    await page.getByLabel('¿Qué cuchilla?').fill('4444');
    await page.getByRole('button', { name: 'Empezar esta cuchilla' }).click();
    await expect(page.locator('#code-says')).toContainText('tiene 4 caracteres');
    const found: string[] = [];
    const english = /\b(the|of|Add|Keep|Take|Show|which|what|from|with)\b/;
    const look = async (where: string): Promise<void> => {
      found.push(...(await runsOff(page, where)));
      for (const words of await page.locator('main :is(button, h1, h2, h3, label)').allInnerTexts())
        if (english.test(words)) found.push(`${where}: not in Spanish: ${words}`);
    };
    await look('bench');
    for (const path of [
      ...['batch', 'rack', 'mowers', 'blades', 'ahead', 'season', 'crew', 'intake', 'new-blades'],
      `mower/${mower?.mowerId ?? ''}`,
      `mower/${mower?.mowerId ?? ''}/change`,
      `blade/${atBench[0]?.bladeId ?? ''}`,
      `spec/${spec?.specId ?? ''}`,
      'shop',
      ...[
        'people',
        'grinding',
        'due',
        'costs',
        'this-shop',
        'grinders',
        'instruments',
        'specs',
      ].map((part) => `shop/${part}`),
    ]) {
      await goOn(page, path);
      await look(path);
    }
    await page.goto(`${shop.address}/run/${atBench[1]?.cycleId ?? ''}`);
    const steps = page.getByRole('navigation', { name: 'Orden de trabajo' }).getByRole('button');
    await expect(steps.first()).toBeVisible();
    for (let i = 0; i < STEPS.length; i++) {
      await steps.nth(i).click();
      await look(`step ${i + 1}`);
    }
    expect(found).toEqual([]);
    expect(watch.breaches).toEqual([]);

    // On another device it comes with the person, and goes when another takes over.
    const elsewhere = await browser.newPage({ locale: 'en-GB' });
    await elsewhere.goto(shop.address);
    await expect(elsewhere.getByRole('link', { name: 'Estante' })).toBeVisible();
    await elsewhere.locator('ts-who-menu').getByRole('button').click();
    await elsewhere.getByRole('menuitem', { name: /, jefe|, manager|encargad/i }).click();
    await expect(elsewhere.getByRole('link', { name: 'Rack', exact: true })).toBeVisible();
    await elsewhere.close();
  });

  test('the focus is seen wherever it goes, and a new screen is told', async ({ page, shop }) => {
    const { atBench } = await bench(shop);
    const unseen: string[] = [];
    for (const path of [
      '',
      `run/${atBench[1]?.cycleId ?? ''}`,
      'shop/due',
      'shop/people',
      'season',
    ]) {
      await page.goto(`${shop.address}/${path}`);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      for (let i = 0; i < 14; i++) {
        await page.keyboard.press('Tab');
        const focus = await page.evaluate(() => {
          const at = document.activeElement as HTMLElement;
          // Past the last thing the browser's own bar comes next.
          if (at === document.body) return { name: '', px: 3 };
          // A field shows the focus by its frame, a tick by its row.
          const shown = at.closest('mat-form-field, mat-checkbox, mat-radio-button') ? 3 : 0;
          const { outlineStyle, outlineWidth } = getComputedStyle(at);
          const ring = outlineStyle === 'none' ? 0 : parseFloat(outlineWidth);
          return { name: at.outerHTML.slice(0, 120), px: Math.max(shown, ring) };
        });
        if (focus.px < 2) unseen.push(`${path}: ${focus.name}`);
      }
    }
    expect(unseen).toEqual([]);
    await page.goto(shop.address);
    await page.keyboard.press('Tab');
    await page.getByRole('link', { name: 'Rack', exact: true }).click();
    await expect(page.locator('h1:focus')).toBeVisible();
    await page.getByRole('link', { name: 'To the work' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.locator('main:focus')).toBeVisible();
    // Keys printed on the bench work where the focus stands when it opens.
    await page.getByRole('link', { name: 'Bench', exact: true }).click();
    await expect(page.getByLabel('Which blade?')).toBeFocused();
    await page.keyboard.press('f');
    await expect(page.getByRole('region', { name: 'Find a blade without its code' })).toBeVisible();
    await page.emulateMedia({ forcedColors: 'active' });
    const spark = page.getByRole('button', { name: 'Start this blade' });
    expect(await spark.evaluate((each) => getComputedStyle(each).borderTopStyle)).toBe('solid');
  });
});
