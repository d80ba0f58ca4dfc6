import { createServer, type Server } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { CommandService } from '../commands/service.js';
import type { Database } from '../database.js';
import { EventStream } from './stream.js';
import { SimulatedBench } from '../instrument/bench.js';
import { createApp } from './app.js';
import { isLoopback, namesOfThisMachine } from './edge.js';
import type { FirstStart } from '../people/first-start.js';

const GRACE_MS = 1500;
const MOST_CONNECTIONS = 500;
/** Who connects and says nothing, or not all of it, is let go after so long. */
const PATIENCE_MS = 10_000;
const limitsOf = (patienceMs: number) => ({
  headersTimeout: patienceMs,
  requestTimeout: 60_000,
  keepAliveTimeout: 30_000,
  connectionsCheckingInterval: patienceMs / 2,
  maxHeaderSize: 16_384,
  keepAlive: true,
});

export interface Serving {
  readonly address: string;
  readonly commands: CommandService;
  /** Ends streams, finishes requests and writes under way, closes the database. */
  close(): Promise<void>;
}

export interface ServeOptions {
  readonly database: Database;
  readonly host: string;
  readonly port: number;
  readonly webRoot?: string;
  readonly log?: Logger;
  /** How long a connection may keep what it asks for to itself. */
  readonly patienceMs?: number;
  /** Certificate and key, PEM, for HTTPS. */
  readonly tls?: { readonly cert: string; readonly key: string };
  /** Somebody has to sign in; so it is wherever others than this machine may reach the server. */
  readonly locked?: boolean;
  /** Makes the first manager, where nobody works in the shop yet. */
  readonly first?: FirstStart;
  /** Folder of the scheduled backups. */
  readonly backups?: string;
  /** Further names the server answers under. */
  readonly allowedHosts?: readonly string[];
  readonly report?: (error: unknown) => void;
  /** How much sooner than life things come to rest on the simulated instruments. */
  readonly pace?: number;
}

const listening = (server: Server, port: number, host: string): Promise<void> =>
  new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      reject(
        error.code === 'EADDRINUSE'
          ? new Error(
              `Port ${port} is in use: stop what listens there, or start with another, PORT=${port + 1}.`,
            )
          : error,
      );
    });
    server.listen(port, host, resolve);
  });

/** Serves API and app on one port. Port 0 takes a free one. */
export async function serve(options: ServeOptions): Promise<Serving> {
  const { database, host, port, webRoot, report } = options;
  const commands = new CommandService(database);
  const bench = new SimulatedBench(database, { report, pace: options.pace });
  const events = new EventStream(database, commands, bench);
  let stopping = false;
  const app = createApp({
    bench,
    database,
    commands,
    events,
    ...(webRoot ? { webRoot } : {}),
    ...(options.log ? { log: options.log } : {}),
    ...(options.first ? { first: options.first } : {}),
    ...(options.backups ? { backups: options.backups } : {}),
    overTls: options.tls !== undefined,
    locked: options.locked ?? !isLoopback(host),
    hosts: namesOfThisMachine([host, ...(options.allowedHosts ?? [])]),
    // What a cut line leaves unanswered while the server stops is no fault.
    report: (error) => {
      if (!stopping) report?.(error);
    },
  });
  const limits = limitsOf(options.patienceMs ?? PATIENCE_MS);
  const server = options.tls
    ? createSecureServer({ ...limits, ...options.tls }, app)
    : createServer(limits, app);
  server.maxConnections = MOST_CONNECTIONS;
  await listening(server, port, host);
  const { port: bound } = server.address() as AddressInfo;
  return {
    address: `${options.tls ? 'https' : 'http'}://${host.includes(':') ? `[${host}]` : host}:${bound}`,
    commands,
    async close() {
      stopping = true;
      events.close();
      bench.close();
      const closed = new Promise((resolve) => server.close(resolve));
      server.closeIdleConnections();
      // Browsers keep connections for later use; they get a moment to finish, then the line is cut.
      const cut = setTimeout(() => {
        server.closeAllConnections();
      }, GRACE_MS);
      await closed;
      clearTimeout(cut);
      await database.heavy.close();
      await database.pictures.close();
      await database.connection.close();
    },
  };
}
