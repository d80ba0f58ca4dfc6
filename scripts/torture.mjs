import { spawn } from 'node:child_process';
import { createRequire } from 'node:module';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { build, install, ROOT, say } from './workspace.mjs';

/**
 * `npm run torture [-- short]`: kills, floods and fights over a server on this machine's loopback. Nothing here is part
 * of `npm test` but the short form; docs/reliability.md holds the figures of a run.
 */
const SHORT = process.argv[2] === 'short';
/** Later is a fault. Among the tests other work may hold the machine: there only an answer that never comes is one. */
const PATIENCE_MS = SHORT ? 30_000 : 2000;
const KILLS = Number(process.env['KILLS'] ?? (SHORT ? 5 : 200));
const MALFORMED = SHORT ? 20 : 300;
const CLIENT_SECONDS = Number(process.env['LOAD_S'] ?? (SHORT ? 5 : 60));
const LANES = 6;
const CLIENTS = 20;
if (!process.env['BUILT']) {
  await install();
  build();
}
const fc = (await import(createRequire(join(ROOT, 'core', 'package.json')).resolve('fast-check')))
  .default;
const { ROUTES } = await import('../contract/dist/index.js');
const { Connection } = await import('../server/dist/db/connection.js');
const { walk } = await import('../server/dist/record/chain.js');
const { SPECS } = await import('../server/dist/demo/specs.js');
const folder = mkdtempSync(join(tmpdir(), 'tally-stone-torture-'));
const file = join(folder, 'tally-stone.sqlite');
let failures = 0;
const expectNone = (count, words) => {
  console.log(`  ${count === 0 ? 'ok' : 'FAILED'}: ${count} ${words}`);
  if (count > 0) failures += 1;
};

/** A UUIDv7 for a command. */
const id = () => {
  const time = Date.now().toString(16).padStart(12, '0');
  const rest = randomUUID().slice(15);
  return `${time.slice(0, 8)}-${time.slice(8)}-7${rest.slice(0, 3)}-${rest.slice(4)}`.slice(0, 36);
};

