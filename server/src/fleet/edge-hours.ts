import type { HoursAssumption, ShopRules } from '@tally-stone/contract';
import { dutyFactor } from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import type { DeckDueRow } from './deck-due.model.js';
import type { DeckRow } from './deck.model.js';

/** Days of the week on which a shop mows. Common practice, no source. */
export const MOWING_WEEKDAYS: readonly number[] = [1, 2, 3, 4, 5];

/** Hours of a mower on a mowing day, until its own are known. Common practice, no source. */
export const USUAL_HOURS_PER_DAY = 4;
/** No mower mows longer in a day. */
export const MOST_HOURS_A_DAY = 12;

/** A deck's hours on a mowing day by its pace of late; nothing where it has none. */
export const paceOf = (row: DeckDueRow | null | undefined): number | undefined =>
  row && row.hoursPerDay > 0
    ? Math.min(MOST_HOURS_A_DAY, (row.hoursPerDay * 7) / MOWING_WEEKDAYS.length)
    : undefined;

/** Hours an edge stays sharp on soft turf. Common practice, no source. */
const USUAL_EDGE_H = 10;

/** Hours an edge stays sharp on a deck's site, by the shop's own rule for when a set is due. */
export function edgeLifeH(
  { interval }: ShopRules,
  { figures }: DeckRow,
  hoursPerDay: number,
): { hours: number; words: string } {
  const factor = figures ? dutyFactor(figures.duty) : 1;
  switch (interval.kind) {
    case 'hours':
      return {
        hours: interval.hours / factor,
        words: $localize`the shop’s interval of ${interval.hours} h on soft turf, by each site’s duty`,
      };
    case 'days':
      return {
        hours: Math.max(1, (interval.days * hoursPerDay * MOWING_WEEKDAYS.length) / 7),
        words: $localize`the shop’s interval of ${interval.days} days at each mower’s pace`,
      };
    case 'when-shown':
      return {
        hours: USUAL_EDGE_H / factor,
        words: $localize`ten hours on soft turf, by each site’s duty: usual`,
      };
  }
}

/** What blades of one spec mowed on one deck in one calendar month of the last year. */
export interface Mown {
  readonly deckId: string;
  readonly specId: string;
  /** `05` is May. */
  readonly month: string;
  /** Hours of the mower, and hours of all its blades from fit to pull. */
  readonly hours: number;
  readonly fits: number;
  readonly fitHours: number;
  /** When the first of them was put on, ever. */
  readonly since: string;
}
const MOWN = `
  SELECT spindle.deckId AS deckId, blade.specId AS specId, substr(fit."to", 6, 2) AS month,
    sum(iif(fit."to" >= :since, fit.toHoursH - fit.fromHoursH, 0) * 1.0
      / (SELECT count(*) FROM spindle AS other WHERE other.deckId = spindle.deckId)) AS hours,
    sum(fit."to" >= :since) AS fits, sum(iif(fit."to" >= :since, fit.toHoursH - fit.fromHoursH, 0)) AS fitHours,
    min(fit."from") AS since
  FROM fit JOIN spindle ON spindle.id = fit.spindleId JOIN blade ON blade.id = fit.bladeId
  WHERE fit."to" IS NOT NULL AND fit.toHoursH > fit.fromHoursH
  GROUP BY spindle.deckId, blade.specId, month`;

/** With fewer months than this a record has told nothing about the seasons: all months are taken alike. */
const TELLING_MONTHS = 6;
/** What was mown in less than this is taken for it. */
const LEAST_MONTHS = 0.5;
const DAYS_A_MONTH = 365.25 / 12;
/** With fewer pulled blades than this a deck or a spec goes by the mean of all. */
const TELLING_FITS = 4;

const sum = (mown: readonly Mown[], of: 'hours' | 'fits' | 'fitHours'): number =>
  mown.reduce((all, each) => all + each[of], 0);

/** The months of the last year that a record covers: as many, and which calendar months from their first day to their last. */
function coveredMonths(since: string, now: Date): { length: number; whole: ReadonlySet<number> } {
  // Months of the record are those of stored instants.
  const until = DateTime.fromJSDate(now, { zone: 'utc' });
  const from = DateTime.max(DateTime.fromISO(since, { zone: 'utc' }), until.minus({ years: 1 }));
  const length = until.diff(from, 'months').months;
  const whole = new Set<number>();
  // A year holds every month, the one that is running from the year before.
  const first =
    length > 11.9 ? from.startOf('month') : from.plus({ months: 1, days: -1 }).startOf('month');
  for (let month = first; month < until.startOf('month'); month = month.plus({ months: 1 }))
    whole.add(month.month);
  return { length, whole };
}

