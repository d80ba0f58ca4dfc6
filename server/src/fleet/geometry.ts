import type { Quantity, SpecFigures } from '@tally-stone/contract';
import {
  deckFaults,
  deckPairs,
  ENDS,
  type BladeSize,
  type DeckPair,
  type End,
  type SetMember,
} from '@tally-stone/core';
import { historyKey } from '@tally-stone/cycle';
import { lastValuesOf } from '../cycle/history.js';
import { groupedBy } from '../db/grouped.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { DeckRow } from './deck.model.js';
import type { SpindleRow } from './spindle.model.js';
import type { Book } from '../database.js';
import type { Models } from '../models.js';

/** Blades as their set is judged by: the last value of everything, as new where never read. */
export async function membersOf(
  { models, signed }: Book,
  blades: readonly BladeRowStored[],
  specOf: (specId: string) => SpecFigures | undefined,
): Promise<Map<string, SetMember>> {
  const members = new Map<string, SetMember>();
  for (const [specId, alike] of groupedBy(blades, (blade) => blade.specId)) {
    const spec = specOf(specId);
    if (!spec) continue;
    const question = JSON.stringify(['members', spec, alike.map(({ id }) => id)]);
    const measured = await signed.of(question, () => measuredAlike(models, alike, spec));
    for (const member of measured) members.set(member.id, member);
  }
  return members;
}

async function measuredAlike(
  models: Models,
  blades: readonly BladeRowStored[],
  spec: SpecFigures,
): Promise<SetMember[]> {
  const placeAt = (quantity: Quantity, end?: End, stationKey?: string) => ({
    quantity,
    key: historyKey({ quantity, end, stationKey }),
  });
  const widths = ENDS.flatMap((end) => spec.stations.map(({ key }) => placeAt('width', end, key)));
  const [length, mass] = [placeAt('length'), placeAt('mass')];
  const lastOf = await lastValuesOf(models, blades, [length, mass, ...widths]);
  return blades.map(({ id }) => {
    const at = ({ key }: { key: string }): number | undefined => lastOf.get(id)?.get(key);
    const total = widths.reduce((sum, width) => sum + (at(width) ?? spec.newWidthMm), 0);
    return {
      id,
      lengthMm: at(length) ?? spec.newLengthMm,
      widthMm: total / Math.max(1, widths.length),
      massG: at(mass) ?? spec.newMassG,
    };
  });
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
      const between = `${placed[left]?.position ?? ''} and ${placed[right]?.position ?? ''}`;
      const short = shortMm.toFixed(1);
      return kind === 'clash'
        ? `${between} come ${short} mm too near: at least ${figures.leastClearanceMm} mm clear`
        : `${between} leave a strip: ${short} mm short of ${figures.leastOverlapMm} mm overlap`;
    }),
  };
}
