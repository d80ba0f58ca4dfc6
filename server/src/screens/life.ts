import { type BladeView, type CycleSummary, type GrinderView } from '@tally-stone/contract';
import { passesAt, assess, toFindingView, toJudgementView } from '@tally-stone/cycle';
import {
  bladeCost,
  bladePrice,
  severityRank,
  worstInWords,
  type End,
  type Finding,
  type ZoneKey,
} from '@tally-stone/core';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { CycleRow } from '../cycle/cycle.model.js';
import type { StandingReadingRow } from '../cycle/standing-reading.model.js';
import type { SignedCycleRow } from '../cycle/signed-cycle.model.js';
import type { DamageRow } from '../cycle/damage.model.js';
import { historyOf, standingFigures } from '../cycle/history.js';
import { cycleAt, shopFacts } from '../cycle/facts.js';
import { standsAt } from '../cycle/own-recession.js';
import { listPeople } from '../people/people.js';
import type { TrimmingRow } from '../blade/trimming.model.js';
import { currentRevision, toSpecRevision } from '../spec/specs.js';
import { lifeOf } from '../wear/histories.js';
import { shopWear } from '../wear/shop-wear.js';
import { fanOf, forecastOf, type Asked } from '../wear/forecast.js';
import { bladeOf } from '../blade/look-up.js';
import { judgedByLast } from '../blade/judged.js';
import { cyclesOfBlade } from './blade-cycles.js';
import { bladeRow } from './blade-rows.js';
import { dueOfMower } from './fleet.js';
import {
  afterTrimming,
  fitsOf,
  marksOf,
  seriesOf,
  strikesOf,
  timelineOf,
  whileOn,
} from './story.js';

interface CycleParts {
  readonly readings: readonly StandingReadingRow[];
  readonly passes: readonly {
    end: End;
    zone: ZoneKey;
    count: number;
    grinderId: string | null;
  }[];
  readonly rounds: readonly { phase: string; unbalanceGmm: number; endOnly: number }[];
}

const newest = (
  readings: readonly StandingReadingRow[],
  phase: 'before' | 'after',
  quantity: string,
): StandingReadingRow | undefined =>
  readings.findLast((reading) => reading.phase === phase && reading.quantity === quantity);

