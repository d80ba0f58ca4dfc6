import { DEFAULT_RULES } from '@tally-stone/contract';
import { HoursToCome, type Mown } from './edge-hours.js';

const NOW = new Date('2026-12-01T09:00:00Z');

/** A deck's blades of one spec, so many hours a month, since a day. */
const record = (
  since: string,
  hoursIn: Readonly<Record<string, number>>,
  deckId = 'deck',
  specId = 'spec',
): Mown[] =>
  Object.entries(hoursIn).map(([month, hours]) => ({
    deckId,
    specId,
    month,
    hours,
    fitHours: 3 * hours,
    fits: 3,
    since,
  }));
const SEASON = { '04': 40, '05': 60, '06': 60, '07': 60, '08': 60, '09': 50, '10': 30 };

describe('the hours to come', () => {
  const toCome = (mown: readonly Mown[]): HoursToCome => new HoursToCome(mown, DEFAULT_RULES, NOW);

  it('are those of the same month where the last year is on record, none in a month in which nobody mowed', () => {
    const hours = toCome(record('2023-03-01T08:00:00Z', SEASON));
    expect(hours.ofDeck('deck', 5)).toBe(60);
    expect(hours.ofDeck('deck', 1)).toBe(0);
    expect(hours.ofSpec('spec', 10, [])).toBe(90);
    expect(hours.since).toBeUndefined();
  });

  it('are not spread over a year by a shop that began two months ago', () => {
    const hours = toCome(record('2026-10-01T09:00:00Z', { '10': 50, '11': 70 }));
    // 120 h in two months are 60 a month, not 10.
    for (const month of [1, 6, 10, 12]) expect(hours.ofDeck('deck', month)).toBeCloseTo(60, 9);
    expect(hours.ofSpec('spec', 6, [])).toBeCloseTo(180, 9);
    expect(hours.since).toBe('2026-10-01T09:00:00Z');
  });

  it('are the mean in months from before the record began, and a winter on record stays one', () => {
    const hours = toCome(record('2026-04-01T09:00:00Z', SEASON));
    expect(hours.ofDeck('deck', 6)).toBe(60);
    expect(hours.ofDeck('deck', 11)).toBe(0);
    // 360 h in the eight months on record.
    expect(hours.ofDeck('deck', 2)).toBeCloseTo(45, 9);
  });

  it('of a mower that is new to an old shop are told by its own record', () => {
    const hours = toCome([
      ...record('2023-03-01T08:00:00Z', SEASON),
      ...record('2026-11-01T09:00:00Z', { '11': 40 }, 'new deck', 'new spec'),
    ]);
    expect(hours.ofDeck('new deck', 6)).toBeCloseTo(40, 0);
    expect(hours.ofSpec('new spec', 6, [])).toBeCloseTo(120, 0);
    expect(hours.ofDeck('deck', 6)).toBe(60);
    expect(hours.since).toBeUndefined();
  });

  it('of blades on their first fit go by the pace of their mowers', () => {
    const hours = toCome([]);
    // Seven hours on five days of the week, three blades, a twelfth of a year.
    expect(hours.ofSpec('spec', 6, [7, 7, 7])).toBeCloseTo((5 * 3 * 365.25) / 12, 9);
    expect(hours.ofSpec('spec', 6, [])).toBe(0);
    expect(hours.ofDeck('deck', 6)).toBeUndefined();
    expect(hours.since).toBeNull();
  });
});
