import {
  bladePrice,
  DAMAGE,
  RETIRE_REASONS,
  type DamageKind,
  type RetireReason,
  type UnitSystem,
} from '@tally-stone/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { wrongField } from '@tally-stone/cycle';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { headOf } from '../record/chain.js';
import { shopOf } from '../shop/look-up.js';
import { CAME_OFF } from './came-off.js';
import { Paper } from './paper.js';

interface Signed {
  readonly signedAt: string;
  readonly outcome: 'ready' | 'hold' | 'retired';
  readonly retireReason: RetireReason | null;
  readonly ground: number;
  readonly metalG: number | null;
  readonly specId: string;
  readonly mowerId: string | null;
}
/** Cycles signed between two moments, those of blades taken back left out: they are judged anew. */
const SIGNED = `
  SELECT signedCycle.signedAt AS signedAt, signedCycle.outcome AS outcome,
    signedCycle.retireReason AS retireReason, signedCycle.ground AS ground,
    json_extract(COALESCE(signedCycle.corrected, signedCycle.frozen), '$.removedG.value') AS metalG,
    blade.specId AS specId, ${CAME_OFF('signedCycle')} AS mowerId
  FROM signedCycle JOIN blade ON blade.id = signedCycle.bladeId
  WHERE signedCycle.signedAt >= :from AND signedCycle.signedAt < :to AND NOT signedCycle.takenBack
  ORDER BY signedCycle.signedAt`;

interface Found {
  readonly kind: DamageKind;
  readonly count: number;
  readonly deepestMm: number;
}
const DAMAGE_FOUND = `
  SELECT damage.kind AS kind, count(*) AS count, max(damage.depthMm) AS deepestMm
  FROM damage JOIN cycle ON cycle.id = damage.cycleId
  WHERE cycle.signedAt >= :from AND cycle.signedAt < :to GROUP BY damage.kind ORDER BY count DESC`;

interface MowerSeason {
  readonly mowerId: string;
  readonly name: string;
  readonly site: string;
  readonly hours: number | null;
  readonly strikes: number;
  readonly complaints: number;
}
/** A mower's hours are those of the blades taken off it in that time, shared over its spindles. */
const MOWERS = `
  SELECT mower.id AS mowerId, mower.name AS name, mower.site AS site,
    (SELECT sum(fit.toHoursH - fit.fromHoursH) * 1.0 / (SELECT count(*) FROM spindle AS every WHERE every.deckId = deck.id)
     FROM fit JOIN spindle ON spindle.id = fit.spindleId
     WHERE spindle.deckId = deck.id AND fit."to" >= :from AND fit."to" < :to) AS hours,
    (SELECT count(*) FROM strike WHERE strike.mowerId = mower.id AND strike.at >= :from AND strike.at < :to) AS strikes,
    (SELECT count(*) FROM cutReport
     WHERE cutReport.mowerId = mower.id AND cutReport.at >= :from AND cutReport.at < :to) AS complaints
  FROM mower JOIN deck ON deck.mowerId = mower.id ORDER BY mower.name`;

/** The days a report covers, both included: as asked for, or the last twelve months. */
function span(
  { from, to }: { readonly from?: string | undefined; readonly to?: string | undefined },
  timeZone: string,
  at: string,
): { readonly first: DateTime; readonly last: DateTime } {
  const last = to
    ? DateTime.fromISO(to, { zone: timeZone })
    : DateTime.fromISO(at, { zone: timeZone });
  const first = from
    ? DateTime.fromISO(from, { zone: timeZone })
    : last.minus({ years: 1 }).plus({ days: 1 });
  if (first > last) throw wrongField('from', $localize`is after the last day: swap the two`);
  return { first: first.startOf('day'), last: last.startOf('day') };
}

const instant = (moment: DateTime): string => moment.toUTC().toISO() ?? '';
const count = (some: readonly Signed[], of: (each: Signed) => boolean): number =>
  some.filter(of).length;
const metalOf = (some: readonly Signed[]): number =>
  some.reduce((sum, { metalG }) => sum + (metalG ?? 0), 0);

/**
 * What the bench did in a season: by month, by mower, why blades were retired, what damage was found. Figures are those
 * signed, corrections included. Errors: `from` when it lies after `to`.
 */
