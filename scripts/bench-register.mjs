import { mkdtempSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium as playwright } from '@playwright/test';
import { build, chromium, install, ROOT, say } from './workspace.mjs';

/**
 * A large shop: 10,000 blades, 200,000 finished cycles, 400 mowers. Made with SQL inside SQLite, served by the real
 * server; each page's time at the server beside the same rows read by hand-written SQL through sqlite3 alone.
 */
const BLADES = 10_000;
const CYCLES_EACH = 20;
const MOWERS = 400;
const SPINDLES = 3;
const RUNS = 120;

await install();
build();
const require = createRequire(`${ROOT}/server/package.json`);
const sqlite3 = require('sqlite3');
const { openDatabase } = await import(`${ROOT}/server/dist/database.js`);
const { serve } = await import(`${ROOT}/server/dist/http/serve.js`);
const { registerPage } = await import(`${ROOT}/server/dist/screens/register.js`);
const { bladeLife } = await import(`${ROOT}/server/dist/screens/life.js`);
const { fleetView } = await import(`${ROOT}/server/dist/screens/fleet.js`);
const { rackView } = await import(`${ROOT}/server/dist/screens/rack.js`);
const { shopWear } = await import(`${ROOT}/server/dist/wear/shop-wear.js`);
const { RegisterQuery } = await import(require.resolve('@tally-stone/contract'));
const { SPECS } = await import(`${ROOT}/server/dist/demo/specs.js`);

const folder = mkdtempSync(join(tmpdir(), 'tally-stone-large-'));
const file = join(folder, 'large.sqlite');
const uuid = (kind, n) => `printf('%08x-0000-7000-8000-%012x', ${kind}, ${n})`;
const upTo = (n) =>
  `WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i + 1 < ${n})`;
const SPEC = SPECS[0];
const json = (value) => `'${JSON.stringify(value).replaceAll("'", "''")}'`;
const DAY = "'2020-01-01T08:00:00Z'";
/** A moment some days after the start, as the tables want it. */
const at = (days) =>
  `strftime('%Y-%m-%dT%H:%M:%SZ', '2020-01-01 08:00:00', '+' || (${days}) || ' days')`;

