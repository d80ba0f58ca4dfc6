import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const ROOT = resolve(import.meta.dirname ?? '.', '../..');
const READY = /ready: (http:\/\/\S+)/;

/** The real server as its own process on a real file, to be stopped gently or killed without warning. */
export class ShopProcess {
  private child: ChildProcess | undefined;
  address = '';

  private constructor(
    readonly folder: string,
    private readonly more: readonly string[],
  ) {}

  /** A copy of the demo shop, generated once for all tests. */
  static async demo(): Promise<ShopProcess> {
    const shop = new ShopProcess(mkdtempSync(join(tmpdir(), 'tally-stone-e2e-')), []);
    cpSync(demoFolder(), shop.folder, { recursive: true });
    await shop.start();
    return shop;
  }

  static async empty(): Promise<ShopProcess> {
    const shop = new ShopProcess(mkdtempSync(join(tmpdir(), 'tally-stone-e2e-')), ['--empty']);
    await shop.start();
    return shop;
  }

  /** Generates a demo shop into a folder and stops. */
  static async generate(folder: string): Promise<void> {
    const shop = new ShopProcess(folder, []);
    await shop.start();
    await shop.stop();
  }

  async start(): Promise<void> {
    const port = this.address === '' ? '0' : new URL(this.address).port;
    const child = spawn(
      process.execPath,
      ['server/dist/main.js', '--data', this.folder, ...this.more],
      {
        cwd: ROOT,
        // What is put on an instrument comes to rest sooner than in life: most of a run by hand would be waiting.
        env: { ...process.env, PORT: port, HOST: '127.0.0.1', SIMULATED_PACE: '5' },
        stdio: ['ignore', 'pipe', 'inherit'],
      },
    );
    this.child = child;
    this.address = await new Promise((done, failed) => {
      let said = '';
      child.stdout.on('data', (chunk: Buffer) => {
        said += chunk.toString();
        const ready = READY.exec(said);
        if (ready?.[1]) done(ready[1]);
      });
      child.once('exit', (code) => {
        failed(new Error(`the server ended with ${String(code)}: ${said}`));
      });
    });
  }

  /** As a power cut would: no warning, nothing flushed. */
  kill(): Promise<void> {
    return this.end('SIGKILL');
  }

  stop(): Promise<void> {
    return this.end('SIGTERM');
  }

  async dispose(): Promise<void> {
    await this.stop();
    rmSync(this.folder, { recursive: true, force: true });
  }

  async get<T>(path: string): Promise<T> {
    return (await fetch(this.address + path)).json() as Promise<T>;
  }

  private end(signal: 'SIGKILL' | 'SIGTERM'): Promise<void> {
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
    return new Promise((done) => {
      child.once('exit', () => {
        done();
      });
      child.kill(signal);
    });
  }
}

/** Where the demo made for this run lies. */
export function demoFolder(): string {
  const folder = process.env['TALLY_DEMO'];
  if (!folder) throw new Error('the demo shop was not made');
  return folder;
}
