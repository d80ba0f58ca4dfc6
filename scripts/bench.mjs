import { createRequire } from 'node:module';
import { Bench } from 'tinybench';
import { install, ROOT, say, tsc } from './workspace.mjs';

/**
 * `npm run bench`: what the core costs, as ratios measured side by side in one run. Nothing fails here; the
 * figures are for reading.
 */
await install();
// Beside another commit, where one is named.
if (process.argv[2]) await import('./bench-server.mjs');
say('Compiling the core with its test helpers …');
if (!tsc('-b', 'core') || !tsc('-p', 'core/tsconfig.spec.json')) process.exit(1);

const core = await import(`${ROOT}/core/spec-out/index.js`);
const { glpkProgram } = await import(`${ROOT}/core/spec-out/testing/glpk.js`);
const require = createRequire(`${ROOT}/core/package.json`);
const loadHighs = (await import(require.resolve('highs'))).default;
const loadGlpk = (await import(require.resolve('glpk.js/node'))).default;
const highs = await loadHighs();
const { programText } = await import(`${ROOT}/core/spec-out/testing/program.js`);
const glpk = await loadGlpk();

/** A blade of 2 × 24 stations, 6 nicks and 3 zones; `i` varies lands, room, nicks and balance. */
function blade(i, mostPasses = 60) {
  const part = (n) => ((i * 7919 + n * 104729) % 1000) / 1000;
  const along = (n) =>
    Array.from({ length: 24 }, (_, k) => ({
      radiusMm: 257 - k * 3.8,
      bevelDeg: 30,
      landMm: 0.3 + 0.3 * part(n),
      wornMm: 0.5 + (23 - k) * 0.03,
      roomMm: 5 + 2 * part(n + 3),
    }));
  return {
    thicknessMm: 6,
    tipRadiusMm: 260,
    edgeLengthMm: 100,
    stations: { A: along(1), B: along(2) },
    nicks: Array.from({ length: 6 }, (_, k) => ({
      id: String(k),
      end: k % 2 === 0 ? 'A' : 'B',
      radiusMm: 255 - 70 * part(10 + k),
      lengthMm: 6,
      depthMm: 1.2 * part(20 + k),
      recessMm: 0.6 * part(20 + k),
    })),
    zones: [
      { key: 'full', reachMm: 100, featherMm: 10, gramsPerPass: 0.6 },
      { key: 'outer-half', reachMm: 50, featherMm: 10, gramsPerPass: 0.3 },
      { key: 'outer-25', reachMm: 25, featherMm: 8, gramsPerPass: 0.15 },
    ],
    rules: {
      newBevelDeg: 30,
      finishLandMm: 0.15,
      straightness: 0.03,
      tip: { reachMm: 50, mostMm: 0.8 },
      wearWeightG: 6,
      mostPassesPerZone: mostPasses,
    },
    balance: { unbalanceGmm: 1400 * part(5) - 700, uGmm: 30, permissibleGmm: 200 },
  };
}

/** Mowers as the demo has them: 40 spindles, three sets each, two bench days a week, rain on a fifth of the days. */
function demoSeason() {
  const spindles = [3, 3, 3, 2, 1, 1, 2, 3, 5, 5, 4, 3, 2, 3];
  return {
    mowers: spindles.map((count, i) => ({
      key: String(i),
      name: String(i),
      spindles: count,
      sets: 3,
      hoursPerDay: 3.5,
      edgeLifeH: 10 + (i % 4) * 4,
    })),
    firstDay: '2027-03-29',
    days: 215,
    mowingWeekdays: [1, 2, 3, 4, 5],
    benchWeekdays: [2, 4],
    benchBlades: 12,
    edgeVariation: 0.3,
    strikesPer1000H: 6,
    damageShare: 0.1,
    stopShare: 0.4,
    grindsPerBlade: 9,
    grindsVariation: 0.25,
    startWorn: true,
    rain: core.steadyRain(0.2),
  };
}

const ms = (value) => `${value.toFixed(value < 10 ? 2 : 0)} ms`;
const quantile = (sorted, p) => sorted[Math.min(sorted.length - 1, Math.floor(p * sorted.length))];
function times(count, work) {
  for (let i = 0; i < 5; i++) work(i);
  return Array.from({ length: count }, (_, i) => {
    const start = performance.now();
    work(i);
    return performance.now() - start;
  }).sort((a, b) => a - b);
}

const { blade: benchBlade, leastOfAll } = await import(
  `${ROOT}/core/spec-out/testing/grind-problems.js`
);

