import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { spawn, spawnSync } from 'node:child_process';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** What both commands share: is the machine fit, are the packages there, is the build fresh. Node only. */
export const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const STAMPS = join(ROOT, '.stamps');
const bin = (...path) => join(ROOT, 'node_modules', ...path);

/** Says what comes next, and how long this has been going. */
export const say = (words) =>
  console.log(`\n— ${words} (${Math.round(performance.now() / 1000)} s)`);

/** Runs a command with its output on screen; true when it succeeded. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  if (error) console.error(error.message);
  return status === 0;
}

/** Runs a command beside others; resolves with whether it succeeded. */
export const runBeside = (command, args, options = {}) =>
  new Promise((resolve) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
    child.once('error', (error) => {
      console.error(error.message);
      resolve(false);
    });
    child.once('exit', (status) => resolve(status === 0));
  });

const onPath = (name) => spawnSync('sh', ['-c', `command -v ${name}`]).status === 0;

function stop(words) {
  console.error(`\n${words}`);
  process.exit(1);
}

function checkNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  const fit = (major === 20 && minor >= 19) || (major === 22 && minor >= 12) || major >= 24;
  if (!fit)
    stop(
      `Node ${process.versions.node} is too old or of an odd kind: install Node 20.20 or newer.`,
    );
}

/** sqlite3 has no prebuilt binary for every machine: its compile needs these three. */
function checkCompiler() {
  const missing = [
    ['python3', ['python3', 'python']],
    ['make', ['make', 'gmake']],
    ['a C++ compiler', ['g++', 'c++', 'clang++']],
  ].filter(([, names]) => !names.some(onPath));
  if (missing.length === 0) return;
  stop(
    `The database driver is compiled on this machine and needs ${missing.map(([name]) => name).join(', ')}.\n` +
      'On Debian or Ubuntu: apt-get install -y python3 make g++\n' +
      'On Fedora: dnf install python3 make gcc-c++. On macOS: xcode-select --install',
  );
}

const SKIPPED = new Set(['node_modules', 'dist', 'spec-out', '.angular', '.stamps', '.git']);

function* filesUnder(path) {
  for (const entry of readdirSync(path, { withFileTypes: true }).sort((a, b) =>
    a.name < b.name ? -1 : 1,
  )) {
    if (SKIPPED.has(entry.name)) continue;
    const child = join(path, entry.name);
    if (entry.isDirectory()) yield* filesUnder(child);
    else yield child;
  }
}

function hashOf(paths) {
  const hash = createHash('sha256').update(process.version);
  for (const path of paths) {
    const full = join(ROOT, path);
    const files = path.includes('.') ? [full] : [...filesUnder(full)];
    for (const file of files) hash.update(file).update(readFileSync(file));
  }
  return hash.digest('hex');
}

/** Runs `work` unless it was done for the very same inputs and its outputs still stand. */
function unlessFresh(name, inputs, outputs, work) {
  const stamp = join(STAMPS, name);
  const hash = hashOf(inputs);
  const fresh =
    existsSync(stamp) &&
    readFileSync(stamp, 'utf8') === hash &&
    outputs.every((output) => existsSync(join(ROOT, output)));
  if (fresh) return;
  if (!work()) stop(`${name} did not succeed; see above.`);
  mkdirSync(STAMPS, { recursive: true });
  writeFileSync(stamp, hash);
}

const PACKAGES = [
  'package.json',
  ...['core', 'contract', 'cycle', 'server', 'web', 'e2e'].map((room) => `${room}/package.json`),
];

/** Compiled on this machine: for some there is no prebuilt one. */
const DRIVER = 'node_modules/sqlite3/build/Release/node_sqlite3.node';

