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
import type { BladeRowStored } from '../blade/blade.model.js';
import type { CycleRow } from './cycle.model.js';
import type { SpecRevisionRow } from '../spec/spec-revision.model.js';
import type { Book } from '../database.js';
import type { Models } from '../models.js';
import { toolRemoval } from '../removal/removal.js';
import { listBalancers } from '../shop/balancers.js';
import { shopDay } from '../shop/day.js';
import { listGrinders } from '../shop/grinders.js';
import { shopOf } from '../shop/look-up.js';
import { facesLeft } from './faces.js';
import { type BladeHistory, historyOf } from './history.js';

/** A cycle's facts with the rows they were read from. */
export interface LoadedFacts extends CycleFacts {
  readonly row: CycleRow;
  readonly blade: BladeRowStored;
  readonly revision: SpecRevisionRow;
}

const foldName = (cycleId: string): string => `fold ${cycleId}`;

/** Keeps a cycle's fold after a command, so that the next one need not fold it from the start. */
export const keepFold = ({ atBench }: Book, state: CycleState): void => {
  atBench.keep(foldName(state.cycleId), state);
};

/** Folds a cycle from its accepted commands, once; after that each command carries the fold on. */
async function cycleState({ models, atBench }: Book, cycleId: string): Promise<CycleState> {
  const known = atBench.known(foldName(cycleId)) as CycleState | undefined;
  if (known) return known;
  const commands = await models.command.findAll({
    attributes: ['event'],
    where: { cycleId },
    order: [['revision', 'ASC']],
  });
  const events = commands.flatMap(({ event }): CycleEvent[] => (event ? [event] : []));
  if (events.length === 0) throw new Refusal('notFound', 'There is no such cycle.');
  const state = foldCycle(events);
  atBench.keep(foldName(cycleId), state);
  return state;
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
  { models, atBench }: Book,
  { cycleId, passes, openedBy }: CycleState,
): Promise<string> {
  const [first] = passes;
  if (!first) return openedBy;
  const counted = await atBench.of(`hand ${cycleId} ${first.passId}`, () =>
    models.pass.findByPk(first.passId, { attributes: ['personId'], raw: true }),
  );
  return counted?.personId ?? openedBy;
}

/** Of which tools it is told what they take: the one the cycle was ground on, or every one of the shop. */
export type ToolsTold = 'in-use' | 'all';

