import { existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { firstScreenBytes, FIRST_SCREEN_LIMIT } from './first-screen.mjs';
import { codesSaid } from './codes-said.mjs';
import { SPANISH, textsAmiss, textsSaid } from './texts.mjs';
import {
  buildServer,
  buildWeb,
  chromium,
  installBeside,
  madeDemo,
  NG,
  ROOT,
  run,
  runBeside,
  say,
  tscBeside,
} from './workspace.mjs';

/** Everything a fresh machine needs, then lint, unit tests of every room, the size check, and e2e. */
const started = Date.now();
const browser = chromium();
const { driver } = await installBeside();
const scratch = mkdtempSync(join(tmpdir(), 'tally-stone-test-'));
const tally = [];

/** Adds a suite's result; one that ran no test has failed. */
function add(name, file, succeeded) {
  const found =
    existsSync(file) && statSync(file).size > 0 ? JSON.parse(readFileSync(file, 'utf8')) : {};
  const { passed = 0, failed = 0, failures = [] } = found;
  const broken = passed + failed === 0 || (!succeeded && failed === 0);
  tally.push({ name, passed, failed: failed + (broken ? 1 : 0), failures });
}

function check(name, passed) {
  tally.push({ name, passed: passed ? 1 : 0, failed: passed ? 0 : 1 });
}

/**
 * How each room's specs are run: in which zone the machine stands (shop days must not depend on it; the screen
 * tests stand in UTC), and in how many parts side by side. Every spec has a folder and a port of its own.
 */
const UNIT_RUNS = [
  { room: 'server', zone: 'Pacific/Auckland', parts: 2 },
  { room: 'core', zone: 'UTC', parts: 1 },
  { room: 'contract', zone: 'Pacific/Auckland', parts: 1 },
  { room: 'cycle', zone: 'UTC', parts: 1 },
];

say('Lint and formatting, beside the build');
const clean = Promise.all([
  runBeside(process.execPath, ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']),
  runBeside(process.execPath, [
    'node_modules/prettier/bin/prettier.cjs',
    '--check',
    '--log-level',
    'warn',
    '.',
  ]),
]);
buildServer();

/** A room's specs, compiled; false where they do not compile, which is told. */
async function compiled(room) {
  rmSync(join(ROOT, room, 'spec-out'), { recursive: true, force: true });
  const done = await tscBeside('-p', `${room}/tsconfig.spec.json`);
  if (!done) check(`${room} specs compile`, false);
  return done;
}
// They go on while the web app is built and the driver compiled, and use the core that would wait.
const specs = Object.fromEntries(UNIT_RUNS.map(({ room }) => [room, compiled(room)]));
buildWeb();
const [linted, formatted] = await clean;
await driver;
const chrome = await browser;
check('eslint', linted);
check('prettier', formatted);

async function unitTests() {
  say('Unit tests: server, core, contract and cycle');
  const ready = [];
  for (const each of UNIT_RUNS) if (await specs[each.room]) ready.push(each);
  const runs = ready.flatMap((each) =>
    Array.from({ length: each.parts }, (_, i) => ({
      ...each,
      part: i + 1,
      file: join(scratch, `${each.room}-${i + 1}.json`),
    })),
  );
  const went = await Promise.all(
    runs.map(({ room, zone, part, parts, file }) =>
      runBeside(process.execPath, ['scripts/run-jasmine.mjs', room, file, `${part}/${parts}`], {
        env: { ...process.env, TZ: zone },
      }),
    ),
  );
  runs.forEach(({ room, zone, part, parts, file }, i) =>
    add(`${room} (${zone}${parts > 1 ? `, part ${part} of ${parts}` : ''})`, file, went[i]),
  );
}
await unitTests();

// The demo of the screen tests is made meanwhile, the way a first start makes it.
const demo = madeDemo(join(scratch, 'demo')).catch((error) => {
  console.error(error);
  return undefined;
});

// So is a short form of `npm run torture`.
const tortured = runBeside(process.execPath, ['scripts/torture.mjs', 'short'], {
  env: { ...process.env, BUILT: '1' },
});

say('Unit tests: web');
const webFile = join(scratch, 'web.json');
const webOk = await runBeside(process.execPath, [NG, 'test', '--no-watch', '--progress=false'], {
  env: { ...process.env, CHROME_BIN: chrome, TALLY_RESULTS: webFile, TZ: 'America/St_Johns' },
});
add('web', webFile, webOk);
check('short torture', await tortured);

say('Texts');
const amiss = textsAmiss(textsSaid(), JSON.parse(readFileSync(SPANISH, 'utf8')).translations);
for (const line of amiss) console.log(line);
check('every text in Spanish', amiss.length === 0);
const codes = await codesSaid();
for (const line of codes) console.log(line);
check('every code in words', codes.length === 0);

say('First screen');
const bytes = firstScreenBytes();
console.log(
  `${(bytes / 1000).toFixed(0)} kB of JavaScript, compressed (limit ${FIRST_SCREEN_LIMIT / 1000} kB)`,
);
check('first screen size', bytes < FIRST_SCREEN_LIMIT);

say('End to end');
const e2eFile = join(scratch, 'e2e.json');
const demoFolder = await demo;
check('demo shop', demoFolder !== undefined);
if (demoFolder) {
  const e2eOk = run(
    process.execPath,
    ['node_modules/@playwright/test/cli.js', 'test', '-c', 'e2e/playwright.config.ts'],
    {
      env: { ...process.env, CHROME_BIN: chrome, TALLY_RESULTS: e2eFile, TALLY_DEMO: demoFolder },
    },
  );
  add('e2e', e2eFile, e2eOk);
}

rmSync(scratch, { recursive: true, force: true });
const total = (key) => tally.reduce((sum, suite) => sum + suite[key], 0);
say(`All suites, ${Math.round((Date.now() - started) / 1000)} s`);
for (const { name, passed, failed } of tally)
  console.log(`${name}: ${passed} passed, ${failed} failed`);
// Said again at the end: the middle of a long record is the first to be cut.
for (const { name, failures = [] } of tally)
  for (const failure of failures)
    console.log(`\n${name}: ${failure.name}\n${failure.words.slice(0, 1500)}`);
console.log('');
console.log(`${total('passed')} passed, ${total('failed')} failed`);
process.exitCode = total('failed') === 0 ? 0 : 1;
