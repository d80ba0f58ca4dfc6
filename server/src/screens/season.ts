import type { SeasonView, ShopRules } from '@tally-stone/contract';
import { bladePrice, dutyFactor, type Season, type SeasonMower } from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import type { DeckDueRow } from '../fleet/deck-due.model.js';
import type { DeckRow } from '../fleet/deck.model.js';
import { grindsInALife } from '../wear/lifetime.js';
import { wholeMowers } from '../fleet/mowers.js';
import { shopOf } from '../shop/look-up.js';

/** Figures of a shop without a history. Common practice, no source. */
const USUAL = {
  mowingWeekdays: [1, 2, 3, 4, 5],
  hoursPerDay: 4,
  edgeVariation: 0.3,
  strikesPer1000H: 6,
  damageShare: 0.1,
  stopShare: 0.4,
  grindsPerBlade: 9,
  grindsVariation: 0.25,
  days: 215,
} as const;
/** So few mown hours or strikes tell nothing yet. */
const TELLING_HOURS = 200;
const TELLING_STRIKES = 5;

interface History {
  /** Hours the mowers ran with a set on, and what struck and ended in them. */
  readonly hours: number | null;
  readonly strikes: number;
  readonly stops: number;
  readonly damaged: number;
}

const HISTORY = `
  SELECT
    (SELECT sum((fit.toHoursH - fit.fromHoursH) * 1.0
       / (SELECT count(*) FROM spindle AS other WHERE other.deckId = spindle.deckId))
     FROM fit JOIN spindle ON spindle.id = fit.spindleId WHERE fit."to" IS NOT NULL) AS hours,
    (SELECT count(*) FROM strike) AS strikes,
    (SELECT count(*) FROM strike WHERE vibration OR hard <> 'glanced') AS stops,
    (SELECT count(*) FROM cycle WHERE outcome = 'retired'
       AND retireReason IN ('crack', 'bend', 'nick-beyond-saving')) AS damaged`;

const IN_USE = `SELECT specId, count(*) AS blades FROM blade WHERE state <> 'retired' GROUP BY specId`;

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
        words: `the shop’s interval of ${interval.hours} h on soft turf, by each site’s duty`,
      };
    case 'days':
      return {
        hours: Math.max(1, (interval.days * hoursPerDay * USUAL.mowingWeekdays.length) / 7),
        words: `the shop’s interval of ${interval.days} days at each mower’s pace`,
      };
    case 'when-shown':
      return { hours: 10 / factor, words: 'ten hours on soft turf, by each site’s duty: usual' };
  }
}

/** What a blade costs on the mean of those in use: a season buys what it wears out. */
function meanPrice(
  prices: ShopRules['prices'],
  inUse: readonly { readonly specId: string; readonly blades: number }[],
): number {
  const all = inUse.reduce((sum, { blades }) => sum + blades, 0);
  const total = inUse.reduce(
    (sum, { specId, blades }) => sum + blades * bladePrice(prices, specId),
    0,
  );
  return all === 0 ? prices.blade : Math.round((100 * total) / all) / 100;
}

/** The next season: from the last Monday of March on, or from today while one runs. */
function firstDay(today: DateTime): string {
  const spring = (year: number): DateTime => {
    const last = DateTime.fromObject({ year, month: 3, day: 31 }, { zone: today.zone });
    return last.minus({ days: last.weekday - 1 });
  };
  const thisYears = spring(today.year);
  const start = today <= thisYears ? thisYears : spring(today.year + 1);
  return start.toISODate() ?? '';
}

