import { BenchError } from '../errors.js';

/**
 * The line an instrument speaks: open text, one sample a line, fields apart by one space.
 *
 *     KEY TIME VALUE UNIT RESOLUTION U STATE
 *     scale 12.40 812.4 g 0.1 0.06 ok
 *
 * TIME is seconds on the instrument's own clock; VALUE is in UNIT; RESOLUTION and standard uncertainty U are in
 * UNIT too. STATE is `ok`, or `unplugged` when nothing more will come. A scanner sends `KEY TIME CODE`.
 */
export interface InstrumentSample {
  readonly key: string;
  readonly timeS: number;
  readonly value: number;
  readonly unit: string;
  readonly resolution: number;
  readonly u: number;
  readonly state: 'ok' | 'unplugged';
}
export interface ScannedCode {
  readonly key: string;
  readonly timeS: number;
  readonly code: string;
}

/**
 * The decimals an instrument shows.
 * @example decimalsOf(0.05) // 2
 */
export const decimalsOf = (resolution: number): number =>
  Math.max(0, Math.ceil(-Math.log10(resolution) - 1e-9));

/**
 * A sample as its line. Example: see above.
 * @example instrumentLine({ key: 'scale', timeS: 1.25, value: 812.4, unit: 'g', resolution: 0.1, u: 0.05 }).trim() // 'scale 1.25 812.4 g 0.1 0.05'
 */
export function instrumentLine(sample: InstrumentSample): string {
  const { key, timeS, value, unit, resolution, u, state } = sample;
  return [
    key,
    timeS.toFixed(2),
    value.toFixed(decimalsOf(resolution)),
    unit,
    resolution,
    u,
    state,
  ].join(' ');
}

/**
 * A scanned code as its line.
 * @example scannerLine({ key: 'scanner', timeS: 2, code: '447HP' }) // 'scanner 2.00 447HP'
 */
export const scannerLine = ({ key, timeS, code }: ScannedCode): string =>
  `${key} ${timeS.toFixed(2)} ${code}`;

const number = (field: string, text: string | undefined): number => {
  const value = Number(text);
  if (text === undefined || text === '' || !Number.isFinite(value))
    throw new BenchError(field, $localize`is not a number`, text);
  return value;
};

/**
 * Reads a line back. Errors: the field that is not what it should be.
 * @example readInstrumentLine(scannerLine({ key: 'scanner', timeS: 2, code: '447HP' })).code // '447HP'
 */
export function readInstrumentLine(line: string): InstrumentSample | ScannedCode {
  const fields = line.trim().split(' ');
  const [key, time, third, unit, resolution, u, state] = fields;
  if (!key) throw new BenchError('key', $localize`is missing`);
  const timeS = number('time', time);
  if (fields.length === 3 && third) return { key, timeS, code: third };
  if (fields.length !== 7 || !unit)
    throw new BenchError('line', $localize`does not have seven fields`, line);
  if (state !== 'ok' && state !== 'unplugged')
    throw new BenchError('state', $localize`is neither ok nor unplugged`, state);
  return {
    key,
    timeS,
    value: number('value', third),
    unit,
    resolution: number('resolution', resolution),
    u: number('u', u),
    state,
  };
}
