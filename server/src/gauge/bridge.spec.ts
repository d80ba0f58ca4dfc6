import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readInstrumentLine } from '@tally-stone/core';
import { Gauge, GaugeConfig } from './bridge.js';

/** A gauge on a cable: a pseudo-terminal that says what it is given, byte by byte. */
const STAND_IN = `
import os, pty, sys, tty
master, slave = pty.openpty()
tty.setraw(slave)
print(os.ttyname(slave), flush=True)
for line in sys.stdin:
    os.write(master, bytes.fromhex(line.strip()))
`;

describe('the bridge of a serial gauge', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tally-stone-gauge-'));
  const port = join(folder, 'ttyGauge');
  let standIn: ChildProcess;
  let sent: string[];
  let requests: number;
  let gauge: Gauge;

  async function plugIn(): Promise<void> {
    standIn = spawn('python3', ['-c', STAND_IN], { stdio: ['pipe', 'pipe', 'inherit'] });
    const name = await new Promise<string>((done) => {
      standIn.stdout?.once('data', (chunk: Buffer) => {
        done(chunk.toString().trim());
      });
    });
    rmSync(port, { force: true });
    symlinkSync(name, port);
  }
  const says = (text: string): void => {
    standIn.stdin?.write(`${Buffer.from(text, 'latin1').toString('hex')}\n`);
  };
  const until = async (what: () => boolean, ms = 8000): Promise<void> => {
    const end = Date.now() + ms;
    while (!what() && Date.now() < end) await new Promise((next) => setTimeout(next, 20));
    expect(what()).toBeTrue();
  };
  const values = (): number[] =>
    sent.flatMap((line) => {
      const said = readInstrumentLine(line);
      return 'value' in said && said.state === 'ok' ? [said.value] : [];
    });
  async function start(config: Partial<GaugeConfig>): Promise<void> {
    await plugIn();
    [sent, requests] = [[], 0];
    gauge = new Gauge(GaugeConfig.parse({ port, ...config }), (_key, lines) => {
      requests += 1;
      sent.push(...lines);
      return Promise.resolve();
    });
    gauge.start();
    await until(() => requests > 0);
  }
  afterEach(() => {
    gauge.close();
    standIn.kill();
  });
  afterAll(() => {
    rmSync(folder, { recursive: true, force: true });
  });

  it('says one figure for as long as a screen needs to see it stand still, in the instrument’s unit', async () => {
    await start({ key: 'caliper', unit: 'in', pattern: '01A([-+][\\d.]+)' });
    says('01A+2.5000\r\n');
    await until(() => values().length >= 6);
    expect(values().every((value) => value === 63.5)).toBeTrue();
    expect(sent.at(-1)).toMatch(/^caliper \d+\.\d\d 63\.50 mm 0\.01 0\.02 ok$/);
  });

  it('reads through noise on the cable, and takes only what its pattern finds', async () => {
    await start({ key: 'caliper', pattern: '^D=([\\d.]+)$' });
    says('\u0000\u00ff#~\r\nD=6\u0007x\r\n9999\r\nD=61.24\r\n');
    await until(() => values().length > 0);
    expect(new Set(values())).toEqual(new Set([61.24]));
  });

  it('is not drowned: of a flood the newest is said, ten times a second, and what never ends is cut off', async () => {
    await start({ key: 'scale' });
    const began = Date.now();
    for (let i = 0; i < 4000; i++) says(`${(800 + i / 1000).toFixed(1)} g\n`);
    says('812.4 g\n');
    await until(() => values().at(-1) === 812.4);
    expect(requests).toBeLessThan(10 + (Date.now() - began) / 80);
    says('7'.repeat(30_000));
    await until(() => sent.some((line) => line.endsWith('unplugged')));
  });

  it('tells that it was unplugged, and goes on by itself when it is back', async () => {
    await start({ key: 'scale' });
    says('812.4\n');
    await until(() => values().length > 0);
    standIn.kill();
    await until(() => sent.some((line) => line.endsWith('unplugged')));
    await plugIn();
    const before = requests;
    await until(() => requests > before);
    says('640.1\n');
    await until(() => values().at(-1) === 640.1);
  });

  it('reads a code as one', async () => {
    await start({ key: 'scanner', pattern: '[0-9A-Z]{5}' });
    says('47KAX\r');
    await until(() => sent.some((line) => /^scanner \d+\.\d\d 47KAX$/.test(line)));
  });
});
