import type { HoursAssumption, ShopRules } from '@tally-stone/contract';
import { dutyFactor } from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import type { DeckDueRow } from './deck-due.model.js';
import type { DeckRow } from './deck.model.js';

/** Days of the week on which a shop mows. Common practice, no source. */
export const MOWING_WEEKDAYS: readonly number[] = [1, 2, 3, 4, 5];

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
interface Mown {
  readonly deckId: string;
  readonly specId: string;
  /** `05` is May. */
  readonly month: string;
  /** Hours of the mower, and hours of all its blades from fit to pull. */
  readonly hours: number;
  readonly fits: number;
  readonly fitHours: number;
}
const MOWN = `
  SELECT spindle.deckId AS deckId, blade.specId AS specId, substr(fit."to", 6, 2) AS month,
    sum((fit.toHoursH - fit.fromHoursH) * 1.0
      / (SELECT count(*) FROM spindle AS other WHERE other.deckId = spindle.deckId)) AS hours,
    count(*) AS fits, sum(fit.toHoursH - fit.fromHoursH) AS fitHours
  FROM fit JOIN spindle ON spindle.id = fit.spindleId JOIN blade ON blade.id = fit.bladeId
  WHERE fit."to" IS NOT NULL AND fit."to" >= :since AND fit.toHoursH > fit.fromHoursH
  GROUP BY spindle.deckId, blade.specId, month`;

/** With fewer months than this a year has told nothing about its seasons: all months are taken alike. */
const TELLING_MONTHS = 6;
/** With fewer pulled blades than this a deck or a spec goes by the mean of all. */
const TELLING_FITS = 4;

const sum = (mown: readonly Mown[], of: 'hours' | 'fits' | 'fitHours'): number =>
  mown.reduce((all, each) => all + each[of], 0);

/** In a calendar month, 1 to 12, by what the last year was like. */
function inMonth(mown: readonly Mown[], of: 'hours' | 'fitHours', month: number): number {
  if (new Set(mown.map((each) => each.month)).size < TELLING_MONTHS) return sum(mown, of) / 12;
  return sum(
    mown.filter((each) => Number(each.month) === month),
    of,
  );
}

function edgeOf(mown: readonly Mown[], least: number): number | undefined {
  const fits = sum(mown, 'fits');
  return fits < least ? undefined : sum(mown, 'fitHours') / fits;
}

/**
 * The hours to come, for the months ahead and the season alike. How much is mown is as in the same month of the
 * last year. How long an edge stays on is an assumption that the user chooses: as last year, or by the rule.
 */
export class HoursToCome {
  constructor(
    private readonly mown: readonly Mown[],
    private readonly rules: ShopRules,
  ) {}

  /** Hours of a deck in a calendar month, 1 to 12; nothing where it did not mow last year. */
  ofDeck(deckId: string, month: number): number | undefined {
    const own = this.mown.filter((each) => each.deckId === deckId);
    return own.length === 0 ? undefined : inMonth(own, 'hours', month);
  }

  /** Hours of all blades of a spec together in a calendar month. */
  ofSpec(specId: string, month: number): number {
    return inMonth(
      this.mown.filter((each) => each.specId === specId),
      'fitHours',
      month,
    );
  }

  /** Hours an edge stays on a deck; last year's where there are none is the rule's. */
  edgeOnDeck(assumed: HoursAssumption, deck: DeckRow, hoursPerDay: number): number {
    const byRule = edgeLifeH(this.rules, deck, hoursPerDay).hours;
    if (assumed === 'rule') return byRule;
    const own = this.mown.filter((each) => each.deckId === deck.id);
    return edgeOf(own, TELLING_FITS) ?? edgeOf(this.mown, 1) ?? byRule;
  }

  /** The same for a spec: by last year's fits of its blades, or the mean rule of the decks they ran on. */
  edgeOfSpec(
    assumed: HoursAssumption,
    specId: string,
    decks: readonly { readonly deck: DeckRow; readonly hoursPerDay: number }[],
  ): number {
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
  return new HoursToCome(mown, rules);
}
