import type {
  CycleEvent,
  CycleFacts,
  CycleState,
  GrinderView,
  LastReading,
  ToolRemoval,
} from '@tally-stone/contract';
import { type EdgeHeld, limitsUnder, plannedReadings, DAY_MS } from '@tally-stone/core';
import { Refusal, foldCycle, onEachTool, toolKey, type OnTool } from '@tally-stone/cycle';
import { literal, Op, type Order } from 'sequelize';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { Cycle, CycleRow } from './cycle.model.js';
import { groupedBy, lazily } from '../db/grouped.js';
import type { SpecRevisionRow } from '../spec/spec-revision.model.js';
import type { Book } from '../database.js';
import type { Models } from '../models.js';
import { lastEdgesOf } from '../photo/edges.js';
import { listMats } from '../photo/mats.js';
import { toolRemoval } from '../removal/removal.js';
import { listBalancers } from '../shop/balancers.js';
import { shopDay } from '../shop/day.js';
import { listGrinders } from '../shop/grinders.js';
import { shopOf } from '../shop/look-up.js';
import { facesLeft } from './faces.js';
import { type BladeHistory, historiesBefore } from './history.js';
import { ownRecession } from './own-recession.js';

/** A cycle's facts with the rows they were read from. */
export interface LoadedFacts extends CycleFacts {
  readonly row: CycleRow;
  readonly openedByName: string;
  /** Its blade's signed cycles before it, oldest first. */
  readonly earlier: readonly string[];
  readonly blade: BladeRowStored & CycleFacts['blade'];
  readonly revision: SpecRevisionRow;
}

const foldName = (cycleId: string): string => `fold ${cycleId}`;

/** Keeps a cycle's fold after a command, so that the next one need not fold it from the start. */
export const keepFold = ({ atBench }: Book, state: CycleState): void => {
  atBench.keep(foldName(state.cycleId), state);
};

/** Folds cycles from their accepted commands. */
async function foldsOf({ models }: Book, cycleIds: string[]): Promise<Map<string, CycleState>> {
  const commands = await models.command.findAll({
    attributes: ['cycleId', 'event'],
    where: { cycleId: cycleIds },
    order: [['revision', 'ASC']],
  });
  const events = groupedBy(commands, ({ cycleId }) => cycleId ?? '');
  return new Map(
    [...events].map(([cycleId, of]) => [
      cycleId,
      foldCycle(of.flatMap(({ event }): CycleEvent[] => (event ? [event] : []))),
    ]),
  );
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
  const days = (Date.parse(openedAt) - Date.parse(looked)) / DAY_MS;
  return { cycles, days };
}

/** Whose hand counts: who counted the first passes, else who took the blade up. */
async function handOf(
  { models, atBench }: Book,
  { cycleId, passes, openedBy }: CycleState,
): Promise<string> {
  const [first] = passes;
  if (!first) return openedBy;
  return atBench.of(`hand ${first.passId}`, async () => {
    const where = { cycleId, type: 'count-passes' };
    const counted = await models.command.findAll({ attributes: ['event', 'personId'], where });
    return (
      counted.find(
        ({ event }) => event?.type === 'passes-counted' && event.passes.passId === first.passId,
      )?.personId ?? openedBy
    );
  });
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
  const asked: Partial<Pick<OnTool, 'grinderId' | 'abrasiveId'>>[] = [
    ...onEachTool(state),
    ...(tools === 'all' ? [...grinders, {}] : []),
  ];
  if (asked.length === 0) return {};
  const hand = await handOf(book, state);
  const removals: Record<string, ToolRemoval> = {};
  for (const { grinderId, abrasiveId } of asked) {
    const tool = grinderId && abrasiveId ? { grinderId, abrasiveId } : undefined;
    removals[toolKey(tool ?? {})] ??= await toolRemoval(book, grinders, edgeLengthMm, tool, hand);
  }
  return removals;
}

interface AsItStands {
  readonly state: CycleState;
  readonly facts: LoadedFacts;
}

/** A cycle as it stands, and everything that is known about it besides its own events. */
export async function cycleAt(
  book: Book,
  cycleId: string,
  now?: string,
  tools?: ToolsTold,
): Promise<AsItStands> {
  const [found] = await cyclesAt(book, [cycleId], now, tools);
  if (!found) throw new Refusal('notFound', $localize`There is no such cycle.`);
  return found;
}

/** Several cycles as they stand, in the order asked for; no more questions than for one. */
export function cyclesAt(
  book: Book,
  cycleIds: string[],
  now: string = new Date().toISOString(),
  tools: ToolsTold = 'in-use',
): Promise<AsItStands[]> {
  const { atBench, signed } = book;
  const folds = lazily(() => foldsOf(book, cycleIds));
  const records = lazily(() => recordsOf(book, cycleIds));
  const foldOf = async (cycleId: string): Promise<CycleState> => {
    const known = atBench.known(foldName(cycleId)) as CycleState | undefined;
    const state = known ?? (await folds()).get(cycleId);
    if (!state) throw new Refusal('notFound', $localize`There is no such cycle.`);
    keepFold(book, state);
    return state;
  };
  const recordOf = async (cycleId: string): Promise<RecordOfCycle> => {
    const record = (await records()).get(cycleId);
    if (!record) throw new Refusal('notFound', $localize`There is no such cycle.`);
    return record;
  };
  return Promise.all(
    cycleIds.map(async (cycleId) => {
      const state = await foldOf(cycleId);
      const record = state.signedOff
        ? await recordOf(cycleId)
        : await signed.of(`record ${cycleId}`, () => recordOf(cycleId));
      return { state, facts: await factsOf(book, state, record, now, tools) };
    }),
  );
}

