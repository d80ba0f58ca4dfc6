import {
  inWords,
  judge,
  recessionPerGrindMm,
  standing,
  worst,
  retireReasonOf,
  type Finding,
  type JudgedReading,
  type JudgeInput,
} from '../index.js';
import { limit } from '../testing/made-up-limit.js';
import { plain } from '../testing/plain.js';

const reading = (value: number, u = 0.1, repeated = false) => ({
  value,
  u,
  repeated,
  carried: false,
});

const input = (change: Partial<JudgeInput> = {}): JudgeInput => ({
  spec: {
    newMassG: 1600,
    newLengthMm: 533,
    newWidthMm: 63.5,
    wingMm: 6.35,
    bevelDeg: 30,
    bevelToleranceDeg: 3,
    edgeLengthMm: 100,
    stations: [
      { key: 'tip', name: 'tip', radiusMm: 256.5 },
      { key: 'mid', name: 'middle', radiusMm: 221.5 },
    ],
    limits: [
      limit('width', 52, { stationKey: 'tip', source: 'maker', sourceText: 'manual' }),
      limit('width', 53, { stationKey: 'mid' }),
      limit('bend', 3),
      limit('wing', 3),
      limit('tip-rounding', 6),
      limit('grinds', 4, { unit: 'grinds' }),
      limit('mass-loss', 12, { unit: '%' }),
      limit('length', 521),
      limit('hole-wear', 0.8),
    ],
  },
  rules: { leaveNicksToMm: 0.8, dullLandMm: 0.25, recessionPerGrindMm: 0.6 },
  read: () => undefined,
  widths: [],
  damage: [],
  grinds: 2,
  ...change,
});

/** Readings by `quantity` or `quantity:end`. */
const readings =
  (taken: Record<string, JudgedReading>): JudgeInput['read'] =>
  (quantity, end) =>
    taken[end ? `${quantity}:${end}` : quantity];
const words = (finding: Finding | undefined): string => plain(finding && inWords(finding).words);

const width = (end: 'A' | 'B', stationKey: string, value: number, u = 0.1, repeated = false) => ({
  ...reading(value, u, repeated),
  end,
  stationKey,
});

describe('standing', () => {
  const least = { kind: 'width', value: 52 } as const;
  it('is over below the band, undecided inside it, inside above it', () => {
    expect(standing(least, { value: 51.7, u: 0.1 }, false)).toBe('over');
    expect(standing(least, { value: 51.9, u: 0.1 }, false)).toBe('undecided');
    expect(standing(least, { value: 52.1, u: 0.1 }, false)).toBe('undecided');
    expect(standing(least, { value: 52.3, u: 0.1 }, false)).toBe('inside');
    // At either edge of the doubt it is undecided, a resolution beyond it decided, whatever the sums leave in the last places.
    for (const [value, stands] of [
      [51.79, 'over'],
      [51.8, 'undecided'],
      [52.2, 'undecided'],
      [52.21, 'inside'],
      [0.1 + 0.2 + 51.9, 'undecided'],
      [51.7 + 0.1, 'undecided'],
    ] as const) {
      expect(standing(least, { value, u: 0.1 }, false))
        .withContext(String(value))
        .toBe(stands);
    }
    // The mean of two repeats that is just the limit is inside it, however it was added up.
    for (const [a, b] of [
      [51.9, 52.1],
      [51.95, 52.05],
      [51.7, 52.3],
    ] as const) {
      expect(standing(least, { value: (a + b) / 2, u: 0.1 }, true)).toBe('inside');
      expect(standing(least, { value: (a + b) / 2 - 0.01, u: 0.1 }, true)).toBe('over');
    }
  });

  it('is decided by the mean after one repeat, against a safety limit in doubt', () => {
    expect(standing(least, { value: 52.1, u: 0.1 }, true)).toBe('inside');
    expect(standing(least, { value: 51.9, u: 0.1 }, true)).toBe('over');
    expect(standing({ kind: 'bend', value: 3 }, { value: 2.9, u: 0.2 }, true)).toBe('over');
  });
});

