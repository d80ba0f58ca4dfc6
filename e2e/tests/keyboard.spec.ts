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

const STATIONS = ['Tip', 'Middle', 'Root'];

/** All routine readings of a phase, end A then end B, as the focus offers them. */
async function measure(
  page: Page,
  mass: string,
  widths: readonly number[],
  land: string,
): Promise<void> {
  await keep(page, 'Mass', mass);
  for (const end of ['A', 'B']) {
    for (const [i, name] of STATIONS.entries()) {
      await expect(
        page.getByRole('region', { name: `End ${end}`, exact: true }).locator(':focus'),
      ).toBeVisible();
      await keep(page, name, (widths[i] ?? 0).toFixed(1));
    }
    await keep(page, 'Bevel', '30.0');
    await keep(page, 'Land', land);
  }
}

test('one blade from scan to rack with the keyboard alone, through two power cuts', async ({
  page,
  shop,
  watch,
}) => {
  const blade = await waitingBlade(shop, 'Churchyard medium-lift 457');
  const life = await shop.get<BladeView>(`/api/blades/${blade.bladeId}`);
  const lastMass = life.cycles.at(-1)?.massAfterG ?? 0;
  const width = (key: string): number => life.cycles.at(-1)?.widthsMm[key] ?? 0;
  const widths = ['tip', 'middle', 'root'].map(
    (key) => Math.min(width(`A:${key}`), width(`B:${key}`)) - 0.1,
  );

  await page.goto(shop.address);
  await focused(page, 'Which blade');
  await page.keyboard.type(`${blade.code.slice(0, 2).toLowerCase()} ${blade.code.slice(2)}`);
  await page.keyboard.press('Enter');

  await press(page, 'Cleaned on both faces');
  await press(page, 'No crack');
  await keep(page, 'Tip A', '40.0');
  await keep(page, 'Tip B', '40.2');
  await press(page, 'On to: measure');

  await keep(page, 'Mass', (lastMass - 1).toFixed(1));
  await keep(page, 'Tip', (widths[0] ?? 0).toFixed(1));

  // The first power cut: what was acknowledged stands, what was typed after it is not lost.
  await focused(page, 'Middle');
  await shop.kill();
  await page.keyboard.type((widths[1] ?? 0).toFixed(1));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'does not answer' })).toBeVisible({
    timeout: 20_000,
  });
  await page.reload({ waitUntil: 'commit' }).catch(() => undefined);
  await shop.start();
  await page.goto(`${shop.address}/run/${(await bladeCycle(shop, blade.bladeId)) ?? ''}`);
  await focused(page, 'Middle');
  await expect(page.locator(':focus')).toHaveValue((widths[1] ?? 0).toFixed(1));
  const afterCut = await cycleOf(shop, page);
  expect(afterCut.slots.filter(({ taken }) => taken).map(({ key }) => key)).toEqual([
    'before:mass:-:-',
    'before:tip-height:A:-',
    'before:tip-height:B:-',
    'before:width:A:tip',
  ]);

  await page.keyboard.press('Enter');
  await keep(page, 'Root', (widths[2] ?? 0).toFixed(1));
  await keep(page, 'Bevel', '30.0');
  await keep(page, 'Land', '0.55');
  for (const [i, name] of STATIONS.entries()) await keep(page, name, (widths[i] ?? 0).toFixed(1));
  await keep(page, 'Bevel', '30.0');
  await keep(page, 'Land', '0.60');
  await press(page, 'On to: verdict');
  await press(page, 'On to: grind');

  for (const end of ['A', 'B']) {
    await focused(page, 'One pass');
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
  await press(page, 'On to: balance');

  await focused(page, 'On to: prove');
  await page.keyboard.press('b');
  await keep(page, 'Test weight g', '0.30');
  await keep(page, 'from the hole centre mm', '200');
  await expect(page.getByText('End B is heavy by 60 g·mm')).toBeVisible();
  await expect(page.getByText('Within its grade.')).toBeVisible();
  await press(page, 'On to: prove');

  await measure(
    page,
    (lastMass - 8.5).toFixed(1),
    widths.map((each) => each - 0.6),
    '0.15',
  );
  for (const end of ['A', 'B']) {
    const test = page.getByRole('region', { name: `Light test, end ${end}` });
    await expect(test.locator(':focus')).toHaveAccessibleName('No line: sharp');
    await page.keyboard.press('Enter');
  }
  await focused(page, 'On to: sign off');
  await expect(page.getByText(/They agree|They disagree/)).toBeVisible();
  await page.keyboard.press('Enter');
  await press(page, 'Ready for the rack');
  await expect(page.getByRole('heading', { name: 'Ready, in the rack' })).toBeVisible();

  // The second power cut, right after the sign-off was acknowledged.
  await shop.kill();
  await shop.start();
  const signed = await shop.get<BladeView>(`/api/blades/${blade.bladeId}`);
  expect(signed.blade.state).toBe('ready');
  expect(signed.blade.grinds).toBe(blade.grinds + 1);
  expect(signed.cycles.at(-1)).toMatchObject({ outcome: 'ready', passes: { A: 6, B: 6 } });
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
  return (await shop.get<BladeView>(`/api/blades/${bladeId}`)).blade.cycleId;
}

test('? shows the keys of the screen in front', async ({ page, shop }) => {
  await page.goto(shop.address);
  await page.getByRole('button', { name: 'Keys' }).click();
  const keys = page.getByRole('dialog', { name: 'Keys' });
  await expect(keys.getByText('Find a blade whose stamp cannot be read')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(keys).toBeHidden();
  await page.getByRole('heading', { name: 'In hand' }).click();
  await page.keyboard.press('?');
  await expect(keys).toBeVisible();
});
