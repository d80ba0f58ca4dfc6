import { instrumentLine, type Unit } from '@tally-stone/core';
import { instrumentByKey, parsed } from '@tally-stone/cycle';
import { RegexParser, SerialPort } from 'serialport';
import * as z from 'zod';

/** One gauge on a serial port, and how its lines are read. */
export const GaugeConfig = z.object({
  port: z.string().min(1),
  /** Which instrument it is: `scale`, `caliper`, `angle-gauge`, `tip-gauge` or `scanner`. */
  key: z.string().refine((key) => instrumentByKey(key) !== undefined, 'is no instrument'),
  baudRate: z.int().positive().default(9600),
  /** What of a line is the figure: the first group, else all that matches. */
  pattern: z.string().default('[-+]?\\d+(?:[.,]\\d+)?'),
  /** The unit its figures are in; the instrument's own where it is not said. */
  unit: z.enum(['mm', 'in', 'g', 'kg', 'oz', 'lb', 'deg']).optional(),
});
export type GaugeConfig = z.output<typeof GaugeConfig>;

/** Tried again so long after it was unplugged, or could not be opened, ms. */
const AGAIN_MS = 1000;
/** A gauge that sends one figure has it said for so long, so that the screen sees it stand still, and so often, ms. */
const HELD_MS = 1200;
const SAID_EVERY_MS = 100;
/** A sign of life where nothing is measured, ms. */
const ALIVE_EVERY_MS = 10_000;
/** A line that never ends is no line. */
const LONGEST = 200;
/** What figures of an instrument can be, at the very most. */
const POSSIBLE = [-1e5, 1e5] as const;

export type Send = (key: string, lines: readonly string[]) => Promise<void>;

/** Passes on what one serial gauge says, for as long as it is open; opens it again whenever it comes back. */
export class Gauge {
  private port: SerialPort | undefined;
  private held: { readonly value: number; readonly until: number } | undefined;
  private readonly pattern: RegExp;
  private readonly began = performance.now();
  private readonly timers: NodeJS.Timeout[] = [];
  private again: NodeJS.Timeout | undefined;
  private isOpen = false;
  private isSending = false;
  private closed = false;

  constructor(
    private readonly config: GaugeConfig,
    private readonly send: Send,
    private readonly tell: (words: string) => void = () => undefined,
  ) {
    this.pattern = new RegExp(config.pattern);
  }

  start(): void {
    this.open();
    this.timers.push(
      setInterval(() => {
        this.say();
      }, SAID_EVERY_MS),
      setInterval(() => {
        if (this.isOpen) this.pass([]);
      }, ALIVE_EVERY_MS),
    );
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.again);
    this.timers.forEach(clearInterval);
    if (this.port?.isOpen) this.port.close();
  }

  private open(): void {
    const { port: path, baudRate, key } = this.config;
    const port = new SerialPort({ path, baudRate, autoOpen: false });
    this.port = port;
    // What never ends would fill the memory: the stream is looked at before it is cut into lines.
    let unended = 0;
    port.on('data', (chunk: Buffer) => {
      unended = chunk.includes(10) || chunk.includes(13) ? 0 : unended + chunk.length;
      if (unended > 100 * LONGEST) port.close();
    });
    port.pipe(new RegexParser({ regex: /[\r\n]+/ })).on('data', (line: string) => {
      this.heard(line);
    });
    port.on('close', () => {
      this.lost('was unplugged');
    });
    port.on('error', (error: Error) => {
      this.tell(`${key}: ${error.message}`);
    });
    port.open((error) => {
      if (error) {
        this.lost(`cannot be opened (${error.message})`);
        return;
      }
      this.isOpen = true;
      this.tell(`${key} on ${path}: open`);
      this.pass([]);
    });
  }

  private lost(why: string): void {
    const { key, port } = this.config;
    if (this.isOpen) this.pass([this.line(0, 'unplugged')]);
    this.isOpen = false;
    this.held = undefined;
    if (this.closed) return;
    this.tell(`${key} on ${port} ${why}: tried again`);
    this.again = setTimeout(() => {
      this.open();
    }, AGAIN_MS);
  }

  private heard(line: string): void {
    const { key, unit } = this.config;
    if (line.length > LONGEST) return;
    const instrument = instrumentByKey(key);
    if (!instrument) return;
    const found = this.pattern.exec(line);
    const text = found?.[1] ?? found?.[0];
    if (text === undefined) return;
    if (key === 'scanner') {
      const code = text.trim();
      if (/^\S{1,60}$/.test(code)) this.pass([`${key} ${this.now().toFixed(2)} ${code}`]);
      return;
    }
    try {
      const entered = { text, unit: (unit ?? instrument.unit) as Unit };
      const value = parsed(entered, instrument.unit, 'value', POSSIBLE);
      this.held = { value, until: performance.now() + HELD_MS };
    } catch {
      // Half a figure, or one out of all measure: the next one is awaited.
    }
  }

  private readonly now = (): number => (performance.now() - this.began) / 1000;

  private line(value: number, state: 'ok' | 'unplugged'): string {
    const instrument = instrumentByKey(this.config.key);
    if (!instrument) return '';
    const { key, unit, resolution, u } = instrument;
    return instrumentLine({ key, timeS: this.now(), value, unit, resolution, u, state });
  }

  /** However fast a gauge speaks, its newest figure is said ten times a second. */
  private say(): void {
    if (!this.held || performance.now() > this.held.until) return;
    this.pass([this.line(this.held.value, 'ok')]);
  }

  /** While a request is under way newer figures are not queued: the next one tells. */
  private pass(lines: readonly string[]): void {
    const matters = lines.length === 0 || lines.some((line) => !line.endsWith(' ok'));
    if (this.isSending && !matters) return;
    this.isSending = true;
    this.send(this.config.key, lines)
      .catch((error: unknown) => {
        this.tell(`${this.config.key}: the shop does not answer (${String(error)})`);
      })
      .finally(() => {
        this.isSending = false;
      });
  }
}
