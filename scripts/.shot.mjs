import { chromium } from '@playwright/test';
const A = 'http://localhost:4161';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});
const page = await browser.newPage({
  viewport: { width: 1280, height: 800 },
  colorScheme: process.env.DARK ? 'dark' : 'light',
});
const msgs = [];
page.on('console', (m) => {
  if (['error', 'warning'].includes(m.type())) msgs.push(m.text());
});
page.on('pageerror', (e) => msgs.push('PAGEERROR ' + e.message));
const ask = async (p) => (await fetch(A + p)).json();
const bench = await ask('/api/bench');
const step = (name) =>
  page
    .getByRole('navigation', { name: 'Working order' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .click();
const shot = async (n) => {
  await page.waitForTimeout(500);
  await page.screenshot({ path: `/tmp/shots/${n}.png` });
};
const { default: run } = await import(process.argv[2]);
await run({ page, A, ask, bench, step, shot });
console.log(msgs.join('\n'));
await browser.close();
