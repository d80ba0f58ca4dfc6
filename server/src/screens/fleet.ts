import type { DeckView, DueView, FleetMower, FleetView, SpecFigures } from '@tally-stone/contract';
import {
  BenchError,
  type BladeSize,
  type Due,
  type PlannedJob,
  TIP_SPEED_LIMIT_M_PER_S,
  type Unit,
  dueOf,
  DUTY_UNSAID,
  parseQuantity,
  planBench,
  sweptDiameterMm,
  tipSpeedMPerS,
  DAY_MS,
} from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import { nextQuestionBegins } from '../db/raw-rows.js';
import type { DeckDueRow } from '../fleet/deck-due.model.js';
import type { DeckRow } from '../fleet/deck.model.js';
import { type SpindleInUse, spindlesInUse, type WholeDeck, wholeMowers } from '../fleet/mowers.js';
import type { StrikeRow } from '../fleet/strike.model.js';
import { geometryOf } from '../fleet/geometry.js';
import { stopsUse } from '../fleet/standing.js';
import { newestUpkeep, upkeepViews } from '../fleet/upkeep.js';
import { listPeople } from '../people/people.js';
import { type Shop, shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';

interface OnDeck extends BladeSize {
  readonly bladeId: string;
  readonly code: string;
  readonly specId: string;
  readonly grinds: number;
}

/** A blade on a spindle, with the last length anybody read: stored figures, no history. */
function bladeOn(
  { blade }: SpindleInUse,
  specs: ReadonlyMap<string, SpecFigures>,
): OnDeck | undefined {
  if (!blade) return undefined;
  const { bladeId, code, specId, grinds, lastLengthMm } = blade;
  const spec = specs.get(specId);
  const lengthMm = lastLengthMm ?? spec?.newLengthMm ?? 0;
  const widthMm = spec?.newWidthMm ?? 0;
  return { bladeId, code, specId, grinds, lengthMm, widthMm };
}

const READY_BY_SPEC = `SELECT specId, count(*) AS blades FROM blade WHERE state = 'ready' GROUP BY specId`;
const BENCH_DAYS = 6;

interface Gathered {
  readonly shop: Shop;
  readonly today: DateTime;
  readonly specs: ReadonlyMap<string, SpecFigures>;
  readonly ready: ReadonlyMap<string, number>;
  readonly names: ReadonlyMap<string, string>;
  readonly dayAfter: (days: number) => string;
}

async function gather(database: Database, now: Date): Promise<Gathered> {
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    database.connection.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
  const [shop, revisions, ready, people] = await Promise.all([
    shopOf(database),
    listSpecs(database),
    ask<{ specId: string; blades: number }>(READY_BY_SPEC),
    listPeople(database),
  ]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  const today = DateTime.fromJSDate(now, { zone: shop.timeZone });
  return {
    shop,
    today,
    dayAfter: daysAfter(today),
    specs,
    ready: new Map(ready.map(({ specId, blades }) => [specId, blades])),
    names: new Map(people.map(({ personId, name }) => [personId, name])),
  };
}

const hoursOnEdge = ({ fittedAtH, hoursH }: DeckDueRow): number =>
  fittedAtH === null ? 0 : Math.max(0, hoursH - fittedAtH);

/** From the stored row alone: no history is read. */
function dueOfDeck(
  { figures, standing: row }: WholeDeck,
  shop: Shop,
  today: DateTime,
): Due | undefined {
  if (!row || row.bladesOn === 0 || row.fittedAt === null) return undefined;
  return dueOf({
    interval: shop.rules.interval,
    duty: figures?.duty ?? DUTY_UNSAID,
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
  deck: WholeDeck,
  strike: StrikeRow | null,
  spindles: readonly SpindleInUse[],
  gathered: Gathered,
  due: Due | undefined,
  plan: PlannedJob | undefined,
): DeckView {
  const { specs, ready, names, dayAfter } = gathered;
  const { figures, standing: row } = deck;
  const onDeck = new Map(spindles.map((spindle) => [spindle.id, bladeOn(spindle, specs)]));
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
    held: spindles.flatMap(({ blade }) => (blade?.state === 'hold' ? [blade.code] : [])),
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
function benchDays(
  shop: Shop,
  today: DateTime,
): { inDays: number; day: string; capacity: number }[] {
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

interface Schedule {
  readonly days: ReturnType<typeof benchDays>;
  readonly dueOn: ReadonlyMap<string, Due>;
  /** The bench day each deck's set goes to. */
  readonly planned: ReadonlyMap<string, PlannedJob>;
  /** No other plan is less late. */
  readonly best: boolean;
}

function scheduleOf(decks: readonly WholeDeck[], shop: Shop, today: DateTime): Schedule {
  const days = benchDays(shop, today);
  const dueOn = new Map(
    decks.flatMap((deck) => {
      const due = dueOfDeck(deck, shop, today);
      return due ? [[deck.id, due] as const] : [];
    }),
  );
  const dues = decks.flatMap(({ id, standing }) => {
    const due = dueOn.get(id);
    const { daysLeft: dueInDays = Infinity } = due ?? {};
    return due ? [{ id, blades: standing?.bladesOn ?? 0, dueInDays }] : [];
  });
  const { jobs, best } = planBench(dues, days);
  return { days, dueOn, planned: new Map(jobs.map((job) => [job.id, job])), best };
}

/** When the set on a mower is due, among those of all the others. */
export async function dueOfMower(
  database: Database,
  mowerId: string,
  now: Date = new Date(),
): Promise<DueView | undefined> {
  const [shop, mowers] = await Promise.all([shopOf(database), wholeMowers(database.models)]);
  const today = DateTime.fromJSDate(now, { zone: shop.timeZone });
  const decks = mowers.flatMap(({ deck }) => deck ?? []);
  const { dueOn, planned } = scheduleOf(decks, shop, today);
  const deck = decks.find((each) => each.mowerId === mowerId);
  const due = deck && dueOn.get(deck.id);
  return (
    due && dueView(due, deck.standing?.complaints ?? 0, planned.get(deck.id), daysAfter(today))
  );
}

/** The fleet without what is looked at while blades are off. */
interface Fleet extends Omit<FleetView, 'mowers'> {
  readonly mowers: FleetMower[];
}
/** Each deck as it is stored, by its id, with its spindles in order. */
type DecksInUse = ReadonlyMap<string, WholeDeck & { readonly spindles: readonly SpindleInUse[] }>;

/** Every mower with its deck, soonest due first, and which bench day each set goes to. */
export async function fleetOf(
  database: Database,
  now: Date = new Date(),
): Promise<{ readonly fleet: Fleet; readonly decks: DecksInUse }> {
  const { models } = database;
  const [gathered, mowers, spindlesOf] = await Promise.all([
    gather(database, now),
    wholeMowers(models),
    spindlesInUse(models),
  ]);
  await nextQuestionBegins();
  const { days, dueOn, planned, best } = scheduleOf(
    mowers.flatMap(({ deck }) => deck ?? []),
    gathered.shop,
    gathered.today,
  );
  const list = mowers.flatMap((mower): FleetMower[] => {
    const { deck } = mower;
    if (!deck) return [];
    const own = spindlesOf.get(deck.id) ?? [];
    return [
      {
        mowerId: mower.id,
        name: mower.name,
        energy: mower.energy as FleetMower['energy'],
        site: mower.site,
        hoursH: mower.hoursH,
        deck: deckView(deck, mower.strike, own, gathered, dueOn.get(deck.id), planned.get(deck.id)),
      },
    ];
  });
  const nameOf = new Map(list.map(({ deck, name }) => [deck.deckId, name]));
  const daysLeft = ({ deck }: FleetMower): number => deck.due?.daysLeft ?? Infinity;
  const decks = new Map(
    mowers.flatMap(({ deck }) =>
      deck ? [[deck.id, { ...deck, spindles: spindlesOf.get(deck.id) ?? [] }] as const] : [],
    ),
  );
  const fleet = {
    mowers: list.sort((a, b) => daysLeft(a) - daysLeft(b) || 0),
    today: gathered.today.toISODate() ?? '',
    planIsBest: best,
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
  return { fleet, decks };
}

/** The same with what is looked at on each while its blades are off. */
export async function fleetView(database: Database, now: Date = new Date()): Promise<FleetView> {
  const [{ fleet }, upkeep, people] = await Promise.all([
    fleetOf(database, now),
    newestUpkeep(database),
    listPeople(database),
  ]);
  const nameOf = (id: string): string => people.find(({ personId }) => personId === id)?.name ?? '';
  return {
    ...fleet,
    mowers: fleet.mowers.map((mower) => {
      const { mowerId, energy, hoursH, deck } = mower;
      const moment = { energy, hoursH, fittedAt: deck.fittedAt };
      return { ...mower, upkeep: upkeepViews(moment, upkeep.get(mowerId) ?? [], now, nameOf) };
    }),
  };
}
