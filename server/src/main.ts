import { DAY_MS } from '@tally-stone/core';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { completeCorrections } from './cycle/corrections.js';
import { Cron } from 'croner';
import { pino } from 'pino';
import { openDatabase, type Database } from './database.js';
import { lockFolder } from './db/lock.js';
import { MIGRATION_NAMES } from './db/migrate.js';
import { troubleWith } from './db/sound.js';
import { generateDemo } from './demo/generate.js';
import { isLoopback } from './http/edge.js';
import { serve } from './http/serve.js';
import { firstStart } from './people/first-start.js';
import { listPeople } from './people/people.js';
import { photoFolder, photosInUse, sweepPhotos } from './photo/photos.js';
import { backUpInto, backupsIn, inWords } from './record/backup.js';
import { roomFor } from './record/room.js';
import { shopWear } from './wear/shop-wear.js';

const USAGE = `Usage: npm start -- [--data DIR] [--empty] [--cert FILE --key FILE]
  --data DIR   where the shop's data lives (default ./data)
  --empty      start an empty shop instead of the demo when there is no data yet
  --cert FILE --key FILE   serve over HTTPS (npm run certificate makes them)
Environment: PORT (4160), HOST (127.0.0.1), PLAIN_HTTP=1 (beyond this machine without HTTPS), LOG (debug, info, warn), BACKUPS (folder for the nightly ones, default backups beside the data), SIGN_IN=1 (people sign in here too, as they do wherever others reach the server), ALLOWED_HOSTS (further names it is opened under, with commas)`;

const DATABASE_FILE = 'tally-stone.sqlite';

/** The demo is generated beside its place and moved there whole, so a killed start leaves no half shop. */
async function makeDemo(file: string): Promise<void> {
  const draft = `${file}.demo-draft`;
  for (const suffix of ['', '-wal', '-shm']) rmSync(draft + suffix, { force: true });
  console.log('No shop data yet: making the demo shop, Pellwater Grounds Care (a minute or two) …');
  const database = await openDatabase(draft, 'throwaway');
  // Sequelize takes a stack trace for every query; without them this is a third faster.
  const { stackTraceLimit } = Error;
  Error.stackTraceLimit = 0;
  await generateDemo(database);
  Error.stackTraceLimit = stackTraceLimit;
  await database.connection.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
  await database.connection.close();
  renameSync(draft, file);
  for (const suffix of ['-wal', '-shm']) rmSync(draft + suffix, { force: true });
}

/** Whoever starts a larger file than this is told what they wait for. */
const LONG_LOOK_MB = 200;

async function openShop(folder: string, empty: boolean): Promise<Database> {
  const file = join(folder, DATABASE_FILE);
  if (!existsSync(file) && !empty) await makeDemo(file);
  const megabytes = existsSync(file) ? statSync(file).size / 2 ** 20 : 0;
  if (megabytes > LONG_LOOK_MB)
    console.log(
      `Looking whether the shop’s file is whole: ${Math.round(megabytes)} MB, which may take minutes on a slow disk.`,
    );
  const trouble = existsSync(file) ? await troubleWith(file, MIGRATION_NAMES) : undefined;
  if (trouble) throw new Error(trouble);
  return openDatabase(file, 'power-safe', (words) => {
    console.log(words);
  });
}

/** Every night, and once at the start where the last one is older than a day. */
function backUpOnSchedule(database: Database, folder: string): Cron {
  const make = async (): Promise<void> => {
    const { freeMb, low } = roomFor(database.connection);
    if (low)
      console.error(`The disk is nearly full: ${freeMb} MB are left beside the shop’s file.`);
    try {
      await backUpInto(database.connection, folder);
      await sweepPhotos(photoFolder(database.connection.file), await photosInUse(database.models));
    } catch (error) {
      console.error(`The backup into ${folder} was not made: ${(error as Error).message}`);
    }
  };
  const [newest] = backupsIn(folder);
  const schedule = new Cron('15 2 * * *', make);
  if (!newest || Date.now() - Date.parse(newest.at) > DAY_MS) {
    // Not before the first page has been asked for.
    setTimeout(() => void make(), FIRST_BACKUP_MS).unref();
  }
  return schedule;
}
const FIRST_BACKUP_MS = 10 * 60_000;