const FROZEN = json({
  judgement: { verdict: 'fine', findings: [] },
  removedG: { value: 6.2, u: 0.4 },
  teaches: true,
  permissibleGmm: 190,
});
/** Measured, but for where its spindles stand: sets are matched for every mower. */
const DECK = json({
  spindles: [],
  leastClearanceMm: 6,
  leastOverlapMm: 0,
  timed: false,
  stack: [],
  raising: 'front-up',
  duty: { turf: 'soft', soil: 'loam' },
});
const GENERATE = [
  `INSERT INTO person (id, name, role) SELECT ${uuid(9, 1)}, 'Bench', 'technician'`,
  `INSERT INTO spec (id, name) ${upTo(4)} SELECT ${uuid(1, 'i')}, 'Spec ' || i FROM n`,
  `INSERT INTO specRevision (id, specId, revision, figures, createdAt) ${upTo(4)}
     SELECT ${uuid(2, 'i')}, ${uuid(1, 'i')}, 1, json_set(${json(SPEC)}, '$.name', 'Spec ' || i), ${DAY} FROM n`,
  `INSERT INTO mower (id, name, energy, site) ${upTo(MOWERS)}
     SELECT ${uuid(3, 'i')}, 'Mower ' || i, 'diesel', 'Site ' || (i % 40) FROM n`,
  `INSERT INTO deck (id, mowerId, bladeSpeedRpm, figures) ${upTo(MOWERS)}
     SELECT ${uuid(4, 'i')}, ${uuid(3, 'i')}, 3100, json_set(${DECK}, '$.specId', ${uuid(1, 'i % 4')}) FROM n`,
  `INSERT INTO spindle (id, deckId, position, ordinal) ${upTo(MOWERS * SPINDLES)}
     SELECT ${uuid(5, 'i')}, ${uuid(4, `i / ${SPINDLES}`)}, 's' || (i % ${SPINDLES}), i % ${SPINDLES} FROM n`,
  `INSERT INTO hourMeterSegment (id, mowerId, "from", startReadingH, lastReadingH, carriedH) ${upTo(MOWERS)}
     SELECT ${uuid(6, 'i')}, ${uuid(3, 'i')}, ${DAY}, 0, 900, 0 FROM n`,
  `INSERT INTO deckDue (deckId, mowerId, bladesOn, fittedAt, fittedAtH, hoursH, readAt, hoursPerDay, struck, complaints)
     ${upTo(MOWERS)} SELECT ${uuid(4, 'i')}, ${uuid(3, 'i')}, ${SPINDLES}, ${at('2300')}, 880 + i % 18, 900, ${at('2310')}, 3, i % 50 = 0, 0 FROM n`,
  `INSERT INTO bladeCode (code, serial, bladeId, "from") ${upTo(BLADES)}
     SELECT printf('B%05d', i), i, ${uuid(7, 'i')}, ${DAY} FROM n`,
  ...['before', 'after'].flatMap((phase, p) => [
    ...['A', 'B'].flatMap((end, e) =>
      SPEC.stations.map(
        ({ key, radiusMm }, s) =>
          `INSERT INTO reading (id, cycleId, phase, quantity, "end", stationKey, radiusMm, value, u, resolution, enteredText, enteredUnit, source, takenAt)
       ${upTo(BLADES * CYCLES_EACH)}
       SELECT ${uuid(100 + 20 * p + 6 * e + s, 'i')}, ${uuid(8, 'i')}, '${phase}', 'width', '${end}', '${key}', ${radiusMm},
         ${SPEC.newWidthMm} - 0.5 * (i % ${CYCLES_EACH}) - ${0.3 * p} - ((i * 7919) % 100) / 500.0, 0.05, 0.1, '', 'mm', 'typed',
         ${at(`100 * (i % ${CYCLES_EACH}) + (i / ${CYCLES_EACH}) % 100`)} FROM n`,
      ),
    ),
    `INSERT INTO reading (id, cycleId, phase, quantity, value, u, resolution, enteredText, enteredUnit, source, takenAt)
       ${upTo(BLADES * CYCLES_EACH)}
       SELECT ${uuid(150 + p, 'i')}, ${uuid(8, 'i')}, '${phase}', 'mass', 1600 - 6.0 * (i % ${CYCLES_EACH}) - ${3 * p}, 0.1, 0.1, '', 'g', 'typed',
         ${at(`100 * (i % ${CYCLES_EACH}) + (i / ${CYCLES_EACH}) % 100`)} FROM n`,
  ]),
  ...['A', 'B'].map(
    (
      end,
      e,
    ) => `INSERT INTO pass (id, cycleId, "end", zone, count, countedAt) ${upTo(BLADES * CYCLES_EACH)}
     SELECT ${uuid(160 + e, 'i')}, ${uuid(8, 'i')}, '${end}', 'full', 5 + i % 4, ${DAY} FROM n`,
  ),
  `INSERT INTO balanceRound (id, cycleId, phase, device, heavyEnd, unbalanceGmm, u, takenAt) ${upTo(BLADES * CYCLES_EACH)}
     SELECT ${uuid(170, 'i')}, ${uuid(8, 'i')}, 'after', 'bearing-shaft', 'A', i % 150, 12, ${DAY} FROM n`,
  // After what is in them: a signed cycle takes nothing in, and a blade has one open cycle at the most.
  `INSERT INTO cycle (id, bladeId, specRevisionId, openedAt, openedBy, signedAt, signedBy, outcome, frozen)
     ${upTo(BLADES * CYCLES_EACH)}
     SELECT ${uuid(8, 'i')}, ${uuid(7, `i / ${CYCLES_EACH}`)}, ${uuid(2, `(i / ${CYCLES_EACH}) % 4`)},
       ${at(`100 * (i % ${CYCLES_EACH}) + (i / ${CYCLES_EACH}) % 100`)}, ${uuid(9, 1)},
       ${at(`100 * (i % ${CYCLES_EACH}) + (i / ${CYCLES_EACH}) % 100`)}, ${uuid(9, 1)}, 'ready', ${FROZEN} FROM n`,
  // Blades after their cycles and fits, since no retired blade is opened: SQLite asks nothing of order here.
  `INSERT INTO fit (id, bladeId, spindleId, "from", "to", fromHoursH, toHoursH) ${upTo(BLADES * 5)}
     SELECT ${uuid(180, 'i')}, ${uuid(7, 'i / 5')}, ${uuid(5, `(i / 5) % ${MOWERS * SPINDLES}`)},
       ${at('400 * (i % 5)')}, ${at('400 * (i % 5) + 40')}, 100 * (i % 5), 100 * (i % 5) + 30 FROM n`,
  `INSERT INTO fit (id, bladeId, spindleId, "from", fromHoursH) ${upTo(MOWERS * SPINDLES)}
     SELECT ${uuid(181, 'i')}, ${uuid(7, 'i')}, ${uuid(5, 'i')}, ${at('2300')}, 880 FROM n`,
  `INSERT INTO blade (id, specId, state, place, grinds, createdAt, waitingSince, lastLengthMm) ${upTo(BLADES)}
     SELECT ${uuid(7, 'i')}, ${uuid(1, 'i % 4')},
       CASE WHEN i < ${MOWERS * SPINDLES} THEN 'on-mower' WHEN i % 10 < 6 THEN 'ready' WHEN i % 10 < 8 THEN 'retired' ELSE 'waiting' END,
       CASE WHEN i < ${MOWERS * SPINDLES} THEN 'Mower ' || (i / ${SPINDLES}) ELSE 'Peg ' || (i % 300) END,
       ${CYCLES_EACH}, ${DAY}, CASE WHEN i % 10 >= 8 THEN ${at('2200 + i % 90')} END, 531 FROM n`,
  'ANALYZE',
];

