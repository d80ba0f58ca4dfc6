import { passesAt, type BladeView, type CycleSummary } from '@tally-stone/contract';
import { limitsUnder, type End, type ZoneKey } from '@tally-stone/core';
import type { Database } from '../db/database.js';
import type { CycleRow, DamageRow, ReadingRow } from '../db/rows.js';
import { lastReadings } from '../cycles/facts.js';
import { toFindingView } from '../cycles/view.js';
import { shopOf } from '../shop/shop.js';
import { currentRevision, toSpecRevision } from '../specs/specs.js';
import { fleetWear } from '../life/fleet.js';
import { fanOf, forecastOf, type ForecastInput } from '../life/forecast.js';
import { bladeOf } from './commands.js';
import { judgedByLast } from './judged.js';
import { bladeRow } from './queries.js';
import { QueryTypes } from 'sequelize';

interface CycleParts {
  readonly readings: readonly ReadingRow[];
  readonly passes: readonly { end: End; zone: ZoneKey; count: number }[];
  readonly rounds: readonly { phase: string; unbalanceGmm: number; endOnly: number }[];
}

const newest = (
  readings: readonly ReadingRow[],
  phase: 'before' | 'after',
  quantity: string,
): ReadingRow | undefined =>
  readings.findLast((reading) => reading.phase === phase && reading.quantity === quantity);

function widths(readings: readonly ReadingRow[], phase: 'before' | 'after'): Map<string, number> {
  return new Map(
    readings
      .filter((reading) => reading.phase === phase && reading.quantity === 'width')
      .map(({ end, stationKey, value }) => [`${end ?? ''}:${stationKey ?? ''}`, value]),
  );
}

/** Mean recession at an end over the stations read before and after. */
function recession(
  before: Map<string, number>,
  after: Map<string, number>,
  end: End,
): number | undefined {
  const pairs = [...before].flatMap(([key, value]) => {
    const now = after.get(key);
    return key.startsWith(end) && now !== undefined ? [value - now] : [];
  });
  return pairs.length === 0 ? undefined : pairs.reduce((sum, each) => sum + each, 0) / pairs.length;
}

function summary(
  cycle: CycleRow,
  { readings, passes, rounds }: CycleParts,
  nameOf: (personId: string | null) => string | undefined,
): CycleSummary {
  const before = widths(readings, 'before');
  const after = widths(readings, 'after');
  const signedBy = nameOf(cycle.signedBy);
  const massAfter = newest(readings, 'after', 'mass');
  const unbalance = (phase: string): number | undefined =>
    rounds.findLast((round) => round.phase === phase && !round.endOnly)?.unbalanceGmm;
  const start = unbalance('before');
  const final = unbalance('after');
  const A = recession(before, after, 'A');
  const B = recession(before, after, 'B');
  return {
    cycleId: cycle.id,
    openedAt: cycle.openedAt,
    ...(cycle.signedAt ? { signedAt: cycle.signedAt } : {}),
    ...(signedBy ? { signedBy } : {}),
    ...(cycle.outcome ? { outcome: cycle.outcome } : {}),
    ...(cycle.retireReason ? { retireReason: cycle.retireReason } : {}),
    passes: {
      A: passesAt({ passes: passes.map((pass) => ({ ...pass, passId: '' })) }, 'A'),
      B: passesAt({ passes: passes.map((pass) => ({ ...pass, passId: '' })) }, 'B'),
    },
    ...(cycle.frozen?.removedG ? { removedG: cycle.frozen.removedG } : {}),
    ...(massAfter ? { massAfterG: massAfter.value } : {}),
    recessionMm: { ...(A === undefined ? {} : { A }), ...(B === undefined ? {} : { B }) },
    ...(start === undefined ? {} : { unbalanceBeforeGmm: start }),
    ...(final === undefined ? {} : { unbalanceAfterGmm: final }),
    ...(cycle.frozen?.permissibleGmm ? { permissibleGmm: cycle.frozen.permissibleGmm } : {}),
    widthsMm: Object.fromEntries(new Map([...before, ...after])),
    verdictWords: cycle.frozen?.judgement.findings[0]?.words ?? '',
  };
}