/**
 * In a calendar month, 1 to 12, by what the last year was like. A month that no record covers, since the shop or the mower
 * is new to it, is as the others are on the mean; a month that is covered and in which nothing was mown had none.
 */
function inMonth(
  mown: readonly Mown[],
  of: 'hours' | 'fitHours',
  month: number,
  now: Date,
): number {
  const since = mown.map((each) => each.since).sort()[0] ?? now.toISOString();
  const { length, whole } = coveredMonths(since, now);
  const told = new Set(mown.filter(({ fits }) => fits > 0).map((each) => each.month)).size;
  if (told < TELLING_MONTHS || !whole.has(month))
    return sum(mown, of) / Math.max(LEAST_MONTHS, length);
  return sum(
    mown.filter((each) => Number(each.month) === month),
    of,
  );
}

function edgeOf(mown: readonly Mown[], least: number): number | undefined {
  const fits = sum(mown, 'fits');
  return fits < least ? undefined : sum(mown, 'fitHours') / fits;
}

/** A deck with its pace: hours on a mowing day. */
interface MowingDeck {
  readonly deck: DeckRow;
  readonly hoursPerDay: number;
}

/**
 * The hours to come, for the months ahead and the season alike. How much is mown is as in the same month of the
 * last year. How long an edge stays on is an assumption that the user chooses: as last year, or by the rule.
 */
export class HoursToCome {
  constructor(
    private readonly mown: readonly Mown[],
    private readonly rules: ShopRules,
    private readonly now: Date,
  ) {}

  /** Since when there is a record, where that is less than a year; `null` where nothing was mown yet. */
  get since(): string | null | undefined {
    const [first = null] = this.mown.map(({ since }) => since).sort();
    return first === null || coveredMonths(first, this.now).length < 11.9 ? first : undefined;
  }

  /** Hours of a deck in a calendar month, 1 to 12; nothing where it did not mow last year. */
  ofDeck(deckId: string, month: number): number | undefined {
    const own = this.mown.filter((each) => each.deckId === deckId);
    return sum(own, 'fits') === 0 ? undefined : inMonth(own, 'hours', month, this.now);
  }

  /**
   * Hours of all blades of a spec together in a calendar month. Where none has come off a mower in a year they go by the
   * pace of those they are on, hours on a mowing day of each blade.
   */
  ofSpec(specId: string, month: number, paces: readonly number[]): number {
    const own = this.mown.filter((each) => each.specId === specId);
    if (sum(own, 'fits') > 0) return inMonth(own, 'fitHours', month, this.now);
    const aDay = paces.reduce((all, pace) => all + pace, 0);
    return (aDay * MOWING_WEEKDAYS.length * DAYS_A_MONTH) / 7;
  }

  /** Hours an edge stays on a deck; last year's where there are none is the rule's. */
  edgeOnDeck(assumed: HoursAssumption, deck: DeckRow, hoursPerDay: number): number {
    const byRule = edgeLifeH(this.rules, deck, hoursPerDay).hours;
    if (assumed === 'rule') return byRule;
    const own = this.mown.filter((each) => each.deckId === deck.id);
    return edgeOf(own, TELLING_FITS) ?? edgeOf(this.mown, 1) ?? byRule;
  }

  /** The same for a spec: by last year's fits of its blades, or the mean rule of the decks they ran on. */
  edgeOfSpec(assumed: HoursAssumption, specId: string, decks: readonly MowingDeck[]): number {
    const own = this.mown.filter((each) => each.specId === specId);
    const ranOn = decks.filter(({ deck }) => own.some(({ deckId }) => deckId === deck.id));
    const of = ranOn.length > 0 ? ranOn : decks;
    if (assumed === 'last-year') {
      const last = edgeOf(own, TELLING_FITS) ?? edgeOf(this.mown, 1);
      if (last !== undefined) return last;
    }
    return of.length === 0
      ? USUAL_EDGE_H
      : of.reduce((all, { deck, hoursPerDay }) => {
          return all + this.edgeOnDeck('rule', deck, hoursPerDay);
        }, 0) / of.length;
  }
}

export async function hoursToCome(
  { connection }: Database,
  rules: ShopRules,
  now: Date,
): Promise<HoursToCome> {
  const since = DateTime.fromJSDate(now).minus({ years: 1 }).toUTC().toISO() ?? '';
  const mown = await connection.sequelize.query<Mown>(MOWN, {
    type: QueryTypes.SELECT,
    replacements: { since },
  });
  return new HoursToCome(mown, rules, now);
}
