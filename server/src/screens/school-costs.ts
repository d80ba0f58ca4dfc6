import type { SchoolCostRow, SchoolCostsView, ShopRules, SpecFigures } from '@tally-stone/contract';
import {
  bladePrice,
  GROUND_OUT,
  rateAt,
  schoolCost,
  specWear,
  type FleetWear,
  type GrindOfHistory,
  type SchoolBasis,
  type SchoolChoice,
} from '@tally-stone/core';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import { inSql } from '../db/in-sql.js';
import { lostPerHour } from '../fleet/lost-to-damage.js';
import { edgeLifeH } from '../fleet/edge-hours.js';
import { shopOf } from '../shop/look-up.js';
import { listSpecs } from '../spec/specs.js';
import { shopWear } from '../wear/shop-wear.js';

/** Newest finished grinds that are looked at, and from how many on they tell something. */
const MOST_GRINDS = 600;
const TELLING_GRINDS = 10;
/** A spec with fewer grinds of its own goes by all of the shop's. */
const OWN_GRINDS = 8;
/** Where nicks are left, up to this where the shop has no depth of its own, mm. Common practice, no source. */
const USUAL_LEAVE_MM = 0.8;
/** The counts that blades are thrown away after. Common practice, no source. */
const COUNTS = [3, 4] as const;

interface Grind extends GrindOfHistory {
  readonly specId: string;
}
const GRINDS = `
  WITH done AS (
    SELECT finished.id AS id, blade.specId AS specId
    FROM finishedGrind AS finished JOIN blade ON blade.id = finished.bladeId
    ORDER BY finished.signedAt DESC LIMIT ${MOST_GRINDS}),
  place AS (
    SELECT cycleId, "end", stationKey, avg(CASE phase WHEN 'before' THEN value END) AS "before",
      avg(CASE phase WHEN 'after' THEN value END) AS "after"
    FROM standingReading WHERE cycleId IN (SELECT id FROM done) AND quantity = 'width' AND source <> 'carried'
    GROUP BY cycleId, "end", stationKey)
  SELECT done.specId AS specId, max(0, avg(place."before" - place."after")) AS recessionMm,
    (SELECT coalesce(max(damage.depthMm), 0) FROM damage
     WHERE damage.cycleId = done.id AND damage.kind IN (${inSql(GROUND_OUT)})) AS deepestMm
  FROM done JOIN place ON place.cycleId = done.id AND place."before" IS NOT NULL AND place."after" IS NOT NULL
  GROUP BY done.id`;

/** The year up to the newest grind: a shop that rests in winter counts its season. */
const LAST_YEAR = `
  SELECT count(*) AS grinds FROM finishedGrind
  WHERE signedAt > (SELECT datetime(max(signedAt), '-365 days') FROM finishedGrind)`;

/** Hours from fit to pull, by spec and deck. */
interface Edge {
  readonly specId: string;
  readonly deckId: string;
  readonly hoursH: number;
  readonly spindles: number;
}
const EDGES = `
  SELECT blade.specId AS specId, spindle.deckId AS deckId, fit.toHoursH - fit.fromHoursH AS hoursH,
    (SELECT count(*) FROM spindle AS beside WHERE beside.deckId = spindle.deckId) AS spindles
  FROM fit JOIN blade ON blade.id = fit.bladeId JOIN spindle ON spindle.id = fit.spindleId
  WHERE fit."to" IS NOT NULL AND fit.toHoursH > fit.fromHoursH ORDER BY fit."to" DESC LIMIT 4000`;

/** What no policy on nicks touches. */
const PAST_NICKS = ['crack', 'bend'] as const;

/** The steel above its limits that a new blade of a spec brings; nothing where no width has one. */
function roomOf(
  specId: string,
  { limits, newWidthMm, wingMm }: SpecFigures,
  fleet: FleetWear,
): Pick<SchoolBasis, 'roomMm' | 'otherLimitGrinds'> | undefined {
  const widths = limits.filter(({ kind }) => kind === 'width').map(({ value }) => value);
  const wing = limits.find(({ kind }) => kind === 'wing');
  const thinning = rateAt(specWear(fleet, 'wing', specId).rates, 'wing');
  const byWing =
    wing && thinning > 0 ? Math.max(0, wingMm - wing.value) / thinning : Number.MAX_VALUE;
  /** A spec's own count stands under every school. */
  const byCount = limits.find(({ kind }) => kind === 'grinds')?.value ?? Number.MAX_VALUE;
  const roomMm = newWidthMm - Math.max(...widths);
  if (widths.length === 0 || roomMm <= 0) return undefined;
  return { roomMm, otherLimitGrinds: Math.min(byWing, byCount) };
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, each) => sum + each, 0) / values.length;

