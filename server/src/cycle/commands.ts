import { PLACES } from '@tally-stone/core';
import {
  type CycleCommand,
  type CycleEvent,
  type CycleState,
  type Outcome,
  type ShopCommand,
  type TakenEdge,
  type TakenReading,
} from '@tally-stone/contract';
import {
  foldOn,
  Refusal,
  wrongField,
  decide,
  readingsOf,
  replacesEarlier,
  figuresOf,
  isOutdated,
} from '@tally-stone/cycle';
import type { Model, ModelStatic } from 'sequelize';
import { cycleDigest } from '../record/chain.js';
import type { Change, Done, WriteContext } from '../write-context.js';
import { rawInsert } from '../db/raw-insert.js';
import type { BalanceRoundRow } from './balance-round.model.js';
import type { PassRow } from './pass.model.js';
import type { ReadingRow } from './reading.model.js';
import type { CycleRow } from './cycle.model.js';
import { pegOfBlade, placeOfPeg } from '../fleet/pegs.js';
import type { Models } from '../models.js';
import { hasPhoto } from '../photo/photos.js';
import { type LoadedFacts, cycleAt, keepFold } from './facts.js';

const notSent = (): string => $localize`was not sent yet: send the photo first`;

const erase = async (model: ModelStatic<Model>, ids: readonly string[]): Promise<void> => {
  if (ids.length > 0) await model.destroy({ where: { id: [...ids] } });
};

/** The readings an event brings, in place of those of the same places. */
async function keepReadings(event: CycleEvent, state: CycleState, models: Models): Promise<void> {
  const replaced = replacesEarlier(event, state);
  await erase(models.reading, replaced);
  for (const reading of readingsOf(event))
    await rawInsert<ReadingRow>(models.reading, {
      id: reading.readingId,
      cycleId: state.cycleId,
      phase: reading.phase,
      quantity: reading.quantity,
      end: reading.end ?? null,
      stationKey: reading.stationKey ?? null,
      radiusMm: reading.radiusMm ?? null,
      value: reading.value,
      u: reading.u,
      resolution: reading.resolution,
      enteredText: reading.entered.text,
      enteredUnit: reading.entered.unit,
      instrumentKey: reading.instrument ?? null,
      source: reading.source,
      takenAt: reading.at,
    });
}