describe('judge', () => {
  it('retires for a crack whatever else is said', () => {
    const { verdict, findings } = judge(input({ crack: { found: true, where: 'wing-root' } }));
    expect(verdict).toBe('retire');
    expect(words(findings[0])).toContain('never ground or fitted again');
  });

  it('retires for a bend past tolerance and says the difference of the tips', () => {
    const { verdict, findings } = judge(
      input({
        read: readings({ 'tip-height:A': reading(44, 0.25), 'tip-height:B': reading(40, 0.25) }),
      }),
    );
    expect(verdict).toBe('retire');
    expect(findings[0]?.value).toBe(4);
    expect(words(findings[0])).toContain('limit 3.0');
  });

  it('says before the work, not after it, that the last grind was had', () => {
    const dull = {
      read: readings({ 'land:A': reading(0.6, 0.01) }),
      grinds: 4,
      widths: [width('A', 'tip', 55)],
    };
    const { verdict, findings } = judge(input({ ...dull, beforeGrind: true }));
    expect(verdict).toBe('retire');
    expect(words(findings[0])).toContain('Needs another grind and has had all 4');
    // Half way through its last grind it is only still dull; sharp enough, it may go on as it is.
    expect(judge(input(dull)).verdict).toBe('grind');
    expect(judge(input({ ...dull, grinds: 3, beforeGrind: true })).verdict).toBe('grind');
    expect(judge(input({ ...dull, read: () => undefined, beforeGrind: true })).verdict).toBe(
      'watch',
    );
  });

  it('sees by the straightedge a bend that both tips share', () => {
    const { verdict, findings } = judge(
      input({
        read: readings({
          'tip-height:A': reading(44, 0.25),
          'tip-height:B': reading(44, 0.25),
          'straightedge-gap': reading(5, 0.2),
        }),
      }),
    );
    expect(verdict).toBe('retire');
    expect(findings[0]?.id).toBe('bend:gap');
  });

  it('says the reason first: end, place, value, limit, source, margin', () => {
    const { verdict, findings } = judge(input({ widths: [width('A', 'tip', 51.2)] }));
    expect(verdict).toBe('retire');
    expect(words(findings[0])).toBe(
      'End A, tip, 10 mm from the tip: 51.2 mm wide, limit 52.0 mm (maker: manual), 0.8 mm past it',
    );
    expect(findings[0]?.margin).toBeCloseTo(-0.8, 9);
    expect(findings[0]?.source).toEqual({ by: 'maker', text: 'manual' });
  });

  it('holds what is too close to call and watches what has less than a grind left', () => {
    expect(judge(input({ widths: [width('A', 'tip', 52.1)] })).verdict).toBe('hold');
    expect(judge(input({ widths: [width('A', 'tip', 52.4)] })).verdict).toBe('watch');
    expect(judge(input({ grinds: 4, widths: [width('A', 'tip', 55)] })).verdict).toBe('watch');
    expect(judge(input({ grinds: 1, widths: [width('A', 'tip', 55)] })).verdict).toBe('fine');
  });

  it('leaves a shallow nick and says what chasing it would cost', () => {
    const { findings } = judge(
      input({
        grinds: 0,
        widths: [width('A', 'tip', 54), width('A', 'mid', 55)],
        damage: [{ id: 'n', kind: 'nick', end: 'A', fromTipMm: 20, depthMm: 0.7 }],
      }),
    );
    const nick = findings.find(({ id }) => id === 'damage:n');
    expect(nick?.severity).toBe('watch');
    expect(words(nick)).toContain('not worth chasing');
    expect(words(nick)).toContain('takes 0.7 mm of the 2.0 mm left');
  });

  it('says of a blade that came used that nobody knows how often it was ground before', () => {
    const count = (cameUsed: boolean): string =>
      judge(input({ grinds: 2, cameUsed }))
        .findings.filter(({ id }) => id === 'grinds')
        .map((finding) => inWords(finding).words)
        .join();
    expect(count(false)).toMatch(/2 .*limit 4.*2 left$/);
    expect(count(true)).toMatch(/2 left; how many before it came nobody knows$/);
  });

  it('grinds a deeper nick down to what may stay', () => {
    const { findings } = judge(
      input({
        widths: [width('A', 'tip', 58)],
        damage: [{ id: 'n', kind: 'nick', end: 'A', fromTipMm: 10, depthMm: 2 }],
      }),
    );
    expect(words(findings.find(({ id }) => id === 'damage:n'))).toContain('take 1.2 mm');
  });

  it('holds a nick whose room is within the doubt of width and depth, on either side of none', () => {
    const verdictOf = (depthMm: number) => {
      const width = { ...reading(60, 0.2), end: 'A' as const, stationKey: 'tip' };
      const mark = { id: 'n', kind: 'nick' as const, end: 'A' as const, fromTipMm: 10, depthMm };
      const { findings } = judge(input({ widths: [width], damage: [mark] }));
      return findings.find(({ id }) => id === 'damage:n');
    };
    // 8 mm of room, 0.8 mm may stay: 8.8 mm are just met. U = 2·√(0.2² + 0.1²) = 0.447 mm.
    const just = verdictOf(8.81);
    expect(just?.severity).toBe('hold');
    expect(just && inWords(just).words).toContain('read the width and the depth again');
    expect(verdictOf(9.24)?.severity).toBe('hold');
    expect(verdictOf(9.26)?.severity).toBe('retire');
    expect(verdictOf(8.8)?.severity).toBe('grind');
  });

  it('refuses what is not a number instead of passing it', () => {
    const width = { ...reading(NaN), end: 'A' as const, stationKey: 'tip' };
    expect(() => judge(input({ widths: [width] }))).toThrowError(/width:A:tip/);
    const mark = { id: 'n', kind: 'nick' as const, end: 'A' as const, fromTipMm: 10, depthMm: NaN };
    expect(() => judge(input({ damage: [mark] }))).toThrowError(/damage:n/);
  });

  it('calls a nick beyond saving when the width limit has no room for it, by how much', () => {
    const { verdict, findings } = judge(
      input({
        grinds: 0,
        widths: [width('B', 'tip', 53)],
        damage: [{ id: 'n', kind: 'chip', end: 'B', fromTipMm: 10, depthMm: 3 }],
      }),
    );
    expect(verdict).toBe('retire');
    expect(words(findings[0])).toContain('1.2 mm more than the width limit leaves');
  });

  it('judges wings by the thinner of reading and mark, tips, length, hole, mass and count', () => {
    const { findings } = judge(
      input({
        grinds: 5,
        read: readings({
          mass: reading(1400),
          length: reading(520),
          'hole-wear': reading(1.2),
          'wing:A': reading(5),
        }),
        damage: [
          { id: 'w', kind: 'thin-wing', end: 'A', fromTipMm: 60, depthMm: 4 },
          { id: 'r', kind: 'rounded-tip', end: 'B', fromTipMm: 0, depthMm: 7 },
        ],
      }),
    );
    const over = findings.filter(({ severity }) => severity === 'retire').map(({ id }) => id);
    expect(over.sort()).toEqual([
      'damage:r',
      'grinds',
      'hole-wear',
      'length',
      'mass-loss',
      'wing:A',
    ]);
  });

  it('counts rust pitting against the wing, and doubts a width read beside it', () => {
    const pit = { id: 'p', kind: 'rust-pitting', end: 'A', fromTipMm: 20, depthMm: 0.6 } as const;
    const widths = [width('A', 'tip', 52.5), width('B', 'tip', 52.5)];
    const { findings } = judge(input({ grinds: 0, widths, damage: [pit] }));
    const by = (id: string) => findings.find((finding) => finding.id === id);
    // u = √(0.1² + 0.6²/3) about the limit of 52: 0.5 mm is inside it at end B and too close to call at end A.
    expect([by('width:A:tip')?.severity, by('width:B:tip')?.severity]).toEqual(['hold', 'watch']);
    expect(by('width:A:tip')?.expandedUncertainty).toBeCloseTo(2 * Math.hypot(0.1, 0.6 / 3 ** 0.5));
    expect(by('wing:A')?.value).toBeCloseTo(6.35 - 0.6, 9);
    expect(by('damage:p')?.severity).toBe('watch');
    expect(words(by('damage:p'))).toContain('rust pitting 0.6 mm deep');
    const far = judge(input({ grinds: 0, widths, damage: [{ ...pit, fromTipMm: 60 }] })).findings;
    expect(far.find(({ id }) => id === 'width:A:tip')?.severity).toBe('watch');
  });

  it('judges the wing’s height only where the spec has a limit for it', () => {
    const read = readings({ 'wing-height:B': reading(14, 0.3) });
    expect(judge(input({ grinds: 0, read })).findings.map(({ id }) => id)).toEqual(['grinds']);
    const spec = { ...input().spec, limits: [limit('wing-height', 16)] };
    const { verdict, findings } = judge(input({ spec, read }));
    expect(verdict).toBe('retire');
    expect(words(findings[0])).toBe(
      'End B, lift wing at the tip: 14.0 mm high, limit 16.0 mm (shop rule: test rule), 2.0 mm past it',
    );
    expect(findings[0] && retireReasonOf(findings[0])).toBe('lift-lost');
  });

  it('asks for a grind when the edge is dull or the bevel is off', () => {
    const { verdict, findings } = judge(
      input({
        grinds: 0,
        read: readings({
          'land:A': reading(0.6),
          'bevel:A': reading(36, 0.4),
          'bevel:B': reading(31, 0.4),
        }),
      }),
    );
    expect(verdict).toBe('grind');
    expect(words(findings.find(({ id }) => id === 'bevel:A'))).toContain('6.0° steeper');
    expect(findings.find(({ id }) => id === 'bevel:B')?.severity).toBe('fine');
  });

  it('gives no finding for what nobody read', () => {
    expect(judge(input({ grinds: 0 })).findings.map(({ id }) => id)).toEqual(['grinds']);
    expect(worst([])).toBe('fine');
  });
});

describe('recessionPerGrindMm', () => {
  it('shrinks a short history toward the usual figure', () => {
    expect(recessionPerGrindMm(2, 4, 0.6)).toBeCloseTo(3.2 / 6, 12);
    expect(recessionPerGrindMm(0, 0, 0.6)).toBe(0.6);
    expect(recessionPerGrindMm(100, 100, 0.6)).toBeCloseTo(1, 1);
  });
});
