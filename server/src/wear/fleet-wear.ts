import {
  endsTogether,
  poolWear,
  type End,
  type WearPooling,
  type WearPrior,
  type WearRecord,
} from '@tally-stone/core';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';

/** Wear is counted on two clocks: grinds, and mowing hours. */
export type Clock = 'grinds' | 'hours';

export interface Row {
  readonly bladeId: string;
  readonly specId: string;
  readonly quantity: 'width' | 'wing';
  readonly end: End;
  readonly stationKey: string | null;
  readonly value: number;
  readonly newValue: number;
  readonly grinds: number;
  readonly hours: number;
}

/** A shop learns from the blades of its newest finished cycles; smaller shops from all of theirs. */
const MOST_CYCLES = 240;
const NEWEST = `SELECT bladeId FROM cycle WHERE signedAt IS NOT NULL ORDER BY signedAt DESC LIMIT ${MOST_CYCLES}`;

/**
 * The last reading of each place in each finished cycle, with the blade's grinds and hours then. The new
 * blade's own figure is where its history starts.
 */
const historyOfBlades = (which: string): string => `
  WITH numbered AS (
    SELECT id, bladeId, specRevisionId, signedAt,
      row_number() OVER (PARTITION BY bladeId ORDER BY signedAt) AS grinds
    FROM cycle WHERE signedAt IS NOT NULL AND bladeId IN (${which})),
  last AS (
    SELECT cycleId, quantity, "end", stationKey, value,
      row_number() OVER (PARTITION BY cycleId, quantity, "end", stationKey
                         ORDER BY phase = 'before', takenAt DESC) AS n
    FROM standingReading WHERE cycleId IN (SELECT id FROM numbered)
      AND quantity IN ('width', 'wing') AND source <> 'carried')
  SELECT numbered.bladeId AS bladeId, specRevision.specId AS specId, last.quantity AS quantity,
    last."end" AS "end", last.stationKey AS stationKey, last.value AS value, numbered.grinds AS grinds,
    json_extract(specRevision.figures, CASE last.quantity WHEN 'width' THEN '$.newWidthMm' ELSE '$.wingMm' END)
      AS newValue,
    coalesce((SELECT sum(fit.toHoursH - fit.fromHoursH) FROM fit
              WHERE fit.bladeId = numbered.bladeId AND fit."to" <= numbered.signedAt), 0) AS hours
  FROM numbered JOIN last ON last.cycleId = numbered.id AND last.n = 1
    JOIN specRevision ON specRevision.id = numbered.specRevisionId
  ORDER BY numbered.signedAt`;

/** One place's history on both clocks: total and step by step. */
interface PlaceHistory {
  readonly specId: string;
  readonly records: Readonly<Record<Clock, WearRecord>>;
}

/** What the shop's whole history says about wear. */
export interface FleetWear {
  /** The prior for a place of a spec's blade, `width:tip` or `wing`. */
  readonly prior: (clock: Clock, specId: string, family: string) => WearPrior;
  /** A blade's own record at a place, `width:A:tip` or `wing:A`. */
  readonly record: (clock: Clock, bladeId: string, place: string) => WearRecord;
  readonly together: Readonly<Record<Clock, number>>;
  /** Mowing hours from grind to grind, over the fleet. */
  readonly hoursPerGrind: number;
}

/** Usual wear per grind and per hour, and how even it is. Common practice, no source. */
const USUAL: Readonly<Record<Clock, Readonly<Record<'width' | 'wing', WearPooling>>>> = {
  grinds: {
    width: { usual: { rate: 0.6, bladeSpread: 0.3, shape: 5 }, worth: 4, readingU: 0.1 },
    wing: { usual: { rate: 0.08, bladeSpread: 0.3, shape: 5 }, worth: 4, readingU: 0.06 },
  },
  hours: {
    width: { usual: { rate: 0.06, bladeSpread: 0.3, shape: 0.5 }, worth: 30, readingU: 0.1 },
    wing: { usual: { rate: 0.008, bladeSpread: 0.3, shape: 0.5 }, worth: 30, readingU: 0.06 },
  },
};
const CLOCKS: readonly Clock[] = ['grinds', 'hours'];
const NOTHING: WearRecord = { lost: 0, over: 0 };

function historyOf(rows: readonly Row[]): PlaceHistory | undefined {
  const [first] = rows;
  const last = rows.at(-1);
  if (!first || !last) return undefined;
  const on = (clock: Clock): WearRecord => ({
    lost: Math.max(0, last.newValue - last.value),
    over: last[clock],
    steps: rows.map((row, i) => ({
      lost: (rows[i - 1]?.value ?? row.newValue) - row.value,
      over: row[clock] - (rows[i - 1]?.[clock] ?? 0),
    })),
  });
  return { specId: first.specId, records: { grinds: on('grinds'), hours: on('hours') } };
}