/** Writes what an event adds to the tables that other questions are asked of. */
async function project(
  event: CycleEvent,
  state: CycleState,
  facts: LoadedFacts,
  context: WriteContext & { readonly personId: string },
): Promise<Change[]> {
  const { models, receivedAt, personId, photos } = context;
  const cycleId = state.cycleId;
  switch (event.type) {
    case 'reading-taken':
    case 'reading-left-out':
      await keepReadings(event, state, models);
      return [];
    case 'edge-read': {
      const { edge } = event;
      if (!hasPhoto(photos, edge.file)) throw wrongField('file', notSent());
      await keepReadings(event, state, models);
      const { edgeId: id, file, end, phase } = edge;
      const replaced = state.edges.filter((each) => each.end === end && each.phase === phase);
      await erase(
        models.edgePhoto,
        replaced.map(({ edgeId }) => edgeId),
      );
      await models.edgePhoto.create({ id, cycleId, end, phase, edge, takenAt: edge.at });
      const taken = { takenAt: receivedAt, takenBy: personId };
      await models.photo.create({ id, cycleId, damageId: null, file, ...taken });
      return [];
    }
    case 'damage-marked':
      await models.damage.destroy({ where: { id: event.damage.damageId } });
      await models.damage.create({
        ...event.damage,
        lengthMm: event.damage.lengthMm ?? null,
        instrument: event.damage.instrument ?? null,
        id: event.damage.damageId,
        cycleId,
      });
      return [];
    case 'photo-attached': {
      const { photoId, file, damageId } = event.photo;
      if (!hasPhoto(photos, file)) throw wrongField('file', notSent());
      await models.photo.create({
        id: photoId,
        cycleId,
        damageId: damageId ?? null,
        file,
        takenAt: receivedAt,
        takenBy: personId,
      });
      return [];
    }
    case 'photo-removed': {
      const { photoId: id } = event;
      const read = state.readings.filter(({ edgeId }) => edgeId === id);
      await models.photo.destroy({ where: { id } });
      await models.edgePhoto.destroy({ where: { id } });
      await erase(
        models.reading,
        read.map(({ readingId }) => readingId),
      );
      return [];
    }
    case 'damage-erased':
      await models.damage.destroy({ where: { id: event.damageId } });
      return [];
    case 'passes-counted':
      await rawInsert<PassRow>(models.pass, {
        id: event.passes.passId,
        cycleId,
        end: event.passes.end,
        zone: event.passes.zone ?? 'full',
        count: event.passes.count,
        countedAt: receivedAt,
        grinderId: state.setUp?.grinderId ?? null,
        abrasiveId: state.setUp?.abrasiveId ?? null,
        personId,
      });
      return [];
    case 'passes-undone':
      await models.pass.destroy({ where: { id: event.passId } });
      return [];
    case 'balance-read': {
      const { round } = event;
      await rawInsert<BalanceRoundRow>(models.balanceRound, {
        id: round.roundId,
        cycleId,
        phase: round.phase,
        device: round.device,
        heavyEnd: round.heavyEnd,
        unbalanceGmm: round.unbalanceGmm,
        u: round.u,
        weightG: round.weightG ?? null,
        radiusMm: round.radiusMm ?? null,
        takenAt: receivedAt,
        endOnly: round.endOnly ? 1 : 0,
        balancerId: round.balancerId ?? null,
        halfTurnOf: round.halfTurn?.of ?? null,
      });
      return [];
    }
    case 'signed-off':
      return [await projectSignOff(event, state, facts, context)];
    case 'retirement-undone':
      return [await projectUndo(state, facts, context)];
    case 'opened':
    case 'cleaned':
    case 'crack-judged':
    case 'deburred':
    case 'set-up':
    case 'schools-chosen':
    case 'finish-chosen':
    case 'nick-chosen':
    case 'full-look-asked':
    case 'light-tested':
      return [];
  }
}

/** Where a blade is laid or hung after its sign-off. */
async function placeAfter(
  outcome: Outcome,
  { blade }: LoadedFacts,
  context: WriteContext,
): Promise<string> {
  if (outcome !== 'ready') return { hold: PLACES.hook, retired: PLACES.scrap }[outcome];
  const peg = await pegOfBlade(context, blade);
  return peg ? placeOfPeg(peg) : PLACES.rack;
}

async function projectSignOff(
  event: Extract<CycleEvent, { type: 'signed-off' }>,
  state: CycleState,
  facts: LoadedFacts,
  context: WriteContext,
): Promise<Change> {
  const { models, connection } = context;
  const { blade } = facts;
  const after = {
    state: event.outcome,
    place: await placeAfter(event.outcome, facts, context),
    grinds: blade.grinds + (state.passes.length > 0 ? 1 : 0),
    waitingSince: null,
    lastLengthMm:
      state.readings.findLast(({ quantity }) => quantity === 'length')?.value ?? blade.lastLengthMm,
  };
  await models.blade.update(after, { where: { id: blade.id } });
  // Of a blade that is held or retired, what was ground on since it was read, or read over its burr, does not tell how it is now.
  const old = <Read extends TakenReading | TakenEdge>(all: readonly Read[]): Read[] =>
    all.filter((each) => isOutdated(state, each));
  await erase(
    models.reading,
    old(state.readings).map(({ readingId }) => readingId),
  );
  await erase(
    models.edgePhoto,
    old(state.edges).map(({ edgeId }) => edgeId),
  );
  await models.cycle.update(
    {
      signedAt: event.at,
      signedBy: event.personId,
      outcome: event.outcome,
      retireReason: event.retireReason ?? null,
      frozen: figuresOf(state, facts),
    },
    { where: { id: state.cycleId } },
  );
  const digest = await cycleDigest(connection, state.cycleId);
  return {
    what: `blade ${event.outcome === 'ready' ? 'signed off as ready' : event.outcome === 'hold' ? 'put on hold' : 'retired'}`,
    subjectKind: 'blade',
    subjectId: blade.id,
    before: { state: blade.state, grinds: blade.grinds },
    after: {
      ...after,
      retireReason: event.retireReason ?? null,
      cycleId: state.cycleId,
      digest,
    },
  };
}

