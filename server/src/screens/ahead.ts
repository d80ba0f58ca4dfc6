import { inSql } from '../db/in-sql.js';
import type { AheadView, ShopRules, SpecFigures } from '@tally-stone/contract';
import {
  bladeFutures,
  bladePrice,
  bladesToBuy,
  setOutlook,
  setsBreaking,
  type BladeInUse,
  type BladeLife,
  type LearnedLives,
  type LifeGuard,
  type MonthsNeed,
  RETIRED_BY_DAMAGE,
} from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { carriedToday } from '@tally-stone/cycle';
import type { Database } from '../database.js';
import type { ReadingRow } from '../cycle/reading.model.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { lifeQuestion } from '../wear/forecast.js';
import { allowances } from '../wear/histories.js';
import { livesOf, shopWear } from '../wear/shop-wear.js';

const MONTHS = 36;

interface Used {
  readonly bladeId: string;
  readonly specId: string;
  readonly grinds: number;
  readonly deckId: string | null;
  readonly mowerName: string | null;
}

const USED = `
  SELECT blade.id AS bladeId, blade.specId AS specId, blade.grinds AS grinds, deck.id AS deckId,
    mower.name AS mowerName
  FROM blade
    LEFT JOIN fit ON fit.bladeId = blade.id AND fit."to" IS NULL
    LEFT JOIN spindle ON spindle.id = fit.spindleId LEFT JOIN deck ON deck.id = spindle.deckId
    LEFT JOIN mower ON mower.id = deck.mowerId
  WHERE blade.state <> 'retired'`;

type Last = Pick<ReadingRow, 'quantity' | 'end' | 'stationKey' | 'value' | 'u'> & {
  readonly bladeId: string;
};

const LAST = `
  WITH numbered AS (
    SELECT cycle.bladeId AS bladeId, reading.quantity, reading."end", reading.stationKey, reading.value,
      reading.u, row_number() OVER (
        PARTITION BY cycle.bladeId, reading.quantity, reading."end", reading.stationKey
        ORDER BY cycle.openedAt DESC, reading.phase = 'before', reading.takenAt DESC) AS n
    FROM standingReading AS reading JOIN cycle ON cycle.id = reading.cycleId AND cycle.signedAt IS NOT NULL
      JOIN blade ON blade.id = cycle.bladeId AND blade.state <> 'retired'
    WHERE reading.quantity IN ('width', 'wing'))
  SELECT * FROM numbered WHERE n = 1`;

interface Mown {
  readonly specId: string;
  readonly month: string;
  readonly hours: number;
}

/** Mowing hours by spec and month in which a fit ended, over the last year. */
const MOWN = `
  SELECT blade.specId AS specId, substr(fit."to", 1, 7) AS month, sum(fit.toHoursH - fit.fromHoursH) AS hours
  FROM fit JOIN blade ON blade.id = fit.bladeId
  WHERE fit."to" IS NOT NULL AND fit."to" >= :since GROUP BY blade.specId, month`;

/** Retired for damage, not for wear, per mowing hour. */
const DAMAGE = `
  SELECT (SELECT count(*) FROM cycle WHERE outcome = 'retired'
            AND retireReason IN (${inSql(RETIRED_BY_DAMAGE)})) * 1.0
    / max(1.0, (SELECT coalesce(sum(toHoursH - fromHoursH), 0) FROM fit WHERE "to" IS NOT NULL)) AS perHour`;