async function removalsOf(
  book: Book,
  state: CycleState,
  grinders: readonly GrinderView[],
  edgeLengthMm: number,
  tools: ToolsTold,
): Promise<CycleFacts['removals']> {
  const [first] = state.passes;
  const asked = [
    ...(first ? [{ grinderId: first.grinderId, abrasiveId: first.abrasiveId }] : []),
    ...(tools === 'all' ? [...grinders, {}] : []),
  ];
  if (asked.length === 0) return {};
  const hand = await handOf(book, state);
  const removals: Record<string, ToolRemoval> = {};
  for (const { grinderId, abrasiveId } of asked as Partial<GrinderView>[]) {
    const tool = grinderId && abrasiveId ? { grinderId, abrasiveId } : undefined;
    removals[toolKey(tool ?? {})] ??= await toolRemoval(book, grinders, edgeLengthMm, tool, hand);
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
async function lastDeckSpeedRpm(models: Models, bladeId: string): Promise<number | undefined> {
  const fit = await models.fit.findOne({
    where: { bladeId },
    order: [['from', 'DESC']],
    include: [{ association: 'spindle', include: ['deck'] }],
  });
  return fit?.spindle?.deck?.bladeSpeedRpm;
}

/** A cycle as it stands, and everything that is known about it besides its own events. */
export async function cycleAt(
  book: Book,
  cycleId: string,
  now: string = new Date().toISOString(),
  tools: ToolsTold = 'in-use',
): Promise<{ readonly state: CycleState; readonly facts: LoadedFacts }> {
  const { models, signed } = book;
  const state = await cycleState(book, cycleId);
  const read = () => recordFacts(book, cycleId);
  const [{ shop, grinders, balancers }, record] = await Promise.all([
    shopFacts(book, now),
    state.signedOff ? read() : signed.of(`record ${cycleId}`, read),
  ]);
  const { row, blade, revision, last } = record;
  const { figures } = revision;
  const { rules, timeZone } = shop;
  const { nicks } = rules.schools;
  const leaveNicksToMm =
    nicks.kind === 'leave-to' ? nicks.depthMm : nicks.kind === 'clear-all' ? 0 : undefined;
  const facts = {
    ...record,
    last: Object.fromEntries(last),
    spec: {
      ...figures,
      limits: limitsUnder(rules.retireBy, figures.limits),
      readings: plannedReadings(figures),
    },
    edgeHeld: rules.retireBy.kind === 'wont-hold' ? await edgeHeld(models, blade) : undefined,
    stillAtBench: await isStillAtBench(models, row, blade, timeZone, now),
    shopRules: rules,
    grinders,
    balancers,
    removals: await removalsOf(book, state, grinders, figures.edgeLengthMm, tools),
    rules: {
      leaveNicksToMm,
      dullLandMm: rules.dullLandMm,
      recessionPerGrindMm: ownRecession(figures, last, blade.grinds, rules.usualRecessionMm),
    },
  };
  return { state, facts };
}

/** Hours of a blade's last edge, and of its spec's edges before; nothing while nobody knows them. */
async function edgeHeld(
  models: Models,
  { id, specId }: BladeRowStored,
): Promise<EdgeHeld | undefined> {
  const blades = await models.blade.findAll({ attributes: ['id'], where: { specId } });
  const fits = await models.fit.findAll({
    attributes: ['bladeId', 'fromHoursH', 'toHoursH'],
    where: { bladeId: blades.map((blade) => blade.id), to: { [Op.ne]: null } },
    order: [['from', 'DESC']],
    limit: 200,
  });
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
  models: Models,
  { outcome, signedAt, signedBy }: CycleRow,
  { state }: BladeRowStored,
  timeZone: string,
  now: string,
): Promise<boolean> {
  if (outcome !== 'retired' || state !== 'retired' || !signedAt || !signedBy) return false;
  if (shopDay(signedAt, timeZone) !== shopDay(now, timeZone)) return false;
  const since = { openedBy: signedBy, openedAt: { [Op.gte]: signedAt } };
  return (await models.cycle.count({ where: since })) === 0;
}

/** Grinds of a blade counted by a signed cycle and those after it: before it, there were so many fewer. */
async function grindsSince(models: Models, { bladeId, openedAt }: CycleRow): Promise<number> {
  const since = await models.cycle.findAll({
    attributes: ['id'],
    where: { bladeId, openedAt: { [Op.gte]: openedAt }, signedAt: { [Op.ne]: null } },
  });
  const passes = await models.pass.findAll({
    attributes: ['cycleId'],
    where: { cycleId: since.map(({ id }) => id) },
  });
  return new Set(passes.map(({ cycleId }) => cycleId)).size;
}

/** A shop's day begins on one of these, whatever its zone. */
const QUARTER_HOUR_MS = 900_000;

/** How the shop works today: until it changes something about that. */
const shopFacts = (book: Book, now: string) =>
  book.atBench.of(`shop ${Math.floor(Date.parse(now) / QUARTER_HOUR_MS)}`, async () => {
    const [shop, grinders, balancers] = await Promise.all([
      shopOf(book),
      listGrinders(book, now),
      listBalancers(book.models),
    ]);
    return { shop, grinders, balancers };
  });

/** What stands in the book of a cycle and its blade. Nothing at the bench moves it before the cycle is signed off. */
async function recordFacts(book: Book, cycleId: string) {
  const { models } = book;
  const row = await models.cycle.findByPk(cycleId, { include: ['blade', 'specRevision'] });
  const { blade: stored, specRevision: revision } = row ?? {};
  if (!row || !stored || !revision) {
    throw new Refusal('notFound', 'The blade or the spec of this cycle is missing.');
  }
  const [{ last, cycles, readings, takenBack }, speedRpm] = await Promise.all([
    historyOf(book, stored, row),
    lastDeckSpeedRpm(models, stored.id),
  ]);
  const { figures } = revision;
  const grinds = stored.grinds - (row.signedAt ? await grindsSince(models, row) : 0);
  return {
    row: row.get(),
    blade: { ...stored.get(), grinds },
    revision: revision.get(),
    last,
    takenBack,
    faces: facesLeft(figures, cycles, readings),
    frozen: row.frozen ?? undefined,
    speedRpm: speedRpm ?? figures.bladeSpeedRpm,
    sinceFullLook: sinceFullLook(cycles, last, row.openedAt),
  };
}
