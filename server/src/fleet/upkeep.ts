import type { ShopCommand, UpkeepView } from '@tally-stone/contract';
import { upkeepDue, upkeepOf } from '@tally-stone/core';
import { Refusal, wrongField } from '@tally-stone/cycle';
import { QueryTypes } from 'sequelize';
import type { Book } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import type { Done, WriteContext } from '../write-context.js';
import type { UpkeepRow } from './upkeep.model.js';

type NoteUpkeep = Extract<ShopCommand, { type: 'note-upkeep' }>;

/** Notes what was looked at on a mower, at the hours its meter showed last. */
export async function noteUpkeep(
  { mowerId, looked, occurredAt, personId }: NoteUpkeep,
  { models }: WriteContext,
): Promise<Done> {
  const mower = await models.mower.findByPk(mowerId, {
    include: [{ association: 'meters', where: { to: null }, required: false }],
  });
  if (!mower) throw new Refusal('notFound', $localize`There is no such mower.`);
  const known = upkeepOf(mower.energy as Parameters<typeof upkeepOf>[0]);
  looked.forEach(({ kind, found, note }, i) => {
    if (!known.includes(kind))
      throw wrongField(`looked.${i}.kind`, $localize`is not there on this mower`);
    if (found === 'wants-work' && !note)
      throw wrongField(`looked.${i}.note`, $localize`is empty: say what it wants`);
  });
  const hoursH = mower.meters?.[0]?.lastReadingH ?? 0;
  await models.upkeep.bulkCreate(
    looked.map(({ upkeepId, kind, found, note }) => ({
      id: upkeepId,
      mowerId,
      kind,
      found,
      note: note ?? null,
      at: occurredAt,
      hoursH,
      personId,
    })),
  );
  return {
    changes: [
      {
        what: 'looked at while the blades were off',
        subjectKind: 'mower',
        subjectId: mowerId,
        before: null,
        after: looked,
      },
    ],
  };
}

/** The newest of each kind, by mower. */
export async function newestUpkeep({ models }: Book): Promise<ReadonlyMap<string, UpkeepRow[]>> {
  const { sequelize } = models.upkeep;
  if (!sequelize) return new Map();
  const rows = await sequelize.query<UpkeepRow>(
    `SELECT * FROM (
       SELECT *, row_number() OVER (PARTITION BY mowerId, kind ORDER BY at DESC, id DESC) AS nth
       FROM upkeep) WHERE nth = 1`,
    { type: QueryTypes.SELECT },
  );
  return groupedBy(rows, ({ mowerId }) => mowerId);
}

/** What there is to look at on a mower, whether it is due, and what was found last. */
export function upkeepViews(
  mower: {
    readonly energy: string;
    readonly hoursH: number;
    readonly fittedAt: string | null | undefined;
  },
  newest: readonly UpkeepRow[],
  now: Date,
  nameOf: (personId: string) => string,
): UpkeepView[] {
  const { energy, hoursH, fittedAt } = mower;
  const setOnSince = fittedAt ? new Date(fittedAt) : undefined;
  return upkeepOf(energy as Parameters<typeof upkeepOf>[0]).map((kind) => {
    const row = newest.find((each) => each.kind === kind);
    const last = row && { at: new Date(row.at), hoursH: row.hoursH };
    return {
      kind,
      due: upkeepDue(kind, last, { at: now, hoursH }, setOnSince),
      ...(row
        ? {
            last: {
              found: row.found,
              ...(row.note === null ? {} : { note: row.note }),
              at: row.at,
              by: nameOf(row.personId),
              hoursH: row.hoursH,
            },
          }
        : {}),
    };
  });
}
