import type {
  BalancerView,
  CycleEvent,
  CycleState,
  GrinderView,
  ShopRules,
  SpecFigures,
} from '@tally-stone/contract';
import { foldCycle } from '@tally-stone/contract';
import {
  carriedForward,
  limitsUnder,
  type EdgeHeld,
  plannedReadings,
  QUANTITIES,
  recessionPerGrindMm,
  type BenchQuantity,
  type End,
  type JudgedRules,
  type Measured,
  type Section,
  type Wheel,
} from '@tally-stone/core';
import { Op } from 'sequelize';
import type { Scope } from '../db/connection.js';
import type {
  BladeRowStored,
  CorrectionRow,
  CycleFigures,
  CycleRow,
  ReadingRow,
  SpecRevisionRow,
} from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { bladeOf } from '../blades/commands.js';
import { Refusal } from '../http/refusal.js';
import { facesLeft } from './faces.js';
import { knownAtIntake } from '../intake/intake.js';
import { fromSigned, lastWritten } from './signed.js';
import { toolRemoval, type ToolRemoval } from '../removal/removal.js';
import { listBalancers } from '../shop/balancers.js';
import { listGrinders, shopDay } from '../shop/grinders.js';
import { shopOf } from '../shop/shop.js';

/** A reading of an earlier cycle. */
export interface LastReading extends Measured {
  readonly at: string;
  readonly radiusMm: number | undefined;
  readonly resolution: number;
  /** Grinds that were signed off since it was read; none where that is not said. */
  readonly grindsSince?: number;
}

/** Everything that is known about a cycle besides its own events. */
export interface CycleFacts {
  readonly row: CycleRow;
  /** As it is; of a signed cycle its grinds are those before it. */
  readonly blade: BladeRowStored;
  readonly revision: SpecRevisionRow;
  readonly spec: SpecFigures;
  /** The newest reading of each place in earlier cycles, by {@link historyKey}. */
  readonly last: ReadonlyMap<string, LastReading>;
  /** It was retired and taken back: everything is looked at anew. */
  readonly takenBack: boolean;
  /** The face each end was left with, where it is no single plane. */
  readonly faceLeft: (end: End) => Section | undefined;
  readonly rules: JudgedRules;
  /** Only in the school that retires what no longer holds an edge. */
  readonly edgeHeld?: EdgeHeld | undefined;
  readonly shopRules: ShopRules;
  readonly grinders: readonly GrinderView[];
  readonly balancers: readonly BalancerView[];
  /** What the tool takes a pass; only once passes were counted in this cycle. */
  readonly removal?: ToolRemoval | undefined;
  /** Cycles and days since everything was read. */
  readonly sinceFullLook: { readonly cycles: number; readonly days: number };
  /** Retired a moment ago and not yet carried off: the same person has taken up no other blade since. */
  readonly stillAtBench: boolean;
  /** Speed of the deck the blade is on or last came off; the spec's where it was never fitted. */
  readonly speedRpm: number;
}

/** The machine a blade goes to: the one it was set up on, else the shop's first. */
export const toolOf = (state: CycleState, { grinders }: CycleFacts): GrinderView | undefined =>
  grinders.find(({ grinderId }) => grinderId === state.setUp?.grinderId) ?? grinders[0];

/** The wheel of that machine as worn today, and what its height is set to aim at; nothing for a plane. */
export function wheelOf(state: CycleState, facts: CycleFacts): Wheel | undefined {
  const figures = toolOf(state, facts)?.figures;
  return figures?.kind === 'wheel' && figures.wheelDiameterMm
    ? { radiusMm: figures.wheelDiameterMm / 2, aim: figures.aim }
    : undefined;
}

interface Place {
  readonly quantity: string;
  readonly end?: string | null | undefined;
  readonly stationKey?: string | null | undefined;
}

/** A reading's place without its phase: `width:A:tip`. */
export const historyKey = ({ quantity, end, stationKey }: Place): string =>
  [quantity, end ?? '-', stationKey ?? '-'].join(':');

