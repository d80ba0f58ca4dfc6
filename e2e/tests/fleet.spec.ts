import type { FleetView } from '@tally-stone/contract';
import type { Locator, Page } from '@playwright/test';
import { followToRack } from '../support/follow';
import { bench, cycleOf, expect, pick, test } from '../support/shop-test';

const PHONE = { width: 390, height: 844 };

async function tickAll(page: Page): Promise<void> {
  for (const box of await page.getByRole('checkbox').all()) await box.check();
}

const row = (page: Page, name: string) => page.getByRole('listitem').filter({ hasText: name });

test('a strike told from a phone makes the set due; it is pulled, batched, ground, matched and fitted, and the rack agrees', async ({
  page,
  shop,
  browser,
}) => {
  // The manager's screens stand open all the while and are never reloaded.
  const manager = await (await browser.newContext()).newPage();
  await manager.goto(`${shop.address}/mowers`);
  await expect(row(manager, 'Rowan').first()).toContainText('due in');
  const rack = await manager.context().newPage();
  await rack.goto(`${shop.address}/rack`);
  const lane = (name: string) => rack.getByRole('region', { name, exact: true });
  await expect(lane('Ready')).toContainText('Next for Rowan');

  await page.setViewportSize(PHONE);
  await page.goto(`${shop.address}/crew`);
  await pick(page.getByLabel('Which mower'), 'Rowan, Cemeteries, east');
  await page.getByRole('button', { name: 'It struck something' }).click();
  await page.getByRole('button', { name: 'a stone' }).click();
  await page.getByRole('button', { name: 'A hard knock' }).click();
  await page.getByLabel(/It shakes/).check();
  await page.getByRole('button', { name: 'Report the strike' }).click();
  await expect(page.getByText(/Stop: do not run it/)).toBeVisible();
  await expect(page.getByText('Do not run Rowan.')).toBeVisible();
  await expect(row(manager, 'Rowan').first()).toContainText('out of use, it struck a stone');

  const rowan = async () =>
    (await shop.get<FleetView>('/api/v1/fleet')).mowers.find(({ name }) => name === 'Rowan');
  const before = await rowan();
  const codes = before?.deck.spindles.map(({ blade }) => blade?.code ?? '') ?? [];
  expect(codes.length).toBe(2);
  // The next bench day has it first.
  await manager.goto(`${shop.address}/batch`);
  await expect(manager.getByRole('link', { name: 'Pull the set of Rowan' })).toBeVisible();

  const change = `${shop.address}/mower/${before?.mowerId ?? ''}/change`;
  await page.goto(change);
  await expect(page.getByRole('heading', { name: 'Rowan: make it safe' })).toBeVisible();
  await tickAll(page);
  await page.getByRole('button', { name: 'All done' }).click();
  // Rolled back: the meter is asked about at once, and what was typed stays.
  await page.getByLabel('The meter shows').fill('12');
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByLabel('The meter shows')).toHaveAccessibleDescription(/less than last/);
  await expect(page.getByLabel('The meter shows')).toHaveValue('12');
  await page.getByLabel('The meter shows').fill(String((before?.hoursH ?? 0) + 2));
  await page.getByRole('button', { name: 'Go on' }).click();
  // It struck something: bolt and mount are looked at, nothing is preset.
  await page.getByRole('button', { name: 'The set is off' }).click();
  await expect(page.getByRole('alert')).toContainText('Look at bolt and mount');
  for (const field of await page.getByRole('combobox').all()) await pick(field, 'sound');
  await page.getByRole('button', { name: 'The set is off' }).click();
  // While the blades are off: what was found is remembered, and the crew sees it.
  await expect(page.getByRole('heading', { name: /while the blades are off/ })).toBeVisible();
  await page.getByRole('radiogroup', { name: /^Belt/ }).getByText('Wants work').click();
  await page.getByLabel('What it wants').fill('glazed');
  await page.getByRole('radiogroup', { name: /^Deck/ }).getByText('Scraped').click();
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('heading', { name: /look at spindle and mount/ })).toBeVisible();
  const looked = (await rowan())?.upkeep.find(({ kind }) => kind === 'belt');
  expect(looked?.last).toEqual(expect.objectContaining({ found: 'wants-work', note: 'glazed' }));
  const { waiting } = await bench(shop);
  for (const code of codes) expect(waiting.map((blade) => blade.code)).toContain(code);
  for (const code of codes) await expect(lane('Waiting')).toContainText(code);
  await expect(lane('On mowers')).toContainText('no set on');

  // To the bench: the pulled set as a batch, each blade by its focus to the rack.
  const technician = await browser.newPage();
  await technician.goto(`${shop.address}/batch`);
  await expect(technician.getByRole('button', { name: /^Batch \d+ blades/ })).toBeEnabled();
  for (const box of await technician.getByRole('checkbox').all()) await box.uncheck();
  for (const code of codes) {
    await technician.getByRole('checkbox', { name: new RegExp(code) }).check();
  }
  await technician.getByRole('button', { name: 'Batch 2 blades' }).click();
  await technician.getByRole('button', { name: /^Start/ }).click();
  for (let done = 1; done <= 2; done++) {
    await expect(technician.locator('.step')).toBeVisible();
    const code = (await technician.locator('.code').first().textContent()) ?? '';
    await expect(lane('At the bench')).toContainText(code);
    await followToRack(technician, () => cycleOf(shop, technician));
    await expect(lane('At the bench')).not.toContainText(code);
    await expect(lane('Ready')).toContainText(code);
    if (done < 2) await technician.keyboard.press('Enter');
    if (done < 2) await expect(technician.locator('.code').first()).not.toHaveText(code);
  }

  // The mower is seen to; the most alike of what stands ready goes on.
  await page.getByRole('button', { name: /Spindles run true/ }).click();
  await expect(page.getByText(/most alike of the rack|Its own set/)).toBeVisible();
  await tickAll(page);
  await page.getByRole('button', { name: 'The set is on' }).click();
  await expect(page.getByRole('heading', { name: 'Rowan: the set is on' })).toBeVisible();
  const after = await rowan();
  expect(after?.deck.hoursOnEdge).toBe(0);
  for (const { blade } of after?.deck.spindles ?? []) {
    await expect(lane('On mowers')).toContainText(blade?.code ?? 'a code');
  }

  // An ordinary change, on the phone, from the list of mowers to the set that is on: its touches counted.
  let touches = 0;
  const touch = async (what: Locator): Promise<void> => {
    touches += 1;
    await what.click();
  };
  const tick = async (): Promise<void> => {
    await expect(page.getByRole('checkbox').first()).toBeVisible();
    for (const box of await page.getByRole('checkbox').all()) await touch(box);
  };
  await page.goto(`${shop.address}/mowers`);
  await touch(row(page, 'Heron').getByRole('link').first());
  await touch(page.getByRole('link', { name: 'Change the set' }));
  await expect(page.getByRole('heading', { name: 'Heron: make it safe' })).toBeVisible();
  await tick();
  await touch(page.getByRole('button', { name: 'All done' }));
  const heron = (await shop.get<FleetView>('/api/v1/fleet')).mowers.find(
    ({ name }) => name === 'Heron',
  );
  await page.getByLabel('The meter shows').fill(String((heron?.hoursH ?? 0) + 9));
  touches += 1;
  await touch(page.getByRole('button', { name: 'Go on' }));
  await touch(page.getByRole('button', { name: 'The set is off' }));
  await expect(page.getByRole('heading', { name: /while the blades are off/ })).toBeVisible();
  await touch(page.getByRole('button', { name: 'Go on' }));
  await expect(page.getByRole('heading', { name: 'Heron: the next set goes on' })).toBeVisible();
  await tick();
  await touch(page.getByRole('button', { name: 'The set is on' }));
  await expect(page.getByRole('heading', { name: 'Heron: the set is on' })).toBeVisible();
  console.log(`change of set on a phone: ${touches} touches`);
  expect(touches).toBeLessThanOrEqual(18);

  // Up to the bench by hand: dragged out of the heap, its cycle opens.
  const [next] = (await bench(shop)).waiting;
  const one = lane('Waiting').locator('.blade', { hasText: next?.code ?? '' });
  await one.hover();
  await rack.mouse.down();
  const target = await lane('At the bench').boundingBox();
  await rack.mouse.move((target?.x ?? 0) + 60, (target?.y ?? 0) + 60, { steps: 12 });
  await rack.mouse.up();
  await expect(rack).toHaveURL(/\/run\//);
});