function grouped<Row, Key>(rows: readonly Row[], keyOf: (row: Row) => Key): Map<Key, Row[]> {
  const groups = new Map<Key, Row[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** Hours a blade of a spec runs in each coming month: as in the same month a year ago, else the year's mean. */
function hoursAhead(mown: readonly Mown[], months: readonly string[], blades: number): number[] {
  const mean = mown.reduce((sum, { hours }) => sum + hours, 0) / 12;
  return months.map((month) => {
    const then = mown.find((each) => each.month.slice(5) === month.slice(5))?.hours;
    const anything = mown.length >= 6 ? (then ?? 0) : mean;
    return anything / Math.max(1, blades);
  });
}

/** The blades as far as their wear is known. */
interface Outlook extends Used {
  readonly inUse: BladeInUse | undefined;
}

const rounded = (need: readonly MonthsNeed[]): AheadView['total'] =>
  need.map(({ expected, enough }) => ({ expected: Math.round(expected * 100) / 100, enough }));

interface Gathered {
  readonly used: readonly Used[];
  readonly last: readonly Last[];
  readonly mown: readonly Mown[];
  readonly otherEndsPer: number;
}

async function gather({ connection }: Database, since: string): Promise<Gathered> {
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    connection.sequelize.query<Row>(sql, {
      type: QueryTypes.SELECT,
      replacements: { since },
    });
  const [used, last, mown, [damage]] = await Promise.all([
    ask<Used>(USED),
    ask<Last>(LAST),
    ask<Mown>(MOWN),
    ask<{ perHour: number }>(DAMAGE),
  ]);
  return { used, last, mown, otherEndsPer: damage?.perHour ?? 0 };
}

/** How well a place is known that was never measured, mm: as new, and as unsure as a new blade is. */
const NEVER_MEASURED_U = 0.25;

function outlooks(
  { used, last, mown, otherEndsPer }: Gathered,
  months: readonly string[],
  specs: ReadonlyMap<string, SpecFigures>,
  { rules }: { readonly rules: ShopRules },
  { fleet }: LearnedLives,
  lives: readonly BladeLife[],
): Outlook[] {
  const byBlade = grouped(last, ({ bladeId }) => bladeId);
  const lifeOf = new Map(lives.map((life) => [life.bladeId, life]));
  const ahead = new Map(
    [...grouped(used, ({ specId }) => specId)].map(([specId, blades]) => [
      specId,
      hoursAhead(
        mown.filter((each) => each.specId === specId),
        months,
        blades.length,
      ),
    ]),
  );
  return used.map((blade) => {
    const spec = specs.get(blade.specId);
    const readings = byBlade.get(blade.bladeId) ?? [];
    const question =
      spec &&
      lifeQuestion({
        wear: lifeOf.get(blade.bladeId) ?? { ...blade, steps: [] },
        spec,
        grinds: blade.grinds,
        ...allowances(spec, rules.retireBy),
        last: (place) => {
          const [quantity, end, stationKey] = place.split(':');
          const found = readings.find(
            (each) =>
              each.quantity === quantity &&
              each.end === (end ?? null) &&
              each.stationKey === (stationKey ?? null),
          );
          if (found) return carriedToday(found.quantity, found);
          return {
            value: quantity === 'wing' ? spec.wingMm : spec.newWidthMm,
            u: NEVER_MEASURED_U,
          };
        },
      });
    const inUse = question && {
      futures: bladeFutures(fleet, question),
      otherEndsPerHour: otherEndsPer,
      hoursPerMonth: ahead.get(blade.specId) ?? [],
    };
    return { ...blade, inUse };
  });
}

/** Over blades of every length of history. */
const pastOf = ({ hours }: LifeGuard): AheadView['past'] => {
  const all = Object.values(hours);
  return {
    held: all.reduce((sum, { held }) => sum + held, 0),
    judged: all.reduce((sum, { judged }) => sum + judged, 0),
  };
};

/** Blades to buy and sets that break in the coming months, from each blade's own forecast. */
export async function aheadView(database: Database, now: Date = new Date()): Promise<AheadView> {
  const shop = await shopOf(database);
  const today = DateTime.fromJSDate(now, { zone: shop.timeZone });
  const months = Array.from({ length: MONTHS }, (_, i) =>
    today.startOf('month').plus({ months: i }).toFormat('yyyy-MM'),
  );
  const since = today.minus({ years: 1 }).toUTC().toISO() ?? '';
  const [gathered, revisions] = await Promise.all([gather(database, since), listSpecs(database)]);
  const [learned, lives] = await Promise.all([
    shopWear(database),
    livesOf(database, `SELECT id FROM blade WHERE state <> 'retired'`),
  ]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  const blades = outlooks(gathered, months, specs, shop, learned, lives);
  const needOf = (some: readonly Outlook[]): MonthsNeed[] =>
    bladesToBuy(
      some.flatMap(({ inUse }) => (inUse ? [inUse] : [])),
      MONTHS,
    );
  const decks = [...grouped(blades, ({ deckId }) => deckId)].flatMap(([deckId, on]) => {
    const known = on.flatMap(({ inUse }) => (inUse ? [inUse] : []));
    const outlook = known.length > 0 ? setOutlook(known, MONTHS) : undefined;
    return deckId && outlook
      ? [{ deckId, mowerName: on[0]?.mowerName ?? '', blades: on.length, outlook }]
      : [];
  });
  return {
    months,
    currency: shop.rules.prices.currency,
    total: rounded(needOf(blades)),
    specs: [...grouped(blades, ({ specId }) => specId)]
      .map(([specId, some]) => ({
        specId,
        name: specs.get(specId)?.name ?? '',
        blades: some.length,
        price: bladePrice(shop.rules.prices, specId),
        need: rounded(needOf(some)),
        hoursPerBlade:
          some[0]?.inUse?.hoursPerMonth.map((hours) => Math.round(hours * 10) / 10) ?? [],
      }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    setsBreaking: rounded(
      setsBreaking(
        decks.map(({ outlook }) => outlook),
        MONTHS,
      ),
    ),
    sets: decks.map(({ deckId, mowerName, blades: count, outlook }) => ({
      deckId,
      mowerName,
      blades: count,
      whole: outlook.whole.map((chance) => Math.round(chance * 1000) / 1000),
      ...(outlook.breaksIn === undefined ? {} : { breaksIn: outlook.breaksIn }),
    })),
    past: pastOf(learned.guard),
    damagePerThousandHours: Math.round(gathered.otherEndsPer * 1e5) / 100,
  };
}