export async function seasonReport(
  database: Database,
  asked: { readonly from?: string | undefined; readonly to?: string | undefined },
  { system, at }: { system: UnitSystem; at: string },
): Promise<Buffer> {
  const [shop, head] = await Promise.all([shopOf(database), headOf(database.connection)]);
  const { first, last } = span(asked, shop.timeZone, at);
  const replacements = { from: instant(first), to: instant(last.plus({ days: 1 })) };
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    database.connection.sequelize.query<Row>(sql, { type: QueryTypes.SELECT, replacements });
  const [signed, found, mowers] = await Promise.all([
    ask<Signed>(SIGNED),
    ask<Found>(DAMAGE_FOUND),
    ask<MowerSeason>(MOWERS),
  ]);
  const { region, prices } = shop.rules;
  const paper = new Paper($localize`Season at the bench`, {
    system,
    region,
    timeZone: shop.timeZone,
  });
  const days = $localize`${paper.day(instant(first))} to ${paper.day(instant(last))}`;
  paper.heading('H1', $localize`Season at the bench`);
  paper.paragraph(`${shop.name}, ${days}.`);
  const ground = signed.filter((each) => each.ground);
  const retired = signed.filter(({ outcome }) => outcome === 'retired');
  const many = (of: number, one: string, more: string): string =>
    `${paper.number(of)} ${of === 1 ? one : more}`;
  const lost = retired.reduce((sum, { specId }) => sum + bladePrice(prices, specId), 0);
  paper.paragraph(
    signed.length === 0
      ? $localize`No blade was signed off in that time.`
      : $localize`${many(ground.length, $localize`grind`, $localize`grinds`)} took off ${paper.show(metalOf(ground), 'g', 0)} of steel. ${many(retired.length, $localize`blade`, $localize`blades`)} ${retired.length === 1 ? $localize`was` : $localize`were`} retired; new for old that is ${paper.money(lost, prices.currency)} at the prices of today.`,
  );
  months(paper, signed, shop.timeZone);
  byMower(paper, signed, mowers);
  reasons(paper, retired);
  damageFound(paper, found);
  paper.caution();
  return paper.end(
    $localize`${shop.name}, season ${days}   ·   printed ${paper.day(at)}   ·   record ends at entry ${head.sequence}, ${head.hash.slice(0, 16)}…`,
  );
}

function months(paper: Paper, signed: readonly Signed[], timeZone: string): void {
  if (signed.length === 0) return;
  const monthOf = ({ signedAt }: Signed): string =>
    DateTime.fromISO(signedAt, { zone: timeZone }).toFormat('LLL yyyy');
  paper.heading('H2', $localize`Month by month`);
  paper.table(
    [
      { head: $localize`Month`, share: 14 },
      { head: $localize`Grinds`, share: 12, align: 'right' },
      { head: $localize`Metal, ${paper.unit('g')}`, share: 14, align: 'right' },
      { head: $localize`Ready`, share: 12, align: 'right' },
      { head: $localize`On hold`, share: 12, align: 'right' },
      { head: $localize`Retired`, share: 12, align: 'right' },
    ],
    [...groupedBy(signed, monthOf)].map(([month, some]) => [
      month,
      paper.number(count(some, (each) => Boolean(each.ground))),
      paper.figure(metalOf(some), 'g', 0),
      ...(['ready', 'hold', 'retired'] as const).map((outcome) =>
        paper.number(count(some, (each) => each.outcome === outcome)),
      ),
    ]),
  );
}

function byMower(paper: Paper, signed: readonly Signed[], mowers: readonly MowerSeason[]): void {
  const off = groupedBy(signed, ({ mowerId }) => mowerId ?? '');
  const rows = mowers.flatMap(({ mowerId, name, site, hours, strikes, complaints }) => {
    const some = off.get(mowerId) ?? [];
    if (!hours && !strikes && !complaints && some.length === 0) return [];
    return [
      [
        name,
        site,
        hours ? paper.number(hours, 1) : '',
        ...[
          count(some, (each) => Boolean(each.ground)),
          count(some, ({ outcome }) => outcome === 'retired'),
          strikes,
          complaints,
        ].map((each) => paper.number(each)),
      ],
    ];
  });
  if (rows.length === 0) return;
  paper.heading('H2', $localize`Mower by mower`);
  paper.table(
    [
      { head: $localize`Mower`, share: 16 },
      { head: $localize`Works at`, share: 20 },
      { head: $localize`Hours of the sets taken off`, share: 16, align: 'right' },
      { head: $localize`Grinds`, share: 10, align: 'right' },
      { head: $localize`Blades retired`, share: 12, align: 'right' },
      { head: $localize`Strikes`, share: 10, align: 'right' },
      { head: $localize`Complaints of the cut`, share: 14, align: 'right' },
    ],
    rows,
  );
}

const whyOf = (reason: RetireReason | null): string =>
  reason ? RETIRE_REASONS[reason].words : $localize`No reason noted`;

function reasons(paper: Paper, retired: readonly Signed[]): void {
  if (retired.length === 0) return;
  paper.heading('H2', $localize`Why blades were retired`);
  paper.table(
    [
      { head: $localize`Why`, share: 50 },
      { head: $localize`Blades`, share: 14, align: 'right' },
    ],
    [...groupedBy(retired, ({ retireReason }) => whyOf(retireReason))]
      .sort(([, a], [, b]) => b.length - a.length)
      .map(([why, some]) => [why, paper.number(some.length)]),
  );
}

function damageFound(paper: Paper, found: readonly Found[]): void {
  if (found.length === 0) return;
  paper.heading('H2', $localize`Damage found`);
  paper.table(
    [
      { head: $localize`What`, share: 40 },
      { head: $localize`Times`, share: 14, align: 'right' },
      { head: $localize`Deepest, ${paper.unit('mm')}`, share: 16, align: 'right' },
    ],
    found.map(({ kind, count: times, deepestMm }) => [
      DAMAGE[kind].words,
      paper.number(times),
      paper.figure(deepestMm, 'mm', 1),
    ]),
  );
}
