import { pegPlace } from '@tally-stone/core';
import type { Peg, SpecRevision } from '@tally-stone/contract';
import type { Book } from '../database.js';
import { rowsInJson } from '../db/in-json.js';
import { listSpecs } from '../spec/specs.js';

/** A, B … Z, AA, AB …: a loose peg is told from a mower's by its letter. */
const letters = (i: number): string =>
  (i >= 26 ? letters(Math.floor(i / 26) - 1) : '') + String.fromCharCode(65 + (i % 26));

/** A peg as a blade's place says it. */
export const placeOfPeg = ({ name }: Pick<Peg, 'name'>): string => pegPlace(name);

/** A mower and the spec of the blades its deck takes; none while nobody has measured it. */
export interface Taker {
  readonly mowerId: string;
  readonly mowerName: string;
  readonly specId: string | null;
}

/**
 * The pegs of the wall: one for each mower that takes blades of a known spec, by number, and one for the loose blades
 * of each spec, by letter. Mowers and specs keep the order they came in, so that a peg keeps its name.
 */
export function pegsFor(takers: readonly Taker[], specs: readonly SpecRevision[]): Peg[] {
  const mowers = [...takers].sort((a, b) => (a.mowerId < b.mowerId ? -1 : 1));
  const byAge = [...specs].sort((a, b) => (a.specId < b.specId ? -1 : 1));
  return [
    ...mowers.flatMap(({ mowerId, mowerName, specId }, i): Peg[] =>
      specId ? [{ name: String(i + 1), specId, mowerId, mowerName }] : [],
    ),
    ...byAge.map(({ specId }, i): Peg => ({ name: letters(i), specId })),
  ];
}

/** The same as the shop's mowers and specs are stored. */
export async function pegsOf(book: Book): Promise<Peg[]> {
  const [takers, specs] = await Promise.all([
    rowsInJson<Taker>(
      book.models.deck,
      {
        mowerId: 'deck.mowerId',
        mowerName: 'mower.name',
        specId: `json_extract(deck.figures, '$.specId')`,
      },
      'FROM deck JOIN mower ON mower.id = deck.mowerId',
    ),
    listSpecs(book),
  ]);
  return pegsFor(takers, specs);
}

/** Where a ready blade hangs: with the mower it came off, where that takes its size, else with the loose of its spec. */
export function pegFinder(
  pegs: readonly Peg[],
): (specId: string, cameOffMowerId: string | undefined) => Peg | undefined {
  const key = (specId: string, mowerId = ''): string => `${specId} ${mowerId}`;
  const known = new Map(pegs.map((peg) => [key(peg.specId, peg.mowerId), peg]));
  return (specId, mowerId) => known.get(key(specId, mowerId)) ?? known.get(key(specId));
}

/** The same for one blade, by its last fit. */
export async function pegOfBlade(
  book: Book,
  { id, specId }: { readonly id: string; readonly specId: string },
): Promise<Peg | undefined> {
  const [pegs, fit] = await Promise.all([
    pegsOf(book),
    book.models.fit.findOne({
      where: { bladeId: id },
      order: [
        ['from', 'DESC'],
        ['id', 'DESC'],
      ],
      include: [{ association: 'spindle', include: ['deck'] }],
    }),
  ]);
  return pegFinder(pegs)(specId, fit?.spindle?.deck?.mowerId);
}
