import type {
  DeckView,
  DueView,
  FleetMower,
  FleetView,
  SetOffer,
  SpecFigures,
} from '@tally-stone/contract';
import {
  BenchError,
  bestSet,
  dueOf,
  parseQuantity,
  planBench,
  sweptDiameterMm,
  TIP_SPEED_LIMIT_M_PER_S,
  tipSpeedMPerS,
  type BladeSize,
  type Due,
  type PlannedJob,
  type Unit,
} from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import type { Database } from '../db/database.js';
import type { DeckDueRow, DeckRow, MowerRow, SpindleRow, StrikeRow } from '../db/rows.js';
import { Refusal } from '../http/refusal.js';
import { listPeople } from '../people/people.js';
import { shopOf, type Shop } from '../shop/shop.js';
import { listSpecs } from '../specs/specs.js';
import { geometryOf, memberOf } from './geometry.js';
import { stopsUse } from './standing.js';

interface OnDeck extends BladeSize {
  readonly spindleId: string;
  readonly bladeId: string;
  readonly code: string;
  readonly specId: string;
  readonly grinds: number;
  readonly lastLengthMm: number | null;
}

/** What is on the spindles now, each with the last length anybody read. */
const ON_DECKS = `
  SELECT fit.spindleId AS spindleId, blade.id AS bladeId, bladeCode.code AS code, blade.specId AS specId,
    blade.grinds AS grinds,
    (SELECT reading.value FROM reading JOIN cycle ON cycle.id = reading.cycleId AND cycle.signedAt IS NOT NULL
      WHERE cycle.bladeId = blade.id AND reading.quantity = 'length'
      ORDER BY cycle.openedAt DESC, reading.takenAt DESC LIMIT 1) AS lastLengthMm
  FROM fit JOIN blade ON blade.id = fit.bladeId
    JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL
  WHERE fit."to" IS NULL`;

const READY_BY_SPEC = `SELECT specId, count(*) AS blades FROM blade WHERE state = 'ready' GROUP BY specId`;

const BENCH_DAYS = 6;
const NO_DUTY = { turf: 'soft', soil: 'loam' } as const;

interface Gathered {
  readonly shop: Shop;
  readonly today: DateTime;
  readonly specs: ReadonlyMap<string, SpecFigures>;
  readonly onDeck: ReadonlyMap<string, Omit<OnDeck, 'spindleId'>>;
  readonly ready: ReadonlyMap<string, number>;
  readonly strikes: readonly StrikeRow[];
  readonly standing: ReadonlyMap<string, DeckDueRow>;
  readonly names: ReadonlyMap<string, string>;
}

