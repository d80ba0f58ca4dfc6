import type { SpecFigures } from '@tally-stone/contract';
import { BenchError, said, trimmedTo } from '@tally-stone/core';
import { at, Refusal } from '@tally-stone/cycle';
import type { Book } from '../database.js';
import type { Change, WriteContext } from '../write-context.js';
import { listSpecs } from './specs.js';
import type { SpecRevisionRow } from './spec-revision.model.js';

/** Lengths nearer than this are one, mm. */
const SAME_LENGTH_MM = 0.05;

/** The figures of blades trimmed to a length, from those of the spec they were made to. */
export const figuresTrimmed = (
  whole: SpecFigures,
  wholeId: string,
  lengthMm: number,
): SpecFigures => ({
  ...trimmedTo(whole, lengthMm),
  name: $localize`${whole.name} trimmed to ${lengthMm}`.slice(0, 60),
  trimmedFrom: wholeId,
});

/** The spec of blades that were trimmed from one to a length; made where it is the first. */
export async function trimmedSpec(
  whole: SpecRevisionRow,
  lengthMm: number,
  ids: { readonly specId: string; readonly specRevisionId: string },
  context: WriteContext,
): Promise<{ specId: string; changes: Change[] }> {
  const { models, receivedAt } = context;
  const known = (await listSpecs(context)).find(
    ({ figures }) =>
      figures.trimmedFrom === whole.specId &&
      Math.abs(figures.newLengthMm - lengthMm) < SAME_LENGTH_MM,
  );
  if (known) return { specId: known.specId, changes: [] };
  const figures = at('toLengthMm', () => figuresTrimmed(whole.figures, whole.specId, lengthMm));
  if (await models.spec.findOne({ where: { name: figures.name } }))
    throw new Refusal(
      'refused',
      $localize`There is a spec named ${figures.name} already: rename it first.`,
    );
  await models.spec.create({ id: ids.specId, name: figures.name });
  await models.specRevision.create({
    id: ids.specRevisionId,
    specId: ids.specId,
    revision: 1,
    figures,
    createdAt: receivedAt,
  });
  const change: Change = {
    what: 'spec added',
    subjectKind: 'spec',
    subjectId: ids.specId,
    before: null,
    after: figures,
  };
  return { specId: ids.specId, changes: [change] };
}

/** Specs of blades trimmed from this one, with the figures they have once it has these. */
export async function trimmedAlong(
  book: Book,
  wholeId: string,
  whole: SpecFigures,
): Promise<{ specId: string; figures: SpecFigures }[]> {
  const along = (await listSpecs(book)).filter(({ figures }) => figures.trimmedFrom === wholeId);
  return along.map(({ specId, figures: { newLengthMm } }) => {
    try {
      return { specId, figures: figuresTrimmed(whole, wholeId, newLengthMm) };
    } catch (error) {
      if (!(error instanceof BenchError)) throw error;
      throw new Refusal(
        'refused',
        $localize`Blades trimmed to ${said(newLengthMm, 'mm')} follow this spec, and their length ${error.rule}.`,
      );
    }
  });
}

/** What a trimmed spec says follows from the spec its blades were made to: it is changed there. */
export function refuseTrimmed({ trimmedFrom }: SpecFigures): void {
  if (trimmedFrom)
    throw new Refusal(
      'refused',
      $localize`These blades were trimmed from another spec: change that one, and this one follows.`,
    );
}