/** A cycle as it is before anybody signs it. */
const UNSIGNED = {
  signedAt: null,
  signedBy: null,
  outcome: null,
  retireReason: null,
  frozen: null,
} satisfies Partial<CycleRow>;

/** The cycle is open again and the blade back in hand, as both stood before the sign-off. */
async function projectUndo(
  state: CycleState,
  { blade, last }: LoadedFacts,
  { models }: WriteContext,
): Promise<Change> {
  await models.cycle.update(UNSIGNED, { where: { id: state.cycleId } });
  const after = {
    state: 'at-bench' as const,
    place: PLACES.bench,
    grinds: blade.grinds,
    lastLengthMm: last['length:-:-']?.value ?? null,
  };
  await models.blade.update(after, { where: { id: blade.id } });
  return {
    what: 'retirement undone',
    subjectKind: 'blade',
    subjectId: blade.id,
    before: { state: blade.state, place: blade.place },
    after: { ...after, cycleId: state.cycleId, digest: null },
  };
}

const inWords = (event: CycleEvent): string => event.type.replaceAll('-', ' ');

/** What stood there before an event, for the journal. */
function stoodBefore(event: CycleEvent, state: CycleState): unknown {
  switch (event.type) {
    case 'cleaned':
      return { done: state.cleaned };
    case 'crack-judged':
      return state.crack ?? null;
    case 'reading-taken':
    case 'edge-read':
      return state.readings.filter(({ readingId }) =>
        replacesEarlier(event, state).includes(readingId),
      );
    case 'damage-erased':
      return state.damage.find(({ damageId }) => damageId === event.damageId) ?? null;
    case 'damage-marked':
      return state.damage.find(({ damageId }) => damageId === event.damage.damageId) ?? null;
    case 'photo-removed':
      return state.photos.find(({ photoId }) => photoId === event.photoId) ?? null;
    case 'passes-undone':
      return state.passes.find(({ passId }) => passId === event.passId) ?? null;
    case 'retirement-undone':
      return state.signedOff ?? null;
    case 'deburred':
      return { afterPasses: state.deburredAfter ?? null };
    case 'light-tested':
      return { brightLine: state.lightTest[event.end] ?? null };
    default:
      return null;
  }
}

export const changedMeanwhile = (message: string): Refusal =>
  new Refusal(
    'staleRevision',
    $localize`Somebody changed this cycle in another window or at another bench. What stands there now is shown; look and do it again.`,
    [{ field: 'expectedRevision', message }],
  );

/** One command of a cycle: fold, check the revision, decide, project, journal. */
export async function actOnCycle(command: CycleCommand, context: WriteContext): Promise<Done> {
  const { state, facts } = await cycleAt(context, command.cycleId, context.receivedAt);
  if (!state.signedOff && command.expectedRevision !== state.revision) {
    throw changedMeanwhile(
      $localize`is ${command.expectedRevision}, the cycle is at ${state.revision}`,
    );
  }
  const event = decide(command, state, facts);
  const next = state.revision + 1;
  const further = await project(event, state, facts, { ...context, personId: command.personId });
  keepFold(context, foldOn(state, event));
  return {
    changes: [
      {
        what: inWords(event),
        subjectKind: 'cycle',
        subjectId: command.cycleId,
        before: stoodBefore(event, state),
        after: event,
      },
      ...further,
    ],
    event,
    answer: { cycleId: command.cycleId, revision: next },
  };
}

/** Notes in the journal that somebody else goes on with a blade. The lease itself is no record. */
export async function takeOver(
  { cycleId, fromPersonId, personId }: Extract<ShopCommand, { type: 'take-over' }>,
  { models }: WriteContext,
): Promise<Done> {
  if (!(await models.cycle.findByPk(cycleId))) {
    throw new Refusal('notFound', $localize`There is no such cycle.`);
  }
  return {
    changes: [
      {
        what: 'blade taken over',
        subjectKind: 'cycle',
        subjectId: cycleId,
        before: { personId: fromPersonId ?? null },
        after: { personId },
      },
    ],
    answer: { cycleId },
  };
}