function packages() {
  checkNode();
  unlessFresh(
    'install',
    [...PACKAGES, 'package-lock.json'],
    ['node_modules/.package-lock.json'],
    () => {
      checkCompiler();
      say('Installing packages');
      return run('npm', ['ci', '--no-audit', '--no-fund', '--ignore-scripts'], {
        env: { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' },
      });
    },
  );
}

/** Installs the packages, and gives the compiling of the database driver, which goes on beside what follows. */
export async function installBeside() {
  packages();
  if (existsSync(join(ROOT, DRIVER))) return { driver: Promise.resolve() };
  checkCompiler();
  say('Compiling the database driver beside what follows; that takes a few minutes, once');
  const compiled = runBeside('npm', ['rebuild', 'sqlite3'], {
    env: { ...process.env, JOBS: '2' },
  });
  return {
    driver: compiled.then((done) => {
      if (!done || !existsSync(join(ROOT, DRIVER)))
        stop('The database driver did not compile; see above.');
    }),
  };
}

export async function install() {
  await (
    await installBeside()
  ).driver;
}

const TSC = bin('typescript/bin/tsc');
export const tsc = (...args) => run(process.execPath, [TSC, ...args]);
export const tscBeside = (...args) => runBeside(process.execPath, [TSC, ...args]);
export const NG = bin('@angular/cli/bin/ng.js');
export const ng = (args, options) => run(process.execPath, [NG, ...args], options);

const BASE = ['tsconfig.base.json', 'package-lock.json'];

/** Compiles core, contract, cycle and server, and builds the web app, where their sources changed. */
export function build() {
  buildServer();
  buildWeb();
}

export function buildServer() {
  unlessFresh(
    'build-server',
    [...BASE, 'core/src', 'contract/src', 'cycle/src', 'server/src'],
    ['server/dist/main.js', 'core/dist/index.js'],
    () => {
      say('Compiling core, contract, cycle and server …');
      return tsc('-b', 'core', 'contract', 'cycle', 'server');
    },
  );
}

export function buildWeb() {
  unlessFresh(
    'build-web',
    [
      ...BASE,
      'angular.json',
      'web/tsconfig.app.json',
      'web/public',
      'core/src',
      'contract/src',
      'contract/texts',
      'cycle/src',
      'web/src',
      'scripts/chunks.mjs',
      'scripts/service-worker.mjs',
    ],
    ['web/dist/browser/index.html', 'web/dist/browser/service-worker.js'],
    () => {
      say('Building the web app …');
      // In processes of their own: their packages may not be installed when this file is read.
      return (
        ng(['build', '--progress=false']) &&
        run(process.execPath, ['scripts/chunks.mjs']) &&
        run(process.execPath, ['scripts/service-worker.mjs'])
      );
    },
  );
}

const chromiumHere = () =>
  [
    process.env.CHROME_BIN,
    // Made to be driven: a fifth less work than the one with windows. Not by its script in /usr/bin, which does not
    // pass on that it is to end.
    '/usr/lib/chromium/chromium-headless-shell',
    '/usr/bin/chromium',
    '/usr/bin/chromium-browser',
    '/usr/bin/google-chrome',
  ].find((path) => path && existsSync(path));

/** Where Chromium will be, installing Debian's beside what follows where there is none and this machine lets us. */
export async function chromium() {
  const found = chromiumHere();
  if (found) return found;
  say('Installing Chromium beside what follows');
  const apt = process.getuid?.() === 0 ? 'apt-get -qq' : 'sudo -n apt-get -qq';
  const get = `${apt} install -y --no-install-recommends`;
  // In one go: what runs beside may hold this process from beginning the next command.
  if (onPath('apt-get'))
    await runBeside('sh', [
      '-c',
      `${apt} update && (${get} chromium-headless-shell || ${get} chromium)`,
    ]);
  return (
    chromiumHere() ?? stop('The tests need Chromium: install it, or set CHROME_BIN to where it is.')
  );
}

/** Makes a demo shop in a folder, as a first start does, and stops; gives the folder. */
export const madeDemo = (folder) =>
  new Promise((resolve, failed) => {
    const server = spawn(process.execPath, ['server/dist/main.js', '--data', folder], {
      cwd: ROOT,
      env: { ...process.env, PORT: '0' },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    server.stdout.on('data', (chunk) => {
      if (/ready: http/.test(String(chunk))) server.kill('SIGTERM');
    });
    server.once('error', failed);
    server.once('exit', (status, signal) => {
      if (status === 0) resolve(folder);
      else failed(new Error(`The demo shop could not be made (${signal ?? `exit ${status}`}).`));
    });
  });

/** A demo shop of its own on a free port, or with `--empty` one that has nothing yet; gives its address and its process. Gone with this process, however that ends. */
export async function demoServer(...more) {
  const data = mkdtempSync(join(tmpdir(), 'tally-stone-demo-'));
  const server = spawn(process.execPath, ['server/dist/main.js', '--data', data, ...more], {
    cwd: ROOT,
    env: { ...process.env, PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  process.on('exit', () => {
    server.kill('SIGTERM');
    rmSync(data, { recursive: true, force: true });
  });
  return new Promise((resolve) => {
    server.stdout.on('data', (chunk) => {
      const ready = /ready: (http\S+)/.exec(String(chunk));
      if (ready) resolve({ address: ready[1], pid: server.pid });
    });
  });
}
