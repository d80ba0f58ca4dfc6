import { writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import Jasmine from 'jasmine';

/** Runs the compiled specs of one room in Node: `run-jasmine.mjs ROOM RESULTS_FILE`. */
const [room, results] = process.argv.slice(2);
const jasmine = new Jasmine({ projectBaseDir: resolve(room) });
jasmine.loadConfig({
  spec_dir: 'spec-out',
  spec_files: ['**/*.spec.js'],
  random: true,
  failSpecWithNoExpectations: true,
});
jasmine.jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;
let passed = 0;
let failed = 0;
jasmine.addReporter({
  specDone: ({ status }) => {
    if (status === 'passed') passed += 1;
    else failed += 1;
  },
  suiteDone: ({ failedExpectations }) => {
    failed += failedExpectations.length;
  },
  jasmineDone: ({ failedExpectations = [] }) => {
    failed += failedExpectations.length;
    writeFileSync(results, JSON.stringify({ passed, failed }));
  },
});
await jasmine.execute();
