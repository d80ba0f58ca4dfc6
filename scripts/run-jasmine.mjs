import '@angular/localize/init';
import { readdirSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import fc from 'fast-check';
import Jasmine from 'jasmine';

/**
 * Runs the compiled specs of one room in Node: `run-jasmine.mjs ROOM RESULTS_FILE [PART/PARTS]`, all of them or
 * one part of the files, so that a long suite can use more than one core. Property tests draw the
 * same examples every time, so that a red run can be had again; TALLY_SEED=random (or a number) draws others.
 */
const [room, results, share = '1/1'] = process.argv.slice(2);
const [part, parts] = share.split('/').map(Number);
const asked = process.env.TALLY_SEED ?? '20261123';
const seed = asked === 'random' ? Math.floor(Math.random() * 2 ** 31) : Number(asked);
fc.configureGlobal({ seed });
if (asked === 'random') console.log(`Property tests with TALLY_SEED=${seed}`);
const jasmine = new Jasmine({ projectBaseDir: resolve(room) });
jasmine.loadConfig({
  spec_dir: 'spec-out',
  spec_files: readdirSync(resolve(room, 'spec-out'), { recursive: true })
    .filter((file) => file.endsWith('.spec.js'))
    .sort()
    .filter((_, i) => i % parts === part - 1),
  random: true,
  failSpecWithNoExpectations: true,
});
// What hangs is found all the same; a busy machine may need a minute for a picture.
jasmine.jasmine.DEFAULT_TIMEOUT_INTERVAL = 240_000;
let passed = 0;
const failures = [];
const note = (name, expectations) =>
  failures.push({ name, words: expectations.map(({ message }) => message).join('\n') });
const suiteFailed = (name, expectations) => {
  for (const expectation of expectations) note(name, [expectation]);
};
jasmine.addReporter({
  specDone: ({ status, fullName, failedExpectations }) => {
    if (status === 'passed') passed += 1;
    else note(fullName, failedExpectations);
  },
  suiteDone: ({ fullName, failedExpectations }) => {
    suiteFailed(fullName, failedExpectations);
  },
  jasmineDone: ({ failedExpectations = [] }) => {
    suiteFailed(room, failedExpectations);
    writeFileSync(results, JSON.stringify({ passed, failed: failures.length, failures }));
  },
});
await jasmine.execute();
