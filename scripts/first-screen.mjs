import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
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
  const there = new Set(readdirSync(folder));
  return [...scripts]
    .filter((name) => there.has(name))
    .reduce((sum, name) => sum + gzipSync(readFileSync(join(folder, name))).length, 0);
}
