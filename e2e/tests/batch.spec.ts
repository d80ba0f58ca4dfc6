import type { BatchView } from '@tally-stone/contract';
import { focus, followToRack } from '../support/follow';
import { bench, cycleOf, expect, test } from '../support/shop-test';

test('a batch of six with one change-over: cleaned and inspected in heaps, then blade by blade to the rack', async ({
  page,
  shop,
}) => {
  const { atBench, waiting } = await bench(shop);
  const six = [
    ...atBench.filter(({ specName }) => specName.startsWith('Pitch')),
    ...waiting.filter(({ mowerName = '' }) => ['Heron', 'Yew', 'Lark'].includes(mowerName)),
  ];
  expect(six.length).toBe(6);
  await page.goto(`${shop.address}/batch`);
  for (const blade of [...atBench, ...waiting]) {
    await page
      .getByRole('checkbox', { name: new RegExp(blade.code) })
      .setChecked(six.some(({ bladeId }) => bladeId === blade.bladeId));
  }
  await page.getByRole('button', { name: 'Batch 6 blades' }).click();
  await expect(page.getByText(/Change over, 4 min/)).toHaveCount(1);
  const batch = async () => (await shop.get<BatchView>('/api/v1/batch')).batch;
  const order = (await batch())?.runs.flatMap(({ blades }) => blades) ?? [];
  expect(order.length).toBe(6);

  // The heap way: every blade cleaned, then every blade inspected.
  await page.getByRole('radio', { name: 'Step by step' }).click();
  await page.getByRole('button', { name: /^Start/ }).click();
  const fresh = order.filter(({ step }) => step === 'clean');
  for (const { blade } of fresh) {
    await expect(page.locator('.code').first()).toHaveText(blade.code);
    await expect(focus(page)).toHaveAccessibleName('Cleaned on both faces');
    await page.keyboard.press('Enter');
  }
  for (const { blade } of fresh) {
    await expect(page.locator('.code').first()).toHaveText(blade.code);
    await expect(focus(page)).toHaveAccessibleName(/No crack/);
    await page.keyboard.press('Enter');
    for (const end of ['A', 'B']) {
      await expect(focus(page)).toHaveAccessibleName(`Tip ${end}`);
      const id = (await focus(page).getAttribute('id')) ?? '';
      await page.keyboard.press('t');
      await page.locator(`:focus:not(#${id})`).waitFor();
    }
    await expect(focus(page)).toHaveAccessibleName(/Next blade|On to/);
    await page.keyboard.press('Enter');
  }
  expect(
    (await batch())?.runs.flatMap(({ blades }) => blades.map(({ step }) => step)),
  ).not.toContain('inspect');

  // The other way, from the middle of it: blade by blade.
  await page.goto(`${shop.address}/batch`);
  await page.getByRole('radio', { name: 'Blade by blade' }).click();
  await page.getByRole('button', { name: /^Start/ }).click();
  for (let done = 1; done <= 6; done++) {
    await expect(page.locator('.step')).toBeVisible();
    const mine = (await cycleOf(shop, page)).blade.specName.startsWith('Pitch');
    if (mine) await followToRack(page, () => cycleOf(shop, page));
    else {
      await page
        .getByRole('navigation', { name: 'Working order' })
        .getByRole('button', { name: /^Sign off/ })
        .click();
      await page.getByRole('button', { name: 'Put it on hold' }).click();
      await expect(page.getByRole('button', { name: /^Next blade/ })).toBeVisible();
    }
    if (done === 6) break;
    const code = await page.locator('.code').first().textContent();
    await expect(page.getByRole('button', { name: /^Next blade: / })).toBeFocused({
      timeout: 15_000,
    });
    await page.keyboard.press('Enter');
    await expect(page.locator('.code').first()).not.toHaveText(code ?? '');
  }
  const closed = await batch();
  const outcomes = closed?.runs.flatMap(({ blades }) => blades.map(({ outcome }) => outcome)) ?? [];
  expect(outcomes.filter((outcome) => outcome === 'ready').length).toBe(3);
  expect(outcomes.filter((outcome) => outcome === 'hold').length).toBe(3);
  const lark = closed?.sets.find(({ codes }) => codes.length === 3);
  expect(lark?.ready).toBe(3);
  expect(lark?.spread).toBeDefined();
});