async function gather({ tables, connection }: Database, now: Date): Promise<Gathered> {
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    connection.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
  const [shop, revisions, rows, ready, strikes, standing, people] = await Promise.all([
    shopOf(tables, 'committed'),
    listSpecs(tables),
    ask<OnDeck>(ON_DECKS),
    ask<{ specId: string; blades: number }>(READY_BY_SPEC),
    tables.strike.all({ clearedAt: null }, 'committed', { order: [['at', 'ASC']] }),
    tables.deckDue.all({}, 'committed'),
    listPeople(tables),
  ]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  const onDeck = rows.map(({ spindleId, ...row }) => {
    const spec = specs.get(row.specId);
    const lengthMm = row.lastLengthMm ?? spec?.newLengthMm ?? 0;
    return [spindleId, { ...row, lengthMm, widthMm: spec?.newWidthMm ?? 0 }] as const;
  });
  return {
    shop,
    today: DateTime.fromJSDate(now, { zone: shop.timeZone }),
    specs,
    onDeck: new Map(onDeck),
    ready: new Map(ready.map(({ specId, blades }) => [specId, blades])),
    strikes,
    standing: new Map(standing.map((row) => [row.deckId, row])),
    names: new Map(people.map(({ personId, name }) => [personId, name])),
  };
}

const hoursOnEdge = ({ fittedAtH, hoursH }: DeckDueRow): number =>
  fittedAtH === null ? 0 : Math.max(0, hoursH - fittedAtH);

/** From the stored row alone: no history is read. */
function dueOfDeck(
  deck: DeckRow,
  row: DeckDueRow | undefined,
  { shop, today }: Gathered,
): Due | undefined {
  if (!row || row.bladesOn === 0 || row.fittedAt === null) return undefined;
  const since = DateTime.fromISO(row.fittedAt, { zone: shop.timeZone });
  return dueOf({
    interval: shop.rules.interval,
    duty: deck.figures?.duty ?? NO_DUTY,
    hoursOnEdge: hoursOnEdge(row),
    daysOnEdge: Math.max(0, today.diff(since, 'days').days),
    hoursPerDay: row.hoursPerDay,
    struck: row.struck,
    complaints: row.complaints,
  });
}

/** Whole shop days from today: a day stays a day when the clocks change. */
const dayAfter = (today: DateTime, days: number): string =>
  today
    .startOf('day')
    .plus({ days: Math.floor(days) })
    .toISODate() ?? '';

function dueView(
  due: Due,
  complaints: number,
  plan: PlannedJob | undefined,
  today: DateTime,
): DueView {
  const { daysLeft } = due;
  return {
    ...due,
    ...(daysLeft === undefined ? {} : { dueOn: dayAfter(today, daysLeft) }),
    ...(plan?.inDays === undefined ? {} : { benchOn: dayAfter(today, plan.inDays) }),
    late: plan?.late ?? false,
    complaints,
  };
}

const torqueNm = (deck: DeckRow): number | undefined => {
  const { boltTorque } = deck.figures ?? {};
  if (!boltTorque) return undefined;
  try {
    return parseQuantity(boltTorque.text, boltTorque.unit as Unit, 'boltTorque').value;
  } catch (error) {
    if (error instanceof BenchError) return undefined;
    throw error;
  }
};

function deckView(
  deck: DeckRow,
  spindles: readonly SpindleRow[],
  gathered: Gathered,
  plan: PlannedJob | undefined,
): DeckView {
  const { specs, onDeck, ready, strikes, standing, names, today } = gathered;
  const { figures } = deck;
  const spec = figures?.specId ? specs.get(figures.specId) : undefined;
  const asNew = spec && { lengthMm: spec.newLengthMm, widthMm: spec.newWidthMm };
  const sizeAt = (spindleId: string): BladeSize | undefined => onDeck.get(spindleId) ?? asNew;
  const { pairs, faults } = geometryOf(deck, spindles, sizeAt);
  const sizes = spindles.flatMap(({ id }) => sizeAt(id) ?? []);
  const swept = Math.max(
    0,
    ...sizes.map(({ lengthMm, widthMm }) => sweptDiameterMm(lengthMm, widthMm)),
  );
  const tipSpeed = swept > 0 ? tipSpeedMPerS(swept, deck.bladeSpeedRpm) : undefined;
  const row = standing.get(deck.id);
  const due = dueOfDeck(deck, row, gathered);
  const strike = strikes.findLast(({ mowerId }) => mowerId === deck.mowerId);
  const torque = torqueNm(deck);
  return {
    deckId: deck.id,
    bladeSpeedRpm: deck.bladeSpeedRpm,
    ...(figures ? { figures } : {}),
    ...(torque === undefined ? {} : { torqueNm: torque }),
    ...(spec ? { specName: spec.name } : {}),
    spindles: spindles.map(({ id, position }) => {
      const blade = onDeck.get(id);
      return {
        spindleId: id,
        position,
        ...(blade ? { blade } : {}),
      };
    }),
    pairs: [...pairs],
    faults: [...faults],
    ...(tipSpeed === undefined ? {} : { tipSpeedMPerS: tipSpeed }),
    tooFast: (tipSpeed ?? 0) > TIP_SPEED_LIMIT_M_PER_S,
    ...(row?.fittedAt ? { fittedAt: row.fittedAt } : {}),
    hoursOnEdge: row ? hoursOnEdge(row) : 0,
    ...(due ? { due: dueView(due, row?.complaints ?? 0, plan, today) } : {}),
    ...(strike
      ? {
          strike: {
            strikeId: strike.id,
            what: strike.what,
            hard: strike.hard,
            vibration: strike.vibration,
            at: strike.at,
            by: names.get(strike.personId) ?? '',
            stopUse: stopsUse(strike),
          },
        }
      : {}),
    readyBlades: figures?.specId ? (ready.get(figures.specId) ?? 0) : 0,
  };
}

/** The coming bench days, by the shop's weekdays. */
function benchDays({ shop, today }: Gathered): { inDays: number; day: string; capacity: number }[] {
  const start = today.startOf('day');
  const days: { inDays: number; day: string; capacity: number }[] = [];
  for (let inDays = 0; days.length < BENCH_DAYS && inDays < 60; inDays++) {
    const day = start.plus({ days: inDays });
    if (shop.rules.benchWeekdays.includes(day.weekday)) {
      days.push({ inDays, day: day.toISODate() ?? '', capacity: shop.rules.benchBlades });
    }
  }
  return days;
}

/** Every mower with its deck, soonest due first, and which bench day each set goes to. */
export async function fleetView(database: Database, now: Date = new Date()): Promise<FleetView> {
  const { tables } = database;
  const [gathered, mowers, decks, spindles, meters] = await Promise.all([
    gather(database, now),
    tables.mower.all({}, 'committed', { order: [['name', 'ASC']] }),
    tables.deck.all({}, 'committed'),
    tables.spindle.all({}, 'committed', { order: [['ordinal', 'ASC']] }),
    tables.hourMeterSegment.all({ to: null }, 'committed'),
  ]);
  const days = benchDays(gathered);
  const dues = decks.flatMap((deck) => {
    const row = gathered.standing.get(deck.id);
    const due = dueOfDeck(deck, row, gathered);
    return due && row
      ? [{ id: deck.id, blades: row.bladesOn, dueInDays: due.daysLeft ?? Infinity }]
      : [];
  });
  const planned = new Map(planBench(dues, days).map((job) => [job.id, job]));
  const list = mowers.flatMap((mower: MowerRow): FleetMower[] => {
    const deck = decks.find(({ mowerId }) => mowerId === mower.id);
    if (!deck) return [];
    const own = spindles.filter(({ deckId }) => deckId === deck.id);
    return [
      {
        mowerId: mower.id,
        name: mower.name,
        energy: mower.energy as FleetMower['energy'],
        site: mower.site,
        hoursH: meters.find(({ mowerId }) => mowerId === mower.id)?.lastReadingH ?? 0,
        deck: deckView(deck, own, gathered, planned.get(deck.id)),
      },
    ];
  });
  const daysLeft = ({ deck }: FleetMower): number => deck.due?.daysLeft ?? Infinity;
  return {
    mowers: list.sort((a, b) => daysLeft(a) - daysLeft(b) || 0),
    today: gathered.today.toISODate() ?? '',
    benchDays: days.map(({ inDays, day, capacity }) => {
      const jobs = [...planned.values()].filter((job) => job.inDays === inDays);
      return {
        day,
        capacity,
        blades: jobs.reduce((sum, { blades }) => sum + blades, 0),
        mowers: jobs.flatMap(({ id }) => list.find(({ deck }) => deck.deckId === id)?.name ?? []),
      };
    }),
  };
}

/** More ready blades of one spec than this are matched among the longest waiting. */
const MOST_POOL = 40;
const NOTHING = { blades: [], worst: 0, over: [], faults: [] };

/** The ready blades most alike that this deck can take, in the order of its spindles; `taken` are promised elsewhere. */
export async function setOffer(
  database: Database,
  deckId: string,
  taken: ReadonlySet<string> = new Set(),
): Promise<SetOffer> {
  const { tables } = database;
  const deck = await tables.deck.one({ id: deckId }, 'committed');
  if (!deck) throw new Refusal('notFound', 'There is no such deck.');
  const spindles = await tables.spindle.all({ deckId }, 'committed', {
    order: [['ordinal', 'ASC']],
  });
  const specId = deck.figures?.specId;
  if (!specId) {
    return {
      ...NOTHING,
      refused: 'Nobody has said which blades this deck takes: measure it first.',
    };
  }
  const spec = (await listSpecs(tables)).find((each) => each.specId === specId)?.figures;
  const every = await tables.blade.all({ specId, state: 'ready' }, 'committed');
  const ready = every.filter(({ id }) => !taken.has(id)).slice(0, MOST_POOL);
  if (!spec || ready.length < spindles.length) {
    const short = spindles.length - ready.length;
    return {
      ...NOTHING,
      refused: `${short} short of a set: ${ready.length} of ${spindles.length} ready in the rack.`,
    };
  }
  const members = await Promise.all(ready.map(({ id }) => memberOf(tables, id, spec, 'committed')));
  const found = bestSet(members, spindles.length);
  const codes = new Map(
    (await tables.bladeCode.all({ bladeId: [...found.ids], to: null }, 'committed')).map(
      ({ bladeId, code }) => [bladeId, code],
    ),
  );
  const blades = found.ids.map((bladeId) => ({
    bladeId,
    code: codes.get(bladeId) ?? '',
    specId,
    lengthMm: members.find(({ id }) => id === bladeId)?.lengthMm ?? spec.newLengthMm,
    widthMm: spec.newWidthMm,
    grinds: ready.find(({ id }) => id === bladeId)?.grinds ?? 0,
  }));
  const { faults, clash } = geometryOf(
    deck,
    spindles,
    (spindleId) => blades[spindles.findIndex(({ id }) => id === spindleId)],
  );
  const over = [...found.over];
  const oddCode = found.oddId && codes.get(found.oddId);
  return {
    blades,
    worst: found.worst,
    over,
    spread: found.spread,
    ...(oddCode ? { oddCode } : {}),
    faults: [...faults],
    ...(clash ? { refused: `They would strike each other: ${faults[0] ?? ''}.` } : {}),
  };
}
