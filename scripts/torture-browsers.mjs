import { chromium as playwright } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { chromium, demoServer } from './workspace.mjs';

/** What the pages look at: a screen opened in full, and the view behind it asked for in between. */
const SCREENS = ['/', '/batch', '/rack', '/mowers', '/blades', '/ahead', '/season', '/shop'];
const VIEWS = [
  '/api/v1/bench',
  '/api/v1/rack',
  '/api/v1/fleet',
  '/api/v1/shift',
  '/api/v1/register',
];

const part = (all, share) => [...all].sort((a, b) => a - b)[Math.floor(share * all.length)] ?? 0;
const words = (all) =>
  `${all.length}, p50 ${part(all, 0.5).toFixed(0)} ms, p95 ${part(all, 0.95).toFixed(0)} ms`;

/**
 * `count` windows of a real browser over a demo shop, each with its stream open, for `seconds`: they change screens, ask for views
 * and read hour meters; `command` puts an act in its envelope. Browsers and server share this machine. Gives how many answers were
 * refusals or errors.
 */
export async function browsersAtOnce(count, seconds, command) {
  const { address, pid } = await demoServer();
  const memory = () =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
  /** Processor time of the server so far, s: the kernel counts hundredths. */
  const worked = () => {
    const [, fields = ''] = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ');
    const [user, system] = fields.split(' ').slice(11, 13).map(Number);
    return (user + system) / 100;
  };
  const { mowers } = await (await fetch(`${address}/api/v1/fleet`)).json();
  const people = await (await fetch(`${address}/api/v1/people`)).json();
  const browser = await playwright.launch({
    executablePath: await chromium(),
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  const pages = [];
  for (let i = 0; i < count; i++) {
    const page = await (await browser.newContext()).newPage();
    await page.goto(address + SCREENS[i % SCREENS.length]);
    pages.push(page);
  }
  const took = { views: [], commands: [], screens: [] };
  let wrong = 0;
  const marks = [memory()];
  const before = worked();
  const watch = globalThis.setInterval(() => marks.push(memory()), (seconds * 1000) / 6);
  const until = performance.now() + seconds * 1000;
  await Promise.all(
    pages.map(async (page, i) => {
      /** Asks from inside the page, as its own screens do. */
      const asked = (path, body) =>
        page.evaluate(
          async ([path, body]) => {
            const began = performance.now();
            const response = await fetch(path, {
              ...(body && {
                method: 'POST',
                headers: { 'Content-Type': 'application/json' },
                body: JSON.stringify(body),
              }),
            });
            await response.text();
            return { ms: performance.now() - began, ok: response.ok };
          },
          [path, body],
        );
      for (let n = 0; performance.now() < until; n++) {
        if (n % 6 === 5) {
          const began = performance.now();
          await page.goto(address + SCREENS[(i + n) % SCREENS.length], { waitUntil: 'load' });
          took.screens.push(performance.now() - began);
        }
        const writes = n % 4 === 3;
        const mower = mowers[(i + n) % mowers.length];
        const { ms, ok } = writes
          ? await asked(
              '/api/v1/commands',
              command({
                personId: people[0].personId,
                type: 'read-hours',
                mowerId: mower.mowerId,
                hoursH: mower.hoursH,
              }),
            )
          : await asked(VIEWS[(i + n) % VIEWS.length]);
        if (!ok) wrong += 1;
        took[writes ? 'commands' : 'views'].push(ms);
        await new Promise((later) => setTimeout(later, 700 + 600 * Math.random()));
      }
    }),
  );
  globalThis.clearInterval(watch);
  await browser.close();
  console.log(
    `  views ${words(took.views)}; accepted commands ${words(took.commands)}; screens loaded ${words(took.screens)}; the server worked ${(worked() - before).toFixed(0)} s of it, its memory ${marks.map((each) => each.toFixed(0)).join(' ')} MB`,
  );
  return wrong;
}
