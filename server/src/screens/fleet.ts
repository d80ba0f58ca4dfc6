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
import { Refusal } from '@tally-stone/cycle';
import { listPeople } from '../people/people.js';
import { shopOf, type Shop } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { geometryOf, memberOf } from '../fleet/geometry.js';
import { stopsUse } from '../fleet/standing.js';

interface OnDeck extends BladeSize {
  readonly bladeId: string;
  readonly code: string;
  readonly specId: string;
  readonly grinds: number;
}

/** What is on the spindles now, each with the last length anybody read: stored figures, no history. */
async function onDecks(
  { tables }: Database,
  specs: ReadonlyMap<string, SpecFigures>,
): Promise<Map<string, OnDeck>> {
  const [fits, blades] = await Promise.all([
    tables.fit.all({ to: null }, 'committed'),
    tables.blade.all({ state: 'on-mower' }, 'committed'),
  ]);
  const codes = await tables.bladeCode.all(
    { bladeId: fits.map(({ bladeId }) => bladeId), to: null },
    'committed',
  );
  const codeOf = new Map(codes.map(({ bladeId, code }) => [bladeId, code]));
  const bladeOf = new Map(blades.map((blade) => [blade.id, blade]));
  return new Map(
    fits.flatMap(({ spindleId, bladeId }) => {
      const blade = bladeOf.get(bladeId);
      if (!blade) return [];
      const { specId, grinds, lastLengthMm } = blade;
      const spec = specs.get(specId);
      const code = codeOf.get(bladeId) ?? '';
      const lengthMm = lastLengthMm ?? spec?.newLengthMm ?? 0;
      const widthMm = spec?.newWidthMm ?? 0;
      return [[spindleId, { bladeId, code, specId, grinds, lengthMm, widthMm }] as const];
    }),
  );
}

const READY_BY_SPEC = `SELECT specId, count(*) AS blades FROM blade WHERE state = 'ready' GROUP BY specId`;

const BENCH_DAYS = 6;
const NO_DUTY = { turf: 'soft', soil: 'loam' } as const;

interface Gathered {
  readonly shop: Shop;
  readonly today: DateTime;
  readonly specs: ReadonlyMap<string, SpecFigures>;
  readonly onDeck: ReadonlyMap<string, OnDeck>;
  readonly ready: ReadonlyMap<string, number>;
  readonly strikes: readonly StrikeRow[];
  readonly standing: ReadonlyMap<string, DeckDueRow>;
  readonly names: ReadonlyMap<string, string>;
  readonly dayAfter: (days: number) => string;
}

async function gather(database: Database, now: Date): Promise<Gathered> {
  const { tables, connection } = database;
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    connection.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
  const [shop, revisions, ready, strikes, standing, people] = await Promise.all([
    shopOf(tables, 'committed'),
    listSpecs(tables),
    ask<{ specId: string; blades: number }>(READY_BY_SPEC),
    tables.strike.all({ clearedAt: null }, 'committed', { order: [['at', 'ASC']] }),
    tables.deckDue.all({}, 'committed'),
    listPeople(tables),
  ]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  const onDeck = await onDecks(database, specs);
  const today = DateTime.fromJSDate(now, { zone: shop.timeZone });
  return {
    shop,
    today,
    dayAfter: daysAfter(today),
    specs,
    onDeck,
    ready: new Map(ready.map(({ specId, blades }) => [specId, blades])),
    strikes,
    standing: new Map(standing.map((row) => [row.deckId, row])),
    names: new Map(people.map(({ personId, name }) => [personId, name])),
  };
}

const DAY_MS = 86_400_000;

const hoursOnEdge = ({ fittedAtH, hoursH }: DeckDueRow): number =>
  fittedAtH === null ? 0 : Math.max(0, hoursH - fittedAtH);

/** From the stored row alone: no history is read. */
function dueOfDeck(
  deck: DeckRow,
  row: DeckDueRow | undefined,
  { shop, today }: Gathered,
): Due | undefined {
  if (!row || row.bladesOn === 0 || row.fittedAt === null) return undefined;
  return dueOf({
    interval: shop.rules.interval,
    duty: deck.figures?.duty ?? NO_DUTY,
    hoursOnEdge: hoursOnEdge(row),
    daysOnEdge: Math.max(0, (today.toMillis() - Date.parse(row.fittedAt)) / DAY_MS),
    hoursPerDay: row.hoursPerDay,
    struck: row.struck,
    complaints: row.complaints,
  });
}

/** Whole shop days from today: a day stays a day when the clocks change. Each is worked out once. */
function daysAfter(today: DateTime): (days: number) => string {
  const start = today.startOf('day');
  const known = new Map<number, string>();
  return (days) => {
    const whole = Math.floor(days);
    const day = known.get(whole) ?? start.plus({ days: whole }).toISODate() ?? '';
    known.set(whole, day);
    return day;
  };
}

function dueView(
  due: Due,
  complaints: number,
  plan: PlannedJob | undefined,
  dayAfter: (days: number) => string,
): DueView {
  const { daysLeft } = due;
  return {
    ...due,
    ...(daysLeft === undefined ? {} : { dueOn: dayAfter(daysLeft) }),
    ...(plan?.inDays === undefined ? {} : { benchOn: dayAfter(plan.inDays) }),
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
  due: Due | undefined,
  plan: PlannedJob | undefined,
): DeckView {
  const { specs, onDeck, ready, strikes, standing, names, dayAfter } = gathered;
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
    ...(due ? { due: dueView(due, row?.complaints ?? 0, plan, dayAfter) } : {}),
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

function grouped<Each>(all: readonly Each[], keyOf: (each: Each) => string): Map<string, Each[]> {
  const groups = new Map<string, Each[]>();
  for (const each of all) {
    const group = groups.get(keyOf(each));
    if (group) group.push(each);
    else groups.set(keyOf(each), [each]);
  }
  return groups;
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
  const dueOn = new Map(
    decks.flatMap((deck) => {
      const due = dueOfDeck(deck, gathered.standing.get(deck.id), gathered);
      return due ? [[deck.id, due] as const] : [];
    }),
  );
  const dues = [...dueOn].map(([id, { daysLeft = Infinity }]) => ({
    id,
    blades: gathered.standing.get(id)?.bladesOn ?? 0,
    dueInDays: daysLeft,
  }));
  const deckOf = new Map(decks.map((deck) => [deck.mowerId, deck]));
  const meterOf = new Map(meters.map(({ mowerId, lastReadingH }) => [mowerId, lastReadingH]));
  const spindlesOf = grouped(spindles, ({ deckId }) => deckId);
  const planned = new Map(planBench(dues, days).map((job) => [job.id, job]));
  const list = mowers.flatMap((mower: MowerRow): FleetMower[] => {
    const deck = deckOf.get(mower.id);
    if (!deck) return [];
    const own = spindlesOf.get(deck.id) ?? [];
    return [
      {
        mowerId: mower.id,
        name: mower.name,
        energy: mower.energy as FleetMower['energy'],
        site: mower.site,
        hoursH: meterOf.get(mower.id) ?? 0,
        deck: deckView(deck, own, gathered, dueOn.get(deck.id), planned.get(deck.id)),
      },
    ];
  });
  const nameOf = new Map(list.map(({ deck, name }) => [deck.deckId, name]));
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
        mowers: jobs.flatMap(({ id }) => nameOf.get(id) ?? []),
      };
    }),
  };
}

