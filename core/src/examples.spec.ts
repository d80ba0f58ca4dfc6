import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as core from './index.js';
import { examplesIn, NAMES, type Example } from './testing/examples.js';

const SOURCES = join(dirname(fileURLToPath(import.meta.url)), '../src');

const examples = readdirSync(SOURCES, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !file.endsWith('.spec.ts'))
  .flatMap((file) => examplesIn(file, readFileSync(join(SOURCES, file), 'utf8')));

/** A number as written says how exactly it is meant: half a unit of its last place. */
const half = (text: string): number => 0.5 * 10 ** -(text.split('.')[1]?.length ?? 0);

describe('the examples in the doc comments', () => {
  const names: Record<string, unknown> = { ...core, ...NAMES };

  const evaluate = (expression: string): unknown =>
    // The expressions are this package's own doc comments.
    (
      new Function(...Object.keys(names), `return (${expression});`) as (
        ...all: unknown[]
      ) => unknown
    )(...Object.values(names));

  function check({ expression, expected }: Example): void {
    if (expected.startsWith('throws ')) {
      expect(() => evaluate(expression)).toThrowError(new RegExp(expected.slice(7)));
      return;
    }
    const found = evaluate(expression);
    if (/^[-−]?[\d.]+$/.test(expected)) {
      const number = Number(expected.replace('−', '-'));
      expect(typeof found).toBe('number');
      expect(Math.abs((found as number) - number)).toBeLessThanOrEqual(half(expected) + 1e-12);
      return;
    }
    expect(found).toEqual(evaluate(expected));
  }

  for (const example of examples) {
    it(`${example.of}: ${example.expression}`, () => {
      check(example);
    });
  }

  it('are there for every function the package gives out', () => {
    const without = Object.entries(core)
      .filter(([, value]) => typeof value === 'function' && !/^class /.test(String(value)))
      .map(([name]) => name)
      .filter((name) => !examples.some(({ of }) => of === name));
    expect(without).toEqual([]);
  });
});
