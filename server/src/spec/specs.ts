import type { ShopCommand, SpecRevision } from '@tally-stone/contract';
import type { Done, WriteContext } from '../db/write-context.js';
import type { Scope } from '../db/connection.js';
import type { SpecRevisionRow } from '../db/rows.js';
import type { Tables } from '../db/tables.js';
import { Refusal, wrongField } from '@tally-stone/cycle';

type AddSpec = Extract<ShopCommand, { type: 'add-spec' }>;

export async function addSpec(
  command: AddSpec,
  { tables, scope, receivedAt }: WriteContext,
): Promise<Done> {
  const { figures, specId, specRevisionId } = command;
  if (await tables.spec.one({ name: figures.name }, scope)) {
    throw wrongField('figures.name', 'is taken by another spec: choose another name');
  }
  await tables.spec.insert({ id: specId, name: figures.name }, scope);
  await tables.specRevision.insert(
    { id: specRevisionId, specId, revision: 1, figures, createdAt: receivedAt },
    scope,
  );
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

/** The newest revision of a spec. */
export async function currentRevision(
  tables: Tables,
  specId: string,
  scope: Scope,
): Promise<SpecRevisionRow> {
  const [row] = await tables.specRevision.all({ specId }, scope, {
    order: [['revision', 'DESC']],
    limit: 1,
  });
  if (!row) throw new Refusal('notFound', 'There is no such blade spec.');
  return row;
}

export async function listSpecs(tables: Tables): Promise<SpecRevision[]> {
  const rows = await tables.specRevision.all({}, 'committed', { order: [['revision', 'ASC']] });
  const newest = new Map(rows.map((row) => [row.specId, row]));
  return [...newest.values()]
    .map(toSpecRevision)
    .sort((a, b) => a.figures.name.localeCompare(b.figures.name));
}