async function factsOf(
  book: Book,
  state: CycleState,
  record: RecordOfCycle,
  now: string,
  tools: ToolsTold,
): Promise<LoadedFacts> {
  const { models } = book;
  const { shop, grinders, balancers, mats } = await shopFacts(book, now);
  const { read, ...known } = record;
  const { row, blade, revision, last } = known;
  const { figures } = revision;
  const { rules, timeZone } = shop;
  const { nicks } = rules.schools;
  const leaveNicksToMm =
    nicks.kind === 'leave-to' ? nicks.depthMm : nicks.kind === 'clear-all' ? 0 : undefined;
  return {
    ...known,
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
    mats,
    removals: await removalsOf(book, state, grinders, figures.edgeLengthMm, tools),
    rules: {
      leaveNicksToMm,
      dullLandMm: rules.dullLandMm,
      recessionPerGrindMm: ownRecession(figures, read, blade.grinds, rules.usualRecessionMm),
    },
  };
}

/** So many edges of a spec tell how long they usually hold. */
const MOST_EDGES = 200;

/** Hours of a blade's last edge, and of its spec's last edges; nothing while nobody knows them. */
async function edgeHeld(
  models: Models,
  { id, specId }: BladeRowStored,
): Promise<EdgeHeld | undefined> {
  const ended = {
    attributes: ['fromHoursH', 'toHoursH'],
    order: [['from', 'DESC']] satisfies Order,
  };
  const [last, fits] = await Promise.all([
    models.fit.findOne({ ...ended, where: { bladeId: id, to: { [Op.ne]: null } } }),
    models.fit.findAll({
      ...ended,
      where: { to: { [Op.ne]: null } },
      include: { association: 'blade', attributes: [], where: { specId } },
      limit: MOST_EDGES,
    }),
  ]);
  const hours = ({ fromHoursH, toHoursH }: (typeof fits)[number]): number =>
    (toHoursH ?? fromHoursH) - fromHoursH;
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

/** A shop's day begins on one of these, whatever its zone. */
const QUARTER_HOUR_MS = 900_000;

/** How the shop works today: until it changes something about that. */
export const shopFacts = (book: Book, now: string = new Date().toISOString()) =>
  book.atBench.of(`shop ${Math.floor(Date.parse(now) / QUARTER_HOUR_MS)}`, async () => {
    const [shop, grinders, balancers, mats] = await Promise.all([
      shopOf(book),
      listGrinders(book, now),
      listBalancers(book.models),
      listMats(book.models),
    ]);
    return { shop, grinders, balancers, mats };
  });

/** Blade speed of the deck a cycle's blade was fitted to last. */
const LAST_SPEED = literal(`(
  SELECT deck.bladeSpeedRpm FROM fit JOIN spindle ON spindle.id = fit.spindleId
    JOIN deck ON deck.id = spindle.deckId
  WHERE fit.bladeId = cycle.bladeId ORDER BY fit."from" DESC LIMIT 1)`);

type RecordOfCycle = ReturnType<typeof recordFrom>;

/** What stands in the book of cycles and their blades. Nothing at the bench moves it before they are signed off. */
async function recordsOf(
  { models }: Book,
  cycleIds: string[],
): Promise<Map<string, RecordOfCycle>> {
  const rows = await models.cycle.findAll({
    where: { id: cycleIds },
    attributes: { include: [[LAST_SPEED, 'lastSpeedRpm']] },
    include: ['blade', 'specRevision', 'opener'],
  });
  const histories = await historiesBefore(models, rows);
  const edges = await lastEdgesOf(
    models,
    rows.map(({ id, bladeId, openedAt }) => {
      const trimmedAt = histories.get(id)?.trimmings.at(-1)?.at;
      return { id, bladeId, openedAt, ...(trimmedAt ? { trimmedAt } : {}) };
    }),
  );
  return new Map(
    rows.flatMap((row) => {
      const history = histories.get(row.id);
      return history ? [[row.id, recordFrom(row, history, edges.get(row.id) ?? {})] as const] : [];
    }),
  );
}

function recordFrom(
  cycle: Cycle,
  { last, first, cameWorn, cycles, readings, takenBack, laterGrinds, trimmings }: BladeHistory,
  lastEdges: CycleFacts['lastEdges'],
) {
  const { blade, specRevision: revision, opener } = cycle;
  const row = cycle.get();
  if (!blade || !revision) {
    throw new Refusal('notFound', $localize`The blade or the spec of this cycle is missing.`);
  }
  const { figures } = revision;
  return {
    row,
    // A signed cycle is judged by the grinds it had then.
    blade: {
      ...blade.get(),
      grinds: blade.grinds - (row.signedAt ? laterGrinds : 0),
      ...(trimmings.length > 0 ? { trimmed: true } : {}),
    },
    revision: revision.get(),
    openedByName: opener?.name ?? '',
    earlier: cycles.map(({ id }) => id),
    last,
    read: { last, first, cameWorn },
    takenBack,
    lastEdges,
    faces: facesLeft(figures, cycles, readings),
    frozen: row.frozen ?? undefined,
    speedRpm: (cycle.get('lastSpeedRpm') as number | null) ?? figures.bladeSpeedRpm,
    sinceFullLook: sinceFullLook(cycles, last, row.openedAt),
  };
}
