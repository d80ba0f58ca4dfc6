import type { FleetView, RegisterView } from '@tally-stone/contract';
import { bench, expect, pick, test, waitingBlade } from '../support/shop-test';

test.describe('which blade is this', () => {
  test('a misread code is told apart from an unknown one, and stays in the field', async ({
    page,
    shop,
  }) => {
    await page.goto(shop.address);
    const field = page.getByLabel('Which blade?');
    await field.fill('');
    await field.press('Enter');
    await expect(page.getByRole('alert')).toContainText('is empty: scan the tag or type');
    await field.fill('44O7M');
    await field.press('Enter');
    await expect(page.getByRole('alert')).toContainText('"O", which is never stamped here');
    await field.fill('4447N');
    await field.press('Enter');
    await expect(page.getByRole('alert')).toContainText('does not check');
    await field.fill('XXC');
    await field.press('Enter');
    await expect(page.getByRole('alert')).toContainText('a stamp has 5');
    await expect(field).toHaveValue('XXC');
  });

  test('an unknown code offers to find the blade by mower, place and size', async ({
    page,
    shop,
  }) => {
    const { counts } = await bench(shop);
    expect(counts.all).toBeGreaterThan(130);
    await page.goto(shop.address);
    await page.getByLabel('Which blade?').fill('YYXCT');
    await page.getByLabel('Which blade?').press('Enter');
    await expect(page.getByRole('alert')).toBeVisible();
    await page.getByRole('button', { name: 'Stamp cannot be read' }).click();
    const finder = page.getByRole('region', { name: 'Find a blade without its code' });
    await pick(finder.getByLabel('Came off'), 'Yew');
    await finder.getByLabel('Length').fill('18 in');
    await expect(finder.getByText(/Blades that fit: \d/)).toBeVisible();
    await finder.getByLabel('Place or spindle').fill('heap');
    await expect(finder.getByText('Blades that fit: 1')).toBeVisible();
    await finder.getByLabel('Length').fill('1/0');
    await expect(finder.getByText('has a fraction over zero')).toBeVisible();
  });

  test('the demo leaves three blades in hand: one spent, one with a nick not worth chasing, one in good order', async ({
    page,
    shop,
  }) => {
    // The whole invented shop: every state a blade can be in is met.
    const { mowers } = await shop.get<FleetView>('/api/v1/fleet');
    expect(mowers.length).toBe(14);
    expect(mowers.reduce((sum, { deck }) => sum + deck.spindles.length, 0)).toBe(40);
    const { total, states } = await shop.get<RegisterView>('/api/v1/register');
    expect(total).toBeGreaterThan(130);
    expect(Object.keys(states).sort()).toEqual(
      ['at-bench', 'hold', 'new', 'on-mower', 'ready', 'retired', 'waiting'].sort(),
    );
    const { atBench } = await bench(shop);
    const [spent, nicked, good] = atBench;
    await page.goto(`${shop.address}/run/${spent?.cycleId ?? ''}`);
    await expect(page.getByRole('heading', { name: 'This blade must be retired' })).toBeVisible();
    await expect(
      page
        .getByText(/End B, tip, 10 mm from the tip: 50\.\d mm wide, limit 51\.0 mm \(maker/)
        .first(),
    ).toBeVisible();
    await page.goto(`${shop.address}/run/${nicked?.cycleId ?? ''}`);
    await page.getByRole('button', { name: /^Verdict/ }).click();
    await expect(page.getByText(/nick 0\.7 mm deep, not worth chasing/)).toBeVisible();
    const plan = page.getByRole('region', { name: 'The plan' });
    await expect(plan.getByRole('heading', { name: /^Take \d+\.\d g$/ })).toBeVisible();
    await expect(
      page.getByText(/Clearing it whole costs \d\.\d g, \d\.\d grinds of life/),
    ).toBeVisible();
    await page.getByRole('radio', { name: 'Clear', exact: true }).click();
    await expect(page.getByText(/Leaving it saves \d\.\d g/)).toBeVisible();
    await page.reload();
    await page.getByRole('button', { name: /^Verdict/ }).click();
    await expect(page.getByRole('radio', { name: 'Clear', exact: true })).toBeChecked();
    await page.goto(`${shop.address}/run/${good?.cycleId ?? ''}`);
    await page.getByRole('button', { name: /^Verdict/ }).click();
    await expect(page.getByRole('button', { name: 'Fit to run: to balance' })).toBeVisible();
  });

  test('a spent blade is retired for its limit and never opened again', async ({ page, shop }) => {
    const [spent] = (await bench(shop)).atBench;
    await page.goto(`${shop.address}/run/${spent?.cycleId ?? ''}`);
    await page.getByRole('button', { name: 'Retire: Below its least width, cut through' }).click();
    await expect(
      page.getByRole('heading', { name: 'Retired: Below its least width' }),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Next blade' }).click();
    await page.getByLabel('Which blade?').fill(spent?.code ?? '');
    await page.getByLabel('Which blade?').press('Enter');
    await expect(page.getByText('Never fitted again')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Start this blade' })).toHaveCount(0);
  });

  test('new blades are registered several at once, with codes to stamp', async ({ page, shop }) => {
    const before = (await bench(shop)).counts.all;
    await page.goto(`${shop.address}/new-blades`);
    await page.getByLabel(/Pitch low-lift 610/).check();
    await page.getByLabel('How many').fill('none');
    await page.getByRole('button', { name: 'Give them codes' }).click();
    await expect(page.getByLabel('How many')).toHaveAccessibleDescription(/is not a number/);
    await expect(page.getByLabel('How many')).toBeFocused();
    await page.getByLabel('How many').fill('40');
    await page.getByRole('button', { name: 'Give them codes' }).click();
    const codes = page
      .getByRole('region', { name: 'Codes to stamp' })
      .getByRole('listitem')
      .getByRole('link');
    await expect(codes).toHaveCount(40);
    const texts = await codes.allTextContents();
    expect(texts.every((text) => /^[47ACEHJKMNPTXY]{5}$/.test(text.trim()))).toBe(true);
    expect((await bench(shop)).counts.all).toBe(before + 40);
    // Printed, the tags are the whole page, each of them once, and none cut off.
    await page.emulateMedia({ media: 'print' });
    await expect(page.getByRole('button', { name: 'Give them codes' })).toBeHidden();
    const tags = page.locator('.tags');
    await expect(tags.getByRole('listitem')).toHaveCount(40);
    const { shown, whole, place } = await tags.evaluate((list) => ({
      shown: list.clientHeight,
      whole: list.scrollHeight,
      place: getComputedStyle(list).position,
    }));
    expect({ cutOffPx: whole - shown, place }).toEqual({ cutOffPx: 0, place: 'static' });
    await page.emulateMedia({ media: 'screen' });
  });

  test('a change at one bench shows at another without being asked for', async ({
    page,
    shop,
    context,
  }) => {
    const blade = await waitingBlade(shop, 'Pitch low-lift 610');
    await page.goto(shop.address);
    const other = await context.newPage();
    await other.goto(shop.address);
    await expect(
      other.getByRole('region', { name: 'Waiting' }).getByText(blade.code),
    ).toBeVisible();
    await page.getByRole('region', { name: 'Waiting' }).getByText(blade.code).click();
    await expect(page.getByRole('button', { name: 'Cleaned on both faces' })).toBeVisible();
    await expect(
      other.getByRole('region', { name: 'In hand' }).getByText(blade.code),
    ).toBeVisible();
  });
});
