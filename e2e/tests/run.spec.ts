import type { Page } from '@playwright/test';
import { bench, cycleOf, expect, test, waitingBlade } from '../support/shop-test';

const step = (page: Page, name: string) =>
  page
    .getByRole('navigation', { name: 'Working order' })
    .getByRole('button', { name: new RegExp(`^${name}`) });

test.describe('the run', () => {
  test('says at the field what is wrong, keeps what was typed, and questions a width above new with its likely cause', async ({
    page,
    shop,
  }) => {
    const [, nicked] = (await bench(shop)).atBench;
    await page.goto(`${shop.address}/run/${nicked?.cycleId ?? ''}`);
    await step(page, 'Measure').click();
    const bevel = page
      .getByRole('region', { name: 'End A', exact: true })
      .getByRole('textbox', { name: 'Bevel', exact: true });
    for (const [typed, says] of [
      ['3', 'outside 10 to 60°'],
      ['', 'is empty'],
      ['NaN', 'is not a number'],
      ['30 g', 'measures mass'],
      ['-30', 'outside 10 to 60°'],
    ] as const) {
      await bevel.fill(typed);
      await bevel.press('Enter');
      await expect(bevel).toHaveAccessibleDescription(new RegExp(says));
      await expect(bevel).toHaveValue(typed);
    }
    await bevel.fill('3');
    await page.reload();
    await step(page, 'Measure').click();
    await expect(
      page
        .getByRole('region', { name: 'End A', exact: true })
        .getByRole('textbox', { name: 'Bevel', exact: true }),
    ).toHaveValue('3');
    const taken = (await cycleOf(shop, page)).slots.find(({ key }) => key === 'before:bevel:A:-');
    expect(taken?.taken?.value).toBeGreaterThan(25);

    const tip = page
      .getByRole('region', { name: 'End A', exact: true })
      .getByRole('textbox', { name: 'Tip', exact: true });
    await tip.fill('59.9');
    await tip.press('Enter');
    await expect(tip).toHaveAccessibleDescription(/caliper at the wrong station or end/);
    await step(page, 'Sign off').click();
    await expect(page.getByRole('button', { name: /Width, end A, tip: 59.9/ })).toBeVisible();
  });

  test('marks damage on the steel, refuses a nick beyond the edge, and takes it back', async ({
    page,
    shop,
  }) => {
    const blade = await waitingBlade(shop, 'Towpath high-lift 533');
    await page.goto(shop.address);
    await page.getByRole('region', { name: 'Waiting' }).getByText(blade.code).click();
    await page.getByRole('button', { name: 'Cleaned on both faces' }).click();
    await page.getByRole('radio', { name: 'Chip' }).click();
    await page.getByLabel('From the tip').fill('140');
    await page.getByLabel('Depth').fill('1.5');
    await page.getByRole('button', { name: 'Mark it' }).click();
    await expect(page.getByLabel('From the tip')).toHaveAccessibleDescription(
      /is off the cutting edge: it runs 100 mm/,
    );
    await expect(page.getByLabel('From the tip')).toHaveValue('140');
    await page.getByLabel('From the tip').fill('1 in');
    await page.getByRole('button', { name: 'Mark it' }).click();
    await expect(page.getByText('Chip, end A, 25 mm from the tip', { exact: true })).toBeVisible();
    await expect(page.locator('input[id^="depth-"]')).toHaveValue('1.5');
    await expect(page.locator('ts-blade-drawing .mark')).toHaveCount(1);
    await page.getByRole('button', { name: /Take this Chip off/ }).click();
    await expect(page.locator('ts-blade-drawing .mark')).toHaveCount(0);
  });

  test('damage is put on the drawing by pointer, dragged along the edge, and moved and taken off by keys', async ({
    page,
    shop,
  }) => {
    const blade = await waitingBlade(shop, 'Towpath high-lift 533');
    await page.goto(shop.address);
    await page.getByRole('region', { name: 'Waiting' }).getByText(blade.code).click();
    await page.getByRole('button', { name: 'Cleaned on both faces' }).click();
    await page.getByRole('radio', { name: 'Chip' }).click();
    const drawing = page.getByRole('group', { name: /^Blade/ });
    const box = await drawing.boundingBox();
    if (!box) throw new Error('no drawing');
    await page.mouse.click(box.x + box.width * 0.9, box.y + box.height * 0.3);
    const depth = page.locator('input[id^="depth-"]');
    await expect(depth).toBeFocused();
    await page.keyboard.type('1.8');
    await page.keyboard.press('Enter');
    const mark = async () => (await cycleOf(shop, page)).damage[0];
    await expect.poll(async () => (await mark())?.depthMm).toBe(1.8);
    const placed = (await mark())?.fromTipMm ?? 0;
    expect((await mark())?.kind).toBe('chip');
    expect((await mark())?.end).toBe('B');

    const grip = page.getByRole('button', { name: /^Chip, end B/ });
    const at = await grip.boundingBox();
    if (!at) throw new Error('no mark');
    const [x, y] = [at.x + at.width / 2, at.y + at.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x - 40, y, { steps: 6 });
    await page.mouse.up();
    await expect.poll(async () => (await mark())?.fromTipMm).toBeGreaterThan(placed + 10);
    const dragged = (await mark())?.fromTipMm ?? 0;
    expect((await mark())?.depthMm).toBe(1.8);

    await grip.focus();
    await page.keyboard.press('ArrowRight');
    await expect.poll(async () => (await mark())?.fromTipMm).toBe(dragged - 1);
    await grip.focus();
    await page.keyboard.press('Delete');
    await expect.poll(mark).toBeUndefined();
  });

  test('a crack leads straight to retiring', async ({ page, shop }) => {
    const blade = await waitingBlade(shop, 'Towpath high-lift 533');
    await page.goto(shop.address);
    await page.getByRole('region', { name: 'Waiting' }).getByText(blade.code).click();
    await page.getByRole('button', { name: 'Cleaned on both faces' }).click();
    await page.getByRole('button', { name: 'at the wing root' }).click();
    await page.getByRole('button', { name: 'To retiring' }).click();
    await expect(page.getByText(/a cracked blade is never ground or fitted again/)).toBeVisible();
    await expect(page.getByRole('button', { name: 'Ready for the rack' })).toHaveCount(0);
    await page.getByRole('button', { name: 'Retire: Cracked, cut through' }).click();
    await expect(page.getByRole('heading', { name: 'Retired: Cracked' })).toBeVisible();
  });

  test('leaves a routine reading out with a reason, and reads a bevel by its face and in inches', async ({
    page,
    shop,
  }) => {
    const blade = await waitingBlade(shop, 'Towpath high-lift 533');
    await page.goto(shop.address);
    await page.getByRole('region', { name: 'Waiting' }).getByText(blade.code).click();
    await page.getByRole('button', { name: 'Cleaned on both faces' }).click();
    await step(page, 'Measure').click();
    await page.getByRole('button', { name: 'Other ways for Mass' }).click();
    await page.getByRole('menuitem', { name: 'Leave out: A crew is waiting' }).click();
    await expect(
      page.getByRole('textbox', { name: 'Mass', exact: true }),
    ).toHaveAccessibleDescription(/carried \d+\.\d ± \d+\.\d g/);
    await page.getByRole('button', { name: 'Units: Millimetres and grams' }).click();
    await page.getByRole('button', { name: 'Full look: read everything' }).click();
    const endA = page.getByRole('region', { name: 'End A', exact: true });
    // The full look is drawn anew when it is kept: a menu opened before that goes with the old fields.
    await expect(endA.getByRole('textbox', { name: 'Tip', exact: true })).toBeVisible();
    await endA.getByRole('button', { name: /Other ways for Bevel/ }).click();
    await page.getByRole('menuitem', { name: 'By the width of the face' }).click();
    await endA.getByRole('textbox', { name: 'Bevel', exact: true }).fill('1/2');
    await endA.getByRole('textbox', { name: 'Bevel', exact: true }).press('Enter');
    await expect(
      endA.getByRole('textbox', { name: 'Bevel', exact: true }),
    ).toHaveAccessibleDescription(/= (29|30)\.\d°/);
    await endA.getByRole('textbox', { name: 'Tip', exact: true }).fill('2 7/16');
    await endA.getByRole('textbox', { name: 'Tip', exact: true }).press('Enter');
    await expect
      .poll(async () => {
        const view = await cycleOf(shop, page);
        return view.slots.find(({ key }) => key === 'before:width:A:tip')?.taken?.value;
      })
      .toBeCloseTo(61.9125, 4);
  });

  test('two tabs: the second sign-off is told, nothing is stored twice', async ({
    page,
    shop,
    context,
  }) => {
    const [, , good] = (await bench(shop)).atBench;
    const address = `${shop.address}/run/${good?.cycleId ?? ''}`;
    await page.goto(address);
    await step(page, 'Balance').click();
    await page.getByRole('radio', { name: /Level/ }).click();
    await page.getByRole('button', { name: 'Keep this reading' }).click();
    await step(page, 'Prove').click();
    for (const end of ['A', 'B']) {
      await page
        .getByRole('region', { name: `Light test, end ${end}` })
        .getByRole('button', { name: 'No line: sharp' })
        .click();
      await expect
        .poll(async () => (await cycleOf(shop, page)).lightTest[end as 'A' | 'B'])
        .toBe(false);
    }
    const other = await context.newPage();
    await other.goto(address);
    await step(other, 'Sign off').click();
    await step(page, 'Sign off').click();
    await other.getByRole('button', { name: 'Take it over' }).click();
    await expect(
      page.getByRole('status').filter({ hasText: 'has this blade in hand' }),
    ).toBeVisible();
    // The second tab is held back before the blade is taken from it, so that it does not know yet.
    await other.route('**/lease', (route) => route.abort());
    await other.route('**/api/v1/cycles/**', (route) => route.abort());
    await page.getByRole('button', { name: 'Take it over' }).click();
    await expect(page.getByRole('button', { name: 'Take it over' })).toBeHidden();
    await page.getByRole('button', { name: 'Ready for the rack' }).click();
    await expect(page.getByRole('heading', { name: 'Ready, in the rack' })).toBeVisible();
    await other.getByRole('button', { name: 'Put it on hold' }).click();
    await expect(other.getByRole('alert')).toContainText('was signed off as ready');
    const { blade } = await cycleOf(shop, page);
    expect(blade.state).toBe('ready');
  });
});
