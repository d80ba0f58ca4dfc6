import {
  NEXT_TO_GO_MONTHS,
  type AheadOutlook,
  type AheadView,
  type HoursAssumption,
} from '@tally-stone/contract';
import {
  bladeFutures,
  bladePrice,
  bladesToBuy,
  nextToGo,
  setOutlook,
  setsBreaking,
  type BladeInUse,
  type Futures,
  type LearnedLives,
  type LifeGuard,
  type LifeQuestion,
  type MonthsNeed,
  type PastCount,
  RETIRED_BY_DAMAGE,
} from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { hoursToCome, paceOf, USUAL_HOURS_PER_DAY } from '../fleet/edge-hours.js';
import { lostPerHour } from '../fleet/lost-to-damage.js';
import { wholeMowers } from '../fleet/mowers.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { shopWear } from '../wear/shop-wear.js';

const MONTHS = 36;

interface Used {
  readonly bladeId: string;
  readonly code: string;
  readonly specId: string;
  readonly grinds: number;
  readonly cameUsed: boolean;
  readonly deckId: string | null;
  readonly mowerName: string | null;
}

const USED = `
  SELECT blade.id AS bladeId, bladeCode.code AS code, blade.specId AS specId, blade.grinds AS grinds,
    blade.knownFrom = 'used' AS cameUsed, deck.id AS deckId,
    mower.name AS mowerName
  FROM blade JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL
    LEFT JOIN fit ON fit.bladeId = blade.id AND fit."to" IS NULL
    LEFT JOIN spindle ON spindle.id = fit.spindleId LEFT JOIN deck ON deck.id = spindle.deckId
    LEFT JOIN mower ON mower.id = deck.mowerId
  WHERE blade.state <> 'retired'`;

/** The blades as far as their wear is known. */
interface Outlook extends Used {
  readonly question: LifeQuestion | undefined;
}

const rounded = (need: readonly MonthsNeed[]): AheadOutlook['total'] =>
  need.map(({ expected, enough }) => ({ expected: Math.round(expected * 100) / 100, enough }));

interface Gathered {
  readonly used: readonly Used[];
  /** Blades lost to damage per hour. */
  readonly otherEndsPer: number;
}

async function gather(database: Database): Promise<Gathered> {
  const [used, otherEndsPer] = await Promise.all([
    database.connection.sequelize.query<Used>(USED, { type: QueryTypes.SELECT }),
    lostPerHour(database, RETIRED_BY_DAMAGE),
  ]);
  return { used, otherEndsPer };
}

/** The shop's hours to come under one assumption: for each spec, its blades' hours by month and how long an edge stays on. */
interface SpecHours {
  readonly perMonth: readonly number[];
  readonly edgeH: number;
}

/** From so many blades on their futures are drawn in a worker: nobody waits for them who asks something else. */
const MANY = 40;

/** Futures of all blades under one assumption, by blade: drawn once between two sign-offs. */
const futuresUnder = (
  database: Database,
  assumed: HoursAssumption,
  { fleet }: LearnedLives,
  blades: readonly Outlook[],
  hoursOf: (specId: string) => SpecHours,
): Promise<ReadonlyMap<string, Futures>> => {
  // As last year a blade's intervals are its own.
  const asked = blades.flatMap(({ bladeId, specId, question }) =>
    question
      ? [
          {
            bladeId,
            question:
              assumed === 'rule' ? { ...question, intervalH: hoursOf(specId).edgeH } : question,
          },
        ]
      : [],
  );
  const edges = [...new Set(blades.map(({ specId }) => specId))].map((specId) => [
    specId,
    assumed === 'rule' ? hoursOf(specId).edgeH : 0,
  ]);
  // Another way to retire, or a limit that was changed, leaves other rooms.
  const rooms = asked.reduce(
    (sum, { question: { rooms: each, grindsAllowed = 0 } }) =>
      sum + grindsAllowed + each.reduce((all, { roomMm }) => all + roomMm, 0),
    0,
  );
  return database.signed.of(JSON.stringify(['futures', asked.length, rooms, edges]), async () => {
    const questions = asked.map(({ question }) => question);
    const drawn =
      asked.length < MANY
        ? questions.map((question) => bladeFutures(fleet, question))
        : await database.heavy.run('futures', { fleet, questions });
    return new Map(drawn.flatMap((each, i) => (asked[i] ? [[asked[i].bladeId, each]] : [])));
  });
};

/** Blades that are less likely gone within the year are no matter yet. */
const LEAST_CHANCE = 0.1;