const placeOf = ({ quantity, end, stationKey }: Row): string =>
  [quantity, end, stationKey].filter(Boolean).join(':');
const familyOf = (place: string): string => {
  const [quantity, , stationKey] = place.split(':');
  return [quantity, stationKey].filter(Boolean).join(':');
};
const usualOf = (clock: Clock, family: string): WearPooling =>
  USUAL[clock][family === 'wing' ? 'wing' : 'width'];

type Histories = ReadonlyMap<string, ReadonlyMap<string, PlaceHistory>>;

function gather(rows: readonly Row[]): Histories {
  const grouped = new Map<string, Map<string, Row[]>>();
  for (const row of rows) {
    const places = grouped.get(row.bladeId) ?? new Map<string, Row[]>();
    grouped.set(row.bladeId, places);
    places.set(placeOf(row), [...(places.get(placeOf(row)) ?? []), row]);
  }
  return new Map(
    [...grouped].map(([bladeId, places]) => [
      bladeId,
      new Map(
        [...places].flatMap(([place, each]) => {
          const history = historyOf(each);
          return history ? [[place, history] as const] : [];
        }),
      ),
    ]),
  );
}

function pool(histories: Histories, clock: Clock): Map<string, ReturnType<typeof poolWear>> {
  const families = new Map<string, Record<string, WearRecord[]>>();
  for (const places of histories.values()) {
    for (const [place, { specId, records }] of places) {
      const groups = families.get(familyOf(place)) ?? {};
      families.set(familyOf(place), groups);
      (groups[specId] ??= []).push(records[clock]);
    }
  }
  return new Map(
    [...families].map(([family, groups]) => [family, poolWear(groups, usualOf(clock, family))]),
  );
}

/** How alike the two ends wear, by the middle of the edge. */
function together(histories: Histories, clock: Clock, pools: ReturnType<typeof pool>): number {
  const blades = [...histories.values()].flatMap((places) => {
    const place = [...places.keys()].find((key) => key.startsWith('width:A'));
    const A = place && places.get(place);
    const B = place && places.get(place.replace('width:A', 'width:B'));
    if (!A || !B) return [];
    const rate = pools.get(familyOf(place))?.groups[A.specId]?.rate ?? 0;
    return [{ rate, A: A.records[clock], B: B.records[clock] }];
  });
  return endsTogether(blades, usualOf(clock, 'width').readingU);
}

async function historiesOf(
  { connection }: Database,
  which: string,
  replacements: Record<string, unknown> = {},
): Promise<Histories> {
  const rows = await connection.sequelize.query<Row>(historyOfBlades(which), {
    type: QueryTypes.SELECT,
    replacements,
  });
  return gather(rows);
}

interface Learned {
  readonly wear: FleetWear;
  readonly histories: Histories;
}

async function learn(database: Database): Promise<Learned> {
  const histories = await historiesOf(database, NEWEST);
  const pools = { grinds: pool(histories, 'grinds'), hours: pool(histories, 'hours') };
  const all = [...histories.values()].flatMap((places) => [...places.values()]);
  const sum = (clock: Clock): number =>
    all.reduce((total, { records }) => total + records[clock].over, 0);
  const wear: FleetWear = {
    prior: (clock, specId, family) => {
      const found = pools[clock].get(family);
      return found?.groups[specId] ?? found?.fleet ?? usualOf(clock, family).usual;
    },
    record: recordIn(histories),
    together: Object.fromEntries(
      CLOCKS.map((clock) => [clock, together(histories, clock, pools[clock])]),
    ) as Record<Clock, number>,
    hoursPerGrind: sum('grinds') > 0 && sum('hours') > 0 ? sum('hours') / sum('grinds') : 10,
  };
  return { wear, histories };
}

const recordIn =
  (histories: Histories): FleetWear['record'] =>
  (clock, bladeId, place) =>
    histories.get(bladeId)?.get(place)?.records[clock] ?? NOTHING;

const learned = (database: Database): Promise<Learned> =>
  database.signed.of('fleet wear', () => learn(database));

/** The same with one blade's own history, where it is in hand already. */
export async function fleetWearWith(
  database: Database,
  bladeId: string,
  rows: readonly Row[],
): Promise<FleetWear> {
  const { wear, histories } = await learned(database);
  const own = gather(rows);
  const all = recordIn(histories);
  return {
    ...wear,
    record: (clock, id, place) =>
      id === bladeId ? recordIn(own)(clock, id, place) : all(clock, id, place),
  };
}

/** What the fleet's newest blades say about wear, with the own record of the blades asked about as it is now. */
export async function fleetWear(
  database: Database,
  bladeIds: readonly string[] = [],
): Promise<FleetWear> {
  const { wear, histories } = await learned(database);
  if (bladeIds.length === 0) return wear;
  const own = await historiesOf(database, ':bladeIds', { bladeIds });
  return { ...wear, record: recordIn(new Map([...histories, ...own])) };
}
