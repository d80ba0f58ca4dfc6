import type { Page } from '@playwright/test';
import type { BladeView } from '@tally-stone/contract';
import { cycleOf, expect, test, waitingBlade } from '../support/shop-test';

/** Waits until the field has the focus, types into it and keeps it with Enter. */
async function keep(page: Page, label: string, text: string): Promise<void> {
  await expect(page.locator(':focus')).toHaveAccessibleName(label);
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
}

const focused = (page: Page, name: string) =>
  expect(page.locator(':focus')).toHaveAccessibleName(new RegExp(name));

async function press(page: Page, name: string): Promise<void> {
  await focused(page, name);
  await page.keyboard.press('Enter');
}

/** Types what the run asks for, field after field, until the focus has left the fields. */
async function keepAllAsked(page: Page, valueOf: (key: string) => string): Promise<string[]> {
  const asked: string[] = [];
  await expect(page.locator(':focus[id^="before-"], :focus[id^="after-"]')).toBeVisible();
  for (let i = 0; i < 40; i++) {
    const focus = page.locator(':focus');
    await expect(focus).toBeVisible();
    const id = (await focus.getAttribute('id')) ?? '';
    if (!/^(before|after)-/.test(id)) return asked;
    asked.push(id);
    await page.keyboard.type(valueOf(id));
    await page.keyboard.press('Enter');
    await expect(page.locator(`:focus:not(#${id})`)).toBeVisible();
  }
  return asked;
}