const raw = await new Promise((done, failed) => {
  const database = new sqlite3.Database(file, (error) => (error ? failed(error) : done(database)));
});
const all = (sql) =>
  new Promise((done, failed) =>
    raw.all(sql, (error, rows) => (error ? failed(error) : done(rows))),
  );

say(
  `A large shop: ${BLADES.toLocaleString('en')} blades, ${(BLADES * CYCLES_EACH).toLocaleString('en')} cycles`,
);
const empty = await openDatabase(file, 'throwaway');
await empty.connection.close();
const start = performance.now();
await all('PRAGMA synchronous = OFF');
await all('BEGIN');
for (const statement of GENERATE) await all(statement);
await all('COMMIT');
const [{ readings }] = await all('SELECT count(*) AS readings FROM reading');
console.log(
  `  generated with ${Number(readings).toLocaleString('en')} readings in ${((performance.now() - start) / 1000).toFixed(0)} s`,
);

const database = await openDatabase(file);
const serving = await serve({
  database,
  host: '127.0.0.1',
  port: 0,
  webRoot: join(ROOT, 'web/dist/browser'),
});
const learning = performance.now();
await shopWear(database);
console.log(
  `  what the fleet says of wear, learned at the start as the server does before it answers: ${((performance.now() - learning) / 1000).toFixed(1)} s`,
);
const blade = (n) => `00000007-0000-7000-8000-${(n % BLADES).toString(16).padStart(12, '0')}`;
// The same columns as the register shows, the mower a blade is on or came off among them.
const ROW = `SELECT blade.id, bladeCode.code, spec.name, blade.state, blade.place, blade.grinds, blade.waitingSince,
    (SELECT id FROM cycle WHERE cycle.bladeId = blade.id AND signedAt IS NULL) AS cycleId,
    (SELECT mower.name || ' ' || spindle.position FROM fit JOIN spindle ON spindle.id = fit.spindleId
       JOIN deck ON deck.id = spindle.deckId JOIN mower ON mower.id = deck.mowerId
       WHERE fit.bladeId = blade.id ORDER BY fit."from" DESC LIMIT 1) AS mower
  FROM blade JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL JOIN spec ON spec.id = blade.specId`;
