import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { SPANISH } from './texts.mjs';
import { ROOT } from './workspace.mjs';

/** Compressed JavaScript that the first screen loads: Angular's own budgets count uncompressed bytes. */
export const FIRST_SCREEN_LIMIT = 220_000;

export function firstScreenBytes() {
  const folder = join(ROOT, 'web/dist/browser');
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  const scripts = new Set(
    [...page.matchAll(/(?:src|href)="([^"]+\.js)"/g)].map(([, name]) => name),
  );
  // What those import statically is loaded at once, too.
  const follow = (name) => {
    const text = readFileSync(join(folder, name), 'utf8');
    for (const [, next] of text.matchAll(/(?:from|import)"\.\/([^"]+\.js)"/g)) {
      if (!scripts.has(next)) {
        scripts.add(next);
        follow(next);
      }
    }
  };
  for (const name of [...scripts]) follow(name);
  // The app itself comes after its texts: main asks for it as soon as it runs, and in English for nothing else.
  const [spanish] = Object.values(JSON.parse(readFileSync(SPANISH, 'utf8')).translations);
  const main = [...scripts].find((name) => name.startsWith('main'));
  const asked = [
    ...readFileSync(join(folder, main), 'utf8').matchAll(/import\(["`]\.\/([^"`]+\.js)["`]\)/g),
  ]
    .map(([, name]) => name)
    .filter((name) => !readFileSync(join(folder, name), 'utf8').includes(spanish));
  if (asked.length === 0) throw new Error('The app’s own script is not to be found.');
  for (const name of asked) {
    scripts.add(name);
    follow(name);
  }
  const there = new Set(readdirSync(folder));
  return [...scripts]
    .filter((name) => there.has(name))
    .reduce((sum, name) => sum + gzipSync(readFileSync(join(folder, name))).length, 0);
}
