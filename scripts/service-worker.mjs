import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative, resolve } from 'node:path';
import { buildSync } from 'esbuild';

/** Named by their contents: they never change under their name. */
const NAMED_BY_CONTENTS = /-[A-Z0-9]{8}\.(js|css|woff2?)$/;
const WORKER = 'service-worker.js';
/** Licences, and what only the server reads. */
const NOT_ASKED_FOR = /(\.txt|screen-scripts\.json)$/;

/** Every file of the built app as the page asks for it, with a mark of its contents where its name has none. */
function filesOf(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && entry.name !== WORKER && !NOT_ASKED_FOR.test(entry.name))
    .map((entry) => {
      const path = join(entry.parentPath, entry.name);
      const revision = createHash('sha256').update(readFileSync(path)).digest('hex').slice(0, 16);
      const name = relative(folder, path).replaceAll('\\', '/');
      return {
        url: name === 'index.html' ? '/' : `/${name}`,
        revision: NAMED_BY_CONTENTS.test(name) ? null : revision,
      };
    })
    .sort((a, b) => (a.url < b.url ? -1 : 1));
}

/** Bundles the service worker into the built app, with the list of its files. */
const root = resolve(import.meta.dirname, '..');
const folder = join(root, 'web/dist/browser');
buildSync({
  entryPoints: [join(root, 'web/src/service-worker.ts')],
  outfile: join(folder, WORKER),
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'es2022',
  define: {
    FILES_OF_THE_APP: JSON.stringify(filesOf(folder)),
    'process.env.NODE_ENV': '"production"',
  },
  logLevel: 'error',
});
