import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { rolldown } from 'rolldown';
import { ROOT } from './workspace.mjs';

/**
 * Joins the many scripts that the build wrote into few: the app as it starts is one, and so is what at least three
 * screens share. Angular's own pass (NG_BUILD_OPTIMIZE_CHUNKS) does not know that the app comes before every screen, since it is
 * asked for only once its texts are there: it leaves the first screen 65 requests, this one 24.
 */
const FOLDER = join(ROOT, 'web/dist/browser');
const SHARED_BY = 3;
/** What two screens share and is smaller than a request is worth: in one file with its like. */
const SMALL_BYTES = 16_000;
const PAGE = join(FOLDER, 'index.html');

const read = (name) => readFileSync(join(FOLDER, name), 'utf8');
const scripts = readdirSync(FOLDER).filter((name) => name.endsWith('.js'));
const main = scripts.find((name) => name.startsWith('main-'));
if (!main) throw new Error('The build wrote no main script.');

/** A script with all it imports, and what those import. */
function withImports(name, found = new Set()) {
  if (found.has(name)) return found;
  found.add(name);
  for (const [, next] of read(name).matchAll(/(?:from|import)["`]\.\/([^"`]+\.js)["`]/g))
    withImports(next, found);
  return found;
}
const before = withImports(main);
const asked = [...read(main).matchAll(/import\("\.\/([^"]+\.js)"\)/g)].map(([, name]) => name);
if (asked.length === 0) throw new Error('The app’s own script is not to be found.');
const app = new Set(
  asked.flatMap((name) => [...withImports(name)]).filter((name) => !before.has(name)),
);

const used = new Set();
const bundle = await rolldown({
  input: main,
  preserveEntrySignatures: 'allow-extension',
  plugins: [
    {
      name: 'as-built',
      resolveId: (source) => {
        const name = source.replace(/^\.\//, '');
        return scripts.includes(name) ? name : { id: source, external: true };
      },
      load: (name) => {
        used.add(name);
        return read(name);
      },
    },
  ],
});
const { output } = await bundle.generate({
  minify: { mangle: false, compress: false },
  entryFileNames: main,
  chunkFileNames: ({ name }) => `${name.replace(/-[a-zA-Z0-9]{8}$/, '')}-[hash].js`,
  codeSplitting: {
    // The app must not run before its texts are there: what both need stays apart from it.
    includeDependenciesRecursively: false,
    groups: [
      { name: 'start', test: (name) => name !== main && before.has(name), priority: 3 },
      { name: 'app', test: (name) => app.has(name), priority: 2 },
      { name: 'shared', minShareCount: SHARED_BY, priority: 1 },
      { name: 'small', minShareCount: 2, maxModuleSize: SMALL_BYTES },
    ],
  },
});
await bundle.close();
for (const name of used) rmSync(join(FOLDER, name));
for (const { fileName, code } of output) writeFileSync(join(FOLDER, fileName), code);

// The page asks at once for what main imports, and for the app, whatever the language.
const appAsBuilt = output.find(({ fileName }) => fileName.startsWith('app-'))?.fileName;
if (withImports(main).has(appAsBuilt))
  throw new Error('The app would run before its texts are there.');
const early = [...withImports(main), appAsBuilt].filter((name) => name && name !== main);
const startsWith = new Set([...withImports(main), ...(appAsBuilt ? withImports(appAsBuilt) : [])]);
const page = readFileSync(PAGE, 'utf8').replace(/<link rel="modulepreload"[^>]*>/g, '');
const links = early.map((name) => `<link rel="modulepreload" href="${name}">`).join('');
writeFileSync(PAGE, page.replace('</head>', `${links}</head>`));

// The server tells the browser at once what each screen needs beside them: its address in the routes, and its script.
const SCREEN = /path:[`"]([^`"]+)[`"],loadComponent:\(\)=>import\([`"]\.\/([^`"]+)[`"]\)/g;
const screens = [...startsWith].flatMap((name) => [...read(name).matchAll(SCREEN)]);
if (screens.length === 0) throw new Error('The app’s routes are not to be found.');
const needs = screens.map(([, path, script]) => [
  `/${path}`,
  [...withImports(script)].filter((name) => !startsWith.has(name)),
]);
writeFileSync(join(FOLDER, 'screen-scripts.json'), JSON.stringify(Object.fromEntries(needs)));

// What a screen starts with is nearly all called while it starts: the browser is told to compile it whole, beside the
// page, instead of each function as it is first called, in the page's own time (a quarter of the first paint).
const COMPILE_WHOLE = '//# allFunctionsCalledOnLoad\n';
for (const name of new Set([...startsWith, ...needs.flatMap(([, scripts]) => scripts)]))
  writeFileSync(join(FOLDER, name), COMPILE_WHOLE + read(name));