say('Grind plan, exact search: blades of all kinds, warm');
for (const [name, kind, count, tried] of [
  ['three zones', {}, 2000, 300],
  ['a file of 0.06 g a stroke', { file: true }, 300, 0],
  ['a file to finish after them', { finish: 0.06 }, 300, 0],
  ['a finer belt to finish after them', { finish: 0.25 }, 300, 0],
  ['a trailing zone and two directions', { trailing: true, across: true }, 300, 60],
]) {
  const [proven, without] = [new Set(), new Set()];
  let worstG = 0;
  const took = times(count, (i) => {
    const problem = benchBlade(i, kind);
    const found = core.searchPasses(problem, core.planRows(problem));
    if (found.proven) proven.add(i);
    if (found.proven && !found.passes) without.add(i);
  });
  for (let i = 0; i < tried; i++) {
    const problem = benchBlade(i, kind);
    const rows = core.planRows(problem);
    const { objectiveG = Infinity } = core.searchPasses(problem, rows);
    const least = leastOfAll(problem, rows);
    if (least !== objectiveG) worstG = Math.max(worstG, Math.abs(objectiveG - least));
  }
  console.log(
    `  ${name}: ${proven.size} of ${count} proven (${without.size} of them that there is no plan), p50 ${ms(quantile(took, 0.5))}, p95 ${ms(quantile(took, 0.95))}, worst ${ms(took.at(-1))}` +
      (tried > 0
        ? `; against every choice tried on ${tried}: worst excess ${worstG.toExponential(0)} g`
        : ''),
  );
}

say('Grind plan, warm: 2 × 24 stations, 6 nicks, 3 zones');
const plans = times(200, (i) => core.planGrind(blade(i)));
const metal = times(60, (i) => {
  const input = blade(i);
  highs.solve(programText(input, core.planRows(input)), { mip_rel_gap: 0 });
});
const second = times(60, (i) => {
  const input = blade(i);
  glpk.solve(glpkProgram(glpk, programText(input, core.planRows(input))), {
    msglev: glpk.GLP_MSG_OFF,
    mipgap: 0,
    tmlim: 20,
  });
});
console.log(
  `  exact: p50 ${ms(quantile(plans, 0.5))}, p95 ${ms(quantile(plans, 0.95))}; the programme by tangents takes HiGHS ${(quantile(metal, 0.5) / quantile(plans, 0.5)).toFixed(1)} times that at p50, GLPK ${(quantile(second, 0.5) / quantile(plans, 0.5)).toFixed(1)} times`,
);

say('Forward simulation and removal integrals');
const input = blade(3);
const rows = core.planRows(input);
const passes = { A: [6, 3, 1], B: [5, 0, 2] };
const flat = Array.from({ length: 3 }, (_, k) => ({
  radiusMm: 160 + 45 * k,
  recessionMm: 0.5,
  beforeBevelDeg: 30,
  beforeLandMm: 0.4,
  afterBevelDeg: 30,
  afterLandMm: 0.15,
}));
const small = {
  ...input,
  stations: {
    A: input.stations.A.filter((_, k) => k % 8 === 0),
    B: input.stations.B.filter((_, k) => k % 8 === 0),
  },
};
const smallRows = core.planRows(small);
const bench = new Bench({ time: 800 });
bench
  .add('forward simulation, 2 × 24 stations', () => core.simulatePasses(input, rows, passes))
  .add('forward simulation, 2 × 3 stations', () => core.simulatePasses(small, smallRows, passes))
  .add('removal integral of one edge, 3 stations', () => core.metalRemoved(6, flat));
await bench.run();
for (const { name, result } of bench.tasks) {
  const perSecond = result?.throughput?.mean ?? 0;
  console.log(
    `  ${name}: ${Math.round(perSecond).toLocaleString('en')} a second, ${(perSecond / 100_000).toFixed(1)} × the 100,000 aimed at`,
  );
}

say('Life left: nominal 80 % ranges by generator, clock, history and use');
const lives = await import(`${ROOT}/core/spec-out/testing/lives.js`);
const STRATA = ['0-1', '2-4', '5+'];
for (const guarded of [false, true]) {
  const shares = [];
  let lost = 0;
  console.log(guarded ? '  with the shop’s past forecasts' : '  without past forecasts');
  for (const maker of [...lives.MAKERS, lives.HELD_OUT]) {
    const judged = Array.from({ length: 16 }, (_, i) =>
      lives.tryForecasts({
        maker,
        seed: 100 * (i + 1) + 7,
        specs: 6,
        bladesPerSpec: 40,
        asked: 400,
        guarded,
      }),
    ).flat();
    for (const clock of ['grinds', 'hours']) {
      const cells = STRATA.flatMap((stratum) =>
        [false, true].map((heavy) => {
          const some = judged.filter(
            (each) => each.clock === clock && each.stratum === stratum && each.heavy === heavy,
          );
          const share = some.filter(({ within }) => within).length / some.length;
          const score = (of) =>
            some.reduce((sum, e) => sum + core.intervalScore(e[of].low, e[of].high, e.truth), 0);
          shares.push(share);
          const ratio = score('span') / score('average');
          if (ratio >= 1) lost += 1;
          return `${stratum} ${heavy ? 'heavy' : 'light'} ${(100 * share).toFixed(0)} % (${ratio.toFixed(2)})`;
        }),
      );
      console.log(`    ${maker}, ${clock}: ${cells.join(', ')}`);
    }
  }
  const inside = shares.filter((share) => share >= 0.75 && share <= 0.85).length;
  console.log(
    `    ${shares.length} cells of 51,200 forecasts: ${(100 * Math.min(...shares)).toFixed(0)} to ${(100 * Math.max(...shares)).toFixed(0)} %, ${inside} within 75 to 85; interval score worse than the spec’s average life in ${lost}`,
  );
}