/** Folds a cycle from its accepted commands; the last fold where that is still the newest. */
async function cycleState(tables: Tables, row: CycleRow, scope: Scope): Promise<CycleState> {
  const known = lastWritten(tables, row.id);
  if (known?.state.revision === row.revision) return known.state;
  const commands = await tables.command.pick(['event'], { cycleId: row.id }, scope, {
    order: [['revision', 'ASC']],
  });
  const events = commands.flatMap(({ event }): CycleEvent[] => (event ? [event] : []));
  if (events.length === 0) throw new Refusal('notFound', 'There is no such cycle.');
  return foldCycle(events);
}

/** Corrections of signed cycles: values in the place of readings (the newest counts), retirements undone. */
async function correctionsSince(
  tables: Tables,
  cycleIds: readonly string[],
  scope: Scope,
): Promise<{
  readonly values: Map<string, number>;
  readonly takenBack: ReadonlySet<string>;
  readonly figures: Map<string, CycleFigures>;
}> {
  const rows =
    cycleIds.length === 0
      ? []
      : await tables.correction.pick(
          ['cycleId', 'correctsKind', 'correctsId', 'value', 'figures'],
          { cycleId: [...cycleIds] },
          scope,
          { order: [['madeAt', 'ASC']] },
        );
  const of = (kind: CorrectionRow['correctsKind']) =>
    rows.filter(({ correctsKind }) => correctsKind === kind);
  return {
    values: new Map(
      of('reading').map(({ correctsId, value }) => [
        correctsId,
        (value as { value: number }).value,
      ]),
    ),
    takenBack: new Set(of('retirement').map(({ cycleId }) => cycleId)),
    figures: new Map(
      rows.flatMap(({ cycleId, figures }) => (figures ? [[cycleId, figures] as const] : [])),
    ),
  };
}

const CYCLE_COLUMNS = [
  'id',
  'frozen',
  'openedAt',
  'signedAt',
  'signedBy',
  'outcome',
  'retireReason',
] satisfies (keyof CycleRow)[];
export type SignedCycle = Pick<CycleRow, (typeof CYCLE_COLUMNS)[number]> & {
  /** Its figures worked out again by the newest correction. */
  readonly corrected?: CycleFigures | undefined;
};
/** The figures that stand: those of the newest correction, else the signed ones. */
export const standingFigures = ({
  corrected,
  frozen,
}: Pick<SignedCycle, 'corrected' | 'frozen'>): CycleFigures | undefined =>
  corrected ?? frozen ?? undefined;

/** What a blade's signed-off cycles have left behind. */
export interface BladeHistory {
  /** Its last cycle retired it, and it was taken back since. */
  readonly takenBack: boolean;
  readonly last: Map<string, LastReading>;
  readonly cycles: readonly SignedCycle[];
  /** With what was corrected since. */
  readonly readings: readonly SignedReading[];
}

const HISTORY_COLUMNS = [
  'id',
  'cycleId',
  'phase',
  'quantity',
  'end',
  'stationKey',
  'radiusMm',
  'value',
  'u',
  'resolution',
  'takenAt',
  'source',
] satisfies (keyof ReadingRow)[];
export type SignedReading = Pick<ReadingRow, (typeof HISTORY_COLUMNS)[number]>;
/** What was signed off of a blade; of one of its cycles, what was signed off before that one. */
async function historyOf(
  tables: Tables,
  bladeId: string,
  scope: Scope,
  before?: Pick<CycleRow, 'id' | 'openedAt'>,
): Promise<BladeHistory> {
  const question = ['history', bladeId, before?.id ?? ''];
  const [found] = await fromSigned(tables, question, scope, async () => [
    await readHistory(tables, bladeId, scope, before),
  ]);
  if (!found) throw new Error('a history is asked for and answered');
  return found;
}

