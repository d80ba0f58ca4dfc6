import {
  isAboutEdge,
  judge,
  widthLimitMm,
  type Finding,
  type JudgedReading,
  type JudgeInput,
} from '../index.js';
import { limit } from '../testing/made-up-limit.js';

/** What a mutation of the judges could change without any other test seeing it: places, choices, and every edge. */
const read = (value: number, u = 0.1, more: Partial<JudgedReading> = {}): JudgedReading => ({
  value,
  u,
  repeated: false,
  carried: false,
  ...more,
});
const SPEC: JudgeInput['spec'] = {
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
    limit('width', 52, { stationKey: 'tip' }),
    limit('width', 53, { stationKey: 'mid' }),
    limit('bend', 3),
    limit('grinds', 4, { unit: 'grinds' }),
    limit('mass-loss', 12, { unit: '%' }),
    limit('length', 521),
  ],
};
const judged = (change: Partial<JudgeInput>): readonly Finding[] =>
  judge({
    spec: SPEC,
    rules: { leaveNicksToMm: 0.8, dullLandMm: 0.25, recessionPerGrindMm: 0.6 },
    read: () => undefined,
    widths: [],
    damage: [],
    grinds: 2,
    ...change,
  }).findings;
const of = (taken: Record<string, JudgedReading>): Partial<JudgeInput> => ({
  read: (quantity, end) => taken[end ? `${quantity}:${end}` : quantity],
});
const one = (findings: readonly Finding[], id: string): Finding => {
  const found = findings.find((each) => each.id === id);
  if (!found) throw new Error(`no finding ${id}`);
  return found;
};
const width = (end: 'A' | 'B', stationKey: string, value: number) => ({
  ...read(value),
  end,
  stationKey,
});
const WIDTHS = [
  width('A', 'tip', 55),
  width('A', 'mid', 53.5),
  width('B', 'tip', 60),
  width('B', 'mid', 60),
];
const nick = (end: 'A' | 'B', fromTipMm: number, more: object = {}) => ({
  id: 'n',
  kind: 'nick' as const,
  end,
  fromTipMm,
  depthMm: 2,
  ...more,
});
const nicked = (mark: ReturnType<typeof nick>): Finding =>
  one(judged({ widths: WIDTHS, damage: [mark] }), 'damage:n');

describe('a nick', () => {
  it('has the room of its own place and its own end', () => {
    // 1.2 mm are to go. Room is 3 mm at the tip, 0.5 in the middle and even between; 8 and 7 at the other end.
    expect(nicked(nick('A', 10))).toEqual(jasmine.objectContaining({ severity: 'grind' }));
    expect(nicked(nick('A', 10)).margin).toBeCloseTo(1.8, 9);
    expect(nicked(nick('A', 27.5)).margin).toBeCloseTo(0.55, 9);
    const beyond = nicked(nick('A', 45));
    expect([beyond.severity, beyond.reason]).toEqual(['retire', 'damage-beyond-saving']);
    expect(beyond.margin).toBeCloseTo(-0.7, 9);
    expect(nicked(nick('B', 45)).margin).toBeCloseTo(5.8, 9);
  });

  it('is cleared or left by its own choice, against the policy', () => {
    const cleared = nicked(nick('A', 10, { choice: 'clear' }));
    expect(cleared.margin).toBeCloseTo(1, 9);
    expect(cleared.limit).toBe(0);
    expect(cleared.source).toEqual({ by: 'nick-choice', choice: 'clear', damage: 'nick' });
    const left = nicked(nick('A', 45, { choice: 'leave' }));
    expect([left.severity, left.reason]).toEqual(['watch', 'damage-left']);
    expect(nicked(nick('A', 10)).source).toEqual({ by: 'nick-policy', leaveToMm: 0.8 });
  });

  it('is ground out where nobody knows the room', () => {
    const found = one(judged({ damage: [nick('A', 10)] }), 'damage:n');
    expect(found.severity).toBe('grind');
    expect(found.margin).toBeUndefined();
  });
});

describe('other marks', () => {
  it('retire, hold until they are measured, or do nothing by themselves', () => {
    const marked = (kind: 'crack' | 'worn-hole', more: Partial<JudgeInput> = {}) =>
      one(
        judged({ ...more, damage: [{ id: 'm', kind, end: 'A', fromTipMm: 30, depthMm: 5 }] }),
        'damage:m',
      );
    expect(marked('crack')).toEqual(
      jasmine.objectContaining({
        severity: 'retire',
        reason: 'damage-retires',
        source: { by: 'safety' },
      }),
    );
    expect(marked('worn-hole').severity).toBe('hold');
    expect(
      marked('worn-hole', of({ 'hole-wear': read(0.2, 0.1, { carried: true }) })).severity,
    ).toBe('hold');
    const measured = marked('worn-hole', of({ 'hole-wear': read(0.2) }));
    expect([measured.severity, measured.reason]).toEqual(['watch', 'damage-to-measure']);
  });
});

