import { readFileSync } from 'node:fs';
import { chromium as playwright } from '@playwright/test';
import sharp from 'sharp';
import { build, chromium, demoServer, install } from './workspace.mjs';

/**
 * What reading an edge from a picture of 12 million pixels costs the browser: time, memory of the page's process at its
 * most, and how long keys wait meanwhile. Reported, never judged: a measurement, not a test.
 */
await install();
build();
const core = await import('@tally-stone/core');
const { markerCells } = await import('../server/dist/instrument/photo-stand.js');
const { address } = await demoServer();
const ask = async (path) => (await fetch(`${address}/api/v1/${path}`)).json();
const { waiting } = await ask('bench');
const blade = waiting.find(({ specName }) => specName === 'Towpath high-lift 533');

const WIDE = 4000;
const picture = core.standPicture({
  matNumber: 1,
  print: { across: 1, down: 1 },
  bitsOf: markerCells,
  camera: {
    width: WIDE,
    height: 3000,
    focalPx: WIDE * 1.07,
    k1: -0.07,
    k2: 0.01,
    farMm: 330,
    tiltDeg: 9,
    tiltTowardDeg: 35,
    turnDeg: 2,
    offMm: [1, -1],
  },
  blade: {
    lie: core.lieOf('A', 'right'),
    end: 'A',
    widthMm: (at) => (at < 100 ? 61 : 63.5),
    offMm: [1, 2],
    turnDeg: 1,
  },
  light: {
    paper: 0.6,
    gradient: [0.3, -0.2],
    vignette: 0.4,
    steel: 0.25,
    rust: 0.5,
    glare: [],
  },
  blurPx: 1.2,
  noise: 2,
  chance: Math.random,
});
const { width, height, grey } = picture;
const jpeg = await sharp(grey, { raw: { width, height, channels: 1 } })
  .jpeg({ quality: 90 })
  .toBuffer();

const browser = await playwright.launch({
  executablePath: await chromium(),
  args: ['--no-sandbox', '--disable-gpu', '--window-size=1280,887', '--screen-info={1600x1200}'],
});
const page = await browser.newPage({ viewport: null });
await page.addInitScript(() => {
  globalThis.heard = [];
  new globalThis.PerformanceObserver((list) => {
    for (const { interactionId, duration } of list.getEntries())
      if (interactionId) globalThis.heard.push(duration);
  }).observe({ type: 'event', durationThreshold: 16, buffered: true });
});
await page.goto(address);
await page.locator('#code').fill(blade.code);
await page.keyboard.press('Enter');
await page.getByRole('button', { name: 'Cleaned on both faces' }).click();
await page
  .getByRole('navigation', { name: 'Working order' })
  .getByRole('button', { name: /^Measure/ })
  .click();
await page.getByRole('button', { name: 'Read the edge by photo' }).first().click();
const session = await browser.newBrowserCDPSession();
const { processInfo } = await session.send('SystemInfo.getProcessInfo');
const megabytes = (field) =>
  Math.max(
    ...processInfo
      .filter(({ type }) => type === 'renderer')
      .map(({ id }) => {
        const status = readFileSync(`/proc/${id}/status`, 'utf8');
        return Number(new RegExp(`${field}:\\s+(\\d+)`).exec(status)?.[1]) / 1024;
      }),
  );
const atRest = megabytes('VmRSS');
await page.evaluate(() => (globalThis.heard.length = 0));
let keys = 0;
const began = performance.now();
await page
  .locator('ts-edge-photo input[type=file]')
  .setInputFiles({ name: 'end-a.jpg', mimeType: 'image/jpeg', buffer: jpeg });
const done = page.locator('ts-edge-photo canvas');
while (!(await done.isVisible())) {
  await page.keyboard.press(keys % 2 ? 'Tab' : 'Shift+Tab');
  keys += 1;
  await page.waitForTimeout(80);
}
const seconds = (performance.now() - began) / 1000;
const alert = page.locator('ts-edge-photo [role=alert]');
const said = (await alert.count()) > 0 ? await alert.textContent() : 'read';
const heard = await page.evaluate(() => globalThis.heard);
console.log(
  `${width}×${height}, ${Math.round(jpeg.length / 1000)} kB: ${said}, ${seconds.toFixed(1)} s from file to edge; the page's process ${Math.round(atRest)} MB before, ${Math.round(megabytes('VmHWM'))} MB at its most; ${keys} keys meanwhile, the slowest answered in ${Math.max(16, ...heard)} ms`,
);
await browser.close();
process.exit();
