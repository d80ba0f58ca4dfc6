import type {
  CycleEvent,
  CycleFacts,
  CycleState,
  GrinderView,
  LastReading,
  SpecFigures,
  ToolRemoval,
} from '@tally-stone/contract';
import {
  type EdgeHeld,
  limitsUnder,
  plannedReadings,
  recessionPerGrindMm,
} from '@tally-stone/core';
import { Refusal, foldCycle, toolKey } from '@tally-stone/cycle';
import { Op } from 'sequelize';
import { bladeOf } from '../blade/look-up.js';
import type { Scope } from '../db/connection.js';
import type { BladeRowStored, CycleRow, SpecRevisionRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { toolRemoval } from '../removal/removal.js';
import { listBalancers } from '../shop/balancers.js';
import { shopDay } from '../shop/day.js';
import { listGrinders } from '../shop/grinders.js';
import { shopOf } from '../shop/look-up.js';
import { facesLeft } from './faces.js';
import { type BladeHistory, historyOf } from './history.js';
import { fromSigned, lastWritten } from './signed.js';

/** A cycle's facts with the rows they were read from. */
export interface LoadedFacts extends CycleFacts {
  readonly row: CycleRow;
  readonly blade: BladeRowStored;
  readonly revision: SpecRevisionRow;
}

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

/** Whose hand counts: who counted the first passes, else who took the blade up. */
async function handOf(
  tables: Tables,
  { cycleId, passes, openedBy }: CycleState,
  scope: Scope,
): Promise<string> {
  const [first] = passes;
  if (!first) return openedBy;
  const [pass] = await fromSigned(tables, ['pass', first.passId], scope, () =>
    tables.pass.pick(['personId'], { cycleId }, scope, { limit: 1 }),
  );
  return pass?.personId ?? openedBy;
}

/** Of which tools it is told what they take: the one the cycle was ground on, or every one of the shop. */
export type ToolsTold = 'in-use' | 'all';

async function removalsOf(
  tables: Tables,
  state: CycleState,
  grinders: readonly GrinderView[],
  edgeLengthMm: number,
  tools: ToolsTold,
  scope: Scope,
): Promise<CycleFacts['removals']> {
  const [first] = state.passes;
  const asked = [
    ...(first ? [{ grinderId: first.grinderId, abrasiveId: first.abrasiveId }] : []),
    ...(tools === 'all' ? [...grinders, {}] : []),
  ];
  if (asked.length === 0) return {};
  const hand = await handOf(tables, state, scope);
  const removals: Record<string, ToolRemoval> = {};
  for (const { grinderId, abrasiveId } of asked as Partial<GrinderView>[]) {
    const tool = grinderId && abrasiveId ? { grinderId, abrasiveId } : undefined;
    removals[toolKey(tool ?? {})] ??= await toolRemoval(tables, scope, edgeLengthMm, tool, hand);
  }
  return removals;
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
  tools: ToolsTold = 'in-use',
): Promise<{ readonly state: CycleState; readonly facts: LoadedFacts }> {
  const known = scope === 'committed' ? undefined : lastWritten(tables, cycleId);
  const row = known?.row ?? (await tables.cycle.one({ id: cycleId }, scope));
  if (!row) throw new Refusal('notFound', 'There is no such cycle.');
  const state = known?.state ?? (await cycleState(tables, row, scope));
  return { state, facts: await factsOf(tables, row, state, scope, now, tools) };
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
  tools: ToolsTold,
): Promise<LoadedFacts> {
  const stored = await bladeOf(tables, row.bladeId, scope);
  const blade = {
    ...stored,
    grinds: stored.grinds - (row.signedAt ? await grindsSince(tables, row, scope) : 0),
  };
  const revision = await tables.specRevision.one({ id: row.specRevisionId }, scope);
  if (!revision) throw new Refusal('notFound', 'The spec of this cycle is missing.');
  const { last, cycles, readings, takenBack } = await historyOf(tables, blade.id, scope, row);
  const { rules } = await shopOf(tables, scope);
  const grinders = await listGrinders(tables, scope, now);
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
    last: Object.fromEntries(last),
    takenBack,
    stillAtBench: await isStillAtBench(tables, row, stored, scope, now),
    faces: facesLeft(revision.figures, cycles, readings),
    frozen: row.frozen ?? undefined,
    speedRpm: (await lastDeckSpeedRpm(tables, blade.id, scope)) ?? revision.figures.bladeSpeedRpm,
    shopRules: rules,
    grinders,
    balancers: await listBalancers(tables, scope),
    removals: await removalsOf(
      tables,
      state,
      grinders,
      revision.figures.edgeLengthMm,
      tools,
      scope,
    ),
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