async function readHistory(
  tables: Tables,
  bladeId: string,
  scope: Scope,
  before?: Pick<CycleRow, 'id' | 'openedAt'>,
): Promise<BladeHistory> {
  const everySigned = await tables.cycle.pick(
    CYCLE_COLUMNS,
    { bladeId, signedAt: { [Op.ne]: null } },
    scope,
    { order: [['openedAt', 'ASC']] },
  );
  const signedCycles = before
    ? everySigned.filter(({ id, openedAt }) => id !== before.id && openedAt <= before.openedAt)
    : everySigned;
  const signed = signedCycles.map(({ id }) => id);
  const stored =
    signed.length === 0
      ? []
      : await tables.reading.pick(HISTORY_COLUMNS, { cycleId: signed }, scope);
  const { values, takenBack, figures } = await correctionsSince(tables, signed, scope);
  const cycles = signedCycles.map((cycle): SignedCycle => ({
    ...cycle,
    corrected: figures.get(cycle.id),
  }));
  const readings = stored.map((reading) => ({
    ...reading,
    value: values.get(reading.id) ?? reading.value,
  }));
  const nth = new Map(signed.map((id, i) => [id, i]));
  const order = (reading: Pick<ReadingRow, 'cycleId' | 'phase'>): number =>
    2 * (nth.get(reading.cycleId) ?? 0) + (reading.phase === 'after' ? 1 : 0);
  const blade = await tables.blade.one({ id: bladeId }, scope);
  /** Grinds in a cycle and after it. */
  const grindsFrom: number[] = [0];
  for (const cycle of [...cycles].reverse())
    grindsFrom.unshift((grindsFrom[0] ?? 0) + (standingFigures(cycle)?.removedG ? 1 : 0));
  const last = new Map<string, LastReading>();
  for (const [key, reading] of blade ? await knownAtIntake(tables, blade, scope) : [])
    last.set(key, { ...reading, grindsSince: grindsFrom[0] ?? 0 });
  for (const reading of [...readings].sort(
    (a, b) => order(a) - order(b) || (a.takenAt < b.takenAt ? -1 : a.takenAt > b.takenAt ? 1 : 0),
  )) {
    last.set(historyKey(reading), {
      value: reading.value,
      u: reading.u,
      at: reading.takenAt,
      radiusMm: reading.radiusMm ?? undefined,
      resolution: reading.resolution,
      grindsSince:
        grindsFrom[(nth.get(reading.cycleId) ?? 0) + (reading.phase === 'after' ? 1 : 0)] ?? 0,
    });
  }
  return {
    last,
    cycles,
    readings,
    takenBack: takenBack.has(signed.at(-1) ?? ''),
  };
}

/** Everything a blade's signed-off cycles have left behind. */
export const bladeHistory = (
  tables: Tables,
  bladeId: string,
  scope: Scope,
): Promise<BladeHistory> => historyOf(tables, bladeId, scope);

/** Newest reading of each place over a blade's signed-off cycles (after a grind rather than before it). */
export const lastReadings = async (
  tables: Tables,
  bladeId: string,
  scope: Scope,
): Promise<Map<string, LastReading>> => (await historyOf(tables, bladeId, scope)).last;

/** The flat that mowing leaves on an edge that went out sharp, mm. Common practice, no source. */
const MOWED_LAND: Measured = { value: 0.45, u: 0.15 };

/**
 * A last reading as it counts today, its uncertainty grown by a cycle's work. A width goes with every grind: it is
 * less by what each since has taken, where that is said, and less sure with each; the rest waits for the full look.
 */
export function carriedToday(
  quantity: BenchQuantity,
  last: Measured & Pick<LastReading, 'grindsSince'>,
  recessionPerGrindMm = 0,
): Measured {
  if (quantity === 'land' && last.value < MOWED_LAND.value) return MOWED_LAND;
  if (quantity !== 'width') return carriedForward(last, QUANTITIES[quantity].changePerCycle);
  const cycles = 1 + (last.grindsSince ?? 0);
  return carriedForward(last, QUANTITIES.width.changePerCycle, cycles, recessionPerGrindMm);
}