async function start() {
  const child = spawn(
    process.execPath,
    [join(ROOT, 'server/dist/main.js'), '--data', folder, '--empty'],
    {
      env: { ...process.env, PORT: '0', BACKUPS: join(folder, 'backups') },
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  );
  let out = '';
  const address = await new Promise((resolve, reject) => {
    const look = (part) => {
      out += part;
      const found = /ready: (http\S+)/.exec(out);
      if (found) resolve(found[1]);
    };
    child.stdout.on('data', look);
    child.stderr.on('data', look);
    child.once('exit', () => reject(new Error(out)));
  });
  return { child, address, ended: new Promise((resolve) => child.once('exit', resolve)) };
}

const post = (address, path, body) =>
  fetch(`${address}${path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: typeof body === 'string' ? body : JSON.stringify(body),
    signal: AbortSignal.timeout(5000),
  });
const personId = id();
const specId = id();
const mowerId = id();
const spindleIds = [id(), id()];
const command = (act) => ({ id: id(), personId, occurredAt: new Date().toISOString(), ...act });
const accepted = async (address, act) => {
  const sent = command(act);
  const response = await post(address, '/api/v1/commands', sent);
  return { sent, status: response.status, body: await response.json() };
};

let server = await start();
for (const act of [
  { type: 'add-person', newPersonId: personId, name: 'Ash', role: 'manager' },
  { type: 'add-spec', specId, specRevisionId: id(), figures: SPECS[0] },
  {
    type: 'add-mower',
    mowerId,
    name: 'Wagtail',
    energy: 'battery',
    site: 'Test ground',
    bladeSpeedRpm: 3100,
    hoursH: 100,
    spindles: spindleIds.map((spindleId, i) => ({ spindleId, position: `s${i}` })),
  },
]) {
  const { status, body } = await accepted(server.address, act);
  if (status !== 200) throw new Error(JSON.stringify(body));
}

say(`${KILLS} SIGKILLs at random moments under ${LANES} writing lanes`);
const acknowledged = [];
for (let kill = 0; kill < KILLS; kill++) {
  let going = true;
  const lanes = Array.from({ length: LANES }, async () => {
    while (going) {
      try {
        const { sent, status } = await accepted(server.address, {
          type: 'register-blades',
          specId,
          count: 1,
        });
        if (status === 200) acknowledged.push(sent.id);
      } catch {
        return;
      }
    }
  });
  await new Promise((later) => setTimeout(later, 40 + Math.random() * 260));
  server.child.kill('SIGKILL');
  await server.ended;
  going = false;
  await Promise.all(lanes);
  server = await start();
}
{
  const connection = new Connection(file);
  const [rows] = await connection.sequelize.query('SELECT id FROM command');
  const stored = rows.map((row) => row.id);
  const kept = new Set(stored);
  expectNone(
    acknowledged.filter((each) => !kept.has(each)).length,
    `of ${acknowledged.length} acknowledged commands lost`,
  );
  expectNone(stored.length - kept.size, 'doubled');
  const [blades] = await connection.sequelize.query('SELECT count(*) AS n FROM blade');
  const [registered] = await connection.sequelize.query(
    `SELECT count(*) AS n FROM command WHERE type = 'register-blades'`,
  );
  expectNone(Math.abs(blades[0].n - registered[0].n), 'blades more or fewer than commands');
  const [check] = await connection.sequelize.query('PRAGMA integrity_check');
  expectNone(check[0].integrity_check === 'ok' ? 0 : 1, 'integrity check that is not ok');
  const { broken, entries } = await walk(connection);
  expectNone(broken ? 1 : 0, `break in the chain of ${entries} entries ${broken ?? ''}`);
  await connection.close();
}

say(`${MALFORMED} malformed requests to each route, made from its schemas`);
{
  const odd = fc.oneof(
    fc.constantFrom(
      null,
      '',
      'x',
      0,
      -1,
      1e308,
      -1e308,
      1e-320,
      true,
      [],
      {},
      '\u0000',
      '\u200b',
      '9'.repeat(400),
      id(),
    ),
    fc.double(),
    fc.string({ unit: 'binary', maxLength: 60 }),
    fc.jsonValue({ maxDepth: 3 }),
  );
  /** What a schema asks for, with something wrong somewhere. */
  const near = (schema, depth = 0) => {
    const def = schema?.def ?? schema?._zod?.def;
    if (!def || depth > 4) return odd;
    switch (def.type) {
      case 'object':
        return fc.oneof(
          {
            weight: 8,
            arbitrary: fc.record(
              Object.fromEntries(
                Object.entries(schema.shape).map(([key, each]) => [
                  key,
                  fc.oneof(
                    { weight: 4, arbitrary: near(each, depth + 1) },
                    { weight: 1, arbitrary: odd },
                  ),
                ]),
              ),
              { requiredKeys: [] },
            ),
          },
          { weight: 1, arbitrary: odd },
        );
      case 'union':
        return fc.oneof(...def.options.map((each) => near(each, depth + 1)));
      case 'array':
        return fc.array(near(def.element, depth + 1), { maxLength: 4 });
      case 'optional':
      case 'nullable':
      case 'default':
        return fc.oneof(near(def.innerType, depth + 1), odd);
      case 'literal':
        return fc.constantFrom(...def.values);
      case 'enum':
        return fc.constantFrom(...Object.values(def.entries));
      case 'number':
        return fc.oneof(fc.double(), fc.integer({ min: -5, max: 2000 }));
      case 'boolean':
        return fc.boolean();
      case 'string':
        return fc.oneof(
          fc.constantFrom(id(), personId, specId, mowerId, ...spindleIds, new Date().toISOString()),
          fc.string({ maxLength: 30 }),
        );
      default:
        return odd;
    }
  };
  /** What goes into an address; some odd things cannot be written as text. */
  const asText = (each) => {
    try {
      return String(each).toWellFormed();
    } catch {
      return '[odd]';
    }
  };
  const counts = { asked: 0, faults: 0, hangs: 0, unnamed: 0 };
  const faults = [];
  for (const [name, route] of Object.entries(ROUTES)) {
    const cases = fc.sample(
      fc.record({
        params: near(route.params),
        query: near(route.query),
        body: route.body ? near(route.body) : fc.constant(undefined),
      }),
      // The short form asks the same each time: it is part of the tests.
      { numRuns: MALFORMED, ...(SHORT ? { seed: 1 } : {}) },
    );
    for (const { params, query, body } of cases) {
      const path = route.path.replace(/:(\w+)/g, (_all, key) =>
        encodeURIComponent(asText(params?.[key] ?? 'x')).slice(0, 300),
      );
      const text = Object.entries(
        typeof query === 'object' && query && !Array.isArray(query) ? query : {},
      )
        .map(
          ([key, each]) =>
            `${encodeURIComponent(key.toWellFormed())}=${encodeURIComponent(asText(each)).slice(0, 300)}`,
        )
        .join('&');
      counts.asked += 1;
      try {
        const response = await fetch(`${server.address}${path}${text ? `?${text}` : ''}`, {
          method: route.method.toUpperCase(),
          headers: body === undefined ? {} : { 'Content-Type': 'application/json' },
          ...(body === undefined ? {} : { body: JSON.stringify(body) ?? 'undefined' }),
          signal: AbortSignal.timeout(PATIENCE_MS),
        });
        const answer = await response.text();
        if (response.status >= 500) {
          counts.faults += 1;
          if (faults.length < 5)
            faults.push(
              `${name} ${response.status} ${answer.slice(0, 160)} ${JSON.stringify(body)?.slice(0, 200)}`,
            );
        }
        if (response.status === 422 && !JSON.parse(answer).errors?.[0]?.field) counts.unnamed += 1;
      } catch (error) {
        if (error.name === 'TimeoutError') counts.hangs += 1;
      }
    }
  }
  console.log(`  ${counts.asked} requests to ${Object.keys(ROUTES).length} routes`);
  expectNone(counts.faults, 'answers of 500 or more');
  for (const words of faults) console.log(`    ${words}`);
  expectNone(counts.hangs, `answers later than ${PATIENCE_MS / 1000} s`);
  expectNone(counts.unnamed, 'refusals of a field that name none');
}

say(`${CLIENTS} clients that fight over one blade, ${CLIENTS} times`);
{
  const { body } = await accepted(server.address, {
    type: 'register-blades',
    specId,
    count: CLIENTS,
  });
  let notOne = 0;
  for (const { bladeId } of body.blades ?? []) {
    const answers = await Promise.all(
      Array.from({ length: CLIENTS }, () =>
        accepted(server.address, { type: 'open-cycle', cycleId: id(), bladeId }),
      ),
    );
    if (answers.filter(({ status }) => status === 200).length !== 1) notOne += 1;
  }
  expectNone((body.blades ?? []).length === CLIENTS ? 0 : 1, 'fights that did not take place');
  expectNone(notOne, 'blades taken up by none, or by more than one');
  const connection = new Connection(file);
  const [rows] = await connection.sequelize.query(
    'SELECT spindleId, count(*) AS n FROM fit WHERE "to" IS NULL GROUP BY spindleId HAVING n > 1',
  );
  const [both] = await connection.sequelize.query(
    'SELECT bladeId, count(*) AS n FROM fit WHERE "to" IS NULL GROUP BY bladeId HAVING n > 1',
  );
  const [foreign] = await connection.sequelize.query('PRAGMA foreign_key_check');
  const [opened] = await connection.sequelize.query(
    'SELECT bladeId FROM cycle WHERE signedAt IS NULL GROUP BY bladeId HAVING count(*) > 1',
  );
  await connection.close();
  expectNone(opened.length, 'blades with two open cycles');
  expectNone(rows.length, 'spindles with two blades');
  expectNone(both.length, 'blades on two spindles');
  expectNone(foreign.length, 'rows that belong to nothing');
}

say(`${CLIENTS} clients for ${CLIENT_SECONDS} s`);
{
  const took = { views: [], commands: [] };
  const memory = () =>
    Number(
      /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.child.pid}/status`, 'utf8'))?.[1] ?? 0,
    ) / 1024;
  const marks = [memory()];
  const watch = globalThis.setInterval(
    () => marks.push(memory()),
    Math.max(2000, (CLIENT_SECONDS * 1000) / 10),
  );
  // Every client listens, as every open screen does.
  const away = new globalThis.AbortController();
  for (let i = 0; i < CLIENTS; i++) {
    void fetch(`${server.address}/api/v1/events`, { signal: away.signal })
      .then(async ({ body }) => {
        const stream = body.getReader();
        while (!(await stream.read()).done && !away.signal.aborted);
      })
      .catch(() => undefined);
  }
  const until = performance.now() + CLIENT_SECONDS * 1000;
  const paths = [
    '/api/v1/bench',
    '/api/v1/rack',
    '/api/v1/fleet',
    '/api/v1/register',
    '/api/v1/people',
  ];
  await Promise.all(
    Array.from({ length: CLIENTS }, async (_, i) => {
      for (let n = 0; performance.now() < until; n++) {
        const began = performance.now();
        if (n % 4 === 3) {
          await accepted(server.address, { type: 'read-hours', mowerId, hoursH: 100 });
          took.commands.push(performance.now() - began);
        } else {
          await (await fetch(`${server.address}${paths[(i + n) % paths.length]}`)).text();
          took.views.push(performance.now() - began);
        }
        // As fast as people tap, not as fast as a loop runs.
        await new Promise((later) => setTimeout(later, 200 + 300 * Math.random()));
      }
    }),
  );
  globalThis.clearInterval(watch);
  away.abort();
  marks.push(memory());
  const p95 = (all) => [...all].sort((a, b) => a - b)[Math.floor(0.95 * all.length)] ?? 0;
  console.log(
    `  ${took.views.length} views p95 ${p95(took.views).toFixed(0)} ms, ${took.commands.length} commands p95 ${p95(took.commands).toFixed(0)} ms; memory, a tenth of the time apart: ${marks.map((each) => each.toFixed(0)).join(' ')} MB`,
  );
}
server.child.kill('SIGTERM');
await server.ended;
if (!SHORT) {
  say(`${CLIENTS} browsers for 60 s`);
  const { browsersAtOnce } = await import('./torture-browsers.mjs');
  expectNone(await browsersAtOnce(CLIENTS, 60, command), 'answers refused or broken');
}
rmSync(folder, { recursive: true, force: true });
console.log(
  `\n${failures === 0 ? 'All held' : `${failures} did not hold`}, on ${cpus().length} processors (${cpus()[0]?.model}), ${Math.round(totalmem() / 2 ** 30)} GB, Node ${process.versions.node}, ${new Date().toISOString().slice(0, 10)}.`,
);
process.exit(failures === 0 ? 0 : 1);