/** More ready blades of one spec than this are matched among the longest waiting. */
const MOST_POOL = 40;
const NOTHING = { blades: [], worst: 0, over: [], faults: [] };

/** The ready blades most alike that this deck can take, in the order of its spindles; `taken` are promised elsewhere. */
export const setOffer = (
  database: Database,
  deckId: string,
  taken: ReadonlySet<string> = new Set(),
): Promise<SetOffer> => offerFor(database, deckId, taken, new Map());

/** Ready blades for the empty spindles of a deck, most alike to those that stay on it. */
export async function replacementOffer(database: Database, deckId: string): Promise<SetOffer> {
  const { tables } = database;
  const spindles = await tables.spindle.all({ deckId }, 'committed');
  const fits = await tables.fit.all(
    { spindleId: spindles.map(({ id }) => id), to: null },
    'committed',
  );
  return offerFor(
    database,
    deckId,
    new Set(),
    new Map(fits.map(({ spindleId, bladeId }) => [spindleId, bladeId])),
  );
}

async function offerFor(
  database: Database,
  deckId: string,
  taken: ReadonlySet<string>,
  staying: ReadonlyMap<string, string>,
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
  const open = spindles.filter(({ id }) => !staying.has(id));
  if (open.length === 0) return { ...NOTHING, refused: 'Every spindle has its blade.' };
  if (!spec || ready.length < open.length) {
    const short = open.length - ready.length;
    return {
      ...NOTHING,
      refused: `${short} short of a set: ${ready.length} of ${open.length} ready in the rack.`,
    };
  }
  const measured = (ids: readonly string[]) =>
    Promise.all(ids.map((id) => memberOf(tables, id, spec, 'committed')));
  const keep = await measured([...staying.values()]);
  const members = await measured(ready.map(({ id }) => id));
  const found = bestSet(members, spindles.length, { keep });
  const chosen = found.ids.filter((id) => !keep.some((kept) => kept.id === id));
  const codes = new Map(
    (await tables.bladeCode.all({ bladeId: [...found.ids], to: null }, 'committed')).map(
      ({ bladeId, code }) => [bladeId, code],
    ),
  );
  const blades = chosen.map((bladeId) => ({
    bladeId,
    code: codes.get(bladeId) ?? '',
    specId,
    lengthMm: members.find(({ id }) => id === bladeId)?.lengthMm ?? spec.newLengthMm,
    widthMm: spec.newWidthMm,
    grinds: ready.find(({ id }) => id === bladeId)?.grinds ?? 0,
  }));
  const { faults, clash } = geometryOf(deck, spindles, (spindleId) => {
    const stays = keep.find(({ id }) => id === staying.get(spindleId));
    return stays
      ? { lengthMm: stays.lengthMm, widthMm: spec.newWidthMm }
      : blades[open.findIndex(({ id }) => id === spindleId)];
  });
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