test('blades that would strike each other are refused, by how much', async ({ page, shop }) => {
  const [mower] = (await shop.get<FleetView>('/api/v1/fleet')).mowers.filter(
    ({ name }) => name === 'Yew',
  );
  await page.goto(`${shop.address}/mower/${mower?.mowerId ?? ''}`);
  await page.getByRole('button', { name: 'Measure the deck again' }).click();
  await page.getByLabel('Across from left').fill('430');
  await page.getByRole('button', { name: 'Keep the deck' }).click();
  await expect(page.getByLabel('Blades it takes')).toHaveAccessibleDescription(
    /left and right come \d\.\d mm too near/,
  );
  await expect(page.getByLabel('Across from left')).toHaveValue('430');
  await page.getByLabel('Across from left').fill('442');
  await page.getByRole('button', { name: 'Keep the deck' }).click();
  await expect(page.getByLabel('Across from left')).toBeHidden();
  await expect(page.getByRole('img', { name: /all clear/ })).toBeVisible();
});

test('a change of limits says whom it would retire before it is kept', async ({ page, shop }) => {
  await page.goto(`${shop.address}/shop/specs`);
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
  await expect(page.getByRole('heading', { name: /It would retire \d+ of \d+/ })).toBeVisible();
  await expect(page.getByText(/goes on hold|pull it|judged at the bench/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep these limits' })).toBeDisabled();
  await page.getByRole('button', { name: 'The maker says so' }).click();
  await page.getByRole('button', { name: 'Keep these limits' }).click();
  await expect(page.getByRole('status')).toContainText('count from now on');
  await expect(page.getByText('Revision 2.')).toBeVisible();
});
