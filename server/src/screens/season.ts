import { HoursAssumption, type SeasonView, type ShopRules } from '@tally-stone/contract';
import { bladePrice, type Season, type SeasonMower } from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import type { DeckRow } from '../fleet/deck.model.js';
import { grindsInALife } from '../wear/lifetime.js';
import {
  edgeLifeH,
  hoursToCome,
  MOST_HOURS_A_DAY,
  MOWING_WEEKDAYS,
  USUAL_HOURS_PER_DAY,
  paceOf,
  type HoursToCome,
} from '../fleet/edge-hours.js';
import { lostHere } from '../fleet/lost-to-damage.js';
import { wholeMowers } from '../fleet/mowers.js';
import { shopOf } from '../shop/look-up.js';

/** Figures of a shop without a history. Common practice, no source. */
const USUAL = {
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
  readonly mownH: number | null;
  readonly strikes: number;
  readonly stops: number;
  readonly damaged: number;
}

const HISTORY = `
  SELECT
    (SELECT sum((fit.toHoursH - fit.fromHoursH) * 1.0
       / (SELECT count(*) FROM spindle AS other WHERE other.deckId = spindle.deckId))
     FROM fit JOIN spindle ON spindle.id = fit.spindleId WHERE fit."to" IS NOT NULL) AS mownH,
    (SELECT count(*) FROM strike) AS strikes,
    (SELECT count(*) FROM strike WHERE vibration OR hard <> 'glanced') AS stops,
    ${lostHere(['crack', 'bend', 'nick-beyond-saving'])} AS damaged`;

const IN_USE = `SELECT specId, count(*) AS blades FROM blade WHERE state <> 'retired' GROUP BY specId`;

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

const round = (value: number, digits: number): number => Number(value.toFixed(digits));

/** Hours a mowing day of the season: what the deck mowed in the same months, shared out over their mowing days. */
function mowingHours(hours: HoursToCome, deckId: string, start: string): number | undefined {
  const from = DateTime.fromISO(start);
  let [mown, days] = [0, 0];
  for (let day = 0; day < USUAL.days; day++) {
    const date = from.plus({ days: day });
    const inMonth = hours.ofDeck(deckId, date.month);
    if (inMonth === undefined) return undefined;
    mown += inMonth / (date.daysInMonth ?? 30);
    if (MOWING_WEEKDAYS.includes(date.weekday)) days += 1;
  }
  return mown > 0 && days > 0 ? Math.min(MOST_HOURS_A_DAY, mown / days) : undefined;
}

/** The shop as it stands, ready to be simulated, each figure with where it comes from. */
export async function seasonView(database: Database, now: Date = new Date()): Promise<SeasonView> {
  const { models, connection } = database;
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    connection.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
  const shop = await shopOf(database);
  const [hours, mowers, spindles, [history], inUse, life] = await Promise.all([
    hoursToCome(database, shop.rules, now),
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
  const start = firstDay(DateTime.fromJSDate(now, { zone: shop.timeZone }));
  const changedAfterH: Record<HoursAssumption, Record<string, number>> = {
    'last-year': {},
    rule: {},
  };
  let edgeWords = '';
  const simulated = mowers.flatMap((mower): SeasonMower[] => {
    const { deck } = mower;
    if (!deck || spindlesOf(deck.id) === 0) return [];
    const hoursPerDay =
      mowingHours(hours, deck.id, start) ?? paceOf(deck.standing) ?? USUAL_HOURS_PER_DAY;
    const edge = edgeLifeH(shop.rules, deck, hoursPerDay);
    edgeWords = edge.words;
    for (const assumed of HoursAssumption.options)
      changedAfterH[assumed][mower.id] = round(hours.edgeOnDeck(assumed, deck, hoursPerDay), 1);
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
  const { mownH, strikes, stops, damaged } = history ?? {
    mownH: 0,
    strikes: 0,
    stops: 0,
    damaged: 0,
  };
  const telling = (mownH ?? 0) >= TELLING_HOURS && strikes >= TELLING_STRIKES;
  const season: Season = {
    mowers: simulated,
    firstDay: start,
    days: USUAL.days,
    mowingWeekdays: MOWING_WEEKDAYS,
    benchWeekdays: shop.rules.benchWeekdays,
    benchBlades: shop.rules.benchBlades,
    edgeVariation: USUAL.edgeVariation,
    strikesPer1000H: telling ? round((1000 * strikes) / (mownH ?? 1), 1) : USUAL.strikesPer1000H,
    damageShare: telling ? round(Math.min(1, damaged / strikes), 2) : USUAL.damageShare,
    stopShare: telling ? round(stops / strikes, 2) : USUAL.stopShare,
    grindsPerBlade: life.mean ?? USUAL.grindsPerBlade,
    grindsVariation: life.variation ?? USUAL.grindsVariation,
    startWorn: true,
  };
  const own = (words: string): string =>
    telling ? words : $localize`usual; this shop’s history is too short to tell`;
  return {
    season,
    changedAfterH,
    prices: { ...shop.rules.prices, blade: meanPrice(shop.rules.prices, inUse) },
    sources: [
      {
        what: $localize`When a set is changed`,
        words: $localize`as you choose above: by the shop’s rule for when it is due, or as long as sets stayed on last year`,
      },
      {
        what: $localize`Sets a mower`,
        words: $localize`blades in use of its spec, shared out over the decks that take it`,
      },
      {
        what: $localize`Hours a mowing day`,
        words: $localize`as many hours as it mowed in the same months of the last year, Monday to Friday; its pace of late where there is no such year`,
      },
      {
        what: $localize`Hours an edge lasts`,
        words: $localize`${edgeWords}; it varies by ${Math.round(100 * USUAL.edgeVariation)} %, common practice`,
      },
      {
        what: $localize`Strikes`,
        words: own(
          $localize`${strikes} reported in ${Math.round(mownH ?? 0)} mown hours, ${stops} of them hard`,
        ),
      },
      {
        what: $localize`Blades a strike ends`,
        words: own($localize`${damaged} retired for cracks, bends and nicks beyond saving`),
      },
      {
        what: $localize`Grinds a blade lasts`,
        words:
          life.mean === undefined
            ? $localize`usual; no blade has a history yet`
            : $localize`grinds had and the forecast of those left, over ${life.blades} blades`,
      },
    ],
  };
}