/** A quantity that only a full look reads; its last reading tells when that was. */
const FULL_LOOK_QUANTITY = 'thickness:-:-';

function sinceFullLook(
  signed: BladeHistory['cycles'],
  last: ReadonlyMap<string, LastReading>,
  openedAt: string,
): CycleFacts['sinceFullLook'] {
  const looked = last.get(FULL_LOOK_QUANTITY)?.at;
  if (!looked) return { cycles: 0, days: 0 };
  const cycles = signed.filter((cycle) => cycle.openedAt > looked).length;
  const days = (Date.parse(openedAt) - Date.parse(looked)) / 86_400_000;
  return { cycles, days };
}

/** The tool a cycle was ground with, as its passes say. */
async function removalOf(
  tables: Tables,
  { cycleId, passes }: CycleState,
  edgeLengthMm: number,
  scope: Scope,
): Promise<ToolRemoval | undefined> {
  const [first] = passes;
  if (!first) return undefined;
  const [pass] = await fromSigned(tables, ['pass', first.passId], scope, () =>
    tables.pass.pick(['grinderId', 'abrasiveId', 'personId'], { cycleId }, scope, { limit: 1 }),
  );
  if (!pass) return undefined;
  const { grinderId, abrasiveId, personId } = pass;
  return toolRemoval(
    tables,
    scope,
    edgeLengthMm,
    grinderId && abrasiveId ? { grinderId, abrasiveId } : undefined,
    personId ?? undefined,
  );
}

function ownRecession(
  spec: SpecFigures,
  last: ReadonlyMap<string, LastReading>,
  grinds: number,
  usualMm: number,
): number {
  const lost = [...last].flatMap(([key, { value }]) =>
    key.startsWith('width:') ? [spec.newWidthMm - value] : [],
  );
  const mean = lost.length === 0 ? 0 : lost.reduce((sum, each) => sum + each, 0) / lost.length;
  return recessionPerGrindMm(mean, lost.length === 0 ? 0 : grinds, usualMm);
}

/** Blade speed of the deck a blade was fitted to last. */
async function lastDeckSpeedRpm(
  tables: Tables,
  bladeId: string,
  scope: Scope,
): Promise<number | undefined> {
  const [fit] = await tables.fit.pick(['spindleId'], { bladeId }, scope, {
    order: [['from', 'DESC']],
    limit: 1,
  });
  const spindle = fit && (await tables.spindle.one({ id: fit.spindleId }, scope));
  const deck = spindle && (await tables.deck.one({ id: spindle.deckId }, scope));
  return deck?.bladeSpeedRpm;
}

/** A cycle as it stands, and everything that is known about it besides its own events. */
export async function cycleAt(
  tables: Tables,
  cycleId: string,
  scope: Scope,
  now: string = new Date().toISOString(),
): Promise<{ readonly state: CycleState; readonly facts: CycleFacts }> {
  const known = scope === 'committed' ? undefined : lastWritten(tables, cycleId);
  const row = known?.row ?? (await tables.cycle.one({ id: cycleId }, scope));
  if (!row) throw new Refusal('notFound', 'There is no such cycle.');
  const state = known?.state ?? (await cycleState(tables, row, scope));
  return { state, facts: await factsOf(tables, row, state, scope, now) };
}

/** Hours of a blade's last edge, and of its spec's edges before; nothing while nobody knows them. */
async function edgeHeld(
  tables: Tables,
  { id, specId }: BladeRowStored,
  scope: Scope,
): Promise<EdgeHeld | undefined> {
  const blades = await tables.blade.pick(['id'], { specId }, scope);
  const fits = await tables.fit.pick(
    ['bladeId', 'fromHoursH', 'toHoursH'],
    { bladeId: blades.map((blade) => blade.id), to: { [Op.ne]: null } },
    scope,
    { order: [['from', 'DESC']], limit: 200 },
  );
  const hours = ({ fromHoursH, toHoursH }: (typeof fits)[number]): number =>
    (toHoursH ?? fromHoursH) - fromHoursH;
  const last = fits.find(({ bladeId }) => bladeId === id);
  const sorted = fits.map(hours).sort((a, b) => a - b);
  const usualH = sorted[Math.floor(sorted.length / 2)];
  return last && usualH !== undefined && sorted.length >= 5
    ? { lastH: hours(last), usualH }
    : undefined;
}