/** What each school is reckoned as: the nicks with the shop's way to retire, and the other way round. */
function choices({ schools, retireBy }: ShopRules): (Pick<
  SchoolCostRow,
  'nicks' | 'afterGrinds' | 'current'
> & {
  readonly choice: SchoolChoice;
})[] {
  const depthMm = schools.nicks.kind === 'leave-to' ? schools.nicks.depthMm : USUAL_LEAVE_MM;
  const ownCount = retireBy.kind === 'count' ? retireBy.grinds : undefined;
  const nicks = [
    { kind: 'clear-all' } as const,
    { kind: 'leave-to', depthMm } as const,
    { kind: 'leave-all' } as const,
  ].map((policy) => ({
    nicks: policy,
    current: policy.kind === schools.nicks.kind,
    choice: { nicks: policy, afterGrinds: ownCount },
  }));
  const counts = [...new Set([...COUNTS, ...(ownCount === undefined ? [] : [ownCount])])];
  const retire = ['limits' as const, ...counts.sort((a, b) => a - b)].map((after) => ({
    afterGrinds: after,
    current: (ownCount ?? 'limits') === after,
    choice: { nicks: schools.nicks, afterGrinds: after === 'limits' ? undefined : after },
  }));
  return [...nicks, ...retire];
}

/** What an hour mown costs under each school, by the shop's own grinds, hours and prices. */
export async function schoolCosts(database: Database): Promise<SchoolCostsView> {
  const { models, connection } = database;
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    connection.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
  const [{ rules }, grinds, [lastYear], edges, lost, specs, decks, standing, { fleet }] =
    await Promise.all([
      shopOf(database),
      ask<Grind>(GRINDS),
      ask<{ grinds: number }>(LAST_YEAR),
      ask<Edge>(EDGES),
      lostPerHour(database, PAST_NICKS, 0),
      listSpecs(database),
      models.deck.findAll(),
      models.deckDue.findAll(),
      shopWear(database),
    ]);
  const sharpOn = new Map(
    decks.map((deck) => {
      const pace = standing.find(({ deckId }) => deckId === deck.id)?.hoursPerDay ?? 0;
      return [deck.id, edgeLifeH(rules, deck, pace).hours];
    }),
  );
  const bases = specs.flatMap(({ specId, figures }) => {
    const room = roomOf(specId, figures, fleet);
    const of = edges.filter((edge) => edge.specId === specId);
    if (!room || of.length === 0) return [];
    const own = grinds.filter((grind) => grind.specId === specId);
    // A mower mows dull, not each of its blades.
    const dull = of.map(
      ({ deckId, hoursH, spindles }) =>
        Math.max(0, hoursH - (sharpOn.get(deckId) ?? Infinity)) / spindles,
    );
    const basis: SchoolBasis = {
      ...room,
      grinds: own.length >= OWN_GRINDS ? own : grinds,
      hoursPerEdge: mean(of.map(({ hoursH }) => hoursH)),
      dullHoursPerEdge: mean(dull),
      lostPerHour: lost,
    };
    const prices = { ...rules.prices, blade: bladePrice(rules.prices, specId) };
    return [{ basis, prices, hours: of.reduce((sum, { hoursH }) => sum + hoursH, 0) }];
  });
  const allHours = bases.reduce((sum, { hours }) => sum + hours, 0);
  const telling = grinds.length >= TELLING_GRINDS && bases.length > 0;
  /** Over the shop: each spec by the hours it mows. */
  const costOf = (
    choice: SchoolChoice,
  ): Pick<SchoolCostRow, 'recessionMm' | 'grinds' | 'perHour'> => {
    const costs = bases.map(({ basis, prices, hours }) => ({
      cost: schoolCost(basis, choice, prices),
      share: hours / allHours,
    }));
    const over = (part: keyof (typeof costs)[number]['cost']): number =>
      costs.reduce((sum, { cost, share }) => sum + share * cost[part], 0);
    return {
      recessionMm: over('recessionMm'),
      grinds: over('grinds'),
      perHour: {
        blade: over('blade'),
        bench: over('bench'),
        abrasive: over('abrasive'),
        dull: over('dull'),
        ground: over('ground'),
        total: over('total'),
      },
    };
  };
  return {
    currency: rules.prices.currency,
    grinds: grinds.length,
    bladesAYear: lastYear?.grinds ?? 0,
    withNicks: grinds.filter(({ deepestMm }) => deepestMm > 0).length,
    rows: telling
      ? choices(rules).map(({ choice, ...row }) => ({ ...row, ...costOf(choice) }))
      : [],
  };
}