/** Others than this machine reach the server: everybody needs a PIN first, and the demo's people have none. */
async function refuseWithoutPins(database: Database): Promise<void> {
  const without = (await listPeople(database)).filter(({ hasPin }) => !hasPin);
  if (without.length === 0) return;
  const names = without.map(({ name }) => name).join(', ');
  throw new Error(
    `Where people sign in everybody needs a PIN: ${names} ${without.length === 1 ? 'has' : 'have'} none. Start it on this machine first (without HOST and SIGN_IN) and set them under Shop, People.`,
  );
}

function certificateFrom({ cert, key }: { cert?: string | undefined; key?: string | undefined }) {
  if (cert === undefined && key === undefined) return undefined;
  if (cert === undefined || key === undefined)
    throw new Error('HTTPS needs both, --cert FILE and --key FILE.');
  for (const file of [cert, key]) if (!existsSync(file)) throw new Error(`There is no ${file}.`);
  return { cert: readFileSync(cert, 'utf8'), key: readFileSync(key, 'utf8') };
}

function portFrom(text: string | undefined): number {
  const port = Number(text ?? 4160);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    throw new Error(`PORT must be a whole number from 0 to 65535, not "${text ?? ''}".`);
  }
  return port;
}

async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      data: { type: 'string' },
      empty: { type: 'boolean' },
      cert: { type: 'string' },
      key: { type: 'string' },
      help: { type: 'boolean' },
    },
  });
  if (values.help) {
    console.log(USAGE);
    return;
  }
  const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
  const folder = resolve(values.data ?? join(root, 'data'));
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw inWords(error);
  }
  await lockFolder(folder);
  const database = await openShop(folder, values.empty ?? false);
  await completeCorrections(database);
  // What the fleet says about wear takes a second to learn: begun before the first page asks. Where that fails, who
  // asks next is told.
  shopWear(database).catch(() => undefined);
  const backups = resolve(process.env['BACKUPS'] ?? join(folder, 'backups'));
  const host = process.env['HOST'] ?? '127.0.0.1';
  const locked = !isLoopback(host) || process.env['SIGN_IN'] === '1';
  if (locked) await refuseWithoutPins(database);
  const first = locked && (await listPeople(database)).length === 0 ? firstStart() : undefined;
  const tls = certificateFrom(values);
  if (!isLoopback(host) && !tls && process.env['PLAIN_HTTP'] !== '1') {
    throw new Error(
      'Beyond this machine the shop is served over HTTPS: npm run certificate makes one, then start with --cert FILE --key FILE. PLAIN_HTTP=1 serves it readable to everybody on the network.',
    );
  }
  const log = pino({ level: process.env['LOG'] ?? 'warn' });
  const schedule = backUpOnSchedule(database, backups);
  const port = portFrom(process.env['PORT']);
  const serving = await serve({
    database,
    host,
    port,
    locked,
    log,
    ...(first ? { first } : {}),
    ...(tls ? { tls } : {}),
    webRoot: join(root, 'web/dist/browser'),
    backups,
    allowedHosts: (process.env['ALLOWED_HOSTS'] ?? '').split(','),
    pace: Number(process.env['SIMULATED_PACE']) || 1,
    report: (error) => {
      log.error(error);
    },
  });
  // The last net under timers and streams: every write is one transaction, so what is stored is whole either way.
  process.on('uncaughtException', (error) => {
    console.error(error);
  });
  let stopping = false;
  const stop = (): void => {
    if (stopping) return;
    stopping = true;
    schedule.stop();
    serving.close().then(
      () => {
        console.log('Stopped; everything is saved.');
        process.exit(0);
      },
      (error: unknown) => {
        console.error(error);
        process.exit(1);
      },
    );
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  if (first) {
    console.log(
      `Nobody works in this shop yet. Open it, and make yourself its manager with this code: ${first.code}`,
    );
  }
  // Said last: who waits for this line may ask it to stop at once.
  console.log(`Tally Stone is ready: ${serving.address}`);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  console.error(USAGE);
  process.exit(1);
});