/** A blade is carried off when its technician takes up the next one, or goes home. */
async function isStillAtBench(
  tables: Tables,
  { outcome, signedAt, signedBy }: CycleRow,
  { state }: BladeRowStored,
  scope: Scope,
  now: string,
): Promise<boolean> {
  if (outcome !== 'retired' || state !== 'retired' || !signedAt || !signedBy) return false;
  const { timeZone } = await shopOf(tables, scope);
  if (shopDay(signedAt, timeZone) !== shopDay(now, timeZone)) return false;
  const since = { openedBy: signedBy, openedAt: { [Op.gte]: signedAt } };
  return (await tables.cycle.count(since, scope)) === 0;
}

/** Grinds of a blade counted by a signed cycle and those after it: before it, there were so many fewer. */
async function grindsSince(
  tables: Tables,
  { bladeId, openedAt }: CycleRow,
  scope: Scope,
): Promise<number> {
  const since = await tables.cycle.pick(
    ['id'],
    { bladeId, openedAt: { [Op.gte]: openedAt }, signedAt: { [Op.ne]: null } },
    scope,
  );
  const passes = await tables.pass.pick(['cycleId'], { cycleId: since.map(({ id }) => id) }, scope);
  return new Set(passes.map(({ cycleId }) => cycleId)).size;
}

async function factsOf(
  tables: Tables,
  row: CycleRow,
  state: CycleState,
  scope: Scope,
  now: string,
): Promise<CycleFacts> {
  const stored = await bladeOf(tables, row.bladeId, scope);
  const blade = {
    ...stored,
    grinds: stored.grinds - (row.signedAt ? await grindsSince(tables, row, scope) : 0),
  };
  const revision = await tables.specRevision.one({ id: row.specRevisionId }, scope);
  if (!revision) throw new Refusal('notFound', 'The spec of this cycle is missing.');
  const { last, cycles, readings, takenBack } = await historyOf(tables, blade.id, scope, row);
  const { rules } = await shopOf(tables, scope);
  const { nicks } = rules.schools;
  const leaveNicksToMm =
    nicks.kind === 'leave-to' ? nicks.depthMm : nicks.kind === 'clear-all' ? 0 : undefined;
  return {
    row,
    blade,
    revision,
    spec: {
      ...revision.figures,
      limits: limitsUnder(rules.retireBy, revision.figures.limits),
      readings: plannedReadings(revision.figures),
    },
    edgeHeld:
      rules.retireBy.kind === 'wont-hold' ? await edgeHeld(tables, blade, scope) : undefined,
    last,
    takenBack,
    stillAtBench: await isStillAtBench(tables, row, stored, scope, now),
    faceLeft: facesLeft(revision.figures, cycles, readings),
    speedRpm: (await lastDeckSpeedRpm(tables, blade.id, scope)) ?? revision.figures.bladeSpeedRpm,
    shopRules: rules,
    grinders: await listGrinders(tables, scope, now),
    balancers: await listBalancers(tables, scope),
    removal: await removalOf(tables, state, revision.figures.edgeLengthMm, scope),
    sinceFullLook: sinceFullLook(cycles, last, row.openedAt),
    rules: {
      leaveNicksToMm,
      dullLandMm: rules.dullLandMm,
      recessionPerGrindMm: ownRecession(
        revision.figures,
        last,
        blade.grinds,
        rules.usualRecessionMm,
      ),
    },
  };
}
