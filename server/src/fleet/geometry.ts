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
import { historyKey } from '@tally-stone/cycle';
import { lastValuesOf } from '../cycle/history.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { DeckRow } from './deck.model.js';
import type { SpindleRow } from './spindle.model.js';
import type { Book } from '../database.js';

const placeAt = (quantity: Quantity, end?: End, stationKey?: string) => ({
  quantity,
  key: historyKey({ quantity, end, stationKey }),
});
const LENGTH = placeAt('length');
const MASS = placeAt('mass');
const widthsOf = ({ stations }: SpecFigures) =>
  ENDS.flatMap((end) => stations.map(({ key }) => placeAt('width', end, key)));

/** Blades as their set is judged by: the last value of everything, as new where never read. */
export async function membersOf(
  { models, signed }: Book,
  blades: readonly Pick<BladeRowStored, 'id' | 'specId' | 'knownFrom' | 'intakeId' | 'trimmedAt'>[],
  specOf: (specId: string) => SpecFigures | undefined,
): Promise<Map<string, SetMember>> {
  const known = new Map(
    [...new Set(blades.map(({ specId }) => specId))].flatMap((id) => {
      const spec = specOf(id);
      return spec ? [[id, { spec, widths: widthsOf(spec) }] as const] : [];
    }),
  );
  const specs = [...known.values()];
  const widths = new Map(specs.flatMap((each) => each.widths).map((place) => [place.key, place]));
  const places = [LENGTH, MASS, ...widths.values()];
  const question = JSON.stringify([
    'members',
    [...known.keys()],
    places,
    blades.map(({ id }) => id),
  ]);
  const lastOf = await signed.of(question, () => lastValuesOf(models, blades, places));
  return new Map(
    blades.flatMap(({ id, specId }) => {
      const of = known.get(specId);
      return of ? [[id, memberOf(id, of, lastOf.get(id) ?? new Map())] as const] : [];
    }),
  );
}

interface Sized {
  readonly spec: SpecFigures;
  readonly widths: ReturnType<typeof widthsOf>;
}
function memberOf(
  id: string,
  { spec, widths }: Sized,
  last: ReadonlyMap<string, number>,
): SetMember {
  const total = widths.reduce((sum, { key }) => sum + (last.get(key) ?? spec.newWidthMm), 0);
  return {
    id,
    lengthMm: last.get(LENGTH.key) ?? spec.newLengthMm,
    widthMm: total / Math.max(1, widths.length),
    massG: last.get(MASS.key) ?? spec.newMassG,
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