/** The blade's page: its cycles in order, what is left above each limit, where it has been. */
export async function bladeLife(database: Database, bladeId: string): Promise<BladeView> {
  const { tables, connection } = database;
  const stored = await bladeOf(tables, bladeId, 'committed');
  const [row, revision, cycles, last, shop, people] = await Promise.all([
    bladeRow(database, bladeId),
    currentRevision(tables, stored.specId, 'committed'),
    tables.cycle.all({ bladeId }, 'committed', { order: [['openedAt', 'ASC']] }),
    lastReadings(tables, bladeId, 'committed'),
    shopOf(tables, 'committed'),
    tables.person.all({}, 'committed'),
  ]);
  const spec = revision.figures;
  const cycleIds = cycles.map(({ id }) => id);
  const inCycles = { cycleId: cycleIds };
  const [readings, passes, rounds, damage, photos, fits] = await Promise.all([
    tables.reading.all(inCycles, 'committed', {
      order: [
        ['takenAt', 'ASC'],
        ['id', 'ASC'],
      ],
    }),
    tables.pass.all(inCycles, 'committed'),
    tables.balanceRound.all(inCycles, 'committed', {
      order: [
        ['takenAt', 'ASC'],
        ['id', 'ASC'],
      ],
    }),
    tables.damage.all(inCycles, 'committed'),
    tables.photo.all(inCycles, 'committed', { order: [['takenAt', 'DESC']] }),
    connection.sequelize.query<
      BladeView['fits'][number] & { to: string | null; hoursH: number | null }
    >(
      `SELECT mower.name AS mowerName, spindle.position AS position, fit."from" AS "from", fit."to" AS "to",
         fit.toHoursH - fit.fromHoursH AS hoursH
       FROM fit JOIN spindle ON spindle.id = fit.spindleId JOIN deck ON deck.id = spindle.deckId
         JOIN mower ON mower.id = deck.mowerId
       WHERE fit.bladeId = :bladeId ORDER BY fit."from"`,
      { type: QueryTypes.SELECT, replacements: { bladeId } },
    ),
  ]);
  const nameOf = (personId: string | null): string | undefined =>
    people.find(({ id }) => id === personId)?.name;
  const of = <Part extends { cycleId: string }>(parts: readonly Part[], cycleId: string): Part[] =>
    parts.filter((part) => part.cycleId === cycleId);
  const summaries = cycles.map((cycle) =>
    summary(
      cycle,
      {
        readings: of(readings, cycle.id),
        passes: of(passes, cycle.id),
        rounds: of(rounds, cycle.id),
      },
      nameOf,
    ),
  );
  const findings = judgedByLast(spec, last, stored.grinds, shop.rules);
  const asked: ForecastInput = {
    bladeId,
    specId: stored.specId,
    spec: { ...spec, limits: limitsUnder(shop.rules.retireBy, spec.limits) },
    grinds: stored.grinds,
    last: (place) => {
      const [quantity = '', end, stationKey] = place.split(':');
      return last.get([quantity, end ?? '-', stationKey ?? '-'].join(':'));
    },
  };
  const fleet = await fleetWear(database);
  const forecast = stored.state === 'retired' ? undefined : forecastOf(asked, fleet);
  return {
    ...(forecast ? { forecast } : {}),
    fan: forecast ? fanOf(asked, fleet, forecast.grinds.high + 1) : {},
    blade: row,
    spec: toSpecRevision(revision),
    lengthMm: last.get('length:-:-')?.value ?? spec.newLengthMm,
    widths: {
      A: stationWidths(spec.stations, last, 'A'),
      B: stationWidths(spec.stations, last, 'B'),
    },
    cycles: summaries,
    left: findings.map(toFindingView),
    fits: fits.map(({ mowerName, position, from, to, hoursH }) => ({
      mowerName,
      position,
      from,
      ...(to ? { to } : {}),
      ...(hoursH === null ? {} : { hoursH }),
    })),
    damage: lastDamage(damage, cycleIds.at(-1)),
    photos: photos.map(({ id, file, damageId }) => ({
      photoId: id,
      file,
      ...(damageId === null ? {} : { damageId }),
    })),
  };
}

const stationWidths = (
  stations: readonly { key: string; radiusMm: number }[],
  last: ReadonlyMap<string, { value: number }>,
  end: End,
): { radiusMm: number; widthMm: number }[] =>
  stations.flatMap(({ key, radiusMm }) => {
    const width = last.get(`width:${end}:${key}`)?.value;
    return width === undefined ? [] : [{ radiusMm, widthMm: width }];
  });

const lastDamage = (
  damage: readonly DamageRow[],
  cycleId: string | undefined,
): BladeView['damage'] =>
  damage
    .filter((mark) => mark.cycleId === cycleId)
    .map(({ id, kind, end, fromTipMm, radiusMm, depthMm, lengthMm }) => ({
      damageId: id,
      kind,
      end,
      fromTipMm,
      radiusMm,
      depthMm,
      ...(lengthMm === null ? {} : { lengthMm }),
    }));
