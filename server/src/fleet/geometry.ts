import type { Quantity, SpecFigures } from '@tally-stone/contract';
import {
  deckFaults,
  deckPairs,
  ENDS,
  type BladeSize,
  type DeckPair,
  type End,
  type SetMember,
  said,
} from '@tally-stone/core';
import { historyKey, reckonedFromNew } from '@tally-stone/cycle';
import { lastReadAt, NEVER_READ } from '../cycle/history.js';
import { ownRecession, standsAt, type WidthsAsked } from '../cycle/own-recession.js';
import { shopOf } from '../shop/look-up.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { DeckRow } from './deck.model.js';
import type { SpindleRow } from './spindle.model.js';
import type { Book } from '../database.js';

interface At {
  readonly quantity: Quantity;
  readonly end?: End;
  readonly stationKey?: string;
}
const keyed = (place: At) => ({ ...place, key: historyKey(place) });
const LENGTH = keyed({ quantity: 'length' });
const MASS = keyed({ quantity: 'mass' });
const widthsOf = ({ stations }: SpecFigures) =>
  ENDS.flatMap((end) =>
    stations.map(({ key }) => keyed({ quantity: 'width', end, stationKey: key })),
  );

type Matched = Pick<
  BladeRowStored,
  'id' | 'specId' | 'grinds' | 'knownFrom' | 'intakeId' | 'trimmedAt'
>;

/** Blades as their set is judged by: everything as it stands, where nobody has read it as it is reckoned. */
export async function membersOf(
  book: Book,
  blades: readonly Matched[],
  specOf: (specId: string) => SpecFigures | undefined,
): Promise<Map<string, SetMember>> {
  const { models, signed } = book;
  const known = new Map(
    [...new Set(blades.map(({ specId }) => specId))].flatMap((id) => {
      const spec = specOf(id);
      return spec ? [[id, { spec, widths: widthsOf(spec) }] as const] : [];
    }),
  );
  const specs = [...known.values()];
  const widths = new Map(specs.flatMap((each) => each.widths).map((place) => [place.key, place]));
  const places = [LENGTH, MASS, ...widths.values()];
  const { usualRecessionMm } = (await shopOf(book)).rules;
  const question = JSON.stringify([
    'members',
    usualRecessionMm,
    [...known],
    blades.map(({ id, specId }) => [id, specId]),
  ]);
  return signed.of(question, async () => {
    const readOf = await lastReadAt(models, blades, places);
    return new Map(
      blades.flatMap(({ id, specId, grinds }) => {
        const of = known.get(specId);
        const read = readOf.get(id) ?? NEVER_READ;
        return of
          ? [[id, memberOf(id, of.widths, { ...of, grinds, read, usualRecessionMm })] as const]
          : [];
      }),
    );
  });
}

function memberOf(id: string, places: readonly At[], asked: WidthsAsked): SetMember {
  const { spec, read } = asked;
  const takenMm = ownRecession(spec, read, asked.grinds, asked.usualRecessionMm);
  const widths = places.flatMap((place) => {
    const stands = standsAt(asked, place);
    // Of a blade that came worn the places that were read speak for the rest.
    if (stands || read.cameWorn) return stands?.value ?? [];
    return reckonedFromNew(spec, place.quantity, asked.grinds, takenMm)?.value ?? [];
  });
  const total = widths.reduce((sum, each) => sum + each, 0);
  return {
    id,
    lengthMm: read.last.get(LENGTH.key)?.value ?? spec.newLengthMm,
    widthMm: widths.length > 0 ? total / widths.length : spec.newWidthMm,
    massG: read.last.get(MASS.key)?.value ?? spec.newMassG,
  };
}

export interface DeckGeometry {
  readonly pairs: readonly DeckPair[];
  /** In words, with the spindles' names and by how much. */
  readonly faults: readonly string[];
  readonly clash: boolean;
}

/** How blades stand to each other on a measured deck; nothing to say of one nobody has measured. */
export function geometryOf(
  { figures }: DeckRow,
  spindles: readonly Pick<SpindleRow, 'id' | 'position'>[],
  sizeAt: (spindleId: string) => BladeSize | undefined,
): DeckGeometry {
  const placed = (figures?.spindles ?? []).flatMap(({ spindleId, acrossMm, aheadMm }) => {
    const size = sizeAt(spindleId);
    const position = spindles.find(({ id }) => id === spindleId)?.position ?? '';
    return size ? [{ acrossMm, aheadMm, size, position }] : [];
  });
  if (!figures || placed.length < 2) return { pairs: [], faults: [], clash: false };
  const pairs = deckPairs(
    placed,
    placed.map(({ size }) => size),
  );
  const found = deckFaults(pairs, figures);
  return {
    pairs,
    clash: found.some(({ kind }) => kind === 'clash'),
    faults: found.map(({ kind, left, right, shortMm }) => {
      const between = $localize`${placed[left]?.position ?? ''} and ${placed[right]?.position ?? ''}`;
      const short = said(shortMm, 'mm');
      return kind === 'clash'
        ? $localize`${between} come ${short} too near: at least ${said(figures.leastClearanceMm, 'mm', 0)} clear`
        : $localize`${between} leave a strip: ${short} short of ${said(figures.leastOverlapMm, 'mm', 0)} overlap`;
    }),
  };
}