test('one blade from scan to rack with the keyboard alone, through two power cuts', async ({
  page,
  shop,
  watch,
}) => {
  const blade = await waitingBlade(shop, 'Churchyard medium-lift 457');
  const life = await shop.get<BladeView>(`/api/v1/blades/${blade.bladeId}`);
  const lastMass = life.cycles.at(-1)?.massAfterG ?? 0;
  const widthOf = (id: string, gone: number): string => {
    const [, , end = '', station = ''] = id.split('-');
    return ((life.cycles.at(-1)?.widthsMm[`${end}:${station}`] ?? 0) - gone).toFixed(1);
  };
  const readingOf =
    (mass: number, gone: number, land: string) =>
    (id: string): string =>
      id.includes('mass')
        ? mass.toFixed(1)
        : id.includes('width')
          ? widthOf(id, gone)
          : id.includes('bevel')
            ? '30.0'
            : land;

  await page.goto(shop.address);
  await focused(page, 'Which blade');
  await page.keyboard.type(`${blade.code.slice(0, 2).toLowerCase()} ${blade.code.slice(2)}`);
  await page.keyboard.press('Enter');

  await press(page, 'Cleaned on both faces');
  await press(page, 'No crack');
  await keep(page, 'Tip A', '40.0');
  await keep(page, 'Tip B', '40.2');
  await press(page, 'On to: measure');

  const before = readingOf(lastMass - 1, 0.1, '0.55');
  await keep(page, 'Mass', before('mass'));

  // The first power cut: what was acknowledged stands, what was typed after it is not lost.
  await expect(page.locator(':focus:not([id^="before-mass"])')).toBeVisible();
  const second = (await page.locator(':focus').getAttribute('id')) ?? '';
  await shop.kill();
  await page.keyboard.type(before(second));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: '1 entry is kept' })).toBeVisible({
    timeout: 20_000,
  });
  await page.reload({ waitUntil: 'commit' }).catch(() => undefined);
  await shop.start();
  await page.goto(`${shop.address}/run/${(await bladeCycle(shop, blade.bladeId)) ?? ''}`);
  await expect
    .poll(async () =>
      (await cycleOf(shop, page)).slots
        .filter(({ taken }) => taken)
        .map(({ key }) => key.replaceAll(':', '-'))
        .sort(),
    )
    .toEqual(['before-mass----', 'before-tip-height-A--', 'before-tip-height-B--', second].sort());
  await expect(page.getByRole('status').filter({ hasText: 'kept' })).toBeHidden();
  await expect(page.locator(`#${second}`)).not.toHaveValue('');
  await page.locator(`#${second}`).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator(`:focus:not(#${second})`)).toBeVisible();

  const asked = await keepAllAsked(page, before);
  // The narrowest place and what could change the plan; the rest is carried forward.
  expect(asked.length).toBeLessThan(6);
  expect([second, ...asked].some((id) => id.includes('width'))).toBe(true);
  await press(page, 'On to: verdict');
  await press(page, 'On to: set up');
  await press(page, 'All checked and in order');

  for (const end of ['A', 'B']) {
    const region = page.getByRole('region', { name: `End ${end}`, exact: true });
    await expect(region.locator(':focus')).toHaveAccessibleName(/One pass/);
    for (let i = 0; i < 7; i++) await page.keyboard.press('Space');
    await expect(
      page.getByRole('region', { name: `End ${end}`, exact: true }).locator('[data-count]'),
    ).toHaveText('7');
    await expect
      .poll(
        async () => (await cycleOf(shop, page)).passes.filter((pass) => pass.end === end).length,
      )
      .toBe(7);
    await page.keyboard.press('u');
    await expect(
      page.getByRole('region', { name: `End ${end}`, exact: true }).locator('[data-count]'),
    ).toHaveText('6');
    await page.keyboard.press('Enter');
  }
  await press(page, 'Deburred');

  await focused(page, 'End A low');
  await page.keyboard.press('b');
  await keep(page, 'Test weight', '0.30');
  await keep(page, 'From the hole centre', '200');
  await expect(page.getByText('End B is heavy by 60 g·mm')).toBeVisible();
  await expect(page.getByText('Within its grade.')).toBeVisible();
  await press(page, 'On to: prove');

  await keepAllAsked(page, readingOf(lastMass - 7.5, 0.7, '0.15'));
  await press(page, 'Light test: no line at either end');
  await focused(page, 'On to: sign off');
  await expect(page.getByText(/They agree|They disagree/)).toBeVisible();
  await page.keyboard.press('Enter');
  // The second power cut, in the middle of the sign-off: acknowledged or not, it stands once.
  await focused(page, 'Ready for the rack');
  await Promise.all([page.keyboard.press('Enter'), shop.kill()]);
  await shop.start();
  await expect(page.getByRole('heading', { name: 'Ready, in the rack' })).toBeVisible({
    timeout: 40_000,
  });
  const signed = await shop.get<BladeView>(`/api/v1/blades/${blade.bladeId}`);
  expect(signed.blade.state).toBe('ready');
  expect(signed.blade.grinds).toBe(blade.grinds + 1);
  expect(signed.cycles.at(-1)).toMatchObject({
    outcome: 'ready',
    tools: [{ passes: { A: 6, B: 6 } }],
  });
  await press(page, 'Next blade');
  await focused(page, 'Which blade');

  await page.goto(`${shop.address}/blade/${blade.bladeId}`);
  await expect(page.getByText('Ready, in the rack')).toBeVisible();
  expect(watch.strangers).toEqual([]);
  expect(watch.breaches).toEqual([]);
});

async function bladeCycle(
  shop: { get<T>(path: string): Promise<T> },
  bladeId: string,
): Promise<string | undefined> {
  return (await shop.get<BladeView>(`/api/v1/blades/${bladeId}`)).blade.cycleId;
}

test('? shows the keys of the screen in front', async ({ page, shop }) => {
  await page.goto(shop.address);
  await page.getByRole('button', { name: 'Keys' }).click();
  const keys = page.getByRole('dialog', { name: 'Keys' });
  await expect(keys.getByText('Find a blade whose stamp cannot be read')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(keys).toBeHidden();
  await expect(page.getByRole('button', { name: 'Keys' })).toBeFocused();
  await page.getByRole('heading', { name: 'In hand' }).click();
  await page.keyboard.press('?');
  await expect(keys).toBeVisible();
});
