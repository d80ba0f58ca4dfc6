import { LIMITS, type LimitKind } from '@tally-stone/core';
import { Command, InstrumentAct, pathOf, SpecFigures } from './index.js';
import { madeUpSpec } from './testing/made-up-spec.js';
import * as z from 'zod';
import './zod.js';

const id = (n: number): string => `018f0000-0000-7000-8000-00000000000${n}`;

describe('schemas', () => {
  it('name the field of a command that is wrong', () => {
    const parsed = Command.safeParse({
      type: 'count-passes',
      id: id(1),
      personId: id(2),
      occurredAt: '2026-05-01T08:00:00Z',
      cycleId: id(3),
      expectedRevision: 0,
      passId: id(4),
      end: 'A',
      count: 0,
    });
    expect(parsed.success).toBeFalse();
    expect(parsed.error?.issues[0]?.path).toEqual(['count']);
    expect(parsed.error?.issues[0]?.message).toBe('must be at least 1');
  });

  it('refuse two spindles of one name, at the second', () => {
    const parsed = Command.safeParse({
      type: 'add-mower',
      id: id(1),
      personId: id(2),
      occurredAt: '2026-05-01T08:00:00Z',
      mowerId: id(3),
      name: 'Wren',
      energy: 'petrol',
      site: '',
      bladeSpeedRpm: 3000,
      spindles: [
        { spindleId: id(4), position: 'left' },
        { spindleId: id(5), position: ' left' },
      ],
      hoursH: 0,
    });
    expect(parsed.error?.issues.map(({ path }) => path.join('.'))).toEqual(['spindles.1.position']);
  });

  it('refuse a limit that no blade could have, at that limit', () => {
    const refused = (kind: LimitKind, ...values: number[]): (string | undefined)[] =>
      values.map((value) => {
        const parsed = SpecFigures.safeParse({
          ...madeUpSpec({ thicknessMm: 6, wingMm: 6 }),
          limits: [
            {
              kind,
              value,
              unit: LIMITS[kind].unit,
              ...(kind === 'width' ? { stationKey: 'tip' } : {}),
              source: 'shop',
              sourceText: 'x',
            },
          ],
        });
        const [issue] = parsed.error?.issues ?? [];
        if (issue) expect(issue.path).toEqual(['limits', 0, 'value']);
        return issue?.message;
      });
    const [newSize, slip, none] = refused('width', 61, 5.3, 0);
    expect(newSize).toContain('is not below the new blade');
    // A decimal point in the wrong place: such a blade would never be retired.
    expect(slip).toContain('is less than any blade may wear to, 20\u00a0mm');
    expect(none).toBe(slip);
    expect(refused('width', 20, 53)).toEqual([undefined, undefined]);
    expect(refused('wing', 0.32, 3.2)).toEqual([
      jasmine.stringContaining('less than any blade'),
      undefined,
    ]);
    expect(refused('length', 48.8, 488)).toEqual([
      jasmine.stringContaining('less than any blade'),
      undefined,
    ]);
    expect(refused('hole-wear', 52, 0.8)).toEqual([
      jasmine.stringContaining('is outside 0.05\u00a0mm to 5\u00a0mm'),
      undefined,
    ]);
    expect(refused('bend', 30, 3)[0]).toContain('is outside');
    expect(refused('mass-loss', 120, 12)).toEqual([
      jasmine.stringContaining('is outside'),
      undefined,
    ]);
    expect(refused('grinds', 2.5, 0, 8)).toEqual([
      'must be a whole number',
      jasmine.stringContaining('is outside'),
      undefined,
    ]);
  });

  it('build paths with what goes into them made safe', () => {
    expect(pathOf('code', { text: 'A C/4' })).toBe('/api/v1/codes/A%20C%2F4');
  });
});

describe('every number that comes in', () => {
  type Node = Record<string, unknown>;
  const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null;
  /** The paths of all numbers below a JSON schema that lack a bound a person could have measured to. */
  const unbounded = (node: unknown, path: string): string[] => {
    if (!isNode(node)) return [];
    const below = Object.entries(node).flatMap(([key, each]) => unbounded(each, `${path}/${key}`));
    const isNumber = node['type'] === 'number' || node['type'] === 'integer';
    const bounded =
      typeof node['minimum'] === 'number' &&
      typeof node['maximum'] === 'number' &&
      Math.abs(node['maximum']) < 1e7;
    return isNumber && !bounded && node['const'] === undefined ? [path, ...below] : below;
  };

  for (const [name, schema] of [
    ['a command', Command],
    ['an instrument’s act', InstrumentAct],
  ] as const) {
    it(`has two bounds the trade can hold: ${name}`, () => {
      expect(unbounded(z.toJSONSchema(schema, { io: 'input' }), '')).toEqual([]);
    });
  }

  it('is refused by its bound in words, not by a number that underflows', () => {
    const hung = InstrumentAct.safeParse({
      act: 'hang-check',
      massG: 1e-200,
      lengthMm: 1e-200,
      widthMm: -1,
      weightG: 1e9,
      radiusMm: 100,
      end: 'A',
      turned: false,
    });
    expect(hung.error?.issues.map(({ path, message }) => [path[0], message])).toEqual([
      ['massG', 'is less than 50\u00a0g'],
      ['lengthMm', 'is less than 150\u00a0mm'],
      ['widthMm', 'must be above zero'],
      ['weightG', 'is more than 200\u00a0g'],
    ]);
  });
});
