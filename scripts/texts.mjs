import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { codesSaid } from './codes-said.mjs';

/**
 * Holds the texts that are said against those that are translated. Without a word it lists what is missing or said no
 * more; `npm run texts -- write` drops what is said no more and adds what is missing in English, to be translated.
 * Needs a build: the texts are read out of what was built, the ones in templates too.
 */
const ROOT = fileURLToPath(new URL('..', import.meta.url));
export const SPANISH = join(ROOT, 'contract/texts/es.json');
const BUILT = '{web/dist/browser/*.js,{core,cycle,contract,server}/dist/**/*.js}';
const PLACEHOLDER = /\{\$\w+\}/g;

/** Every text that is said, in English, by its id. */
export function textsSaid() {
  const folder = mkdtempSync(join(tmpdir(), 'tally-texts-'));
  const out = join(folder, 'en.json');
  try {
    execFileSync(
      process.execPath,
      [
        join(ROOT, 'node_modules/@angular/localize/tools/bundles/src/extract/cli.js'),
        ...['-r', ROOT, '-s', BUILT, '-f', 'json', '-o', out, '--locale', 'en'],
        ...['-d', 'ignore'],
      ],
      { stdio: ['ignore', 'ignore', 'inherit'] },
    );
    return JSON.parse(readFileSync(out, 'utf8')).translations;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What is wrong with a translation file: a line each. */
export function textsAmiss(said, translated) {
  const placeholders = (text) => new Set(text.match(PLACEHOLDER) ?? []);
  return [
    ...Object.keys(said)
      .filter((id) => translated[id] === undefined)
      .map((id) => `not translated: ${id} ${JSON.stringify(said[id])}`),
    ...Object.keys(translated)
      .filter((id) => said[id] === undefined)
      .map((id) => `said no more: ${id} ${JSON.stringify(translated[id])}`),
    ...Object.entries(translated).flatMap(([id, text]) => {
      const known = placeholders(said[id] ?? text);
      const made = [...placeholders(text)].filter((each) => !known.has(each));
      return made.length > 0 ? [`names ${made.join(', ')}, which is not there: ${id} ${text}`] : [];
    }),
  ];
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const said = textsSaid();
  const file = JSON.parse(readFileSync(SPANISH, 'utf8'));
  const amiss = [...textsAmiss(said, file.translations), ...(await codesSaid())];
  for (const line of amiss) console.log(line);
  console.log(`${Object.keys(said).length} texts, ${amiss.length} amiss`);
  if (process.argv[2] === 'write') {
    const translations = Object.fromEntries(
      Object.entries(said).map(([id, text]) => [id, file.translations[id] ?? text]),
    );
    writeFileSync(SPANISH, `${JSON.stringify({ ...file, translations }, undefined, 2)}\n`);
  } else if (amiss.length > 0) process.exitCode = 1;
}
