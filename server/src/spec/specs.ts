import type { ShopCommand, SpecRevision } from '@tally-stone/contract';
import type { Done, WriteContext } from '../write-context.js';
import type { SpecRevisionRow } from './spec-revision.model.js';
import type { Book } from '../database.js';
import { Refusal, wrongField } from '@tally-stone/cycle';

type AddSpec = Extract<ShopCommand, { type: 'add-spec' }>;

export async function addSpec(
  command: AddSpec,
  { models, receivedAt }: WriteContext,
): Promise<Done> {
  const { figures, specId, specRevisionId } = command;
  if (await models.spec.findOne({ where: { name: figures.name } })) {
    throw wrongField('figures.name', $localize`is taken by another spec: choose another name`);
  }
  await models.spec.create({ id: specId, name: figures.name });
  await models.specRevision.create({
    id: specRevisionId,
    specId,
    revision: 1,
    figures,
    createdAt: receivedAt,
  });
  return {
    changes: [
      { what: 'spec added', subjectKind: 'spec', subjectId: specId, before: null, after: figures },
    ],
  };
}

export const toSpecRevision = (row: SpecRevisionRow): SpecRevision => ({
  specRevisionId: row.id,
  specId: row.specId,
  revision: row.revision,
  figures: row.figures,
});

/** The newest revision of every spec. */
const newestRevisions = ({ models, atBench }: Book): Promise<readonly SpecRevisionRow[]> =>
  atBench.of('specs', async () => {
    const rows = await models.specRevision.findAll({ order: [['revision', 'ASC']] });
    return [...new Map(rows.map((row) => [row.specId, row.get()])).values()];
  });

/** The newest revision of a spec. */
export async function currentRevision(book: Book, specId: string): Promise<SpecRevisionRow> {
  const row = (await newestRevisions(book)).find((each) => each.specId === specId);
  if (!row) throw new Refusal('notFound', $localize`There is no such blade spec.`);
  return row;
}

export const listSpecs = async (book: Book): Promise<SpecRevision[]> =>
  (await newestRevisions(book))
    .map(toSpecRevision)
    .sort((a, b) => a.figures.name.localeCompare(b.figures.name));
