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
import { join } from 'node:path';
import { ROOT, run, say, tsc, buildServer, install } from './workspace.mjs';

/**
 * A report, not a gate: which changes of the compiled verdict, plan or cycle no test of their room sees.
 * `npm run mutate -- verdict`, `plan` or `cycle`; the tool is fetched into a folder of its own, for nothing else needs it.
 */
const STRYKER = '8.7.1';
const PARTS = {
  verdict: { room: 'core', mutate: 'verdict', specs: ['verdict/**/*.spec.js'] },
  // The search itself is held against every choice tried and a second solver: mutated, each trial takes minutes.
  plan: {
    room: 'core',
    mutate: 'plan',
    specs: ['plan/**/*.spec.js', '!plan/second-solver.spec.js'],
    besides: ['bounds', 'end-list', 'end-problem', 'search'],
  },
  cycle: { room: 'cycle', mutate: '.', specs: ['**/*.spec.js'] },
};
const part = PARTS[process.argv[2] ?? 'verdict'];
if (!part) {
  console.error(`Say which: ${Object.keys(PARTS).join(', ')}.`);
  process.exit(1);
}
await install();
buildServer();
const { room, mutate, specs, besides = [] } = part;
rmSync(join(ROOT, room, 'spec-out'), { recursive: true, force: true });
if (!tsc('-p', `${room}/tsconfig.spec.json`)) process.exit(1);

const tool = join(tmpdir(), `tally-stone-stryker-${STRYKER}`);
const bin = join(tool, 'node_modules/@stryker-mutator/core/bin/stryker.js');
if (!existsSync(bin)) {
  mkdirSync(tool, { recursive: true });
  writeFileSync(join(tool, 'package.json'), '{ "private": true }');
  const packages = ['core', 'jasmine-runner'].map((name) => `@stryker-mutator/${name}@${STRYKER}`);
  say('Fetching the mutation tool');
  const fetched = run('npm', ['i', '--no-audit', '--no-fund', ...packages, 'jasmine@5'], {
    cwd: tool,
  });
  if (!fetched) process.exit(1);
}
const folder = mkdtempSync(join(tmpdir(), 'tally-stone-mutate-'));
const [jasmine, config, report] = ['jasmine.json', 'stryker.json', 'report.json'].map((name) =>
  join(folder, name),
);
writeFileSync(
  jasmine,
  JSON.stringify({ spec_dir: `${room}/spec-out`, spec_files: specs, random: false }),
);
const of = join(room, 'spec-out', mutate);
writeFileSync(
  config,
  JSON.stringify({
    testRunner: 'jasmine',
    jasmineConfigFile: jasmine,
    plugins: [join(tool, 'node_modules/@stryker-mutator/jasmine-runner/dist/src/index.js')],
    mutate: [
      `${of}/**/*.js`,
      `!${of}/**/*.spec.js`,
      `!${of}/**/words.js`,
      `!${of}/testing/**`,
      ...besides.map((name) => `!${of}/${name}.js`),
    ],
    // What runs once when a file is loaded costs a whole run of all tests each.
    ignoreStatic: true,
    // Of the repository only what is compiled is copied.
    ignorePatterns: [
      ...readdirSync(ROOT).filter((name) => ![room, 'package.json'].includes(name)),
      `${room}/src`,
      `${room}/dist`,
    ].map((name) => `/${name}`),
    tempDirName: join('.stamps', 'mutate'),
    coverageAnalysis: 'perTest',
    reporters: ['clear-text', 'json'],
    clearTextReporter: {
      allowColor: false,
      logTests: false,
      reportMutants: false,
      reportTests: false,
    },
    jsonReporter: { fileName: report },
    timeoutMS: 20_000,
    disableTypeChecks: false,
  }),
);
say(`Mutating ${of}`);
const done = run(process.execPath, [bin, 'run', config]);
if (done) {
  const { files } = JSON.parse(readFileSync(report, 'utf8'));
  // Texts are not listed: what a sentence says is no rule.
  for (const [file, { source, mutants }] of Object.entries(files))
    for (const { status, mutatorName, location, replacement } of mutants)
      if (['Survived', 'NoCoverage'].includes(status) && mutatorName !== 'StringLiteral')
        console.log(
          `${file}:${location.start.line} ${status}: ${source.split('\n')[location.start.line - 1].trim().slice(0, 80)}  =>  ${(replacement ?? '').replace(/\s+/g, ' ').slice(0, 50)}`,
        );
}
rmSync(folder, { recursive: true, force: true });
process.exitCode = done ? 0 : 1;