function widths(
  readings: readonly StandingReadingRow[],
  phase: 'before' | 'after',
): Map<string, number> {
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

/** Parts of cycles, ready to be asked for by their cycle. */
function byCycle<Part extends { readonly cycleId: string }>(
  parts: readonly Part[],
): (cycleId: string) => readonly Part[] {
  const sorted = groupedBy(parts, ({ cycleId }) => cycleId);
  return (cycleId) => sorted.get(cycleId) ?? [];
}

/** A signed cycle, or the open one. */
type SummedUp = Pick<
  CycleRow,
  'id' | 'frozen' | 'openedAt' | 'signedAt' | 'signedBy' | 'outcome' | 'retireReason'
> &
  Partial<Pick<SignedCycleRow, 'corrected'>>;

function summary(
  cycle: SummedUp,
  { readings, passes, rounds }: CycleParts,
  nameOf: (personId: string | null) => string | undefined,
  grinders: readonly GrinderView[],
): CycleSummary {
  const figures = standingFigures(cycle);
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
  const bevel = (end: End): number | undefined =>
    readings.findLast(
      (each) => each.phase === 'after' && each.quantity === 'bevel' && each.end === end,
    )?.value;
  const [bevelA, bevelB] = [bevel('A'), bevel('B')];
  return {
    cycleId: cycle.id,
    openedAt: cycle.openedAt,
    ...(cycle.signedAt ? { signedAt: cycle.signedAt } : {}),
    ...(signedBy ? { signedBy } : {}),
    ...(cycle.outcome ? { outcome: cycle.outcome } : {}),
    ...(cycle.retireReason ? { retireReason: cycle.retireReason } : {}),
    tools: [...groupedBy(passes, ({ grinderId }) => grinderId ?? '')].map(([id, own]) => {
      const figures = grinders.find(({ grinderId }) => grinderId === id)?.figures;
      return {
        ...(figures ? { name: figures.name } : {}),
        counts: figures?.counts ?? 'pass',
        passes: { A: passesAt({ passes: own }, 'A'), B: passesAt({ passes: own }, 'B') },
      };
    }),
    ...(figures?.removedG ? { removedG: figures.removedG } : {}),
    ...(cycle.corrected && cycle.frozen?.removedG ? { removedSignedG: cycle.frozen.removedG } : {}),
    ...(massAfter ? { massAfterG: massAfter.value } : {}),
    recessionMm: { ...(A === undefined ? {} : { A }), ...(B === undefined ? {} : { B }) },
    bevelDeg: {
      ...(bevelA === undefined ? {} : { A: bevelA }),
      ...(bevelB === undefined ? {} : { B: bevelB }),
    },
    ...(start === undefined ? {} : { unbalanceBeforeGmm: start }),
    ...(final === undefined ? {} : { unbalanceAfterGmm: final }),
    ...(figures?.permissibleGmm ? { permissibleGmm: figures.permissibleGmm } : {}),
    widthsMm: Object.fromEntries(new Map([...before, ...after])),
    verdictWords: cycle.frozen
      ? (toJudgementView(cycle.frozen.judgement).findings[0]?.words ?? '')
      : '',
  };
}

/** The worst first, then limits in the order they will be met; those without a forecast by the share that is left. */
const soonestFirst = (findings: readonly Finding[], forecast: BladeView['forecast']): Finding[] => {
  const share = ({ margin = Infinity, limit = 1 }: Finding): number => margin / limit;
  const grinds = ({ id }: Finding): number => forecast?.grindsAt[id] ?? Infinity;
  const later = ({ id }: Finding): number => (id === forecast?.first ? 0 : 1);
  return [...findings].sort(
    (a, b) =>
      severityRank(a.severity) - severityRank(b.severity) ||
      // Whole grinds tie; Infinity less itself is not a number.
      (grinds(a) === grinds(b) ? later(a) - later(b) : grinds(a) - grinds(b)) ||
      share(a) - share(b) ||
      0,
  );
};

/** The verdict on what is read so far of a blade at the bench. */
async function saysNow(
  database: Database,
  cycleId: string,
): Promise<NonNullable<BladeView['inHand']>> {
  const { state, facts } = await cycleAt(database, cycleId);
  const { before, now } = assess(state, facts);
  const { verdict, findings } = state.passes.length > 0 ? now : before;
  return { cycleId, verdict, words: worstInWords({ findings }) };
}

/** The blade's page: its cycles in order, what is left above each limit, where it has been. */
export async function bladeLife(database: Database, bladeId: string): Promise<BladeView> {
  const { models } = database;
  const found = bladeOf(models, bladeId);
  const [stored, history, { cycles: every, parts }, row, fits, struck, { shop, grinders }, people] =
    await Promise.all([
      found,
      found.then((blade) => historyOf(database, blade)),
      cyclesOfBlade(models, bladeId),
      bladeRow(database, bladeId),
      fitsOf(models, bladeId),
      strikesOf(models, bladeId),
      shopFacts(database),
      listPeople(database),
    ]);
  const revision = await currentRevision(database, stored.specId);
  const { last } = history;
  const spec = revision.figures;
  const trimmed = history.trimmings.at(-1);
  const inHand = every.filter(({ signedAt }) => signedAt === null);
  const cycles: SummedUp[] = [...history.cycles, ...inHand];
  const openCycle = inHand[0]?.id;
  const cycleIds = cycles.map(({ id }) => id);
  const damage = afterTrimming(parts.damage, stored.trimmedAt, spec.newLengthMm);
  // Places are counted from the tip: pictures from before a trimming are of another one.
  const edges = parts.edges.filter(({ takenAt }) => takenAt >= (trimmed?.at ?? ''));
  const openReadings =
    openCycle === undefined
      ? []
      : await models.reading.findAll({ where: { cycleId: openCycle }, raw: true });
  const readings: StandingReadingRow[] = [...history.readings, ...openReadings].sort((a, b) =>
    a.takenAt < b.takenAt || (a.takenAt === b.takenAt && a.id < b.id) ? -1 : 1,
  );
  const nameOf = (personId: string | null): string | undefined =>
    people.find((person) => person.personId === personId)?.name;
  const [readingsOf, passesOf, roundsOf] = [
    byCycle(readings),
    byCycle(parts.passes),
    byCycle(parts.rounds),
  ];
  const summaries = cycles.map((cycle) =>
    summary(
      cycle,
      {
        readings: readingsOf(cycle.id),
        passes: passesOf(cycle.id),
        rounds: roundsOf(cycle.id),
      },
      nameOf,
      grinders,
    ),
  );
  const findings = judgedByLast(spec, history, stored, shop.rules);
  const mown = fits.flatMap(({ to, hoursH }) => (to === null ? [] : [{ to, hoursH: hoursH ?? 0 }]));
  const asked: Asked = {
    wear: lifeOf(stored, spec, history, mown, shop.rules.retireBy),
    spec,
    grinds: stored.grinds,
    read: history,
    usualRecessionMm: shop.rules.usualRecessionMm,
  };
  const lives = await shopWear(database);
  const forecast = stored.state === 'retired' ? undefined : forecastOf(asked, shop.rules, lives);
  const mownH = fits.reduce((sum, { hoursH }) => sum + (hoursH ?? 0), 0);
  const on = stored.state === 'on-mower' ? fits.find(({ to }) => to === null) : undefined;
  const due = on && (await dueOfMower(database, on.mowerId));
  return {
    marks: marksOf(damage, cycleIds),
    series: seriesOf(readings, cycleIds),
    timeline: timelineOf({
      stored,
      summaries,
      fits,
      strikes: whileOn(struck, fits),
      corrections: parts.corrections,
      trimmings: history.trimmings,
    }),
    ...(trimmed ? { trimmed: trimmedView(trimmed, stored, every) } : {}),
    cost: {
      currency: shop.rules.prices.currency,
      hours: mownH,
      ...bladeCost(
        {
          ...shop.rules.prices,
          blade: bladePrice(shop.rules.prices, spec.trimmedFrom ?? stored.specId),
        },
        stored.grinds,
        mownH,
      ),
    },
    ...(due ? { due } : {}),
    ...(forecast ? { forecast } : {}),
    fan: forecast ? fanOf(asked, shop.rules, lives, forecast.grinds.high + 1) : {},
    blade: row,
    spec: toSpecRevision(revision),
    lengthMm: last.get('length:-:-')?.value ?? spec.newLengthMm,
    widths: {
      A: stationWidths(asked, 'A'),
      B: stationWidths(asked, 'B'),
    },
    cycles: summaries,
    left: soonestFirst(findings, forecast).map(toFindingView),
    ...(openCycle === undefined ? {} : { inHand: await saysNow(database, openCycle) }),
    fits: fits.map(({ mowerName, position, from, to, hoursH }) => ({
      mowerName,
      position,
      from,
      ...(to ? { to } : {}),
      ...(hoursH === null ? {} : { hoursH }),
    })),
    damage: lastDamage(damage, cycleIds.at(-1)),
    edges: edges.map(({ end, phase, takenAt, edge }) => ({
      end,
      phase,
      at: takenAt,
      widthsMm: edge.widthsMm,
    })),
    photos: parts.photos.toReversed().map(({ id, file, damageId }) => ({
      photoId: id,
      file,
      ...(damageId === null ? {} : { damageId }),
    })),
  };
}

const trimmedView = (
  { id: trimId, at, fromLengthMm: fromMm, toLengthMm: toMm, toSpecId }: TrimmingRow,
  { specId }: Pick<BladeRowStored, 'specId'>,
  cycles: readonly { readonly openedAt: string }[],
): BladeView['trimmed'] => ({
  trimId,
  fromMm,
  toMm,
  canTakeBack: specId === toSpecId && cycles.every(({ openedAt }) => openedAt < at),
});

/** Widths as they stand; worked out where grinds followed that nobody read them after. */
const stationWidths = (asked: Asked, end: End): BladeView['widths'][End] =>
  asked.spec.stations.flatMap(({ key, radiusMm }) => {
    const width = standsAt(asked, { quantity: 'width', end, stationKey: key });
    if (!width) return [];
    const { value: widthMm, carried } = width;
    return [{ radiusMm, widthMm, ...(carried ? { worked: true } : {}) }];
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
