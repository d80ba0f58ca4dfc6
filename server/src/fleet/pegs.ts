import { pegPlace } from '@tally-stone/core';
import type { Peg } from '@tally-stone/contract';
import type { Book } from '../database.js';
import { type DeckAsText, plainDeck } from './deck.model.js';
import { listSpecs } from '../spec/specs.js';

/** A, B … Z, AA, AB …: a loose peg is told from a mower's by its letter. */
const letters = (i: number): string =>
  (i >= 26 ? letters(Math.floor(i / 26) - 1) : '') + String.fromCharCode(65 + (i % 26));

/** A peg as a blade's place says it. */
export const placeOfPeg = ({ name }: Pick<Peg, 'name'>): string => pegPlace(name);

/**
 * The pegs of the wall: one for each mower that takes blades of a known spec, by number, and one for the loose blades
 * of each spec, by letter. Mowers and specs keep the order they came in, so that a peg keeps its name.
 */
export async function pegsOf(book: Book): Promise<Peg[]> {
  const [rows, specs] = await Promise.all([
    book.models.deck.findAll({
      include: [{ association: 'mower', attributes: ['name'] }],
      order: [['mowerId', 'ASC']],
      raw: true,
    }) as Promise<unknown>,
    listSpecs(book),
  ]);
  const decks = rows as (DeckAsText & { readonly 'mower.name': string })[];
  const byAge = [...specs].sort((a, b) => (a.specId < b.specId ? -1 : 1));
  return [
    ...decks.flatMap((deck, i): Peg[] => {
      const { mowerId, 'mower.name': mowerName } = deck;
      const { figures } = plainDeck(deck);
      return figures?.specId
        ? [{ name: String(i + 1), specId: figures.specId, mowerId, mowerName }]
        : [];
    }),
    ...byAge.map(({ specId }, i): Peg => ({ name: letters(i), specId })),
  ];
}

/** Where a ready blade hangs: with the mower it came off, where that takes its size, else with the loose of its spec. */
export const pegFor = (
  pegs: readonly Peg[],
  specId: string,
  cameOffMowerId: string | undefined,
): Peg | undefined =>
  pegs.find((peg) => peg.mowerId === cameOffMowerId && peg.specId === specId) ??
  pegs.find((peg) => !peg.mowerId && peg.specId === specId);

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
  return pegFor(pegs, specId, fit?.spindle?.deck?.mowerId);
}