/** A word in what the row shows: its place, its code, or the mower it is on or came off last. */
const shows = (
  word,
) => `(blade.place LIKE '%${word}%' OR bladeCode.code LIKE '%${word}%' OR blade.id IN (
    SELECT fit.bladeId FROM fit JOIN spindle ON spindle.id = fit.spindleId JOIN deck ON deck.id = spindle.deckId
      JOIN mower ON mower.id = deck.mowerId WHERE mower.name LIKE '%${word}%' AND fit."from" =
        (SELECT max("from") FROM fit AS other WHERE other.bladeId = fit.bladeId)))`;
const ON_NOW = `SELECT fit.spindleId, blade.id, bladeCode.code, blade.specId, blade.grinds, blade.lastLengthMm FROM fit
  JOIN blade ON blade.id = fit.bladeId JOIN bladeCode ON bladeCode.bladeId = blade.id WHERE fit."to" IS NULL`;
const PAGES = [
  {
    name: 'register, first page',
    path: () => '/api/v1/register',
    work: () => registerPage(database, RegisterQuery.parse({})),
    sql: () => [
      `${ROW} ORDER BY bladeCode.serial LIMIT 100`,
      'SELECT state, count(*) FROM blade GROUP BY state',
    ],
  },
  {
    name: 'register, a search',
    path: (i) => `/api/v1/register?text=peg%20${i % 300}%20ready`,
    work: (i) => registerPage(database, RegisterQuery.parse({ text: `peg ${i % 300} ready` })),
    sql: (i) => [
      `${ROW} WHERE blade.place LIKE '%peg%' AND ${shows(i % 300)}
         AND blade.state LIKE '%ready%' ORDER BY bladeCode.serial LIMIT 100`,
      `SELECT blade.state, count(*) FROM blade JOIN bladeCode ON bladeCode.bladeId = blade.id
         WHERE blade.place LIKE '%peg%' AND ${shows(i % 300)}
         AND blade.state LIKE '%ready%' GROUP BY blade.state`,
    ],
  },
  {
    name: 'life page',
    path: (i) => `/api/v1/blades/${blade(i * 37)}`,
    work: (i) => bladeLife(database, blade(i * 37 + 11)),
    sql: (i) => {
      const cycles = `SELECT id FROM cycle WHERE bladeId = '${blade(i * 37)}'`;
      return [
        `SELECT * FROM cycle WHERE bladeId = '${blade(i * 37)}' ORDER BY openedAt`,
        ...['reading', 'pass', 'balanceRound', 'damage', 'photo', 'edgePhoto', 'correction'].map(
          (table) => `SELECT * FROM ${table} WHERE cycleId IN (${cycles})`,
        ),
        `SELECT * FROM fit WHERE bladeId = '${blade(i * 37)}'`,
        `${ROW} WHERE blade.id = '${blade(i * 37)}'`,
      ];
    },
  },
  {
    name: 'due list',
    path: () => '/api/v1/fleet',
    work: () => fleetView(database),
    sql: () => [
      'SELECT * FROM deckDue',
      'SELECT * FROM mower ORDER BY name',
      'SELECT * FROM deck',
      'SELECT * FROM spindle ORDER BY ordinal',
      'SELECT * FROM hourMeterSegment WHERE "to" IS NULL',
      ON_NOW,
    ],
  },
  {
    name: `rack with ${MOWERS} mowers`,
    path: () => '/api/v1/rack',
    work: () => rackView(database),
    sql: () => [
      `${ROW} WHERE blade.state IN ('new', 'waiting', 'at-bench', 'ready', 'hold') ORDER BY blade.waitingSince LIMIT 400`,
      `${ROW} WHERE blade.state = 'retired' ORDER BY blade.waitingSince LIMIT 24`,
      'SELECT * FROM deckDue',
      'SELECT * FROM mower ORDER BY name',
      'SELECT * FROM deck',
      'SELECT * FROM spindle ORDER BY ordinal',
      ON_NOW,
      'SELECT * FROM hourMeterSegment WHERE "to" IS NULL',
      // The ready blades that a set is matched from for every mower: no more than can be promised.
      `SELECT blade.id, blade.specId, blade.place, blade.grinds, bladeCode.code
       FROM (SELECT id, row_number() OVER (PARTITION BY specId ORDER BY id) AS nth FROM blade WHERE state = 'ready') AS ready
         JOIN blade ON blade.id = ready.id JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL
       WHERE nth <= ${40 + (MOWERS / 4) * SPINDLES}`,
    ],
  },
];
const quantile = (sorted, p) => sorted[Math.min(sorted.length - 1, Math.floor(p * sorted.length))];
const ms = (value) => `${value.toFixed(1)} ms`;
/** Turn by turn, so that a machine that is lent out for a while slows all of them. */
async function timed(...works) {
  for (let i = 0; i < 5; i++) for (const work of works) await work(i);
  const times = works.map(() => []);
  for (let i = 0; i < RUNS; i++) {
    for (const [nth, work] of works.entries()) {
      const from = performance.now();
      await work(i + 5);
      times[nth].push(performance.now() - from);
    }
  }
  return times.map((each) => each.sort((a, b) => a - b));
}
for (const { name, path, work, sql } of PAGES) {
  const first = performance.now();
  await (await fetch(serving.address + path(0))).text();
  const cold = performance.now() - first;
  const [ours, atServer, byHand] = await timed(
    async (i) => {
      const answer = await fetch(serving.address + path(i));
      const text = await answer.text();
      if (!answer.ok) throw new Error(`${name}: ${text.slice(0, 300)}`);
    },
    async (i) => JSON.stringify(await work(i)),
    async (i) => {
      for (const each of sql(i)) JSON.stringify(await all(each));
    },
  );
  const ratio = quantile(atServer, 0.5) / quantile(byHand, 0.5);
  console.log(
    `  ${name}: at the server p50 ${ms(quantile(atServer, 0.5))}, p95 ${ms(quantile(atServer, 0.95))} (aim: under 60 ms), over HTTP p50 ${ms(quantile(ours, 0.5))}, p95 ${ms(quantile(ours, 0.95))}; ` +
      `by hand-written SQL p50 ${ms(quantile(byHand, 0.5))}, ratio ${ratio.toFixed(1)} (aim: under 2); the very first ${ms(cold)}`,
  );
}
/** The register of 10,000 scrolled for three seconds, 24 px a frame: how long each frame took. */
const browser = await playwright.launch({
  executablePath: await chromium(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${serving.address}/blades`);
await page.getByRole('heading', { name: '10,000 blades' }).waitFor();
await page.waitForTimeout(500);
const frames = await page.evaluate(
  () =>
    new Promise((done) => {
      const { document, requestAnimationFrame } = globalThis;
      const view = document.querySelector('cdk-virtual-scroll-viewport');
      const times = [];
      let last = performance.now();
      const start = last;
      const frame = (now) => {
        times.push(now - last);
        last = now;
        view.scrollTop += 24;
        if (now - start < 3000) requestAnimationFrame(frame);
        else done(times.slice(2).sort((a, b) => a - b));
      };
      requestAnimationFrame(frame);
    }),
);
await browser.close();
console.log(
  `  register scrolled: ${(1000 / (frames.reduce((sum, each) => sum + each, 0) / frames.length)).toFixed(1)} frames a second, a frame p50 ${ms(quantile(frames, 0.5))}, p95 ${ms(quantile(frames, 0.95))} (aim: 60 a second)`,
);
await serving.close();
await new Promise((done) => raw.close(done));
rmSync(folder, { recursive: true, force: true });