function outlookUnder(
  futures: ReadonlyMap<string, Futures>,
  blades: readonly Outlook[],
  hoursOf: (specId: string) => SpecHours,
  { otherEndsPer }: Gathered,
  nameAndPrice: (specId: string) => { readonly name: string; readonly price: number },
): AheadOutlook {
  const known = new Map(
    blades.flatMap(({ bladeId, specId }): [string, BladeInUse][] => {
      const of = futures.get(bladeId);
      const hoursPerMonth = hoursOf(specId).perMonth;
      return of ? [[bladeId, { futures: of, otherEndsPerHour: otherEndsPer, hoursPerMonth }]] : [];
    }),
  );
  const inUse = ({ bladeId }: Outlook): BladeInUse[] => {
    const blade = known.get(bladeId);
    return blade ? [blade] : [];
  };
  const needOf = (some: readonly Outlook[]): MonthsNeed[] =>
    bladesToBuy(some.flatMap(inUse), MONTHS);
  const nextOf = (some: readonly Outlook[]): AheadOutlook['specs'][number]['next'] => {
    const asked = some.filter(({ bladeId }) => known.has(bladeId));
    return nextToGo(asked.flatMap(inUse), NEXT_TO_GO_MONTHS, LEAST_CHANCE).flatMap(
      ({ likely, chance, ...at }) => {
        const blade = asked[likely];
        return blade ? [{ ...at, chance, code: blade.code, bladeId: blade.bladeId }] : [];
      },
    );
  };
  const decks = [...groupedBy(blades, ({ deckId }) => deckId ?? '')].flatMap(([deckId, on]) => {
    const whole = on.flatMap(inUse);
    const outlook = whole.length > 0 ? setOutlook(whole, MONTHS) : undefined;
    return deckId && outlook
      ? [{ deckId, mowerName: on[0]?.mowerName ?? '', blades: on.length, outlook }]
      : [];
  });
  const edges = blades.map(({ specId }) => hoursOf(specId).edgeH);
  return {
    total: rounded(needOf(blades)),
    specs: [...groupedBy(blades, ({ specId }) => specId)]
      .map(([specId, some]) => ({
        specId,
        ...nameAndPrice(specId),
        blades: some.length,
        need: rounded(needOf(some)),
        next: nextOf(some),
        hoursPerBlade: hoursOf(specId).perMonth.map((hours) => Math.round(hours * 10) / 10),
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
    changedAfterH:
      edges.length === 0
        ? 0
        : Math.round((10 * edges.reduce((sum, each) => sum + each, 0)) / edges.length) / 10,
  };
}

/** Over blades of every length of history. */
const pastOf = ({ hours }: LifeGuard): AheadView['past'] => {
  const sum = (of: keyof PastCount): number =>
    Object.values(hours).reduce((all, { past }) => all + past[of], 0);
  return {
    held: sum('held'),
    sooner: sum('sooner'),
    later: sum('later'),
    running: sum('running'),
  };
};

/** Blades to buy and sets that break in the coming months, from each blade's own forecast. */
export async function aheadView(database: Database, now: Date = new Date()): Promise<AheadView> {
  const shop = await shopOf(database);
  const today = DateTime.fromJSDate(now, { zone: shop.timeZone });
  const months = Array.from({ length: MONTHS }, (_, i) =>
    today.startOf('month').plus({ months: i }).toFormat('yyyy-MM'),
  );
  /** What is still to come of this month. */
  const stillToCome = today.endOf('month').diff(today, 'days').days / (today.daysInMonth ?? 30);
  const [gathered, revisions, hours, mowers, learned] = await Promise.all([
    gather(database),
    listSpecs(database),
    hoursToCome(database, shop.rules, now),
    wholeMowers(database.models),
    shopWear(database),
  ]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  const questions = await database.lives.of(database, gathered.used, revisions, shop.rules);
  const blades = gathered.used.map((blade) => ({
    ...blade,
    question: questions.get(blade.bladeId),
  }));
  const decks = mowers.flatMap(({ deck }) =>
    deck ? [{ deck, hoursPerDay: paceOf(deck.standing) ?? USUAL_HOURS_PER_DAY }] : [],
  );
  const paceOn = new Map(decks.map(({ deck, hoursPerDay }) => [deck.id, hoursPerDay]));
  const pacesOf = (some: readonly Used[]): number[] =>
    some.flatMap(({ deckId }) => (deckId === null ? [] : (paceOn.get(deckId) ?? [])));
  const inUse = groupedBy(blades, ({ specId }) => specId);
  const under = async (assumed: HoursAssumption): Promise<AheadOutlook> => {
    const of = new Map(
      [...inUse].map(([specId, some]) => [
        specId,
        {
          perMonth: months.map(
            (month, i) =>
              ((i === 0 ? stillToCome : 1) *
                hours.ofSpec(specId, Number(month.slice(5)), pacesOf(some))) /
              some.length,
          ),
          edgeH: hours.edgeOfSpec(assumed, specId, decks),
        },
      ]),
    );
    const hoursOf = (specId: string): SpecHours => of.get(specId) ?? { perMonth: [], edgeH: 1 };
    return outlookUnder(
      await futuresUnder(database, assumed, learned, blades, hoursOf),
      blades,
      hoursOf,
      gathered,
      (specId) => ({
        name: specs.get(specId)?.name ?? '',
        price: bladePrice(shop.rules.prices, specs.get(specId)?.trimmedFrom ?? specId),
      }),
    );
  };
  const [lastYear, rule] = await Promise.all([under('last-year'), under('rule')]);
  return {
    months,
    currency: shop.rules.prices.currency,
    outlooks: { 'last-year': lastYear, rule },
    ...(hours.since === undefined ? {} : { recordSince: hours.since }),
    past: pastOf(learned.guard),
    damagePerThousandHours: Math.round(gathered.otherEndsPer * 1e5) / 100,
  };
}
