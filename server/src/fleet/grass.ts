import type { EdgesByGrass, GrassView, ShopCommand } from '@tally-stone/contract';
import { DUTY_UNSAID, dutyFactor, edgeHoursByGrass, tornShare } from '@tally-stone/core';
import { Refusal, wrongField } from '@tally-stone/cycle';
import type { Database } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { listPeople } from '../people/people.js';
import { hasPhoto } from '../photo/photos.js';
import type { Done, WriteContext } from '../write-context.js';
import { wholeDeck } from './commands.js';
import { readHours } from './mowers.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

/** Keeps what cut tips look like, with the set that cut them and the hours of its edge. */
export async function lookAtGrass(
  { lookId, mowerId, seen, file, hoursH, occurredAt, personId }: Of<'look-at-grass'>,
  context: WriteContext,
): Promise<Done> {
  const { models, photos } = context;
  const { mower, deck, meter } = await wholeDeck({ mowerId }, context);
  if (file && !hasPhoto(photos, file))
    throw wrongField('file', $localize`did not arrive: take the picture again`);
  if (hoursH !== undefined)
    await readHours({ mower, meter, spindle: { deckId: deck.id } }, hoursH, occurredAt, context);
  const standing = await models.deckDue.findOne({ where: { deckId: deck.id } });
  if (!standing?.fittedAt || standing.fittedAtH === null || standing.bladesOn === 0)
    throw new Refusal('refused', $localize`No set is on this mower: there is no edge to judge.`);
  const { turf, soil } = deck.figures?.duty ?? DUTY_UNSAID;
  const row = {
    id: lookId,
    mowerId,
    fittedAt: standing.fittedAt,
    hoursOnEdge: Math.max(0, standing.hoursH - standing.fittedAtH),
    turf,
    soil,
    file: file || null,
    ...seen,
    at: occurredAt,
    personId,
    takenBackAt: null,
  };
  await models.grassLook.create(row);
  const { torn, clean } = seen;
  return {
    changes: [
      {
        what: 'grass looked at',
        subjectKind: 'mower',
        subjectId: mowerId,
        before: null,
        after: { torn, clean, hoursOnEdge: row.hoursOnEdge },
      },
    ],
  };
}

export async function takeBackLook(
  { lookId, occurredAt }: Of<'take-back-look'>,
  { models }: WriteContext,
): Promise<Done> {
  const row = await models.grassLook.scope('standing').findByPk(lookId);
  if (!row)
    throw new Refusal('notFound', $localize`There is no such look, or it is taken back already.`);
  await models.grassLook.update({ takenBackAt: occurredAt }, { where: { id: lookId } });
  return {
    changes: [
      {
        what: 'look at the grass taken back',
        subjectKind: 'mower',
        subjectId: row.mowerId,
        before: { torn: row.torn, clean: row.clean },
        after: null,
      },
    ],
  };
}

/** Looks shown of one mower. */
const MOST_SHOWN = 40;

export async function grassOf(database: Database, mowerId: string): Promise<GrassView> {
  const [rows, people] = await Promise.all([
    database.models.grassLook
      .scope('standing')
      .findAll({ where: { mowerId }, order: [['at', 'DESC']], limit: MOST_SHOWN }),
    listPeople(database),
  ]);
  return {
    looks: rows.map(({ id, at, personId, fittedAt, hoursOnEdge, file, tips, torn, clean }) => ({
      lookId: id,
      at,
      by: people.find((person) => person.personId === personId)?.name ?? '',
      fittedAt,
      hoursOnEdge,
      ...(file === null ? {} : { file }),
      tips,
      torn,
      clean,
      share: tornShare(torn, clean),
    })),
  };
}

/** The newest looks tell how edges last now. */
const MOST_LEARNED = 400;

export async function edgesByGrass({ models }: Database): Promise<EdgesByGrass> {
  const rows = await models.grassLook
    .scope('standing')
    .findAll({ order: [['at', 'DESC']], limit: MOST_LEARNED });
  const onSoft = rows.map(({ hoursOnEdge, turf, soil, torn, clean }) => ({
    hours: hoursOnEdge * dutyFactor({ turf, soil }),
    torn,
    clean,
  }));
  const all = edgeHoursByGrass(onSoft);
  return {
    looks: rows.length,
    ...(all ? { all } : {}),
    byGround: [...groupedBy(rows, ({ turf, soil }) => `${turf} ${soil}`).values()].flatMap(
      (own) => {
        const found = edgeHoursByGrass(
          own.map(({ hoursOnEdge: hours, torn, clean }) => ({ hours, torn, clean })),
        );
        const [{ turf, soil } = DUTY_UNSAID] = own;
        return found ? [{ turf, soil, ...found }] : [];
      },
    ),
  };
}