/** The shop as it stands, ready to be simulated, each figure with where it comes from. */
export async function seasonView(database: Database, now: Date = new Date()): Promise<SeasonView> {
  const { models, connection } = database;
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    connection.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
  const [shop, mowers, spindles, [history], inUse, life] = await Promise.all([
    shopOf(database),
    wholeMowers(models),
    models.spindle.findAll({ raw: true }),
    ask<History>(HISTORY),
    ask<{ specId: string; blades: number }>(IN_USE),
    grindsInALife(database),
  ]);
  const spindlesOf = (deckId: string): number =>
    spindles.filter((spindle) => spindle.deckId === deckId).length;
  const wanted = new Map<string, number>();
  for (const { id, figures } of mowers.flatMap(({ deck }) => deck ?? [])) {
    const specId = figures?.specId;
    if (specId) wanted.set(specId, (wanted.get(specId) ?? 0) + spindlesOf(id));
  }
  const setsOf = ({ figures }: DeckRow): number => {
    const specId = figures?.specId ?? '';
    const blades = inUse.find((each) => each.specId === specId)?.blades ?? 0;
    return Math.max(1, Math.floor(blades / Math.max(1, wanted.get(specId) ?? 1)));
  };
  const paceOf = (row: DeckDueRow | undefined): number =>
    row && row.hoursPerDay > 0
      ? Math.min(12, (row.hoursPerDay * 7) / USUAL.mowingWeekdays.length)
      : USUAL.hoursPerDay;
  let edgeWords = '';
  const simulated = mowers.flatMap((mower): SeasonMower[] => {
    const { deck } = mower;
    if (!deck || spindlesOf(deck.id) === 0) return [];
    const hoursPerDay = paceOf(deck.standing);
    const edge = edgeLifeH(shop.rules, deck, hoursPerDay);
    edgeWords = edge.words;
    return [
      {
        key: mower.id,
        name: mower.name,
        spindles: spindlesOf(deck.id),
        sets: setsOf(deck),
        hoursPerDay: Math.round(hoursPerDay * 100) / 100,
        edgeLifeH: Math.round(edge.hours * 10) / 10,
      },
    ];
  });
  const { hours, strikes, stops, damaged } = history ?? {
    hours: 0,
    strikes: 0,
    stops: 0,
    damaged: 0,
  };
  const telling = (hours ?? 0) >= TELLING_HOURS && strikes >= TELLING_STRIKES;
  const round = (value: number, digits: number): number => Number(value.toFixed(digits));
  const season: Season = {
    mowers: simulated,
    firstDay: firstDay(DateTime.fromJSDate(now, { zone: shop.timeZone })),
    days: USUAL.days,
    mowingWeekdays: USUAL.mowingWeekdays,
    benchWeekdays: shop.rules.benchWeekdays,
    benchBlades: shop.rules.benchBlades,
    edgeVariation: USUAL.edgeVariation,
    strikesPer1000H: telling ? round((1000 * strikes) / (hours ?? 1), 1) : USUAL.strikesPer1000H,
    damageShare: telling ? round(Math.min(1, damaged / strikes), 2) : USUAL.damageShare,
    stopShare: telling ? round(stops / strikes, 2) : USUAL.stopShare,
    grindsPerBlade: life.mean ?? USUAL.grindsPerBlade,
    grindsVariation: life.variation ?? USUAL.grindsVariation,
    startWorn: true,
  };
  const own = (words: string): string =>
    telling ? words : 'usual; this shop’s history is too short to tell';
  return {
    season,
    prices: { ...shop.rules.prices, blade: meanPrice(shop.rules.prices, inUse) },
    sources: [
      {
        what: 'When a set is changed',
        words:
          'by the shop’s rule for when it is due; the months ahead take last year’s hours instead, and use up fewer blades where sets stayed on longer',
      },
      {
        what: 'Sets a mower',
        words: 'blades in use of its spec, shared out over the decks that take it',
      },
      { what: 'Hours a mowing day', words: 'each mower’s pace of late; Monday to Friday' },
      {
        what: 'Hours an edge lasts',
        words: `${edgeWords}; it varies by ${Math.round(100 * USUAL.edgeVariation)} %, common practice`,
      },
      {
        what: 'Strikes',
        words: own(
          `${strikes} reported in ${Math.round(hours ?? 0)} mown hours, ${stops} of them hard`,
        ),
      },
      {
        what: 'Blades a strike ends',
        words: own(`${damaged} retired for cracks, bends and nicks beyond saving`),
      },
      {
        what: 'Grinds a blade lasts',
        words:
          life.mean === undefined
            ? 'usual; no blade has a history yet'
            : `grinds had and the forecast of those left, over ${life.blades} blades`,
      },
    ],
  };
}
