import { execFileSync, spawnSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  rmSync,
  symlinkSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT, say } from './workspace.mjs';

/**
 * `npm run bench -- COMMIT`, or `node scripts/bench-server.mjs [COMMIT]`: the server beside the same server of another commit, turn by turn in one run:
 * making the demo shop, the server's time for a command, lines a room. For reading; nothing fails here.
 */
const COMMIT = process.argv[2] ?? 'HEAD^';
const ROOMS = ['core', 'contract', 'cycle', 'server', 'web', 'scripts'];
const TURNS = 3;

const git = (...args) => execFileSync('git', args, { cwd: ROOT, encoding: 'utf8' });

/** Lines of code without tests, as `git` has them in a commit. */
function linesOf(commit) {
  const isCode = (file) =>
    /\.(ts|html|scss|mjs)$/.test(file) && !/\.spec\.ts$|\/testing\/|\/bench\//.test(file);
  return Object.fromEntries(
    ROOMS.map((room) => {
      const files = git('ls-tree', '-r', '--name-only', commit, room).split('\n').filter(isCode);
      const lines = files.map((file) => git('show', `${commit}:${file}`).split('\n').length - 1);
      return [room, lines.reduce((sum, each) => sum + each, 0)];
    }),
  );
}

/** Another commit, built beside this one on the same packages. */
function checkedOut(commit) {
  const folder = mkdtempSync(join(tmpdir(), 'tally-stone-before-'));
  git('worktree', 'add', '--detach', '--force', folder, commit);
  mkdirSync(join(folder, 'node_modules/@tally-stone'), { recursive: true });
  for (const name of readdirSync(join(ROOT, 'node_modules')))
    if (name !== '@tally-stone')
      symlinkSync(join(ROOT, 'node_modules', name), join(folder, 'node_modules', name));
  for (const room of ROOMS.filter((name) => existsSync(join(folder, name))))
    symlinkSync(join(folder, room), join(folder, 'node_modules/@tally-stone', room));
  const rooms = ['core', 'contract', 'cycle', 'server'].filter((name) =>
    existsSync(join(folder, name)),
  );
  const built = spawnSync('node_modules/.bin/tsc', ['-b', ...rooms], {
    cwd: folder,
    stdio: 'inherit',
  });
  if (built.status !== 0) throw new Error(`${commit} does not build`);
  return folder;
}

/** What each of the two is asked to do, in a process of its own: make the demo shop; then read at the bench. */
const MEASURE = `
  const [root, folder, forgetful] = process.argv.slice(1);
  const fs = await import('node:fs');
  const path = fs.existsSync(root + '/server/dist/database.js') ? '/server/dist/' : '/server/dist/db/';
  const { openDatabase } = await import(root + path + 'database.js');
  const { generateDemo } = await import(root + '/server/dist/demo/generate.js');
  const { CommandService } = await import(root + '/server/dist/commands/service.js');
  if (forgetful === 'forgetful') {
    const { Kept } = await import(root + '/server/dist/db/kept.js');
    Kept.prototype.of = (question, work) => work();
    Kept.prototype.known = () => undefined;
  }
  const file = folder + '/shop.sqlite';
  let start = performance.now();
  let demoS;
  if (!fs.existsSync(file)) {
    const made = await openDatabase(file, 'throwaway');
    await generateDemo(made);
    demoS = (performance.now() - start) / 1000;
    await made.connection.close();
  }
  const database = await openDatabase(file);
  const ask = (sql) => database.connection.sequelize.query(sql, { type: 'SELECT' });
  const [{ id: personId }] = await ask("SELECT id FROM person LIMIT 1");
  const blades = await ask("SELECT id FROM blade WHERE state = 'waiting' LIMIT 12");
  const service = new CommandService(database);
  const { v7 } = await import(root + '/node_modules/uuid/dist-node/index.js');
  const times = [];
  for (const { id: bladeId } of blades) {
    const cycleId = v7();
    let revision = 0;
    const send = async (act) => {
      const command = { id: v7(), personId, occurredAt: new Date().toISOString(), cycleId, ...act };
      if (act.type !== 'open-cycle') command.expectedRevision = revision;
      const from = performance.now();
      const answer = await service.accept(command);
      times.push(performance.now() - from);
      revision = answer.revision ?? revision;
    };
    await send({ type: 'open-cycle', bladeId });
    await send({ type: 'clean', done: true });
    await send({ type: 'judge-crack', found: false });
    for (let i = 0; i < 20; i++)
      await send({ type: 'take-reading', readingId: v7(), repeat: false, place: { phase: 'before', quantity: 'mass' },
        entered: { text: String(1500 + i), unit: 'g' } });
  }
  await database.connection.close();
  times.sort((a, b) => a - b);
  const at = (share) => times[Math.floor(share * times.length)];
  console.log(JSON.stringify({ demoS, commands: times.length, p50: at(0.5), p95: at(0.95) }));
`;

function measured(root, folder, forgetful = '') {
  const { stdout, status, stderr } = spawnSync(
    process.execPath,
    ['--input-type=module', '-e', MEASURE, root, folder, forgetful],
    { encoding: 'utf8' },
  );
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout.trim().split('\n').at(-1));
}

const middle = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

const before = checkedOut(COMMIT);
const folders = [];
try {
  const runs = { before: [], now: [], 'now, nothing kept': [] };
  for (let turn = 0; turn < TURNS; turn++) {
    say(`Turn ${turn + 1} of ${TURNS} …`);
    for (const [name, root] of [
      ['before', before],
      ['now', ROOT],
    ]) {
      const folder = mkdtempSync(join(tmpdir(), 'tally-stone-bench-'));
      folders.push(folder);
      runs[name].push(measured(root, folder));
    }
    const copy = mkdtempSync(join(tmpdir(), 'tally-stone-bench-'));
    folders.push(copy);
    cpSync(folders.at(-2), copy, { recursive: true });
    runs['now, nothing kept'].push(measured(ROOT, copy, 'forgetful'));
  }
  for (const [name, of] of Object.entries(runs)) {
    const demo = middle(of.map(({ demoS }) => demoS ?? 0));
    const [p50, p95] = [middle(of.map((run) => run.p50)), middle(of.map((run) => run.p95))];
    console.log(
      `${name.padEnd(20)} ${demo ? `demo ${demo.toFixed(1)} s, ` : ''}a command p50 ${p50.toFixed(1)} ms, p95 ${p95.toFixed(1)} ms (${of[0].commands} commands, power-safe)`,
    );
  }
  const [was, is] = [linesOf(COMMIT), linesOf('HEAD')];
  const total = (lines) => Object.values(lines).reduce((sum, each) => sum + each, 0);
  for (const room of ROOMS) console.log(`${room.padEnd(20)} ${was[room]} lines, now ${is[room]}`);
  console.log(`${'all'.padEnd(20)} ${total(was)} lines, now ${total(is)}`);
} finally {
  git('worktree', 'remove', '--force', before);
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
}
