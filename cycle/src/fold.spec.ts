import type { CycleEvent, TakenReading } from '@tally-stone/contract';
import { foldCycle, hasBurr, isHungAsItStands, passesAt, placeKey, readingsAt } from './index.js';

const id = (n: number): string => `018f0000-0000-7000-8000-00000000000${n}`;
const opened: CycleEvent = {
  type: 'opened',
  cycleId: id(1),
  bladeId: id(2),
  specRevisionId: id(3),
  personId: id(4),
  at: '2026-05-01T08:00:00Z',
};
const reading = (n: number, value: number, more: Partial<TakenReading> = {}): CycleEvent => ({
  type: 'reading-taken',
  reading: {
    readingId: id(n),
    phase: 'before',
    quantity: 'mass',
    value,
    u: 0.1,
    resolution: 0.1,
    entered: { text: String(value), unit: 'g' },
    repeat: false,
    source: 'typed',
    at: '2026-05-01T08:01:00Z',
    ...more,
  },
});

const round = {
  roundId: id(6),
  phase: 'after',
  device: 'nail',
  heavyEnd: 'level',
  unbalanceGmm: 0,
  u: 100,
} as const;

describe('a cycle is the fold of its events', () => {
  it('counts a revision for every event after the opening', () => {
    expect(foldCycle([opened]).revision).toBe(0);
    expect(foldCycle([opened, { type: 'cleaned', done: true }, reading(5, 800)]).revision).toBe(2);
    expect(() => foldCycle([{ type: 'cleaned', done: true }])).toThrowError(/opening/);
  });

  it('lets a new reading replace the old one, and a repeat stand beside it', () => {
    const place = { phase: 'before', quantity: 'mass' } as const;
    expect(readingsAt(foldCycle([opened, reading(5, 800), reading(6, 801)]), place)).toHaveSize(1);
    const repeated = foldCycle([opened, reading(5, 800), reading(6, 801, { repeat: true })]);
    expect(readingsAt(repeated, place).map(({ value }) => value)).toEqual([800, 801]);
  });

  it('fills the bevel by gauge or by its face, not by both', () => {
    const bevel = { quantity: 'bevel', end: 'A' } as const;
    const state = foldCycle([
      opened,
      reading(5, 30, bevel),
      reading(6, 12.7, { quantity: 'face', end: 'A' }),
    ]);
    expect(state.readings.map(({ quantity }) => quantity)).toEqual(['face']);
    expect(placeKey({ phase: 'before', ...bevel })).toBe(
      placeKey({ phase: 'before', quantity: 'face', end: 'A' }),
    );
  });

  it('counts and takes back passes, and a pass unsays the light test', () => {
    const count = (n: number, end: 'A' | 'B', count: number): CycleEvent => ({
      type: 'passes-counted',
      passes: { passId: id(n), end, count },
    });
    const state = foldCycle([
      opened,
      { type: 'light-tested', end: 'A', brightLine: false },
      count(5, 'A', 3),
      count(6, 'A', 1),
      count(7, 'B', 12),
      { type: 'passes-undone', passId: id(6) },
    ]);
    expect(passesAt(state, 'A')).toBe(3);
    expect(passesAt(state, 'B')).toBe(12);
    expect(state.lightTest).toEqual({});
  });

  it('remembers how many passes stood when the blade was hung', () => {
    const state = foldCycle([
      opened,
      { type: 'passes-counted', passes: { passId: id(5), end: 'A', count: 4 } },
      { type: 'balance-read', round },
    ]);
    expect(state.rounds[0]?.passesBefore).toBe(4);
  });

  it('takes passes back from what was hung, weighed and deburred after them: one ground anew is after it', () => {
    const count = (n: number, many: number): CycleEvent => ({
      type: 'passes-counted',
      passes: { passId: id(n), end: 'A', count: many },
    });
    const weighed = { value: 1120, u: 0.1 };
    const setUp = { grinderId: id(8), abrasiveId: id(9), withoutCheck: undefined };
    const hung: CycleEvent[] = [
      opened,
      count(1, 4),
      count(2, 1),
      { type: 'set-up', setUp, weighed },
      { type: 'deburred', done: true },
      { type: 'balance-read', round },
    ];
    const stands = (...more: CycleEvent[]) => {
      const state = foldCycle([...hung, ...more]);
      return [isHungAsItStands(state), hasBurr(state), state.weighings?.[0]?.passesBefore];
    };
    const undone = (n: number): CycleEvent => ({ type: 'passes-undone', passId: id(n) });
    expect(stands()).toEqual([true, false, 5]);
    expect(stands(undone(2))).toEqual([true, false, 4]);
    expect(stands(undone(1))).toEqual([true, false, 1]);
    expect(stands(undone(2), count(3, 1))).toEqual([false, true, 4]);
    expect(stands(count(3, 1))).toEqual([false, true, 5]);
    expect(stands(count(3, 1), undone(3))).toEqual([true, false, 5]);
  });

  it('marks, moves and erases damage', () => {
    const mark = (depthMm: number): CycleEvent => ({
      type: 'damage-marked',
      damage: { damageId: id(5), kind: 'nick', end: 'A', fromTipMm: 20, radiusMm: 246, depthMm },
    });
    expect(foldCycle([opened, mark(1), mark(2)]).damage.map(({ depthMm }) => depthMm)).toEqual([2]);
    expect(foldCycle([opened, mark(1), { type: 'damage-erased', damageId: id(5) }]).damage).toEqual(
      [],
    );
  });
});
