import { chromium } from 'playwright-core';
const [url, out, w='1280', h='800', scheme='light'] = process.argv.slice(2);
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] });
const p = await b.newPage({ viewport: { width: +w, height: +h }, colorScheme: scheme });
p.on('console', (m) => m.type()==='error' && console.log(m.text()));
await p.goto(url); await p.waitForTimeout(1500);
await p.screenshot({ path: out });
await b.close();
