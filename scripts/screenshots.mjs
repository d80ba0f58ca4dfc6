import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium as playwright } from '@playwright/test';
import { build, chromium, demoServer, install, ROOT } from './workspace.mjs';

/** Takes one picture of each main view from a fresh demo shop into docs/screenshots. */
await install();
build();
const { address } = await demoServer();
const folder = join(ROOT, 'docs/screenshots');
mkdirSync(folder, { recursive: true });
const browser = await playwright.launch({
  executablePath: await chromium(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const ask = async (path) => (await fetch(address + path)).json();
const page = await browser.newPage({
  viewport: { width: 1280, height: 800 },
  colorScheme: 'light',
});
const picture = async (name, options = {}) => {
  // What is asked for has come: a picture of a page that is still fetching says nothing.
  await page.locator('main :is(h1, h2, .step):visible').first().waitFor();
  await page.waitForLoadState('networkidle', { timeout: 1500 }).catch(() => undefined);
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(folder, `${name}.png`), ...options });
};
const step = (name) =>
  page
    .getByRole('navigation', { name: 'Working order' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click();
const keep = async (field, text) => {
  await field.fill(text);
  await field.press('Enter');
  await page.waitForTimeout(250);
};

/** Reads end A from the stand, shows what was seen, and keeps it. */
const byPhoto = async (show = () => undefined) => {
  // At the proof the end that was photographed before is asked for at once.
  const stand = page.getByRole('button', { name: 'Picture from the stand' });
  const asked = await stand
    .waitFor({ timeout: 2000 })
    .then(() => true)
    .catch(() => false);
  if (!asked) await page.getByRole('button', { name: 'Read the edge by photo' }).first().click();
  await stand.click();
  await page.getByText(/The whole edge is read/).waitFor({ timeout: 60_000 });
  await page.locator('ts-edge-photo').scrollIntoViewIfNeeded();
  await show();
  await page.getByRole('button', { name: /^Keep / }).click();
  // The other end comes next, at the proof only where it was photographed before: it is not read here.
  await page.getByRole('region', { name: 'Edge of end A by photo' }).waitFor({ state: 'detached' });
  const other = page.getByRole('region', { name: 'Edge of end B by photo' });
  if (await other.isVisible()) await page.getByRole('button', { name: 'Not by photo' }).click();
};

const bench = await ask('/api/v1/bench');
const [spent, nicked] = bench.atBench;
await page.goto(address);
await picture('bench');
await page.goto(`${address}/ahead`);
await picture('ahead');
await page.goto(`${address}/batch`);
await page.getByRole('button', { name: /^Batch \d/ }).click();
await picture('batch');
await page.getByRole('button', { name: /^Close the batch/ }).click();
await page.goto(`${address}/run/${spent.cycleId}`);
await picture('retire');
await page.goto(`${address}/blade/${spent.bladeId}`);
await picture('blade');
await page.goto(`${address}/mowers`);
await picture('mowers');
await page.goto(`${address}/shop`);
await picture('shop');
await page.setViewportSize({ width: 390, height: 844 });
await page.goto(`${address}/crew`);
await page.getByRole('button', { name: 'It struck something' }).click();
await picture('crew');
await page.setViewportSize({ width: 1280, height: 800 });
await page.emulateMedia({ colorScheme: 'dark' });
await page.goto(`${address}/rack`);
await picture('rack-dark');
await page.emulateMedia({ colorScheme: 'light' });
// A new shop with its people: the blade is asked for next.
const { address: fresh } = await demoServer('--empty');
await page.goto(`${fresh}/shop/people`);
await page.getByRole('button', { name: 'Add a person' }).click();
await keep(page.getByLabel('Name', { exact: true }), 'Tobin Marlsedge');
await page.goto(fresh);
await picture('first-day');
await page.goto(`${address}/run/${nicked.cycleId}`);
for (const name of ['Clean', 'Inspect', 'Measure', 'Verdict']) {
  await step(name);
  if (name === 'Measure') {
    // An edge is read by photo, on a tablet.
    await page.setViewportSize({ width: 1024, height: 768 });
    await byPhoto(() => picture('measure-1024'));
    await page.setViewportSize({ width: 1280, height: 800 });
  } else if (name !== 'Clean') await picture(name.toLowerCase());
}
await step('Set up');
await page.getByRole('radio', { name: 'Bench wheel' }).click();
await picture('set-up');
await page.getByRole('button', { name: /All checked/ }).click();
await step('Balance');
await page.getByRole('radio', { name: 'Test weight' }).click();
await page.getByRole('radio', { name: /End A low/ }).click();
await keep(page.getByLabel('Test weight'), '0.9');
await keep(page.getByLabel('From the hole centre'), '200');
await picture('balance');
await step('Grind');
const told = (end, count) =>
  keep(
    page.getByRole('region', { name: `End ${end}`, exact: true }).getByLabel(/^Add /),
    String(count),
  );
await told('B', 8);
await told('A', 4);
await picture('grind');
await told('A', 5);
await step('Prove');
await page.getByRole('button', { name: /^Deburred/ }).click();
await byPhoto();
const view = await ask(`/api/v1/cycles/${nicked.cycleId}`);
for (const slot of view.slots.filter((each) => each.phase === 'after' && each.needed)) {
  const before = view.slots.find((each) => each.key === slot.key.replace('after', 'before')).taken
    .value;
  const change = { mass: -9.1, width: -0.5, bevel: 0.2, land: -0.45 }[slot.quantity];
  const field = page.locator(`[id="${slot.key.replaceAll(':', '-')}"]`);
  await keep(field, (before + change).toFixed(slot.quantity === 'land' ? 2 : 1));
}
await picture('prove', { fullPage: true });
await page.goto(`${address}/blades`);
await picture('blades');
await page.goto(`${address}/season`);
await page.getByRole('img', { name: /^One season/ }).waitFor();
await picture('season', { fullPage: true });
await browser.close();
process.exit();