say('The same in grinds, with less known: 4,800 forecasts each');
for (const [name, less] of Object.entries({
  'everything read, from new': {},
  'blades that came used after up to six grinds': { unseen: 6 },
  'three places in ten read at a grind': { readOfTen: 3 },
})) {
  for (const maker of [...lives.MAKERS, lives.HELD_OUT]) {
    const some = [11, 22, 33, 44]
      .flatMap((seed) =>
        lives.tryForecasts({
          maker,
          seed,
          specs: 6,
          bladesPerSpec: 40,
          asked: 300,
          guarded: true,
          ...less,
        }),
      )
      .filter(({ clock }) => clock === 'grinds');
    const mean = (of) => some.reduce((sum, each) => sum + of(each), 0) / some.length;
    console.log(
      `  ${name}, ${maker}: ${(100 * mean(({ within }) => (within ? 1 : 0))).toFixed(0)} % held, interval score ${mean(({ span, truth }) => core.intervalScore(span.low, span.high, truth)).toFixed(1)}, median off by ${mean(({ span, truth }) => span.median - truth).toFixed(1)} of a grind on the mean`,
    );
  }
}

say('Life forecast of 5,000 blades, 8 limits each');
const { futuresAfter } = await import(`${ROOT}/core/spec-out/life/past-forecasts.js`);
const shop = lives
  .madeLives('jumps and duty', 5, 20, 12)
  .map((life) => lives.asLife(life, 850 * 86_400_000))
  .filter(({ steps }) => steps.length > 0);
core.learnLives(shop);
const start = performance.now();
const { fleet } = core.learnLives(shop);
const learned = performance.now() - start;
for (let i = 0; i < 5000; i++) {
  const life = shop[i % shop.length];
  futuresAfter(fleet, life, i % (life.steps.length + 1));
}
const took = performance.now() - start - learned;
console.log(
  `  learning from ${shop.length} blades with the past forecasts tried again ${(learned / 1000).toFixed(2)} s, forecasts ${(took / 1000).toFixed(2)} s: ${((learned + took) / 2000).toFixed(2)} of the 2 s aimed at`,
);

say(
  'Learned removal against its three rivals: mean error in grams, share held by ±2u, 80 tools of 60 grinds',
);
const { replayRemoval } = await import(`${ROOT}/core/spec-out/testing/belts.js`);
for (const [name, wear] of Object.entries({
  steady: { fade: 0, renewedAfter: 0, scatter: 0.08 },
  'noisy, 25 %': { fade: 0, renewedAfter: 0, scatter: 0.25 },
  drifting: { fade: 0.012, renewedAfter: 0, scatter: 0.1 },
  renewed: { fade: 0.015, renewedAfter: 25, scatter: 0.1 },
  'renewed, 25 %': { fade: 0.012, renewedAfter: 18, scatter: 0.25 },
  'fast going': { fade: 0.03, renewedAfter: 14, scatter: 0.12 },
})) {
  const { ours, prior, last, five, inside, bias } = replayRemoval(wear, 80);
  console.log(
    `  ${name}: ${ours.toFixed(2)}; prior ${prior.toFixed(2)}, last ${last.toFixed(2)}, mean of five ${five.toFixed(2)}; ±2u held ${(100 * inside).toFixed(0)} %, bias ${(100 * bias).toFixed(1)} %`,
  );
}

say('A thousand seasons of a shop like the demo, 14 mowers');
const seasonStart = performance.now();
core.simulateSeasons(demoSeason(), 1000, 1);
const seasonTook = (performance.now() - seasonStart) / 1000;
console.log(
  `  ${seasonTook.toFixed(2)} s in one thread, ${(seasonTook / 5).toFixed(2)} of the 5 s aimed at`,
);

await import('./bench-register.mjs');

// The run screen in a browser, measured the same way: no figure of it fails anything either.
await import('./vitals.mjs');