describe('the edge', () => {
  it('asks for a grind beyond tolerance and doubt of the bevel, not at them', () => {
    const bevel = (value: number) => one(judged(of({ 'bevel:A': read(value, 0.2) })), 'bevel:A');
    expect(bevel(33.4).severity).toBe('fine');
    expect(bevel(33.41).severity).toBe('grind');
    expect(bevel(32.8).severity).toBe('fine');
    expect(bevel(32.8).margin).toBeCloseTo(0.2, 9);
    expect(bevel(26).severity).toBe('grind');
    expect(bevel(26).margin).toBeCloseTo(-1, 9);
    expect(bevel(32.8).source).toEqual({ by: 'spec' });
  });

  it('is dull above what a working edge keeps, not at it', () => {
    const land = (value: number) => one(judged(of({ 'land:B': read(value, 0.04) })), 'land:B');
    expect(land(0.25).severity).toBe('fine');
    expect(land(0.26).severity).toBe('grind');
    expect(land(0.1).margin).toBeCloseTo(0.15, 9);
    expect(land(0.1).expandedUncertainty).toBeCloseTo(0.08, 9);
    expect(isAboutEdge(land(0.1))).toBeTrue();
    expect(isAboutEdge({ reason: 'bevel' })).toBeTrue();
    expect(isAboutEdge({ reason: 'width' })).toBeFalse();
  });
});

describe('the whole blade', () => {
  it('has lost mass in parts of a hundred of new', () => {
    const mass = (grams: number) => one(judged(of({ mass: read(grams, 0.3) })), 'mass-loss');
    expect(mass(1440).value).toBeCloseTo(10, 9);
    expect(mass(1440).margin).toBeCloseTo(2, 9);
    expect(mass(1440).severity).toBe('fine');
    expect(mass(1420).severity).toBe('watch');
    expect(mass(1400).severity).toBe('retire');
  });

  it('is bent by the difference of both tips: one alone says nothing', () => {
    const tips = (A?: JudgedReading, B?: JudgedReading) =>
      judged(of({ ...(A && { 'tip-height:A': A }), ...(B && { 'tip-height:B': B }) }));
    expect(tips(read(40)).some(({ id }) => id === 'bend')).toBeFalse();
    const bend = (apart: number, A = {}, B = {}) =>
      one(tips(read(40 + apart, 0.01, A), read(40, 0.01, B)), 'bend');
    expect(bend(1.9).severity).toBe('fine');
    expect(bend(2.1).severity).toBe('watch');
    expect(bend(2, { carried: true }).carried).toBeTrue();
    expect(bend(2).carried).toBeFalse();
    // At the limit the mean of repeats decides, against what may hurt: of both tips, not of one.
    expect(bend(3, { repeated: true }).severity).toBe('hold');
    expect(bend(3, { repeated: true }, { repeated: true }).severity).toBe('retire');
  });

  it('has had its last grind with nothing left of them', () => {
    const findings = judged({
      ...of({ 'land:A': read(0.6) }),
      grinds: 4,
      beforeGrind: true,
    });
    const last = one(findings, 'grinds:last');
    expect(last.margin).toBe(-1);
    expect(last.source).toEqual({ by: 'shop', text: 'test rule' });
  });

  it('says of a figure that nobody measured where it comes from', () => {
    const length = (more: Partial<JudgedReading>) =>
      one(judged(of({ length: read(530, 0.1, more) })), 'length');
    expect(length({ fromSpec: true }).fromSpec).toBeTrue();
    expect(length({}).fromSpec).toBeUndefined();
  });

  it('lists the worst first, and of those the one with the least room', () => {
    const ids = judged({
      widths: [width('A', 'tip', 60), width('B', 'tip', 58), width('A', 'mid', 50)],
    }).map(({ id }) => id);
    expect(ids.slice(0, 1)).toEqual(['width:A:mid']);
    expect(ids.indexOf('width:B:tip')).toBeLessThan(ids.indexOf('width:A:tip'));
  });
});

describe('the width limit at a place', () => {
  it('runs straight between the stations that have one', () => {
    expect(widthLimitMm(SPEC, 239)).toBeCloseTo(52.5, 9);
    expect(widthLimitMm(SPEC, 256.5)).toBe(52);
    expect(widthLimitMm({ ...SPEC, limits: [] }, 239)).toBeUndefined();
  });

  it('is doubted for a pit within its reach at the same end only', () => {
    const pit = (end: 'A' | 'B', fromTipMm: number) =>
      one(
        judged({
          widths: [width('A', 'tip', 55)],
          damage: [{ id: 'p', kind: 'rust-pitting', end, fromTipMm, depthMm: 0.6 }],
        }),
        'width:A:tip',
      ).expandedUncertainty;
    expect(pit('A', 10)).toBeGreaterThan(0.5);
    expect(pit('B', 10)).toBeCloseTo(0.2, 9);
    expect(pit('A', 60)).toBeCloseTo(0.2, 9);
  });
});
